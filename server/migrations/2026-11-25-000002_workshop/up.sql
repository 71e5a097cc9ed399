-- One row: the settings that all designs share.
CREATE TABLE workshop (
    id INTEGER NOT NULL PRIMARY KEY CHECK (id = 1),
    version INTEGER NOT NULL,
    settings TEXT NOT NULL
);
-- Kept states of designs.
CREATE TABLE snapshots (
    id TEXT NOT NULL PRIMARY KEY,
    design_id TEXT NOT NULL REFERENCES designs (id),
    name TEXT NOT NULL,
    document TEXT NOT NULL,
    created_at TEXT NOT NULL
);
CREATE INDEX snapshots_of ON snapshots (design_id, created_at);
