-- What was heard where the glossary put a word; empty where the word before says it.
ALTER TABLE word ADD COLUMN heard_as TEXT;

-- The workspace's glossary. ``heard``: a JSON array of forms an entry has been heard as.
CREATE TABLE glossary_entry (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    written TEXT NOT NULL UNIQUE COLLATE NOCASE,
    heard TEXT NOT NULL
) STRICT;

-- Corrections made by hand: what is corrected again is offered for the glossary.
CREATE TABLE correction (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    project_id INTEGER NOT NULL REFERENCES project (id) ON DELETE CASCADE,
    heard TEXT NOT NULL COLLATE NOCASE,
    written TEXT NOT NULL
) STRICT;
CREATE INDEX correction_heard ON correction (heard, written);
CREATE TABLE declined_offer (
    heard TEXT NOT NULL COLLATE NOCASE,
    written TEXT NOT NULL,
    PRIMARY KEY (heard, written)
) STRICT;

ALTER TABLE piece ADD COLUMN show_speakers INTEGER NOT NULL DEFAULT 0;
ALTER TABLE source ADD COLUMN audio_track INTEGER NOT NULL DEFAULT 0;
ALTER TABLE source ADD COLUMN language TEXT NOT NULL DEFAULT 'en';
-- What a job has to say besides its result: a JSON array of notes.
ALTER TABLE job ADD COLUMN report TEXT NOT NULL DEFAULT '[]';
