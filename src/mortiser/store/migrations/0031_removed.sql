-- Whether a recording was taken out of its project: it stays with its words, so that an undo brings it back.
ALTER TABLE source ADD COLUMN removed INTEGER NOT NULL DEFAULT 0;
