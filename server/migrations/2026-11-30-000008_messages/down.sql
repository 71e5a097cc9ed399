ALTER TABLE revisions DROP COLUMN message;
