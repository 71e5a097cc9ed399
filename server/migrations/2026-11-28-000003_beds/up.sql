-- Designs are no longer alone on the shelf: beds have a history of their own, kept the same way.
ALTER TABLE designs RENAME TO works;
ALTER TABLE works ADD COLUMN kind TEXT NOT NULL DEFAULT 'design';
ALTER TABLE revisions RENAME COLUMN design_id TO work_id;
CREATE INDEX works_of ON works (kind, updated_at);
