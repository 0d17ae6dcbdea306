-- Which kinds of files a piece is delivered as (core.output_kinds); "" for the usual ones.
ALTER TABLE piece ADD COLUMN outputs TEXT NOT NULL DEFAULT '';
