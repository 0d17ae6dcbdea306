-- When a recording's first frame shows: where its frames lie follows from it.
ALTER TABLE source ADD COLUMN first_frame_us INTEGER NOT NULL DEFAULT 0;
