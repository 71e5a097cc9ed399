-- What a step is called, as a message that can be said in any language and unit (JSON); its label is what was said when it was made.
ALTER TABLE revisions ADD COLUMN message TEXT;
