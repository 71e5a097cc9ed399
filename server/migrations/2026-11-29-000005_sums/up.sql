-- SHA-256 of each document, hexadecimal; the program fills in those that were written before.
ALTER TABLE revisions ADD COLUMN sum TEXT NOT NULL DEFAULT '';
