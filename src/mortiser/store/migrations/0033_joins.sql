-- How clips go over into each other (core.assembly.joining), and how pictures look (core.assembly.grade).
ALTER TABLE piece ADD COLUMN joins TEXT NOT NULL DEFAULT '';
ALTER TABLE piece ADD COLUMN grades TEXT NOT NULL DEFAULT '';
