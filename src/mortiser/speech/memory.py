"""Memory that engines have left behind."""

from __future__ import annotations

import ctypes


def give_back() -> None:
    """Return memory that is free to the system, where its C library can (glibc's malloc_trim)."""
    trim = getattr(ctypes.CDLL(None), "malloc_trim", None)
    if trim is not None:
        trim(0)
