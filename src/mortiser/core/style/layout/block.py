"""Lay a caption's words out on the frame."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from itertools import pairwise

from mortiser.core.style.finish.changes import worn
from mortiser.core.style.finish.model import Accent, Finish, Pattern
from mortiser.core.style.finish.parts import Place
from mortiser.core.style.layout.bidi import levels, runs_left, visual_order
from mortiser.core.style.layout.companions import companion_head, companion_room, companion_stamp
from mortiser.core.style.layout.fonts import FontBook, Shaped, Stamp
from mortiser.core.style.layout.lines import break_lines
from mortiser.core.style.layout.rect import Rect
from mortiser.core.transcript.unspaced import tight
from mortiser.core.transcript.words import Cue

SMALLEST = 0.3
"""Type is shrunk to this share of its size at most to make a caption fit."""
MARGIN = 0.05
"""Share of the frame that a caption held at an edge keeps from it."""
EDGE = 0.02
"""No caption is laid out nearer to the frame's top or bottom, share of the height."""


@dataclass(frozen=True, slots=True)
class PlacedWord:
    """A shaped word: pen start (x, y) in frame pixels, the box of its line height, its scale."""

    shaped: Shaped
    x: float
    y: float
    box: Rect
    scale: float
    line: int
    accent: Accent | None
    companion: Stamp | None = None
    """The emoji by its side or above it, from its pen."""


@dataclass(frozen=True, slots=True)
class Block:
    """A caption laid out, words in reading order.

    ``lines`` are half-open word ranges, ``line_boxes`` their places, ``size`` the type size in
    pixels.
    """

    words: tuple[PlacedWord, ...]
    lines: tuple[tuple[int, int], ...]
    line_boxes: tuple[Rect, ...]
    size: float

    @property
    def box(self) -> Rect:
        """The box of all lines."""
        whole = self.line_boxes[0]
        for box in self.line_boxes[1:]:
            whole = whole.around(box)
        return whole


def lay_out(
    texts: Sequence[str],
    finish: Finish,
    width: int,
    height: int,
    fonts: FontBook,
    forced: Collection[int] = (),
    accents: Sequence[Accent | None] = (),
) -> Block:
    """Place the words of a caption on a frame of ``width`` by ``height`` pixels.

    Lines are broken for the letters' real widths; where they would be more than the finish
    allows or wider than its place, the type is made smaller until they fit. Lines that were
    ended by hand, before the words with ``forced`` indexes, may be more than the finish allows.
    ``accents`` are the words' own (None for plain ones); a plain word takes what the finish's pattern
    gives to its place. A line with a larger word is taller, its words stand on one baseline.
    """
    own = list(accents) or [None] * len(texts)
    shown = _cased(texts, finish, own)
    fit = _fit(shown, finish, width, height, fonts, forced, own)
    if finish.pattern is not None:
        # The pattern counts lines, and lines depend on sizes: they are broken first, then kept.
        own = _patterned(finish, finish.pattern, own, fit.lines)
        shown = _cased(texts, finish, own)
        fit = _fit(shown, finish, width, height, fonts, [a for a, _ in fit.lines], own)
    return _place(shown, finish, (width, height), fonts, fit)


@dataclass(frozen=True, slots=True)
class _Fit:
    """Words shaped at a size that fits, and their lines; ``rooms`` is what companions take to the
    left and to the right of each."""

    shaped: list[Shaped]
    rooms: list[tuple[float, float]]
    accents: list[Accent | None]
    lines: list[tuple[int, int]]
    widths: list[float]
    size: float
    leftwards: bool
    tights: list[bool]
    """Whether no space stands behind each word."""


def _cased(texts: Sequence[str], finish: Finish, accents: Sequence[Accent | None]) -> list[str]:
    return [finish.cased(text, accent) for text, accent in zip(texts, accents, strict=True)]


def _patterned(
    finish: Finish,
    pattern: Pattern,
    worn: Sequence[Accent | None],
    lines: Sequence[tuple[int, int]],
) -> list[Accent | None]:
    """Each plain word with the accent that the pattern gives to its place."""
    found = list(worn)
    for part, (first, last) in enumerate(lines):
        for index in range(first, last):
            count = part if pattern.by == "line" else index
            if found[index] is None:
                found[index] = finish.accent(pattern.cycle[count % len(pattern.cycle)])
    return found


def _fit(
    shown: Sequence[str],
    finish: Finish,
    width: int,
    height: int,
    fonts: FontBook,
    forced: Collection[int],
    accents: list[Accent | None],
) -> _Fit:
    limit = finish.place.width * width
    full = finish.size * min(width, height)
    most_lines = max(finish.max_lines, len(set(forced) - {0}) + 1)
    leftwards = runs_left(" ".join(shown))
    tights = [tight(a, b) for a, b in pairwise([*shown, ""])]
    size = full
    while True:
        shaped = [
            fonts.shape(
                text,
                (accent and accent.font) or finish.font,
                (accent and accent.weight) or finish.weight,
                round(size * (accent.scale if accent else 1.0), 2),
                round(finish.letter_gap * size, 3),
                leftwards,
            )
            for text, accent in zip(shown, accents, strict=True)
        ]
        gap = finish.word_gap * size
        rooms = [companion_room(accent, size, leftwards) for accent in accents]
        wide = [s.advance + sum(room) for s, room in zip(shaped, rooms, strict=True)]
        # Where a script has no spaces the gap is taken back from the word before it.
        held = [w - gap * t for w, t in zip(wide, tights, strict=True)]
        lines = break_lines(held, gap, limit, forced)
        widths = [sum(wide[a:b]) + gap * (b - a - 1 - sum(tights[a : b - 1])) for a, b in lines]
        fits = len(lines) <= most_lines and max(widths) <= limit
        if fits or size <= full * SMALLEST:
            return _Fit(shaped, rooms, accents, lines, widths, size, leftwards, tights)
        size *= 0.94


def _place(
    shown: Sequence[str], finish: Finish, frame: tuple[int, int], fonts: FontBook, fit: _Fit
) -> Block:
    size, place = fit.size, finish.place
    face = fonts.face(finish.font, finish.weight)
    step, gap = finish.line_height * size, finish.word_gap * size
    scales = [accent.scale if accent else 1.0 for accent in fit.accents]
    grown = [max(1.0, *scales[first:last]) for first, last in fit.lines]
    room = place.width * frame[0]
    heads = [max(companion_head(one, size) for one in fit.accents[a:b]) for a, b in fit.lines]
    left, top = _corner(place, frame, (room, step * sum(grown)))
    # What stands above words goes into the free room above: the caption stays, but for lines that
    # have another one above them, which make room upwards.
    top = max(EDGE * frame[1] + heads[0], top - sum(heads[1:]))
    rise = (step + (face.ascent - face.descent) * size) / 2
    placed: list[PlacedWord] = []
    boxes: list[Rect] = []
    for line, (first, last) in enumerate(fit.lines):
        spare = room - fit.widths[line]
        x = left + {"left": 0.0, "centre": spare / 2, "right": spare}[finish.align]
        top += heads[line] if line else 0.0
        boxes.append(Rect.sized(x, top, fit.widths[line], step * grown[line]))
        baseline = top + rise * grown[line]
        at: dict[int, float] = {}
        for index in visual_order(_word_levels(shown[first:last], fit.leftwards)):
            before, after = fit.rooms[first + index]
            at[first + index] = x + before
            room_after = after + gap * (not fit.tights[first + index])
            x += before + fit.shaped[first + index].advance + room_after
        for index in range(first, last):
            word, accent, scale = fit.shaped[index], fit.accents[index], scales[index]
            y = baseline - (accent.lift * size if accent else 0.0)
            x = at[index] + (accent.dx * size if accent else 0.0)
            box = Rect.sized(x, y - rise * scale, word.advance, step * scale)
            stamp = companion_stamp(accent, size, word.advance, fit.leftwards)
            placed.append(PlacedWord(word, x, y, box, scale, line, accent, stamp))
        top += step * grown[line]
    return Block(tuple(placed), tuple(fit.lines), tuple(boxes), size)


def _corner(place: Place, frame: tuple[int, int], size: tuple[float, float]) -> tuple[float, float]:
    """Top left of a box of a size, held where the place says and kept on the frame's height."""
    (width, height), (w, h) = frame, size
    x = {
        "left": MARGIN * width,
        "centre": (width - w) / 2,
        "right": (1 - MARGIN) * width - w,
    }[place.across] + place.dx * width
    y = {
        "top": MARGIN * height,
        "middle": (height - h) / 2,
        "bottom": (1 - MARGIN) * height - h,
    }[place.down] + place.dy * height
    return x, max(EDGE * height, min(y, (1 - EDGE) * height - h))


def _word_levels(words: Sequence[str], leftwards: bool) -> list[int]:
    """One embedding level a word: a word is never torn apart."""
    text = " ".join(words)
    deep = levels(text, leftwards)
    found, at = [], 0
    for word in words:
        part = deep[at : at + len(word)]
        found.append(min(part) if leftwards else max(part))
        at += len(word) + 1
    return found


def lay_out_cue(cue: Cue, finish: Finish, size: tuple[int, int], fonts: FontBook) -> Block:
    """Place a caption in its finish: with its own line ends, and its words as they are marked.

    ``finish`` is the caption's own (see ``dressed``).
    """
    texts = [word.text for word in cue.words]
    accents = [_pictured(worn(finish.accent(word.accent), word.own), fonts) for word in cue.words]
    return lay_out(texts, finish, *size, fonts, cue.line_starts, accents)


def _pictured(accent: Accent | None, fonts: FontBook) -> Accent | None:
    """The accent without a companion that there is no picture of."""
    if accent is None or accent.companion is None or fonts.pictures(accent.companion.emoji):
        return accent
    return accent.model_copy(update={"companion": None})
