"""Measurements, each against a named reference from the same run: ``make bench``."""
