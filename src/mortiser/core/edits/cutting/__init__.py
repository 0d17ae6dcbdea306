"""Edits of which clips play, and of what follows from it for captions."""
