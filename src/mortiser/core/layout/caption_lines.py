"""A caption's lines as text: the same breaks in caption files as on the picture."""

from __future__ import annotations

from collections.abc import Sequence

from mortiser.core.finish.model import Finish
from mortiser.core.layout.block import lay_out
from mortiser.core.layout.face import FontBook
from mortiser.core.words import Cue


def caption_lines(
    cues: Sequence[Cue], finish: Finish, size: tuple[int, int], fonts: FontBook
) -> list[list[str]]:
    """For each cue its lines, letters as they were written."""
    result: list[list[str]] = []
    for cue in cues:
        texts = [word.text for word in cue.words]
        block = lay_out(texts, finish, *size, fonts, cue.line_starts)
        result.append([" ".join(texts[a:b]) for a, b in block.lines])
    return result
