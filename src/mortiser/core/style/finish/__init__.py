"""Finishes: complete, named caption looks including motion."""
