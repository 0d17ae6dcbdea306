"""How late a hand is: measured from taps along with clicks that were played at known times."""

from __future__ import annotations

from collections.abc import Sequence
from statistics import median

from mortiser.core.common.errors import BadInput
from mortiser.core.common.time import MILLISECOND

LEAST_TAPS = 4
FAR_US = 450 * MILLISECOND


def reaction_delay(clicks_us: Sequence[int], taps_us: Sequence[int]) -> int:
    """The median lateness (µs) of taps after the click nearest to each; negative when early.

    The first two taps are finding the beat and do not count. Raises BadInput when too few taps
    belong to a click.
    """
    late = [
        tap - min(clicks_us, key=lambda click, tap=tap: abs(click - tap))  # type: ignore[misc]
        for tap in taps_us[2:]
        if clicks_us
    ]
    near = [value for value in late if abs(value) <= FAR_US]
    if len(near) < LEAST_TAPS:
        raise BadInput("Too few taps fell on a click. Listen to the beat first, then tap along.")
    return round(median(near))
