-- Pieces come and go by edits; what was delivered of one stays.
CREATE TABLE kept_delivery (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    piece_id INTEGER REFERENCES piece (id) ON DELETE SET NULL,
    job_id INTEGER NOT NULL REFERENCES job (id) ON DELETE CASCADE,
    stem TEXT NOT NULL,
    revision INTEGER NOT NULL,
    ordered TEXT NOT NULL DEFAULT ''
) STRICT;
INSERT INTO kept_delivery SELECT id, piece_id, job_id, stem, revision, ordered FROM delivery;
INSERT INTO sqlite_sequence (name, seq)
    SELECT 'kept_delivery', 0
    WHERE NOT EXISTS (SELECT 1 FROM sqlite_sequence WHERE name = 'kept_delivery');
UPDATE sqlite_sequence SET seq = coalesce(
    (SELECT max(seq) FROM sqlite_sequence WHERE name IN ('delivery', 'kept_delivery')), 0
) WHERE name = 'kept_delivery';
CREATE TABLE kept_file (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    delivery_id INTEGER NOT NULL REFERENCES kept_delivery (id) ON DELETE CASCADE,
    kind TEXT NOT NULL,
    name TEXT NOT NULL,
    size INTEGER NOT NULL,
    UNIQUE (delivery_id, name)
) STRICT;
INSERT INTO kept_file SELECT id, delivery_id, kind, name, size FROM delivered_file;
DROP TABLE delivered_file;
DROP TABLE delivery;
ALTER TABLE kept_delivery RENAME TO delivery;
ALTER TABLE kept_file RENAME TO delivered_file;
CREATE INDEX delivery_piece ON delivery (piece_id);
