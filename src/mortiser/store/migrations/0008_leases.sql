-- Whose lease a running job is under: what anybody else says of the job does not count.
ALTER TABLE job ADD COLUMN token TEXT;
-- How far earlier attempts came: getting beyond it makes them worth nothing.
ALTER TABLE job ADD COLUMN farthest REAL NOT NULL DEFAULT 0;
-- How far the job was when the present attempt began, for the time that is left.
ALTER TABLE job ADD COLUMN began REAL;
