"""How movements begin and end."""

from __future__ import annotations


def eased(share: float) -> float:
    """How much has been gone when a ``share`` of the time has passed, slow at both ends: 3s² − 2s³. Beyond 0 and 1 it
    rests."""
    s = min(1.0, max(0.0, share))
    return s * s * (3 - 2 * s)
