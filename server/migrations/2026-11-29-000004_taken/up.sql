-- What prints really took, s, by the printer's name.
CREATE TABLE taken (
    id INTEGER NOT NULL PRIMARY KEY AUTOINCREMENT,
    printer TEXT NOT NULL,
    name TEXT NOT NULL,
    planned DOUBLE NOT NULL,
    took DOUBLE NOT NULL,
    at TEXT NOT NULL
);
CREATE INDEX taken_by_printer ON taken (printer, id);
