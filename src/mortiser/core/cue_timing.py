"""When a caption shows: its words' times, led in, lingering, and handed over without a flicker.

Rules, in this order, for captions in time order:
1. An edge that is pinned stays where it is.
2. Start: ``lead_us`` before the first word, never before the caption in front has lost its voice
   or its pinned end. A cut between the two becomes the start.
3. End: ``linger_us`` after the last word, and long enough for the shortest duration and for the
   reading speed, yet not past the longest duration but for the voice, nor past a cut when the
   shortest duration allows it.
4. Where snapping is on, free edges go to frames: starts to the one before, ends to the one after.
5. A gap to the next caption shorter than ``close_us`` is closed to ``gap_frames`` frames, or wholly
   where the voice leaves no room for them.
6. No free edge makes an overlap: it ends at the next one's start at the latest. Only pins can
   force an overlap, and checks name it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from mortiser.core.pace import Pace
from mortiser.core.spans import SpanMap
from mortiser.core.time import MILLISECOND, SECOND
from mortiser.core.words import Cue

SHORTEST_SHOWN_US = 40 * MILLISECOND
"""However crowded, a caption is on screen for a frame."""
USUAL_RATE = 30.0


@dataclass(frozen=True, slots=True)
class Frames:
    """Times of a piece's frames at a constant ``rate`` a second; 0 where it is not constant.

    Where there is no constant rate nothing is snapped, and a frame counts as 1/30 s.
    """

    rate: float = 0.0

    @property
    def length_us(self) -> float:
        """How long a frame lasts."""
        return SECOND / (self.rate or USUAL_RATE)

    def last(self, count: int) -> int:
        """How long some frames last, in whole µs."""
        return round(count * self.length_us)

    def before(self, at_us: int) -> int:
        """The start of the frame that shows at a moment."""
        if not self.rate:
            return at_us
        return round(self._number(at_us) * self.length_us)

    def after(self, at_us: int) -> int:
        """The start of the first frame at or behind a moment."""
        found = self.before(at_us)
        return found if found >= at_us else round((self._number(at_us) + 1) * self.length_us)

    def _number(self, at_us: int) -> int:
        # A frame's own time, rounded to a microsecond, is in it.
        return int((at_us + 1) / self.length_us)


NO_FRAMES = Frames()


def retime(
    cues: Sequence[Cue], spans: SpanMap, pace: Pace, frames: Frames = NO_FRAMES
) -> list[Cue]:
    """The cues with their times worked out; order and count stay.

    A change to one cue reaches its two neighbours and no further, and each of these is worked
    out from its own neighbours: a run of seven gives the middle three as retiming all would.
    """
    grid = frames if pace.snap else NO_FRAMES
    gap_us = frames.last(pace.gap_frames)
    voices = [spans.to_piece(cue.words[-1].end_us) for cue in cues]
    starts: list[int] = []
    for index, cue in enumerate(cues):
        if cue.start_pinned:
            starts.append(cue.start_us)
            continue
        first = spans.to_piece(cue.words[0].start_us)
        start = max(0, first - pace.lead_us)
        if index:
            before = cues[index - 1]
            floor = before.end_us if before.end_pinned else min(first, voices[index - 1])
            start = max(start, floor)
        start = grid.before(spans.last_cut(start, first) or start)
        starts.append(max(start, starts[-1] + SHORTEST_SHOWN_US) if index else start)
    result: list[Cue] = []
    for index, cue in enumerate(cues):
        start = starts[index]
        end = cue.end_us
        if not cue.end_pinned:
            after = starts[index + 1] if index + 1 < len(cues) else None
            end = _end(cue, start, voices[index], after, spans, pace, grid, gap_us)
        result.append(replace(cue, start_us=start, end_us=max(end, start + SHORTEST_SHOWN_US)))
    return result


def _end(
    cue: Cue,
    start: int,
    voice: int,
    after: int | None,
    spans: SpanMap,
    pace: Pace,
    grid: Frames,
    gap_us: int,
) -> int:
    """Where a caption with a free end goes off."""
    reading = min(round(len(cue.text) / pace.chars_per_s * SECOND), pace.longest_us)
    end = max(voice + pace.linger_us, start + pace.shortest_us, start + reading)
    end = max(voice, min(end, start + pace.longest_us, spans.duration_us))
    cut = spans.first_cut(voice, end)
    if cut is not None and cut >= start + pace.shortest_us:
        end = cut
    end = grid.after(end)
    if after is None:
        return min(end, max(spans.duration_us, voice))
    if after - end < pace.close_us:
        return after - gap_us if max(voice, start + SHORTEST_SHOWN_US) <= after - gap_us else after
    return end
