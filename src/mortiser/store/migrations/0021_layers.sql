-- What stands over the picture of a piece besides captions, as JSON; empty for nothing.
ALTER TABLE piece ADD COLUMN layers TEXT NOT NULL DEFAULT '';
