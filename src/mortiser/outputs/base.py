"""What every kind of output does: make a file, and verify it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import NamedTuple, Protocol

from mortiser.core.common.errors import MortiserError
from mortiser.core.delivery.order import Order, OrderedFile

Files = Callable[[str], Path]
"""Where a recording lies, by its path in the workspace."""


class Told(NamedTuple):
    """Something about a made file, and where in a recording it is (µs)."""

    text: str
    at_us: int | None = None


class Unlike(MortiserError):
    """A made file is not what was ordered."""

    def __init__(self, name: str, what: str) -> None:
        super().__init__(
            f"{name} was made, but {what}. It was not kept; deliver again, and if it happens "
            "again, bring the recording in anew."
        )


class Maker(Protocol):
    """One kind of delivered file. Orders are those of the part's shape alone."""

    def make(
        self,
        order: Order,
        part: OrderedFile,
        out: Path,
        files: Files,
        progress: Callable[[float], None],
    ) -> Sequence[Told]:
        """Write the file; what there is to tell of it. ``progress`` gets 0..1 and may raise to stop. Raises
        MortiserError."""

    def verify(self, order: Order, part: OrderedFile, made: Path, files: Files) -> None:
        """Read the file back. Raises Unlike."""
