"""Captions worked out for a piece as it was, laid over the piece as it has become meanwhile."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import groupby, pairwise

from mortiser.core.edits.laying import LaidCaption, LaidWord, LayCaptions
from mortiser.core.timeline import Timeline

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
        if (words := [word for word in caption.words if not _within(_middle(word), spared)])
    ]
    return edit.model_copy(
        update={"from_us": start, "to_us": end, "spared": spared, "captions": fitting}
    )


def _within(at_us: int, stretches: Sequence[Stretch]) -> bool:
    return any(start <= at_us < end for start, end in stretches)


def _covered(edit: LayCaptions, before: Timeline, after: Timeline) -> Iterator[Stretch]:
    """Where the sound of the edit's stretch plays now."""
    for was in before.slice(edit.from_us, edit.to_us):
        for now in after.of_strand(was.clip.strand_id):
            start = max(was.clip.start_us, now.clip.start_us)
            end = min(was.clip.end_us, now.clip.end_us)
            if start < end:
                yield now.to_piece(start), now.to_piece(end)


def _joined(stretches: Iterator[Stretch] | Sequence[Stretch]) -> list[Stretch]:
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
    steps = [
        (None if now is None else now.start_us - word.start_us, now or word) for word, now in moved
    ]
    if None not in (by for by, _ in steps) and len({by for by, _ in steps}) == 1:
        by = steps[0][0] or 0
        times = {
            name: at + by
            for name in ("start_us", "end_us")
            if (at := getattr(caption, name)) is not None
        }
        yield LaidCaption(words=[word for _, word in steps], **times)
        return
    for by, part in groupby(steps, key=lambda step: step[0]):
        if by is not None:
            yield LaidCaption(words=[word for _, word in part])


def _moved(word: LaidWord, before: Timeline, after: Timeline) -> LaidWord | None:
    was = before.playing(_middle(word))
    now = after.shows(was.clip.strand_id, was.to_source(_middle(word)))
    if now is None:
        return None
    start, end = (now.to_piece(was.to_source(at)) for at in (word.start_us, word.end_us))
    return word.model_copy(update={"start_us": start, "end_us": end})


def _middle(word: LaidWord) -> int:
    return (word.start_us + word.end_us) // 2
