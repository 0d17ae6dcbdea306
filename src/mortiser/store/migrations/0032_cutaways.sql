-- What covers the talk's picture while words are said (core.assembly.cutaway).
ALTER TABLE piece ADD COLUMN cutaways TEXT NOT NULL DEFAULT '';
