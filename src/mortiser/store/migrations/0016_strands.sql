-- A strand is a stretch of a source as it was put into a piece; its clips are what is left of it.
-- Captions belong to strands and keep their times in the time of the source, so that a cut moves none.
CREATE TABLE strand (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    piece_id INTEGER NOT NULL REFERENCES piece (id) ON DELETE CASCADE,
    source_id INTEGER NOT NULL REFERENCES source (id),
    start_us INTEGER NOT NULL,
    end_us INTEGER NOT NULL CHECK (end_us > start_us)
) STRICT;
CREATE INDEX strand_piece ON strand (piece_id);
INSERT INTO strand SELECT id, piece_id, source_id, start_us, end_us FROM clip;
INSERT INTO sqlite_sequence (name, seq)
    SELECT 'strand', 0 WHERE NOT EXISTS (SELECT 1 FROM sqlite_sequence WHERE name = 'strand');
UPDATE sqlite_sequence SET seq = (
    SELECT max(seq) FROM sqlite_sequence WHERE name IN ('clip', 'strand')
) WHERE name = 'strand';

CREATE TABLE kept_cue (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    piece_id INTEGER NOT NULL REFERENCES piece (id) ON DELETE CASCADE,
    said_start_us INTEGER NOT NULL,
    said_end_us INTEGER NOT NULL,
    start_pinned INTEGER NOT NULL,
    end_pinned INTEGER NOT NULL,
    start_us INTEGER,
    end_us INTEGER CHECK (end_us > start_us)
) STRICT;
INSERT INTO kept_cue
    SELECT cue.id, cue.piece_id, cue.start_us + moved.by_us, cue.end_us + moved.by_us,
        start_pinned, end_pinned, cue.start_us, cue.end_us
    FROM cue JOIN (
        SELECT shown_word.cue_id, min(clip.start_us - (
            SELECT coalesce(sum(before.end_us - before.start_us), 0) FROM clip AS before
            WHERE before.piece_id = clip.piece_id AND before.position < clip.position
        )) AS by_us
        FROM shown_word JOIN clip ON clip.id = shown_word.clip_id
        GROUP BY shown_word.cue_id
    ) AS moved ON moved.cue_id = cue.id;
INSERT INTO sqlite_sequence (name, seq)
    SELECT 'kept_cue', 0 WHERE NOT EXISTS (SELECT 1 FROM sqlite_sequence WHERE name = 'kept_cue');
UPDATE sqlite_sequence SET seq = coalesce(
    (SELECT max(seq) FROM sqlite_sequence WHERE name IN ('cue', 'kept_cue')), 0
) WHERE name = 'kept_cue';

CREATE TABLE kept_word (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    cue_id INTEGER NOT NULL REFERENCES kept_cue (id) ON DELETE CASCADE,
    word_id INTEGER NOT NULL REFERENCES word (id) ON DELETE CASCADE,
    strand_id INTEGER NOT NULL REFERENCES strand (id),
    position INTEGER NOT NULL,
    seam TEXT NOT NULL DEFAULT 'free' CHECK (seam IN ('free', 'break', 'join', 'line')),
    accent INTEGER NOT NULL DEFAULT 0,
    look TEXT NOT NULL DEFAULT '',
    own TEXT NOT NULL DEFAULT '',
    UNIQUE (cue_id, position)
) STRICT;
INSERT INTO kept_word
    SELECT id, cue_id, word_id, clip_id, position, seam, accent, look, own FROM shown_word;
INSERT INTO sqlite_sequence (name, seq)
    SELECT 'kept_word', 0 WHERE NOT EXISTS (SELECT 1 FROM sqlite_sequence WHERE name = 'kept_word');
UPDATE sqlite_sequence SET seq = coalesce(
    (SELECT max(seq) FROM sqlite_sequence WHERE name IN ('shown_word', 'kept_word')), 0
) WHERE name = 'kept_word';

DROP TABLE shown_word;
DROP TABLE cue;
ALTER TABLE kept_cue RENAME TO cue;
ALTER TABLE kept_word RENAME TO shown_word;
CREATE INDEX cue_piece ON cue (piece_id, start_us, id);
CREATE INDEX shown_word_word ON shown_word (word_id);
CREATE INDEX shown_word_strand ON shown_word (strand_id);

CREATE TABLE kept_clip (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    piece_id INTEGER NOT NULL REFERENCES piece (id) ON DELETE CASCADE,
    position INTEGER NOT NULL,
    strand_id INTEGER NOT NULL REFERENCES strand (id),
    start_us INTEGER NOT NULL,
    end_us INTEGER NOT NULL CHECK (end_us > start_us)
) STRICT;
INSERT INTO kept_clip SELECT id, piece_id, position, id, start_us, end_us FROM clip;
INSERT INTO sqlite_sequence (name, seq)
    SELECT 'kept_clip', 0 WHERE NOT EXISTS (SELECT 1 FROM sqlite_sequence WHERE name = 'kept_clip');
UPDATE sqlite_sequence SET seq = coalesce(
    (SELECT max(seq) FROM sqlite_sequence WHERE name IN ('clip', 'kept_clip')), 0
) WHERE name = 'kept_clip';
DROP TABLE clip;
ALTER TABLE kept_clip RENAME TO clip;
CREATE INDEX clip_piece ON clip (piece_id, position);
CREATE INDEX clip_strand ON clip (strand_id);

-- Until now every piece that could be edited was one clip from the source's beginning on.
UPDATE edit_change SET
    before = json_remove(json_set(before, '$.strand_id', json_extract(before, '$.clip_id')), '$.clip_id'),
    after = json_remove(json_set(after, '$.strand_id', json_extract(after, '$.clip_id')), '$.clip_id')
    WHERE table_name = 'shown_word';
UPDATE edit_change SET
    before = json_remove(
        json_set(before, '$.said_start_us', json_extract(before, '$.start_us'),
            '$.said_end_us', json_extract(before, '$.end_us')), '$.start_us', '$.end_us'),
    after = json_remove(
        json_set(after, '$.said_start_us', json_extract(after, '$.start_us'),
            '$.said_end_us', json_extract(after, '$.end_us')), '$.start_us', '$.end_us')
    WHERE table_name = 'cue';
ALTER TABLE piece ADD COLUMN goal_us INTEGER NOT NULL DEFAULT 0;
ALTER TABLE revision_change ADD COLUMN moved INTEGER NOT NULL DEFAULT 0;
