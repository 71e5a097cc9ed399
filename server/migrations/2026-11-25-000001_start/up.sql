CREATE TABLE pictures (
    hash TEXT NOT NULL PRIMARY KEY,
    bytes BLOB NOT NULL
);
CREATE TABLE designs (
    id TEXT NOT NULL PRIMARY KEY,
    -- The revision that is shown; undo and redo move it.
    head INTEGER NOT NULL,
    -- Rises with every change of head, so that an undo and a redo are told apart by If-Match.
    version INTEGER NOT NULL,
    updated_at TEXT NOT NULL,
    deleted_at TEXT
);
CREATE TABLE revisions (
    design_id TEXT NOT NULL REFERENCES designs (id),
    seq INTEGER NOT NULL,
    document TEXT NOT NULL,
    label TEXT NOT NULL,
    created_at TEXT NOT NULL,
    PRIMARY KEY (design_id, seq)
);
