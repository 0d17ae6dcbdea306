"""Captions worked out for a piece as it was, laid over the piece as it has become meanwhile."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from itertools import groupby, pairwise

from mortiser.core.editing.timeline import Timeline
from mortiser.core.edits.text.laying import LaidCaption, LaidWord, LayCaptions, within

Stretch = tuple[int, int]


def brought_up(
    edit: LayCaptions, before: Timeline, after: Timeline, kept: Sequence[Stretch] = ()
) -> LayCaptions | None:
    """The edit for the clips as they are ``after``; None where nothing is left to lay.

    Words go where the sound they were heard in has gone; those of sound that was cut away are left
    out. What came between, and stretches that are ``kept`` (piece µs), keep the words they have.
    """
    covered = [(edit.from_us, edit.to_us)]
    captions = edit.captions
    if before != after:
        covered = _joined(_covered(edit, before, after))
        captions = [part for one in captions for part in _parted(one, before, after)]
    if not covered:
        return None
    start, end = covered[0][0], covered[-1][1]
    between = [(a[1], b[0]) for a, b in pairwise(covered)]
    spared = _joined([*between, *(one for one in kept if start < one[1] and one[0] < end)])
    fitting = [
        LaidCaption(words=words, start_us=caption.start_us, end_us=caption.end_us)
        for caption in captions
        if (words := [word for word in caption.words if not within(word.middle_us, spared)])
    ]
    return edit.model_copy(
        update={"from_us": start, "to_us": end, "spared": spared, "captions": fitting}
    )


def _covered(edit: LayCaptions, before: Timeline, after: Timeline) -> Iterator[Stretch]:
    """Where the sound of the edit's stretch plays now."""
    for was in before.slice(edit.from_us, edit.to_us):
        for now in after.of_strand(was.clip.strand_id):
            start = max(was.clip.start_us, now.clip.start_us)
            end = min(was.clip.end_us, now.clip.end_us)
            if start < end:
                yield now.to_piece(start), now.to_piece(end)


def _joined(stretches: Iterable[Stretch]) -> list[Stretch]:
    """Stretches in order, those that touch as one."""
    found: list[Stretch] = []
    for start, end in sorted(stretches):
        if found and start <= found[-1][1]:
            found[-1] = found[-1][0], max(end, found[-1][1])
        else:
            found.append((start, end))
    return found


def _parted(caption: LaidCaption, before: Timeline, after: Timeline) -> Iterator[LaidCaption]:
    """A caption where its words are said now: in parts where something came between them. Times set
    by hand go along with a caption that moves as a whole."""
    moved = [(word, _moved(word, before, after)) for word in caption.words]
    steps = [(None if now is None else now.start_us - word.start_us, now) for word, now in moved]
    parts = [
        (by, [word for _, word in part if word is not None])
        for by, part in groupby(steps, key=lambda step: step[0])
    ]
    for by, words in parts:
        if by is not None:
            whole = len(parts) == 1
            yield LaidCaption(
                words=words,
                start_us=_later(caption.start_us, by) if whole else None,
                end_us=_later(caption.end_us, by) if whole else None,
            )


def _later(at_us: int | None, by_us: int) -> int | None:
    return None if at_us is None else at_us + by_us


def _moved(word: LaidWord, before: Timeline, after: Timeline) -> LaidWord | None:
    was = before.playing(word.middle_us)
    now = after.shows(was.clip.strand_id, was.to_source(word.middle_us))
    if now is None:
        return None
    start, end = (now.to_piece(was.to_source(at)) for at in (word.start_us, word.end_us))
    return word.model_copy(update={"start_us": start, "end_us": end})
