"""What is left out of a piece, as long as whole frames: what comes behind it stays on its frames."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from functools import partial

from mortiser.core.editing.strand import Strand, joined
from mortiser.core.editing.timeline import Clip
from mortiser.core.transcript.words import Word

Parting = Callable[[int, int, int], bool]
"""Whether in a source a stretch (its start and end in µs) has the middle of a word in it."""


def parting_of(words: Mapping[int, Sequence[Word]]) -> Parting:
    """From the words of each source."""
    middles = {source: sorted(word.middle_us for word in said) for source, said in words.items()}

    def parting(source_id: int, start_us: int, end_us: int) -> bool:
        known = middles.get(source_id, [])
        return bisect_left(known, start_us) < bisect_left(known, end_us)

    return parting


def whole_frames(
    clips: Sequence[Clip],
    before: Sequence[Clip],
    strands: Sequence[Strand],
    frame_us: float,
    parting: Parting,
) -> list[Clip]:
    """The clips, what is newly left out before one as long as whole frames, so that what comes behind
    stays on the frames it was on. An edge moves by half a frame, by less than one where a word would
    come or go with it; it stays where that would be so both ways."""
    origin = {strand.id: strand.start_us for strand in strands}
    known = _holes(before, origin)
    old = {(clip.strand_id, clip.start_us) for clip in before}
    result: list[Clip] = []
    last: dict[int, int] = {}
    for clip in clips:
        at = last.get(clip.strand_id)
        hole = origin.get(clip.strand_id, clip.start_us), clip.start_us
        if at is not None:
            hole = result[at].end_us, clip.start_us
        if hole[0] < hole[1] and (clip.strand_id, *hole) not in known:
            room = None if at is None else result[at].start_us, clip.end_us
            fixed = (clip.strand_id, clip.start_us) in old
            left, right = _whole(hole, room, frame_us, fixed, partial(parting, clip.source_id))
            if at is not None:
                result[at] = replace(result[at], end_us=left)
            clip = replace(clip, start_us=right)
        last[clip.strand_id] = len(result)
        result.append(clip)
    return joined(result)


def _whole(
    hole: tuple[int, int],
    room: tuple[int | None, int],
    frame_us: float,
    fixed: bool,
    parting: Callable[[int, int], bool],
) -> tuple[int, int]:
    """A hole as long as whole frames: its end moved, or its start, which comes first where the end was
    there before. ``room`` is the start of the clip in front of it, if any, and the end of that behind."""
    start, end = hole
    count = (end - start) / frame_us
    near = round(count)
    for frames in (near, near + 1 if count > near else near - 1):
        length = round(max(0, frames) * frame_us)
        moved = [(start, start + length)] if start + length < room[1] else []
        if room[0] is not None and end - length > room[0]:
            moved.insert(0 if fixed else 1, (end - length, end))
        for left, right in moved:
            # A word whose middle is where a clip ends is shown by that clip, as Timeline.shows has it.
            first, last = sorted((start, left))
            if not parting(first + 1, last + 1) and not parting(*sorted((end, right))):
                return left, right
    return hole


def _holes(clips: Sequence[Clip], origin: dict[int, int]) -> set[tuple[int, int, int]]:
    reached = dict(origin)
    found = set()
    for clip in clips:
        found.add((clip.strand_id, reached.get(clip.strand_id, clip.start_us), clip.start_us))
        reached[clip.strand_id] = clip.end_us
    return found
