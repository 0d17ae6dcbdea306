-- A word that a cut made the first of its sentence is shown with a capital.
ALTER TABLE shown_word ADD COLUMN capital INTEGER NOT NULL DEFAULT 0;
