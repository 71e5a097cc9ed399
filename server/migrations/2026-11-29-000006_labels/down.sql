DROP INDEX taken_of_job;
ALTER TABLE taken DROP COLUMN job;
ALTER TABLE works DROP COLUMN labels;
