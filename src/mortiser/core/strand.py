"""A strand: a stretch of a source as it was put into a piece, whatever has been struck of it since."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from mortiser.core.timeline import Clip


@dataclass(frozen=True, slots=True)
class Strand:
    """``[start_us, end_us)`` of a source; its clips are what is kept of it."""

    id: int
    source_id: int
    start_us: int
    end_us: int


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


def with_stretch(clips: Sequence[Clip], strand: Strand, from_us: int, to_us: int) -> list[Clip]:
    """The clips and a stretch of a strand (source time) at its place among the strand's others; what it
    touches or overlaps becomes one with it."""
    from_us, to_us = max(from_us, strand.start_us), min(to_us, strand.end_us)
    mine = [clip for clip in clips if clip.strand_id == strand.id]
    joined = [clip for clip in mine if clip.start_us <= to_us and clip.end_us >= from_us]
    fresh = Clip(strand.source_id, from_us, to_us, 0, strand.id)
    if joined:
        fresh = replace(
            joined[0],
            start_us=min(from_us, *(clip.start_us for clip in joined)),
            end_us=max(to_us, *(clip.end_us for clip in joined)),
        )
    result: list[Clip] = []
    placed = False
    earlier = [clip for clip in mine if clip.end_us < from_us]
    if not earlier and not joined and not any(clip.start_us > to_us for clip in mine):
        return [*clips, fresh]
    for clip in clips:
        if clip in joined:
            if not placed:
                result.append(fresh)
                placed = True
            continue
        if not placed and not earlier and clip.strand_id == strand.id:
            result.append(fresh)
            placed = True
        result.append(clip)
        if not placed and not joined and earlier and clip == earlier[-1]:
            result.append(fresh)
            placed = True
    return result
