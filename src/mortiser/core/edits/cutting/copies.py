"""Captions shown once more, with what belongs to their words, where other clips show these too."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import replace

from mortiser.core.editing.timeline import Timeline
from mortiser.core.edits.session import EditSession
from mortiser.core.transcript.words import Cue


def copy_captions(
    session: EditSession,
    cues: Sequence[Cue],
    before: Timeline,
    piece_id: int,
    strands: Collection[int] | None = None,
) -> list[Cue]:
    """Show captions of a piece, whose timeline is ``before``, in another or the same one, as far as their
    words are in it (or in some of its ``strands``), and give those made. Their times are to be worked
    out anew."""
    after = session.timeline(piece_id)
    return [
        session.save_cue(replace(copy, piece_id=piece_id))
        for cue in cues
        for copy in _copies(cue, before, after, strands)
    ]


def _copies(
    cue: Cue, before: Timeline, after: Timeline, strands: Collection[int] | None
) -> Iterator[Cue]:
    """A caption as the clips of another timeline show it, once for each time its words come."""
    words = [(word, before.place_of(word).said(word)) for word in cue.words]
    runs: dict[int, list[int]] = {}
    for placed in after.placed:
        for index, (_, said) in enumerate(words):
            strand_id = placed.clip.strand_id
            if (strands is None or strand_id in strands) and placed.clip.holds(said):
                runs.setdefault(strand_id, []).append(index)
    for strand_id, places in runs.items():
        shown = []
        for index in sorted(set(places)):
            word, said = words[index]
            found = after.shows(strand_id, said.middle_us)
            if found is not None:
                shown.append(
                    replace(
                        found.show(said),
                        seam=word.seam,
                        accent=word.accent,
                        look=word.look,
                        own=word.own,
                        capital=word.capital,
                    )
                )
        if not shown:
            continue
        first, last = words[min(places)][0], words[max(places)][0]
        whole = len(shown) == len(words)
        start = max(0, shown[0].start_us - (first.start_us - cue.start_us))
        end = max(start + 1, shown[-1].end_us + (cue.end_us - last.end_us))
        yield Cue(
            cue.piece_id,
            tuple(shown),
            start if whole else shown[0].start_us,
            end if whole else max(shown[-1].end_us, shown[0].start_us + 1),
            cue.start_pinned and whole,
            cue.end_pinned and whole,
        )
