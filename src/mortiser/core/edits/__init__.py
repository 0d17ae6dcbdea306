"""Every change to a project as a value: what it is called, and what it does on a session."""
