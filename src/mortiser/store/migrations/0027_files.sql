-- A job for each file of a delivery, and what the file is (core.order.Part, as JSON). A delivery that was
-- not over yet is to be ordered again.
CREATE TABLE kept_delivery (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    project_id INTEGER NOT NULL REFERENCES project (id) ON DELETE CASCADE,
    piece_id INTEGER REFERENCES piece (id) ON DELETE SET NULL,
    stem TEXT NOT NULL,
    revision INTEGER NOT NULL,
    created_us INTEGER NOT NULL,
    ordered TEXT NOT NULL DEFAULT ''
) STRICT;
INSERT INTO kept_delivery
    SELECT delivery.id, job.project_id, piece_id, stem, revision, job.created_us, ''
    FROM delivery JOIN job ON job.id = delivery.job_id WHERE job.status = 'done';
INSERT INTO sqlite_sequence (name, seq)
    SELECT 'kept_delivery', 0
    WHERE NOT EXISTS (SELECT 1 FROM sqlite_sequence WHERE name = 'kept_delivery');
UPDATE sqlite_sequence SET seq = coalesce(
    (SELECT max(seq) FROM sqlite_sequence WHERE name IN ('delivery', 'kept_delivery')), 0
) WHERE name = 'kept_delivery';
CREATE TABLE kept_file (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    delivery_id INTEGER NOT NULL REFERENCES kept_delivery (id) ON DELETE CASCADE,
    job_id INTEGER NOT NULL REFERENCES job (id) ON DELETE CASCADE,
    kind TEXT NOT NULL,
    name TEXT NOT NULL,
    part TEXT NOT NULL DEFAULT '',
    size INTEGER NOT NULL DEFAULT 0,
    UNIQUE (delivery_id, name)
) STRICT;
INSERT INTO kept_file (id, delivery_id, job_id, kind, name, size)
    SELECT delivered_file.id, delivery_id, delivery.job_id, kind, name, size
    FROM delivered_file JOIN delivery ON delivery.id = delivered_file.delivery_id
    WHERE delivery_id IN (SELECT id FROM kept_delivery);
DELETE FROM job WHERE kind = 'deliver' AND status <> 'done';
DROP TABLE delivered_file;
DROP TABLE delivery;
ALTER TABLE kept_delivery RENAME TO delivery;
ALTER TABLE kept_file RENAME TO delivered_file;
CREATE INDEX delivery_piece ON delivery (piece_id);
CREATE INDEX delivery_project ON delivery (project_id);
CREATE INDEX delivered_file_job ON delivered_file (job_id);
-- Waits until somebody lets it go on; which of those that wait goes first (smallest first).
ALTER TABLE job ADD COLUMN paused INTEGER NOT NULL DEFAULT 0;
ALTER TABLE job ADD COLUMN rank REAL NOT NULL DEFAULT 0;
-- How the files of a piece are named (core.naming); the usual names where empty.
ALTER TABLE piece ADD COLUMN naming TEXT NOT NULL DEFAULT '';
-- Outputs under a name, as JSON (core.output).
CREATE TABLE saved_outputs (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    name TEXT NOT NULL UNIQUE COLLATE NOCASE,
    outputs TEXT NOT NULL
) STRICT;
-- What holds for the whole workspace, by name.
CREATE TABLE setting (
    name TEXT PRIMARY KEY,
    value TEXT NOT NULL
) STRICT;
