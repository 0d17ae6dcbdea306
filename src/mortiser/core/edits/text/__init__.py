"""Edits of what captions say, and of who says it."""
