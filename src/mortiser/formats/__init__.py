"""Caption files, one module a format. base.py says how to add one."""
