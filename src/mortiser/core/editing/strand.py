"""A strand: a stretch of a source as it was put into a piece, whatever has been struck of it since."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import dataclass, replace

from mortiser.core.editing.timeline import Clip


@dataclass(frozen=True, slots=True)
class Strand:
    """``[start_us, end_us)`` of a source; its clips are what is kept of it."""

    id: int
    source_id: int
    start_us: int
    end_us: int


def reach(strand: Strand, strands: Sequence[Strand], length_us: int) -> tuple[int, int]:
    """How far a strand could go in its source, which is ``length_us`` long: up to what else of it was put
    into the piece before and behind."""
    others = [one for one in strands if one.source_id == strand.source_id and one.id != strand.id]
    low = max([0, *(one.end_us for one in others if one.end_us <= strand.start_us)])
    high = min([length_us, *(one.start_us for one in others if one.start_us >= strand.end_us)])
    return min(low, strand.start_us), max(high, strand.end_us)


def without(clips: Sequence[Clip], strand_id: int, from_us: int, to_us: int) -> list[Clip]:
    """The clips but for a stretch of a strand (source time). The longer part of a clip that is cut in
    two stays the clip it was."""
    if from_us >= to_us:
        return list(clips)
    kept: list[Clip] = []
    for clip in clips:
        if clip.strand_id != strand_id or clip.end_us <= from_us or clip.start_us >= to_us:
            kept.append(clip)
            continue
        parts = [
            replace(clip, start_us=start, end_us=end)
            for start, end in ((clip.start_us, from_us), (to_us, clip.end_us))
            if start < end
        ]
        if len(parts) == 2:
            second = parts[1].length_us > parts[0].length_us
            parts[not second] = replace(parts[not second], id=0)
        kept += parts
    return kept


def without_all(clips: Sequence[Clip], stretches: Sequence[tuple[int, int, int]]) -> list[Clip]:
    """The clips but for stretches of strands: (strand, start, end) in source time, in any order."""
    of_strand: dict[int, list[tuple[int, int]]] = {}
    for strand_id, start, end in sorted(stretches):
        of_strand.setdefault(strand_id, []).append((start, end))
    kept: list[Clip] = []
    for clip in clips:
        mine = of_strand.get(clip.strand_id, [])
        parts = [clip]
        for start, end in mine[: bisect_left(mine, (clip.end_us, 0))]:
            if end > clip.start_us:
                parts = without(parts, clip.strand_id, start, end)
        kept += parts
    return kept


def with_stretch(clips: Sequence[Clip], strand: Strand, from_us: int, to_us: int) -> list[Clip]:
    """The clips and a stretch of a strand (source time), each part of it that is missing behind what
    comes before it in the strand; what it touches becomes one with it."""
    reached, to_us = max(from_us, strand.start_us), min(to_us, strand.end_us)
    missing: list[tuple[int, int]] = []
    for clip in clips:
        if clip.strand_id != strand.id or clip.end_us <= reached:
            continue
        if clip.start_us > reached and reached < to_us:
            missing.append((reached, min(clip.start_us, to_us)))
        reached = max(reached, clip.end_us)
    if reached < to_us:
        missing.append((reached, to_us))
    result = list(clips)
    for start, end in missing:
        mine = [at for at, clip in enumerate(result) if clip.strand_id == strand.id]
        earlier = [at for at in mine if result[at].end_us <= start]
        place = earlier[-1] + 1 if earlier else mine[0] if mine else len(result)
        result.insert(place, Clip(strand.source_id, start, end, 0, strand.id))
    return joined(result)


def joined(clips: Sequence[Clip]) -> list[Clip]:
    """Clips of a strand that go on where the one in front of them stops are one with it."""
    result: list[Clip] = []
    for clip in clips:
        last = result[-1] if result else None
        if last and (last.strand_id, last.end_us) == (clip.strand_id, clip.start_us):
            longer = last if last.length_us >= clip.length_us else clip
            result[-1] = replace(longer, start_us=last.start_us, end_us=clip.end_us)
        else:
            result.append(clip)
    return result
