"""Edits of captions as they stand: where they part, when they show, at which pace."""
