"""Fit captions to a cut: regrouped where they lost or gained words, timed anew where it reaches."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace

from mortiser.core.captions.cue_timing import SHORTEST_SHOWN_US, untimed_cue
from mortiser.core.captions.grouping import group
from mortiser.core.common.errors import NotFound
from mortiser.core.editing.timeline import Clip, Timeline, changed_stretches
from mortiser.core.edits.cutting.capitals import follow_capitals
from mortiser.core.edits.retiming import FEW, retime_all, retime_near
from mortiser.core.edits.session import EditSession
from mortiser.core.transcript.words import Cue, Shown

Stretch = tuple[int, int, int]
"""Of a strand: its id, start and end in source time."""


def follow_cut(
    session: EditSession, piece_id: int, before: Timeline, clips: Sequence[Clip]
) -> None:
    """Make a piece of other clips. Captions the change does not reach into stay as they are."""
    stretches = changed_stretches(before.clips, clips)
    was = {cue.id: len(cue.words) for cue in session.reaching(piece_id, stretches)}
    session.set_clips(piece_id, clips)
    after = session.timeline(piece_id)
    reached = session.reaching(piece_id, stretches)
    other = [cue for cue in reached if was.get(cue.id) != len(cue.words)]
    fresh = session.unshown(piece_id) if _gained(after, stretches) else []
    for cue in other:
        if cue.pinned:
            session.save_cue(_within_clips(cue, after))
    made = _regrouped(session, piece_id, other, fresh)
    touched = {cue.id: cue for cue in (*reached, *made)}
    if len(touched) > FEW or len(stretches) > FEW:
        retime_all(session, piece_id)
        follow_capitals(session, piece_id)
        return
    for at_us in _cuts(after, stretches):
        for side in session.around(Cue(piece_id, (), at_us, at_us + 1), 1):
            touched |= {cue.id: cue for cue in side}
    for cue_id in touched:
        try:
            retime_near(session, session.cue(cue_id))
        except NotFound:
            continue  # Regrouped into another one.
    follow_capitals(session, piece_id, touched)


def caption_words(session: EditSession, piece_id: int, words: Sequence[Shown]) -> list[Cue]:
    """Captions of words that have none."""
    return _regrouped(session, piece_id, [], words)


def caption_all(session: EditSession, piece_id: int) -> None:
    """Captions of what was put into a piece, and times of all that stand about it."""
    caption_words(session, piece_id, session.unshown(piece_id))
    retime_all(session, piece_id)
    follow_capitals(session, piece_id)


def _within_clips(cue: Cue, timeline: Timeline) -> Cue:
    """A caption that lost words, its pinned edges no farther off than the cuts."""
    first, last = (timeline.place_of(cue.words[index]) for index in (0, -1))
    start = max(cue.start_us, first.at_us) if cue.start_pinned else cue.start_us
    end = min(cue.end_us, last.end_us) if cue.end_pinned else cue.end_us
    return replace(cue, start_us=start, end_us=max(end, start + SHORTEST_SHOWN_US))


def _gained(after: Timeline, stretches: Sequence[Stretch]) -> bool:
    """Whether anything shows now that did not; a strand that is new has no number before."""
    return any(
        not strand_id or after.touches(strand_id, start, end) for strand_id, start, end in stretches
    )


def _cuts(after: Timeline, stretches: Sequence[Stretch]) -> Iterator[int]:
    """The moments of the piece at which something begins or ends that was changed."""
    for strand_id, start, end in stretches:
        for placed in after.of_strand(strand_id):
            if placed.clip.end_us in (start, end):
                yield placed.end_us
            elif placed.clip.start_us in (start, end):
                yield placed.at_us


def _regrouped(
    session: EditSession, piece_id: int, cues: Sequence[Cue], fresh: Sequence[Shown]
) -> list[Cue]:
    """Captions of the words that some have now and of words that none has, as they are stored."""
    made: list[Cue] = []
    for run in _runs(session, piece_id, cues, fresh):
        # Words that come back may stand on both sides of a passage that was put between them.
        words = sorted((word for part in run for word in part.words), key=_start)
        parts = group(words, session.pace(piece_id), session.ruler(piece_id))
        # Those that keep their first word stay themselves.
        owners = {_key(cue): cue.id for cue in run if cue.id}
        grouped = [untimed_cue(piece_id, words[a:b]) for a, b in parts]
        grouped = [replace(cue, id=owners.pop(_key(cue), 0)) for cue in grouped]
        left = set(owners.values())
        session.delete_cues([cue for cue in run if cue.id in left])
        made += session.save_cues(grouped)
    return made


def _start(word: Shown) -> int:
    return word.start_us


def _key(cue: Cue) -> tuple[int, int]:
    return cue.words[0].id, cue.words[0].clip_id


def _runs(
    session: EditSession, piece_id: int, cues: Sequence[Cue], fresh: Sequence[Shown]
) -> Iterator[list[Cue]]:
    """Captions, and words as captions of their own, in the order of the piece, parted where another
    caption stands between. Captions with a pinned edge keep their words to themselves."""
    free = [cue for cue in cues if not cue.pinned]
    parts = sorted(
        [*free, *(untimed_cue(piece_id, [word]) for word in fresh)],
        key=lambda part: part.words[0].start_us,
    )
    adjoin = _adjoining(session, piece_id, parts)
    run: list[Cue] = []
    for part in parts:
        if run and not adjoin(run[-1], part):
            yield run
            run = []
        run.append(part)
    if run:
        yield run


def _adjoining(
    session: EditSession, piece_id: int, parts: Sequence[Cue]
) -> Callable[[Cue, Cue], bool]:
    """Tells whether no other caption stands between two parts."""
    mine = {part.id for part in parts}
    if len(parts) > FEW:
        others = [c.words[0].start_us for c in session.cues(piece_id) if c.id not in mine]

        def none_between(one: Cue, other: Cue) -> bool:
            starts = one.words[0].start_us, other.words[0].start_us
            return bisect_right(others, starts[0]) == bisect_right(others, starts[1])

        return none_between

    def next_to(one: Cue, other: Cue) -> bool:
        _, after = session.around(one, len(parts) + 1)
        start = other.words[0].start_us
        return all(c.id in mine or c.words[0].start_us >= start for c in after)

    return next_to
