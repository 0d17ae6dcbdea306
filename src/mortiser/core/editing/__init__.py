"""Clips, what they are cut from, and what can be cut.

``timeline`` (clips in play order), ``strand`` (what was put into a piece), ``talk`` (all of it, kept and struck),
``cutting`` and ``whole_frames`` (where a cut lies), ``removals``, ``repeats``, ``takes`` and ``highlights`` (what is
worth cutting, or keeping), ``utterances`` and ``beyond`` (what else was said), ``microphone`` and ``matching``.
"""
