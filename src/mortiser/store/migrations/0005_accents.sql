-- Which of the finish's accents a word is marked with in this piece, from 1; 0 for none.
ALTER TABLE cue_word ADD COLUMN accent INTEGER NOT NULL DEFAULT 0;
