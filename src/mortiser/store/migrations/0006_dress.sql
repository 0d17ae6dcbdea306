-- What a caption's and a word's looks have of their own in this piece: JSON of dotted paths and
-- values (see core.finish.changes); empty for nothing. A caption's look lies on each of its words,
-- so that it survives regrouping.
ALTER TABLE cue_word ADD COLUMN look TEXT NOT NULL DEFAULT '';
ALTER TABLE cue_word ADD COLUMN own TEXT NOT NULL DEFAULT '';

-- The workspace's own finishes (JSON, see core.finish.model), and what it remembers.
CREATE TABLE saved_finish (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    name TEXT NOT NULL UNIQUE COLLATE NOCASE,
    finish TEXT NOT NULL
) STRICT;

CREATE TABLE preference (
    name TEXT PRIMARY KEY,
    value TEXT NOT NULL
) STRICT;
