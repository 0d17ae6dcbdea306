"""How wide words are in a finish's letters: grouping counts lines by it."""

from __future__ import annotations

from dataclasses import dataclass

from mortiser.core.style.finish.model import Finish
from mortiser.core.style.layout.fonts import FontBook


@dataclass(frozen=True)
class LetterRuler:
    """Widths in a finish at its full size on a frame of ``size`` pixels (see core.captions.grouping.Ruler)."""

    finish: Finish
    size: tuple[int, int]
    fonts: FontBook

    @property
    def lines(self) -> int:
        """How many lines the finish shows before its letters shrink."""
        return self.finish.max_lines

    def share(self, text: str) -> float:
        """A word's width with the space behind it, as a share of a line's (with one space more)."""
        finish = self.finish
        pixels = finish.size * min(self.size)
        gap = finish.word_gap * pixels
        shaped = self.fonts.shape(
            finish.cased(text),
            finish.font,
            finish.weight,
            round(pixels, 2),
            round(finish.letter_gap * pixels, 3),
            None,
        )
        return (shaped.advance + gap) / (finish.place.width * self.size[0] + gap)
