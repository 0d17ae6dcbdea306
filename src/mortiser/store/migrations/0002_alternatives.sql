-- What else a doubtful word may be, best first: a JSON array of texts.
ALTER TABLE word ADD COLUMN alternatives TEXT NOT NULL DEFAULT '[]';
