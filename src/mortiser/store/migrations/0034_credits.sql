-- Where something was fetched and whose it is (core.library.found); empty for what the user brought.
ALTER TABLE source ADD COLUMN credit TEXT NOT NULL DEFAULT '';
ALTER TABLE picture ADD COLUMN credit TEXT NOT NULL DEFAULT '';
