"""Mortiser: speech to timed, animated captions, burned in or as files."""

__version__ = "0.1.0"
