-- A kept stretch of a source is a clip of its piece, and each shown word says which clip shows it.
CREATE TABLE clip (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    piece_id INTEGER NOT NULL REFERENCES piece (id) ON DELETE CASCADE,
    position INTEGER NOT NULL,
    source_id INTEGER NOT NULL REFERENCES source (id),
    start_us INTEGER NOT NULL,
    end_us INTEGER NOT NULL CHECK (end_us > start_us)
) STRICT;
INSERT INTO clip (id, piece_id, position, source_id, start_us, end_us)
    SELECT id, piece_id, position, source_id, start_us, end_us FROM span;
DELETE FROM sqlite_sequence WHERE name = 'clip';
INSERT INTO sqlite_sequence (name, seq) SELECT 'clip', seq FROM sqlite_sequence WHERE name = 'span';
DROP TABLE span;
CREATE INDEX clip_piece ON clip (piece_id, position);

CREATE TABLE shown_word (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    cue_id INTEGER NOT NULL REFERENCES cue (id) ON DELETE CASCADE,
    word_id INTEGER NOT NULL REFERENCES word (id) ON DELETE CASCADE,
    clip_id INTEGER NOT NULL REFERENCES clip (id),
    position INTEGER NOT NULL,
    seam TEXT NOT NULL DEFAULT 'free' CHECK (seam IN ('free', 'break', 'join', 'line')),
    accent INTEGER NOT NULL DEFAULT 0,
    look TEXT NOT NULL DEFAULT '',
    own TEXT NOT NULL DEFAULT '',
    UNIQUE (cue_id, position)
) STRICT;
INSERT INTO shown_word (id, cue_id, word_id, clip_id, position, seam, accent, look, own)
    SELECT cue_word.id, cue_id, word_id,
        (SELECT min(clip.id) FROM clip WHERE clip.piece_id = cue.piece_id),
        position, seam, accent, look, own
    FROM cue_word JOIN cue ON cue.id = cue_word.cue_id;
-- Numbers are not given twice: the journal knows rows that are gone by theirs.
DELETE FROM sqlite_sequence WHERE name = 'shown_word';
INSERT INTO sqlite_sequence (name, seq)
    SELECT 'shown_word', seq FROM sqlite_sequence WHERE name = 'cue_word';
DROP TABLE cue_word;
CREATE INDEX shown_word_word ON shown_word (word_id);
CREATE INDEX shown_word_clip ON shown_word (clip_id);

-- Projects had one piece of one clip until now.
UPDATE edit_change SET
    table_name = 'shown_word',
    before = json_set(before, '$.clip_id', only.clip_id),
    after = json_set(after, '$.clip_id', only.clip_id)
    FROM (
        SELECT edit_entry.id AS entry_id, min(clip.id) AS clip_id FROM edit_entry
        JOIN piece ON piece.project_id = edit_entry.project_id
        JOIN clip ON clip.piece_id = piece.id GROUP BY edit_entry.id
    ) AS only
    WHERE edit_change.table_name = 'cue_word' AND edit_change.entry_id = only.entry_id;
UPDATE edit_change SET table_name = 'clip' WHERE table_name = 'span';
