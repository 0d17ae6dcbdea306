-- How long a picture of the user's own moves until it begins again, in µs; 0 of one that stands still.
ALTER TABLE picture ADD COLUMN lasts_us INTEGER NOT NULL DEFAULT 0;
-- Whether some of it can be seen through. Of those that are here it is not known: they are shown as before.
ALTER TABLE picture ADD COLUMN through INTEGER NOT NULL DEFAULT 0;
