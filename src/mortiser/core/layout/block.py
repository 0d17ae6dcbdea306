"""Lay a caption's words out on the frame."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass

from mortiser.core.finish.model import Finish
from mortiser.core.layout.face import FontBook, Shaped
from mortiser.core.layout.lines import break_lines
from mortiser.core.words import Cue

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
    """A shaped word: baseline start (x, y) in frame pixels, the box of its line height, its scale."""

    shaped: Shaped
    x: float
    y: float
    box: Box
    scale: float = 1.0


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
    scales: Sequence[float] = (),
) -> Block:
    """Place the words of a caption on a frame of ``width`` by ``height`` pixels.

    Lines are broken for the letters' real widths; where they would be more than the finish
    allows or wider than its measure, the type is made smaller until they fit. Lines that were
    ended by hand, before the words with ``forced`` indexes, may be more than the finish allows.
    ``scales`` are the words' sizes as shares of the type size (1 where left out); a line with a
    larger word is taller, its words stand on one baseline.
    """
    shown = [finish.cased(text) for text in texts]
    scales = scales or [1.0] * len(texts)
    limit = finish.measure * width
    full = finish.size * min(width, height)
    most_lines = max(finish.max_lines, len(forced) + 1)
    size = full
    while True:
        shaped = [
            fonts.shape(text, finish.font, round(size * scale, 2))
            for text, scale in zip(shown, scales, strict=True)
        ]
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
    grown = [max(1.0, *scales[first:last]) for first, last in lines]
    heights = [step * scale for scale in grown]
    top = finish.anchor_y * height - sum(heights) / 2
    top = min(max(top, 0.02 * height), 0.98 * height - sum(heights))
    rise = (step + (face.ascent - face.descent) * size) / 2
    placed: list[PlacedWord] = []
    for (first, last), line_width, most in zip(lines, widths, grown, strict=True):
        x = (width - line_width) / 2
        baseline = top + rise * most
        for word, scale in zip(shaped[first:last], scales[first:last], strict=True):
            box = Box(x, baseline - rise * scale, word.advance, step * scale)
            placed.append(PlacedWord(word, x, baseline, box, scale))
            x += word.advance + gap
        top += step * most
    return Block(tuple(placed), tuple(lines), size)


def lay_out_cue(cue: Cue, finish: Finish, size: tuple[int, int], fonts: FontBook) -> Block:
    """Place a caption: with its own line ends, and its marked words in their accents' sizes."""
    accents = [finish.accent(word.accent) for word in cue.words]
    scales = [accent.scale if accent else 1.0 for accent in accents]
    texts = [word.text for word in cue.words]
    return lay_out(texts, finish, *size, fonts, cue.line_starts, scales)


def _width(words: Sequence[Shaped], gap: float) -> float:
    return sum(word.advance for word in words) + gap * (len(words) - 1)
