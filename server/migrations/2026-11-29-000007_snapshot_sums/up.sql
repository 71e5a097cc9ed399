-- SHA-256 of each kept document, hexadecimal; the program fills in those that were kept before.
ALTER TABLE snapshots ADD COLUMN sum TEXT NOT NULL DEFAULT '';
