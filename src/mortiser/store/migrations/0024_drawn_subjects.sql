-- What is followed from a box drawn by hand may be known before anybody has looked for faces.
ALTER TABLE subject ADD COLUMN looked INTEGER NOT NULL DEFAULT 0;
UPDATE subject SET looked = 1;
