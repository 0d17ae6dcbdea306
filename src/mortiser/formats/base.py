"""What every caption format has in common.

To add a format: write a module beside this one with a ``write(captions, document) -> str`` (and, where it
is read too, what registry.py asks for), and a line in core.project.text_forms. Text in, values out; the caller
does the files, always UTF-8.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, NamedTuple

from mortiser.core.transcript.words import Word


class GridPlace(NamedTuple):
    """Where on the picture: the row and the column."""

    down: Literal["top", "middle", "bottom"]
    across: Literal["left", "centre", "right"]

    @property
    def number(self) -> int:
        """Of the number pad."""
        row = ("bottom", "middle", "top").index(self.down)
        return 3 * row + ("left", "centre", "right").index(self.across) + 1

    @classmethod
    def of(cls, number: int) -> GridPlace | None:
        """By the number pad (1 to 9); None for the foot's middle, where captions stand anyway."""
        if not 1 <= number <= 9 or number == 2:
            return None
        row = (number - 1) // 3
        return cls(("bottom", "middle", "top")[row], ("left", "centre", "right")[(number - 1) % 3])

    @classmethod
    def at(cls, x: float, y: float) -> GridPlace | None:
        """By shares of the picture's width and height (0 to 1), in thirds."""
        column = 1 if x < 1 / 3 else 3 if x > 2 / 3 else 2
        return cls.of(column + (6 if y < 1 / 3 else 0 if y > 2 / 3 else 3))


Colour = tuple[int, int, int, int]
"""Red, green, blue, opacity, 0 to 255."""


@dataclass(frozen=True)
class Look:
    """The nearest to a finish that files can say: lengths in pixels of the picture, ``ahead`` the colour of
    words not yet said, ``said`` of the others, ``accents`` of marked words (by their mark, from 1)."""

    font: str
    bold: bool
    size: float
    said: Colour
    ahead: Colour
    outline: Colour = (0, 0, 0, 255)
    outline_width: float = 0.0
    shadow: float = 0.0
    box: Colour | None = None
    upper: bool = False
    place: GridPlace | None = None
    x: float = 0.5
    y: float = 0.9
    """Its middle, as shares of the picture."""
    accents: tuple[Colour, ...] = ()


@dataclass(frozen=True)
class CaptionDocument:
    """What a file says beside its captions: how long the piece lasts, when each word is said (``timed``), and
    how captions look on a picture of a size (nothing of it where there is no look)."""

    duration_us: int
    timed: bool = False
    look: Look | None = None
    size: tuple[int, int] = (1920, 1080)
    language: str = ""
    """What the captions are in (BCP 47), where it is known."""


@dataclass(frozen=True)
class Caption:
    """A caption as files know it: times in piece µs, lines of plain text, its words.

    ``speaker`` is who speaks, ``turn`` whether somebody else spoke before. ``italic`` are the
    indexes of words (of all lines, in order) in italics, ``starts`` when each word begins where a
    file says it of every word but the first, ``place`` where a file puts the caption.
    """

    start_us: int
    end_us: int
    lines: tuple[str, ...]
    words: tuple[Word, ...] = ()
    speaker: str | None = None
    turn: bool = False
    italic: tuple[int, ...] = ()
    starts: tuple[int, ...] = ()
    place: GridPlace | None = None

    @property
    def named_lines(self) -> tuple[str, ...]:
        """The lines with the speaker's name in front at a turn, for formats without voices."""
        if not (self.turn and self.speaker and self.lines):
            return self.lines
        return (f"{self.speaker}: {self.lines[0]}", *self.lines[1:])

    @property
    def parts(self) -> tuple[tuple[MarkedPart, ...], ...]:
        """The words of each line where they lie in its text; a text without known words as one part."""
        waiting = list(self.words)
        found: list[tuple[MarkedPart, ...]] = []
        for line in self.lines:
            parts: list[MarkedPart] = []
            at = 0
            while waiting and (next_at := line.find(waiting[0].text, at)) >= 0:
                word = waiting.pop(0)
                end = next_at + len(word.text)
                parts.append(MarkedPart(line[at:end], word))
                at = end
            if at < len(line):
                parts.append(MarkedPart(line[at:], None))
            found.append(tuple(parts))
        return tuple(found)


class MarkedPart(NamedTuple):
    """A word with the blanks before it, or letters that are no known word's."""

    text: str
    word: Word | None
