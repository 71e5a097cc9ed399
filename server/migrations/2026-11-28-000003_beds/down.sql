DELETE FROM revisions WHERE work_id IN (SELECT id FROM works WHERE kind <> 'design');
DELETE FROM works WHERE kind <> 'design';
DROP INDEX works_of;
ALTER TABLE revisions RENAME COLUMN work_id TO design_id;
ALTER TABLE works DROP COLUMN kind;
ALTER TABLE works RENAME TO designs;
