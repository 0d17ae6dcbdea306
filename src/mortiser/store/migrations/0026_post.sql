-- What is written beside a piece where it is shown, as JSON (core.post); "" for nothing yet.
ALTER TABLE piece ADD COLUMN post TEXT NOT NULL DEFAULT '';
