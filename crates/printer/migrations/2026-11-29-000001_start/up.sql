-- What was sent to the printer.
CREATE TABLE jobs (
    id TEXT NOT NULL PRIMARY KEY,
    name TEXT NOT NULL,
    -- The plan without the lines of its layers.
    plan TEXT NOT NULL,
    -- 'waiting', 'on-bed', or how it ended: 'finished', 'stopped', 'failed'.
    state TEXT NOT NULL,
    -- Waiting ones are printed in this order; ended ones are told by it, the last first.
    rank BIGINT NOT NULL,
    -- Seconds in which the printer heated and moved; and in which it waited for somebody.
    took DOUBLE NOT NULL DEFAULT 0,
    waited DOUBLE NOT NULL DEFAULT 0,
    -- Whether whoever sent it has taken notice of its end.
    told BOOLEAN NOT NULL DEFAULT FALSE
);
CREATE INDEX jobs_by_state ON jobs (state, rank);
-- Lines of a layer, as they were sent; equal layers are kept once.
CREATE TABLE drawings (
    hash TEXT NOT NULL PRIMARY KEY,
    body TEXT NOT NULL
);
CREATE TABLE layers (
    job_id TEXT NOT NULL REFERENCES jobs (id) ON DELETE CASCADE,
    number INTEGER NOT NULL,
    drawing TEXT NOT NULL REFERENCES drawings (hash),
    PRIMARY KEY (job_id, number)
);
CREATE INDEX layers_of_drawing ON layers (drawing);
-- One row: what the printer is doing.
CREATE TABLE machine (
    id INTEGER NOT NULL PRIMARY KEY CHECK (id = 1),
    state TEXT NOT NULL
);
