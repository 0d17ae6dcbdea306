"""Which clips say the words of captions, and where in their recordings."""

from __future__ import annotations

from collections.abc import Sequence

from mortiser.core.common.errors import NotFound
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.edits.base import chosen, words_of
from mortiser.core.edits.session import EditSession
from mortiser.core.framing.shape import FramedStretch
from mortiser.core.transcript.words import Shown


def clips_saying(session: EditSession, piece_id: int, cue_ids: Sequence[int]) -> list[Clip]:
    """The clips of a piece that say the words of captions, in play order. Raises NotFound."""
    timeline = session.timeline(piece_id)
    cues = chosen(session, cue_ids)
    if cues[0].piece_id != piece_id:
        raise NotFound("Those captions are of another piece.")
    said = {timeline.place_of(word).clip for cue in cues for word in cue.words}
    return [clip for clip in timeline.clips if clip in said]


def stretches_said(
    session: EditSession, piece_id: int, cue_ids: Sequence[int], word_ids: Sequence[int] = ()
) -> dict[Clip, tuple[int, int]]:
    """From when to when (source time, µs) each clip says the words of captions, or some of these words;
    in the order they are said. Raises NotFound."""
    cues = chosen(session, cue_ids)
    words = words_of(cues, word_ids) if word_ids else [w for cue in cues for w in cue.words]
    return stretches_of(session.timeline(piece_id), words)


def stretch_said(session: EditSession, piece_id: int, cue_ids: Sequence[int]) -> FramedStretch:
    """From when to when the source that is heard first says what captions say. Raises NotFound."""
    said = stretches_said(session, piece_id, cue_ids)
    source_id = next(iter(said)).source_id
    here = [stretch for clip, stretch in said.items() if clip.source_id == source_id]
    start, end = min(start for start, _ in here), max(end for _, end in here)
    return FramedStretch(source_id=source_id, start_us=start, end_us=end)


def stretches_of(timeline: Timeline, words: Sequence[Shown]) -> dict[Clip, tuple[int, int]]:
    """The same of words of a piece."""
    found: dict[Clip, tuple[int, int]] = {}
    for word in words:
        placed = timeline.place_of(word)
        start, end = placed.to_source(word.start_us), placed.to_source(word.end_us)
        first, last = found.get(placed.clip, (start, end))
        found[placed.clip] = min(first, start), max(last, end)
    return {clip: (start, max(end, start + 1)) for clip, (start, end) in found.items()}
