"""Words as they are compared where it is enough to tell that a name is said."""

from __future__ import annotations

import re

LEAST_LETTERS = 4
"""Shorter words are left as they are."""
_PARTS = re.compile(r"[^\W\d_]+")


def stems(text: str) -> list[str]:
    """The words of a text in order, without what makes them several."""
    parts = _PARTS.findall(text.casefold())
    return [
        part[:-1] if len(part) > LEAST_LETTERS and part.endswith("s") else part for part in parts
    ]
