-- Faces found in recordings, as JSON (core.subject).
CREATE TABLE subject (
    source_id INTEGER PRIMARY KEY REFERENCES source (id) ON DELETE CASCADE,
    tracks TEXT NOT NULL
) STRICT;
