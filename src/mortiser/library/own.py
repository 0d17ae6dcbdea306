"""What the workspace has already as a library: pictures that were brought in, films of all projects."""

from __future__ import annotations

from collections.abc import Callable, Collection, Sequence
from dataclasses import dataclass
from pathlib import Path

from mortiser.core.common.errors import NotFound
from mortiser.core.library.found import Found, FoundKind, FoundPage
from mortiser.core.library.matching import matching, page_of
from mortiser.library.base import Progress
from mortiser.library.looking import small_of
from mortiser.library.passing_on import passed_on


@dataclass(frozen=True)
class OwnThing:
    """A thing of the workspace, and where its file lies."""

    found: Found
    path: Path


class OwnLibrary:
    """See Library. ``things`` tells all there is at the moment."""

    title = "This workspace"

    def __init__(self, things: Callable[[], Sequence[OwnThing]]) -> None:
        self._things = things

    def search(self, text: str, kinds: Collection[FoundKind], page: int) -> FoundPage:
        """See Library."""
        return page_of(matching((one.found for one in self._things()), text, kinds), page)

    def small(self, ref: str) -> bytes:
        """See Library."""
        one = self._of(ref)
        return small_of(one.found.kind, one.path)

    def fetch(self, ref: str, into: Path, progress: Progress) -> Found:
        """See Library."""
        one = self._of(ref)
        try:
            passed_on(one.path, into, progress)
        except FileNotFoundError as error:
            raise NotFound(GONE) from error
        return one.found

    def _of(self, ref: str) -> OwnThing:
        for one in self._things():
            if one.found.ref == ref:
                return one
        raise NotFound(GONE)


GONE = "That is not in this workspace any more. Search again."
