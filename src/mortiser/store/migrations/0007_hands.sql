-- What holds for words and speakers of a piece wherever they come (JSON, see core.standing), and
-- the pace of its caption files: as on the picture where empty.
ALTER TABLE piece ADD COLUMN standing TEXT NOT NULL DEFAULT '';
ALTER TABLE piece ADD COLUMN file_pace TEXT NOT NULL DEFAULT '';

-- The shortest duration is one value now: what is kept to and what is checked by.
UPDATE piece SET grouping = json_remove(grouping, '$.too_short_us') WHERE grouping LIKE '{%';
UPDATE saved_pace SET pace = json_remove(pace, '$.too_short_us');

-- Colours that the workspace keeps for every project, as #rrggbb.
CREATE TABLE palette (
    colour TEXT PRIMARY KEY
) STRICT;
