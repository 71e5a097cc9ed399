-- What the maker sorts works by: a JSON list of words.
ALTER TABLE works ADD COLUMN labels TEXT NOT NULL DEFAULT '[]';
-- The printer's job that a time is of: one that is told twice is kept once.
ALTER TABLE taken ADD COLUMN job TEXT;
CREATE UNIQUE INDEX taken_of_job ON taken (job);
