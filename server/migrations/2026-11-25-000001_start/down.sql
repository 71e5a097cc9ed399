DROP TABLE revisions;
DROP TABLE designs;
DROP TABLE pictures;
