"""Edits of how a piece looks: dress, frames, layers, jigs, and what it is delivered as."""
