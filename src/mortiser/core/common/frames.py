"""When the frames of a piece show."""

from __future__ import annotations

from dataclasses import dataclass, field
from fractions import Fraction
from functools import lru_cache
from math import floor

from mortiser.core.common.time import SECOND

USUAL_RATE = 30.0


@dataclass(frozen=True, slots=True)
class Frames:
    """Times of a piece's frames at a constant ``rate`` a second, one of them at ``origin_us``; the rate
    is 0 where it is not constant.

    Where there is no constant rate nothing is snapped, and a frame counts as 1/30 s.
    """

    rate: float = 0.0
    origin_us: int = 0
    length_us: float = field(init=False, compare=False)
    """How long a frame lasts."""

    def __post_init__(self) -> None:
        object.__setattr__(self, "length_us", SECOND / _exact(self.rate or USUAL_RATE))

    def last(self, count: int) -> int:
        """How long some frames last, in whole µs."""
        return round(count * self.length_us)

    def before(self, at_us: int) -> int:
        """The start of the frame that shows at a moment."""
        if not self.rate:
            return at_us
        return max(0, self.origin_us + round(self._number(at_us) * self.length_us))

    def after(self, at_us: int) -> int:
        """The start of the first frame at or behind a moment."""
        found = self.before(at_us)
        later = self.origin_us + round((self._number(at_us) + 1) * self.length_us)
        return found if found >= at_us else later

    def _number(self, at_us: int) -> int:
        # A frame's own time, rounded to a microsecond, is in it.
        return floor((at_us - self.origin_us + 1) / self.length_us)


@lru_cache(maxsize=64)
def _exact(rate: float) -> float:
    """A rate measured from rounded times as the fraction it stands for, such as 30000/1001.

    A millionth off, edges would miss their frame by a microsecond after half a minute.
    """
    near = Fraction(rate).limit_denominator(1001)
    return float(near) if abs(near - rate) < rate * 1e-6 else rate


NO_FRAMES = Frames()
