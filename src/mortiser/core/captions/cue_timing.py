"""When a caption shows: its words' times, led in, lingering, and handed over without a flicker.

Rules, in this order, for captions in time order:
1. An edge that is pinned stays where it is.
2. Start: ``lead_us`` before the first word, never before the caption in front has lost its voice
   or its pinned end. A cut between the two becomes the start.
3. A caption that would be shorter than the shortest duration borrows: first it starts earlier,
   over what the one in front lingers, by MOST_EARLY_US at most; then the next one gives up its
   lead-in. In the same way the next one's lead-in makes room for the gap that is wanted.
4. End: ``linger_us`` after the last word, and long enough for the shortest duration and for the
   reading speed, yet not past the longest duration but for the voice, nor past a cut when the
   shortest duration allows it.
5. Where snapping is on, free edges go to frames: starts to the one before, ends to the one after.
6. A gap to the next caption shorter than ``close_us`` is closed to ``gap_frames`` frames, or wholly
   where the voice leaves no room for them.
7. No free edge makes an overlap: it ends at the next one's start at the latest. Only pins can
   force an overlap, and checks name it.

Where the sound leaves no room for rules 3 and 6, the voice comes first, and checks say so.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from mortiser.core.captions.pace import Pace
from mortiser.core.common.frames import NO_FRAMES, Frames
from mortiser.core.common.time import MILLISECOND, SECOND
from mortiser.core.editing.timeline import Timeline
from mortiser.core.transcript.words import Cue, Shown

SHORTEST_SHOWN_US = 40 * MILLISECOND
"""However crowded, a caption is on screen for a frame."""
MOST_EARLY_US = 300 * MILLISECOND
"""A caption comes this much before its first word at most, when it needs time."""


def retime(
    cues: Sequence[Cue], timeline: Timeline, pace: Pace, frames: Frames = NO_FRAMES
) -> list[Cue]:
    """The cues with their times worked out; order and count stay.

    A change to one cue reaches the starts of one cue before it and two behind, and the ends of two
    before it and one behind (see core.edits.retiming, which works out no more than that).
    """
    grid = frames if pace.snap else NO_FRAMES
    run = _Run(cues, timeline, pace, grid, frames.last(pace.gap_frames))
    starts = run.starts()
    result: list[Cue] = []
    for index, cue in enumerate(cues):
        start = starts[index]
        end = cue.end_us
        if not cue.end_pinned:
            after = starts[index + 1] if index + 1 < len(cues) else None
            end = max(run.end(index, start, after), grid.after(start + SHORTEST_SHOWN_US))
        result.append(cue.at(start, max(end, start + SHORTEST_SHOWN_US)))
    return result


@dataclass(frozen=True)
class _Run:
    """Cues in time order with what their times follow from."""

    cues: Sequence[Cue]
    timeline: Timeline
    pace: Pace
    grid: Frames
    gap_us: int

    def __post_init__(self) -> None:
        object.__setattr__(self, "firsts", [cue.words[0].start_us for cue in self.cues])
        object.__setattr__(self, "voices", [cue.words[-1].end_us for cue in self.cues])

    firsts: list[int] = field(init=False)
    """When each cue's first word begins."""
    voices: list[int] = field(init=False)
    """When each cue's last word is over."""

    def starts(self) -> list[int]:
        """Where the cues come on: as the words say, then with what they borrow."""
        plain: list[int] = []
        for index, cue in enumerate(self.cues):
            start = cue.start_us if cue.start_pinned else self._plain(index)
            plain.append(start if cue.start_pinned else self._behind(plain, start))
        early = [self._earlier(index, plain) for index in range(len(plain))]
        found: list[int] = []
        for index, cue in enumerate(self.cues):
            start = self._later(index, early)
            found.append(start if cue.start_pinned else self._behind(found, start))
        return found

    def _behind(self, starts: list[int], start: int) -> int:
        """A start that leaves the cue in front a moment at least."""
        return max(start, self.grid.after(starts[-1] + SHORTEST_SHOWN_US)) if starts else start

    def _plain(self, index: int) -> int:
        first = self.firsts[index]
        start = max(0, first - self.pace.lead_us)
        held = 0
        if index:
            before = self.cues[index - 1]
            held = before.end_us if before.end_pinned else 0
            start = max(start, held or min(first, self.voices[index - 1]))
        found = self.grid.before(self.timeline.last_cut(start, first) or start)
        # The frame before may be one in which the one in front is held.
        return found if found >= held else min(self.grid.after(held), max(held, first))

    def _earlier(self, index: int, plain: list[int]) -> int:
        """The start of a cue that needs time, moved over what the one in front lingers."""
        cue, start = self.cues[index], plain[index]
        if cue.start_pinned or cue.end_pinned:
            return start
        limit = plain[index + 1] - self.gap_us if index + 1 < len(plain) else None
        if limit is None or limit - start >= self.pace.shortest_us:
            return start
        floor = max(0, self.firsts[index] - MOST_EARLY_US)
        if index:
            before = self.cues[index - 1]
            # However late the one in front comes, its own shortest time is left to it.
            late = before.start_us if before.start_pinned else self.firsts[index - 1]
            voice = self.voices[index - 1]
            held = before.end_us if before.end_pinned else max(voice, late + self.pace.shortest_us)
            floor = max(floor, held + (0 if before.end_pinned else self.gap_us))
        floor = self.grid.after(self.timeline.last_cut(floor, start) or floor)
        return min(start, max(floor, self.grid.before(limit - self.pace.shortest_us)))

    def _later(self, index: int, early: list[int]) -> int:
        """The start of a cue that gives up its lead-in for the one in front."""
        cue, start = self.cues[index], early[index]
        if not index or cue.start_pinned:
            return start
        before = self.cues[index - 1]
        if before.end_pinned:
            return start
        wanted = max(early[index - 1] + self.pace.shortest_us, self.voices[index - 1])
        latest = self.firsts[index]
        return max(start, min(self.grid.after(wanted + self.gap_us), self.grid.before(latest)))

    def end(self, index: int, start: int, after: int | None) -> int:
        """Where a cue with a free end goes off."""
        cue, pace, voice = self.cues[index], self.pace, self.voices[index]
        duration_us = self.timeline.duration_us
        reading = min(round(len(cue.text) / pace.chars_per_s * SECOND), pace.longest_us)
        end = max(voice + pace.linger_us, start + pace.shortest_us, start + reading)
        end = max(voice, min(end, start + pace.longest_us, duration_us))
        cut = self.timeline.first_cut(voice, end)
        if cut is not None and cut >= start + pace.shortest_us:
            end = cut
        end = self.grid.after(end)
        if after is None:
            return min(end, max(duration_us, voice))
        if after - end >= pace.close_us:
            return end
        room = max(voice, start + SHORTEST_SHOWN_US) <= after - self.gap_us
        return after - self.gap_us if room else after


def untimed_cue(piece_id: int, words: Sequence[Shown]) -> Cue:
    """An unsaved cue with its words' own times, to be retimed."""
    start = words[0].start_us
    end = max(words[-1].end_us, start + SHORTEST_SHOWN_US)
    return Cue(piece_id, tuple(words), start, end)
