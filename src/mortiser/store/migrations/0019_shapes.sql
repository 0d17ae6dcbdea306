-- The shapes of a piece, as JSON; empty for the one frame it begins with, of its width and height.
ALTER TABLE piece ADD COLUMN shapes TEXT NOT NULL DEFAULT '';
