-- Which kinds of files a piece is delivered as (core.output_kinds); "" for all of them.
ALTER TABLE piece ADD COLUMN outputs TEXT NOT NULL DEFAULT '';
