"""A caption's lines as text: the same breaks in caption files as on the picture."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple

from mortiser.core.finish.changes import dressed
from mortiser.core.finish.model import Finish
from mortiser.core.layout.block import lay_out_cue
from mortiser.core.layout.fonts import FontBook
from mortiser.core.words import Cue, Seam, Word


def caption_lines(
    cues: Sequence[Cue], finish: Finish, size: tuple[int, int], fonts: FontBook
) -> list[list[str]]:
    """For each cue its lines, letters as they were written."""
    return [
        list(
            _lines(
                tuple(_Shown(w.text, w.seam, w.accent, w.own) for w in cue.words),
                dressed(finish, cue.look),
                size,
                fonts,
            )
        )
        for cue in cues
    ]


class _Shown(NamedTuple):
    """What of a word its caption's lines depend on."""

    text: str
    seam: Seam
    accent: int
    own: str


@lru_cache(maxsize=20_000)
def _lines(
    words: tuple[_Shown, ...], finish: Finish, size: tuple[int, int], fonts: FontBook
) -> tuple[str, ...]:
    # Kept, since the checks ask for all captions again after every change to one.
    plain = tuple(Word(w.text, 0, 0, seam=w.seam, accent=w.accent, own=w.own) for w in words)
    block = lay_out_cue(Cue(0, plain, 0, 1), finish, size, fonts)
    return tuple(" ".join(w.text for w in words[a:b]) for a, b in block.lines)
