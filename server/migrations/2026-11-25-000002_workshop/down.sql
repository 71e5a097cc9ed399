DROP TABLE snapshots;
DROP TABLE workshop;
