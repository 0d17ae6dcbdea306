"""When a caption shows: its words' times, led in, lingering, and handed over without a flicker.

Rules, in this order, for captions in time order:
1. An edge that is pinned stays where it is.
2. Start: ``lead_us`` before the first word, never before the caption in front has lost its voice.
3. End: ``linger_us`` after the last word, and at least ``shortest_us`` after the start.
4. A gap to the next caption shorter than ``close_us`` is closed (the earlier one stays on).
5. Nothing overlaps: a caption ends at the next one's start at the latest. Only pins can force
   an overlap, and checks name it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from mortiser.core.spans import SpanMap
from mortiser.core.time import MILLISECOND
from mortiser.core.words import Cue

SHORTEST_SHOWN_US = 40 * MILLISECOND
"""However crowded, a caption is on screen for a frame."""


@dataclass(frozen=True, slots=True)
class TimingRules:
    """Times in microseconds."""

    lead_us: int = 40 * MILLISECOND
    linger_us: int = 250 * MILLISECOND
    shortest_us: int = 833 * MILLISECOND
    close_us: int = 400 * MILLISECOND


def retime(cues: Sequence[Cue], spans: SpanMap, rules: TimingRules = TimingRules()) -> list[Cue]:
    """The cues with their times worked out; order and count stay.

    A change to one cue reaches its two neighbours and no further, and each of these is worked
    out from its own neighbours: a run of five gives the middle three as retiming all would.
    """
    starts: list[int] = []
    voices: list[int] = []
    for index, cue in enumerate(cues):
        voices.append(spans.to_piece(cue.words[-1].end_us))
        if cue.start_pinned:
            starts.append(cue.start_us)
            continue
        first = spans.to_piece(cue.words[0].start_us)
        floor = 0
        if index:
            before = cues[index - 1]
            floor = before.end_us if before.end_pinned else voices[index - 1]
        start = max(0, min(first, max(floor, first - rules.lead_us)))
        starts.append(max(start, starts[-1] + SHORTEST_SHOWN_US) if index else start)
    result: list[Cue] = []
    for index, cue in enumerate(cues):
        start = starts[index]
        after = starts[index + 1] if index + 1 < len(cues) else None
        if cue.end_pinned:
            end = cue.end_us
        else:
            end = max(voices[index] + rules.linger_us, start + rules.shortest_us)
            end = min(end, max(spans.duration_us, voices[index]))
            if after is not None and after - end < rules.close_us:
                end = after
        if after is not None:
            end = min(end, after)
        result.append(replace(cue, start_us=start, end_us=max(end, start + SHORTEST_SHOWN_US)))
    return result
