-- What was decided by hand about the place behind a word, in this piece (see core.words.Seam).
ALTER TABLE cue_word ADD COLUMN seam TEXT NOT NULL DEFAULT 'free'
    CHECK (seam IN ('free', 'break', 'join', 'line'));

-- piece.grouping holds a whole pace: the name of a built-in one, or JSON (see core.pace).
ALTER TABLE piece ADD COLUMN checked_by TEXT NOT NULL DEFAULT 'own'
    CHECK (checked_by IN ('feed', 'course', 'own'));

-- The workspace's own paces.
CREATE TABLE saved_pace (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    name TEXT NOT NULL UNIQUE COLLATE NOCASE,
    pace TEXT NOT NULL
) STRICT;
