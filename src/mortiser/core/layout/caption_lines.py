"""A caption's lines as text: the same breaks in caption files as on the picture."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from mortiser.core.finish.model import Finish
from mortiser.core.layout.block import lay_out
from mortiser.core.layout.face import FontBook
from mortiser.core.words import Cue


def caption_lines(
    cues: Sequence[Cue], finish: Finish, size: tuple[int, int], fonts: FontBook
) -> list[list[str]]:
    """For each cue its lines, letters as they were written."""
    return [
        list(_lines(tuple(word.text for word in cue.words), finish, size, fonts, cue.line_starts))
        for cue in cues
    ]


@lru_cache(maxsize=20_000)
def _lines(
    texts: tuple[str, ...],
    finish: Finish,
    size: tuple[int, int],
    fonts: FontBook,
    forced: tuple[int, ...],
) -> tuple[str, ...]:
    # Kept, since the checks ask for all captions again after every change to one.
    block = lay_out(texts, finish, *size, fonts, forced)
    return tuple(" ".join(texts[a:b]) for a, b in block.lines)
