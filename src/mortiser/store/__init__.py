"""SQLite through plain SQL: projects, the edit journal, jobs."""
