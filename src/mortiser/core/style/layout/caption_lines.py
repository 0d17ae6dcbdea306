"""A caption's lines as text, and where they stand: the same breaks in files as on the picture."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from math import cos, radians, sin
from typing import NamedTuple

from mortiser.core.style.finish.changes import dressed
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.layout.block import Block, lay_out_cue
from mortiser.core.style.layout.fonts import FontBook
from mortiser.core.style.layout.rect import Rect
from mortiser.core.transcript.unspaced import joined
from mortiser.core.transcript.words import Cue, Seam, Shown


class Laid(NamedTuple):
    """A caption's lines, letters as they were written, and the frame pixels its letters cover at
    rest: left, top, right, bottom."""

    lines: tuple[str, ...]
    reach: Rect


def caption_lines(
    cues: Sequence[Cue], finish: Finish, size: tuple[int, int], fonts: FontBook
) -> list[list[str]]:
    """For each cue its lines."""
    return [list(laid.lines) for laid in lay_out_all(cues, finish, size, fonts)]


def lay_out_all(
    cues: Sequence[Cue], finish: Finish, size: tuple[int, int], fonts: FontBook
) -> list[Laid]:
    """Every cue laid out on a frame of ``size`` pixels, in the piece's finish or its own look."""
    plain = _kept(finish, size, fonts)
    found = []
    for cue in cues:
        look = _kept(dressed(finish, cue.look), size, fonts) if cue.look else plain
        found.append(_laid(look, tuple(_Plain(w.text, w.seam, w.accent, w.own) for w in cue.words)))
    return found


class _Plain(NamedTuple):
    """What of a word its caption's lines depend on."""

    text: str
    seam: Seam
    accent: int
    own: str


class _Look:
    """A finish on a frame. Equal by identity: hashing a finish takes as long as laying a few words
    out, so that it is looked up once for all captions."""

    def __init__(self, finish: Finish, size: tuple[int, int], fonts: FontBook) -> None:
        self.finish = finish
        self.size = size
        self.fonts = fonts


_kept = lru_cache(maxsize=64)(_Look)


@lru_cache(maxsize=40_000)
def _laid(look: _Look, words: tuple[_Plain, ...]) -> Laid:
    """Lines once laid out are kept, of all looks together: the checks ask for all captions again after
    every change to one, and each step of dragging is a look of its own."""
    plain = tuple(Shown(w.text, 0, 0, seam=w.seam, accent=w.accent, own=w.own) for w in words)
    block = lay_out_cue(Cue(0, plain, 0, 1), look.finish, look.size, look.fonts)
    lines = tuple(joined([w.text for w in words[a:b]]) for a, b in block.lines)
    return Laid(lines, _reach(block, look.finish.place.turn))


def _reach(block: Block, degrees: float) -> Rect:
    """The box of the letters, turned with their caption."""
    middle = block.box.middle
    across, down = cos(radians(degrees)), sin(radians(degrees))
    xs, ys = [], []
    for word in block.words:
        inks = [word.shaped.ink]
        if (stamp := word.companion) is not None:
            inks.append(Rect.sized(stamp.x, stamp.y, stamp.side, stamp.side))
        for left, top, right, bottom in inks:
            for x, y in ((left, top), (right, top), (left, bottom), (right, bottom)):
                dx, dy = word.x + x - middle[0], word.y + y - middle[1]
                xs.append(middle[0] + across * dx - down * dy)
                ys.append(middle[1] + down * dx + across * dy)
    return Rect(min(xs), min(ys), max(xs), max(ys))
