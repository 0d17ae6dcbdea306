"""Carry what happens to the transcript into every other caption that shows it.

A word is said once and may be shown many times: in several pieces, or twice in one. What belongs to
a piece (marks, breaks, looks, pinned times) stays with the piece.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Iterator, Sequence
from dataclasses import replace
from itertools import islice

from rapidfuzz.distance import LCSseq

from mortiser.core.captions.cue_timing import untimed_cue
from mortiser.core.captions.grouping import group
from mortiser.core.captions.pace import Pace
from mortiser.core.common.errors import NotFound
from mortiser.core.edits.retiming import (
    CONTEXT,
    FEW,
    retime_all,
    retime_each,
    retime_near,
    retime_run,
)
from mortiser.core.edits.session import EditSession
from mortiser.core.transcript.words import Cue, Shown

Rewritten = tuple[Sequence[Cue], Sequence[Cue]]
"""Neighbouring captions, and what stands in their place."""


def rewrite(session: EditSession, old: Sequence[Cue], fresh: Sequence[Cue]) -> list[Cue]:
    """Save neighbouring captions of a piece whose words are other ones than those of ``old``.

    Captions of ``old`` that are not among the fresh ones go, and words that are in none of them
    leave the transcript. New words come into every other caption that shows those they stand among.
    Gives the captions as they are stored; their times are still to be worked out.
    """
    return rewrite_each(session, [(old, fresh)])


def rewrite_each(session: EditSession, changes: Sequence[Rewritten]) -> list[Cue]:
    """The same at several places of a piece."""
    before = [cue for old, _ in changes for cue in old]
    after = [cue for _, fresh in changes for cue in fresh]
    ids = {cue.id for cue in after}
    session.delete_cues([cue for cue in before if cue.id not in ids])
    saved = session.save_cues(after)
    left = iter(saved)
    as_saved = [(old, list(islice(left, len(fresh)))) for old, fresh in changes]
    was = {word.id for cue in before for word in cue.words}
    others = session.elsewhere(was, {cue.id for cue in saved})
    wider: list[Cue] = []
    for cue, additions in _additions(session, as_saved, others):
        words: list[Shown] = []
        for index in range(len(cue.words) + 1):
            words += additions.get(index, [])
            words += cue.words[index : index + 1]
        wider.append(cue.with_words(tuple(words)))
    session.save_cues(wider)
    session.delete_words(sorted(was - {word.id for cue in saved for word in cue.words}))
    _retime_left(session, others)
    return saved


def erase(session: EditSession, cue: Cue) -> None:
    """Take a caption and its words out, in every piece."""
    before, after = session.around(cue, 1)
    rewrite(session, [cue], [])
    retime_each(session, [*before, *after])


def follow_times(session: EditSession) -> None:
    """Time captions anew that show words whose times an edit has changed."""
    _retime_left(session, session.elsewhere(session.moved(), ()))


def caption_fresh(
    session: EditSession, piece_id: int, word_ids: Collection[int], pace: Pace
) -> int:
    """Make captions of words said in a piece that none of its captions shows; how many words."""
    words = [word for word in session.unshown(piece_id) if word.id in word_ids]
    _save_grouped(session, piece_id, words, pace)
    return len(words)


def add_captions(session: EditSession, piece_id: int, words: Sequence[Shown]) -> None:
    """New captions of neighbouring words where none is, timed among those around them."""
    run = _save_grouped(session, piece_id, words, session.pace(piece_id))
    before, _ = session.around(run[0], CONTEXT)
    _, after = session.around(run[-1], CONTEXT)
    retime_run(session, before, run, after)


def _save_grouped(
    session: EditSession, piece_id: int, words: Sequence[Shown], pace: Pace
) -> list[Cue]:
    parts = group(words, pace, session.ruler(piece_id))
    return session.save_cues([untimed_cue(piece_id, words[a:b]) for a, b in parts])


def _additions(
    session: EditSession, changes: Sequence[Rewritten], others: Sequence[Cue]
) -> Iterator[tuple[Cue, dict[int, list[Shown]]]]:
    """Captions with the words that come into them, by the index of the word they stand before."""
    if not others:
        return
    runs = [run for old, fresh in changes if old for run in _come(old, fresh)]
    own = session.timeline(next(cue for old, _ in changes for cue in old).piece_id)
    found: dict[int, dict[int, list[Shown]]] = defaultdict(lambda: defaultdict(list))
    for (piece_id, clip_id), shows in _showing(others).items():
        placed = session.timeline(piece_id).clip(clip_id)
        if placed is None:
            continue
        standing = session.settings(piece_id).standing
        for before, (start, end), come in runs:
            place = _place(shows, before, start, end)
            if place is None:
                continue
            cue, at = place
            for word in come:
                said = own.place_of(word).said(word)
                if placed.clip.holds(said):
                    fresh = replace(placed.show(said), look=cue.look)
                    found[cue.id][at].append(standing.dressed(fresh))
    for cue in others:
        if cue.id in found:
            yield cue, found[cue.id]


def _come(
    old: Sequence[Cue], fresh: Sequence[Cue]
) -> Iterator[tuple[list[int], tuple[int, int], list[Shown]]]:
    """What has come into neighbouring captions: their words before by id, which of them it replaces, and
    the words."""
    before = [word.id for cue in old for word in cue.words]
    after = [word for cue in fresh for word in cue.words]
    for step in LCSseq.opcodes(before, [word.id for word in after]):
        if step.tag != "equal" and step.dest_end > step.dest_start:
            come = after[step.dest_start : step.dest_end]
            yield before, (step.src_start, step.src_end), come


def _showing(cues: Sequence[Cue]) -> dict[tuple[int, int], dict[int, tuple[Cue, int]]]:
    """By piece and clip: which caption shows a word, and at which index."""
    found: dict[tuple[int, int], dict[int, tuple[Cue, int]]] = defaultdict(dict)
    for cue in cues:
        for index, word in enumerate(cue.words):
            found[cue.piece_id, word.clip_id].setdefault(word.id, (cue, index))
    return found


def _place(
    shows: dict[int, tuple[Cue, int]], before: Sequence[int], start: int, end: int
) -> tuple[Cue, int] | None:
    """Where words that replace ``before[start:end]`` stand: in their place, else behind the word in
    front of them, else before the one that follows."""
    for word_id in before[start:end]:
        if word_id in shows:
            return shows[word_id]
    if start and before[start - 1] in shows:
        cue, index = shows[before[start - 1]]
        return cue, index + 1
    return shows.get(before[end]) if end < len(before) else None


def _retime_left(session: EditSession, cues: Sequence[Cue]) -> None:
    """Time those captions anew that are still there, and what was beside those that are not."""
    if len(cues) > FEW:
        for piece_id in {cue.piece_id for cue in cues}:
            retime_all(session, piece_id)
        return
    for cue in cues:
        try:
            retime_near(session, session.cue(cue.id))
        except NotFound:
            retime_all(session, cue.piece_id)
