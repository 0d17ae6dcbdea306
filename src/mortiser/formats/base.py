"""What every caption format has in common.

To add a format: write a module beside this one with a ``write(captions) -> str`` (and, where it
is read too, ``read``), and name it in FORMATS in registry.py. Text in, values out; the caller
does the files, always UTF-8.
"""

from __future__ import annotations

from dataclasses import dataclass

from mortiser.core.words import Word


@dataclass(frozen=True)
class Caption:
    """A caption as files know it: times in piece µs, lines of plain text, its words.

    ``speaker`` is who speaks, ``turn`` whether somebody else spoke before.
    """

    start_us: int
    end_us: int
    lines: tuple[str, ...]
    words: tuple[Word, ...] = ()
    speaker: str | None = None
    turn: bool = False

    @property
    def named_lines(self) -> tuple[str, ...]:
        """The lines with the speaker's name in front at a turn, for formats without voices."""
        if not (self.turn and self.speaker and self.lines):
            return self.lines
        return (f"{self.speaker}: {self.lines[0]}", *self.lines[1:])
