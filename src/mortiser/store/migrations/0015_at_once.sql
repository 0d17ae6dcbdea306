-- How many jobs of its kind may run at the same time, whoever runs them; 0 for any number.
ALTER TABLE job ADD COLUMN at_once INTEGER NOT NULL DEFAULT 0;
UPDATE job SET at_once = 1 WHERE kind = 'doubt';
