-- What the sound tracks of a recording are called, as its file says: a JSON list, "" for one without a name.
ALTER TABLE source ADD COLUMN track_names TEXT NOT NULL DEFAULT '[]';
