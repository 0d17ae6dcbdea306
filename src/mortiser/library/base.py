"""The seam: what every library does."""

from __future__ import annotations

from collections.abc import Callable, Collection
from pathlib import Path
from typing import Protocol

from mortiser.core.library.found import Found, FoundKind, FoundPage

SMALL_SIDE = 320
"""Of a small picture, in pixels."""
Progress = Callable[[float], None]


class Library(Protocol):
    """A place to search and to fetch from. All methods may be called by several threads.

    All of them raise NotFound for what is not there (any more), and OutOfReach where the library does not answer
    or breaks off.
    """

    @property
    def title(self) -> str:
        """What it is called."""

    def search(self, text: str, kinds: Collection[FoundKind], page: int) -> FoundPage:
        """A page of what a text asks for, of some kinds (all if none is named), the likeliest first; all there is
        for an empty text."""

    def small(self, ref: str) -> bytes:
        """A small picture of a thing, as JPEG or PNG; nothing of what is only heard."""

    def fetch(self, ref: str, into: Path, progress: Progress) -> Found:
        """Write a thing's file; what it is. ``progress`` is told the part that is there (0 to 1) and may raise to
        stop."""
