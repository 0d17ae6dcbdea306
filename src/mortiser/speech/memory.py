"""Memory that engines take and leave behind."""

from __future__ import annotations

import ctypes

HEAPS = 2
_ARENA_MAX = -8
"""M_ARENA_MAX of glibc's malloc.h."""


def share_heaps() -> None:
    """Let all threads take memory from HEAPS heaps, where the C library would give each its own (glibc's mallopt).

    So the next engine uses what one has freed. To be called before there are threads.
    """
    mallopt = getattr(ctypes.CDLL(None), "mallopt", None)
    if mallopt is not None:
        mallopt(_ARENA_MAX, HEAPS)


def give_back() -> None:
    """Return memory that is free to the system, where its C library can (glibc's malloc_trim)."""
    trim = getattr(ctypes.CDLL(None), "malloc_trim", None)
    if trim is not None:
        trim(0)
