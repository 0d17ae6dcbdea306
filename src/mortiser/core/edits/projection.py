"""Carry what happens to the transcript into every other caption that shows it.

A word is said once and may be shown many times: in several pieces, or twice in one. What belongs to
a piece (marks, breaks, looks, pinned times) stays with the piece.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Iterator, Sequence
from dataclasses import replace

from rapidfuzz.distance import LCSseq

from mortiser.core.edits.desk import Desk
from mortiser.core.edits.retiming import (
    CONTEXT,
    FEW,
    retime_all,
    retime_each,
    retime_near,
    retime_run,
    untimed_cue,
)
from mortiser.core.errors import NotFound
from mortiser.core.grouping import group
from mortiser.core.pace import Pace
from mortiser.core.words import Cue, Shown


def rewrite(desk: Desk, old: Sequence[Cue], fresh: Sequence[Cue]) -> list[Cue]:
    """Save neighbouring captions of a piece whose words are other ones than those of ``old``.

    Captions of ``old`` that are not among the fresh ones go, and words that are in none of them
    leave the transcript. New words come into every other caption that shows those they stand among.
    Gives the captions as they are stored; their times are still to be worked out.
    """
    before = [word for cue in old for word in cue.words]
    ids = {cue.id for cue in fresh}
    for cue in old:
        if cue.id not in ids:
            desk.delete_cue(cue)
    saved = [desk.save_cue(cue) for cue in fresh]
    after = [word for cue in saved for word in cue.words]
    others = desk.elsewhere({word.id for word in before}, {cue.id for cue in saved})
    for cue, additions in _additions(desk, old, others, before, after):
        words: list[Shown] = []
        for index in range(len(cue.words) + 1):
            words += additions.get(index, [])
            words += cue.words[index : index + 1]
        desk.save_cue(cue.with_words(tuple(words)))
    kept = {word.id for word in after}
    desk.delete_words([word.id for word in before if word.id not in kept])
    _retime_left(desk, others)
    return saved


def erase(desk: Desk, cue: Cue) -> None:
    """Take a caption and its words out, in every piece."""
    before, after = desk.around(cue, 1)
    rewrite(desk, [cue], [])
    retime_each(desk, [*before, *after])


def follow_times(desk: Desk) -> None:
    """Time captions anew that show words whose times an edit has changed."""
    _retime_left(desk, desk.elsewhere(desk.moved(), ()))


def caption_fresh(desk: Desk, piece_id: int, word_ids: Collection[int], pace: Pace) -> int:
    """Make captions of words said in a piece that none of its captions shows; how many words."""
    words = [word for word in desk.unshown(piece_id) if word.id in word_ids]
    _save_grouped(desk, piece_id, words, pace)
    return len(words)


def add_captions(desk: Desk, piece_id: int, words: Sequence[Shown]) -> None:
    """New captions of neighbouring words where none is, timed among those around them."""
    run = _save_grouped(desk, piece_id, words, desk.pace(piece_id))
    before, _ = desk.around(run[0], CONTEXT)
    _, after = desk.around(run[-1], CONTEXT)
    retime_run(desk, before, run, after)


def _save_grouped(desk: Desk, piece_id: int, words: Sequence[Shown], pace: Pace) -> list[Cue]:
    parts = group(words, pace, desk.ruler(piece_id))
    return [desk.save_cue(untimed_cue(piece_id, words[a:b])) for a, b in parts]


def _additions(
    desk: Desk,
    old: Sequence[Cue],
    others: Sequence[Cue],
    before: Sequence[Shown],
    after: Sequence[Shown],
) -> Iterator[tuple[Cue, dict[int, list[Shown]]]]:
    """Captions with the words that come into them, by the index of the word they stand before."""
    own = desk.timeline(old[0].piece_id) if old else None
    ids = [word.id for word in before], [word.id for word in after]
    runs = [step for step in LCSseq.opcodes(*ids) if step.dest_end > step.dest_start]
    found: dict[int, dict[int, list[Shown]]] = defaultdict(lambda: defaultdict(list))
    for (piece_id, clip_id), shows in _showing(others).items():
        placed = desk.timeline(piece_id).clip(clip_id)
        if placed is None or own is None:
            continue
        standing = desk.standing(piece_id)
        for run in (step for step in runs if step.tag != "equal"):
            place = _place(shows, ids[0], run.src_start, run.src_end)
            if place is None:
                continue
            cue, at = place
            for word in after[run.dest_start : run.dest_end]:
                said = own.place_of(word).said(word)
                if placed.clip.holds(said):
                    fresh = replace(placed.show(said), look=cue.look)
                    found[cue.id][at].append(standing.dressed(fresh))
    for cue in others:
        if cue.id in found:
            yield cue, found[cue.id]


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


def _retime_left(desk: Desk, cues: Sequence[Cue]) -> None:
    """Time those captions anew that are still there, and what was beside those that are not."""
    if len(cues) > FEW:
        for piece_id in {cue.piece_id for cue in cues}:
            retime_all(desk, piece_id)
        return
    for cue in cues:
        try:
            retime_near(desk, desk.cue(cue.id))
        except NotFound:
            retime_all(desk, cue.piece_id)
