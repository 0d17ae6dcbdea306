-- How pieces are made, by name, as JSON (core.jig).
CREATE TABLE saved_jig (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    name TEXT NOT NULL UNIQUE COLLATE NOCASE,
    jig TEXT NOT NULL
) STRICT;
