"""Lay a caption's words out on the frame."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass

from mortiser.core.finish.model import Finish
from mortiser.core.layout.face import FontBook, Shaped
from mortiser.core.layout.lines import break_lines

SMALLEST = 0.45
"""Type is shrunk to this share of its size at most to make a caption fit."""


@dataclass(frozen=True, slots=True)
class Box:
    """A rectangle in frame pixels, y down."""

    x: float
    y: float
    w: float
    h: float


@dataclass(frozen=True, slots=True)
class PlacedWord:
    """A shaped word: baseline start (x, y) in frame pixels and the box of its line height."""

    shaped: Shaped
    x: float
    y: float
    box: Box


@dataclass(frozen=True, slots=True)
class Block:
    """A caption laid out; ``lines`` are half-open word ranges, ``size`` the type size in pixels."""

    words: tuple[PlacedWord, ...]
    lines: tuple[tuple[int, int], ...]
    size: float


def lay_out(
    texts: Sequence[str],
    finish: Finish,
    width: int,
    height: int,
    fonts: FontBook,
    forced: Collection[int] = (),
) -> Block:
    """Place the words of a caption on a frame of ``width`` by ``height`` pixels.

    Lines are broken for the letters' real widths; where they would be more than the finish
    allows or wider than its measure, the type is made smaller until they fit. Lines that were
    ended by hand, before the words with ``forced`` indexes, may be more than the finish allows.
    """
    shown = [finish.cased(text) for text in texts]
    limit = finish.measure * width
    full = finish.size * min(width, height)
    most_lines = max(finish.max_lines, len(forced) + 1)
    size = full
    while True:
        shaped = [fonts.shape(text, finish.font, round(size, 2)) for text in shown]
        gap = finish.word_gap * size
        lines = break_lines([s.advance for s in shaped], gap, limit, forced)
        widths = [_width(shaped[a:b], gap) for a, b in lines]
        if len(lines) <= most_lines and max(widths) <= limit:
            break
        if size <= full * SMALLEST:
            break
        size *= 0.94
    face = fonts.face(finish.font)
    step = finish.line_height * size
    top = finish.anchor_y * height - step * len(lines) / 2
    top = min(max(top, 0.02 * height), 0.98 * height - step * len(lines))
    rise = (step + (face.ascent - face.descent) * size) / 2
    placed: list[PlacedWord] = []
    for row, ((first, last), line_width) in enumerate(zip(lines, widths, strict=True)):
        x = (width - line_width) / 2
        y = top + row * step
        for word in shaped[first:last]:
            placed.append(PlacedWord(word, x, y + rise, Box(x, y, word.advance, step)))
            x += word.advance + gap
    return Block(tuple(placed), tuple(lines), size)


def _width(words: Sequence[Shaped], gap: float) -> float:
    return sum(word.advance for word in words) + gap * (len(words) - 1)
