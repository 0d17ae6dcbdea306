"""A disk that forgets, at a power cut, all that was not synced."""
