"""What can go of a talk: long quiet, fillers, repeats, and what lies before and after it."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import groupby
from typing import Literal

from mortiser.core.common.errors import BadInput
from mortiser.core.common.frames import Frames
from mortiser.core.common.time import MILLISECOND, SECOND
from mortiser.core.editing.cutting import Loudness, Room, stretch_of
from mortiser.core.editing.repeats import repeats
from mortiser.core.editing.strand import Strand, without_all
from mortiser.core.editing.talk import Item, Quiet, TalkWord, talk
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.editing.whole_frames import parting_of, whole_frames
from mortiser.core.transcript.fillers import filler_runs, of_language
from mortiser.core.transcript.unspaced import joined
from mortiser.core.transcript.words import Word

Kind = Literal["quiet", "fillers", "repeats", "ends", "sounds"]
BESIDE = 4
"""Words shown on each side of what can go."""
REASONS = {
    "between": "quiet",
    "before": "before the first word",
    "behind": "after the last word",
}
SOUNDS = {
    "between": "without words, but with sound",
    "before": "of sound before the first word",
    "behind": "of sound after the last word",
}
LEAST_US = 80 * MILLISECOND
"""What would save less is not worth a cut."""


@dataclass(frozen=True, slots=True)
class Removal:
    """A stretch of a strand (source time) that can go, what it saves, and the words it stands among."""

    kind: Kind
    strand_id: int
    from_us: int
    to_us: int
    saves_us: int
    at_us: int
    """Where it begins in the piece."""
    before: str
    text: str
    after: str
    reason: str


@dataclass(frozen=True)
class Wanted:
    """What is looked for: quiet longer than ``quiet_us`` is made ``leave_us`` long."""

    quiet_us: int = 500 * MILLISECOND
    leave_us: int = 180 * MILLISECOND
    fillers: Collection[str] = ()
    room: Room = Room()
    language: str = "en"


def removals(
    items: Sequence[Item], timeline: Timeline, loudness: dict[int, Loudness], wanted: Wanted
) -> list[Removal]:
    """What can go of what is kept, in the order of the piece. ``loudness`` is that of each source.

    Of each strand alone: words of one recording are not begun again in another.
    """
    found: list[Removal] = []
    for _, of_strand in groupby(items, key=lambda item: item.strand_id):
        part = list(of_strand)
        if not any(isinstance(item, TalkWord) for item in part):
            continue  # An opening, or a film: somebody has put it there as it is.
        words = list(_words(part, timeline, loudness, wanted))
        # Quiet beside a filler goes with it.
        quiet = _quiet(part, timeline, wanted)
        found += [one for one in quiet if not any(_within(one, other) for other in words)]
        found += words
    return sorted(found, key=lambda one: (one.at_us, one.from_us))


def _within(one: Removal, other: Removal) -> bool:
    return other.from_us <= one.from_us and one.to_us <= other.to_us


def _quiet(items: Sequence[Item], timeline: Timeline, wanted: Wanted) -> Iterator[Removal]:
    for at, item in enumerate(items):
        if not isinstance(item, Quiet) or item.at_us is None:
            continue
        after_us, before_us = wanted.room.after_us, wanted.room.before_us
        if item.side == "between":
            if item.kept_us <= wanted.quiet_us:
                continue
            after_us = round(wanted.leave_us * 2 / 3)
            before_us = wanted.leave_us - after_us
        start, end = item.cut(after_us, before_us)
        saves = _kept(timeline, item.strand_id, start, end)
        if saves < LEAST_US:
            continue
        near = slice(max(0, at - 3 * BESIDE), at), slice(at + 1, at + 1 + 3 * BESIDE)
        before, after = _beside(items[near[0]], items[near[1]])
        kind: Kind = "quiet" if item.side == "between" else "ends"
        reason = f"{item.kept_us / 1e6:.1f} s {REASONS[item.side]}"
        if item.sounds:
            kind, reason = "sounds", f"{item.kept_us / 1e6:.1f} s {SOUNDS[item.side]}"
        yield Removal(
            kind, item.strand_id, start, end, saves, item.at_us, before, "", after, reason
        )


def _words(
    items: Sequence[Item],
    timeline: Timeline,
    loudness: dict[int, Loudness],
    wanted: Wanted,
) -> Iterator[Removal]:
    kept = [item for item in items if isinstance(item, TalkWord) and item.at_us is not None]
    words = [item.word for item in kept]
    runs = list(filler_runs(words, wanted.fillers))
    filler = {at for first, last in runs for at in range(first, last + 1)}
    begun = repeats(words, filler, wanted.language)
    again = {at for one in begun for at in range(one.first, one.last + 1)}
    for first, last in runs:
        if first not in again:
            text = joined([word.text for word in words[first : last + 1]])
            yield from _run(kept, words, timeline, loudness, wanted, (first, last), "fillers", text)
    for one in begun:
        same = joined([word.text for word in words[one.again : one.again + one.count]])
        reason = f"“{same}” is said again"
        yield from _run(
            kept, words, timeline, loudness, wanted, (one.first, one.last), "repeats", reason
        )


def _run(
    kept: Sequence[TalkWord],
    words: Sequence[Word],
    timeline: Timeline,
    loudness: dict[int, Loudness],
    wanted: Wanted,
    run: tuple[int, int],
    kind: Kind,
    reason: str,
) -> Iterator[Removal]:
    first, last = run
    item = kept[first]
    left, right = (timeline.shows(item.strand_id, words[at].middle_us) for at in run)
    if left is None or right is None or item.at_us is None:
        return
    heard = loudness.get(words[first].source_id, Loudness())
    bounds = left.clip.start_us, right.clip.end_us
    start, end = stretch_of(words, first, last, bounds, heard, wanted.room)
    saves = _kept(timeline, item.strand_id, start, end)
    if saves <= 0:
        return
    before, after = _beside(kept[:first], kept[last + 1 :])
    text = joined([word.text for word in words[first : last + 1]])
    yield Removal(kind, item.strand_id, start, end, saves, item.at_us, before, text, after, reason)


def _kept(timeline: Timeline, strand_id: int, start: int, end: int) -> int:
    """How much of a stretch is kept."""
    return sum(
        max(0, min(end, clip.end_us) - max(start, clip.start_us))
        for clip in timeline.clips
        if clip.strand_id == strand_id
    )


def _beside(before: Sequence[Item], after: Sequence[Item]) -> tuple[str, str]:
    """Some kept words on each side."""
    texts = []
    for side, some in (
        (before[-3 * BESIDE :], slice(-BESIDE, None)),
        (after[: 3 * BESIDE], slice(None, BESIDE)),
    ):
        spoken = [i.word.text for i in side if isinstance(i, TalkWord) and i.at_us is not None]
        texts.append(joined(spoken[some]))
    return texts[0], texts[1]


@dataclass(frozen=True)
class Tightening:
    """What is taken out in one go; quiet goes with what lies before and after the talk."""

    kinds: frozenset[Kind]
    wanted: Wanted


def tightening(asked: Sequence[str], language: str) -> Tightening:
    """What ``quiet`` (or ``quiet=SECONDS``), ``fillers`` and ``repeats`` ask for; all of it where none is
    named. Raises BadInput."""
    kinds: set[Kind] = set()
    longer = Wanted().quiet_us
    for one in asked or ("quiet", "fillers", "repeats"):
        name, _, value = one.partition("=")
        if name == "quiet":
            kinds |= {"quiet", "ends"}
            if value:
                longer = _seconds(one, value)
        elif name in ("fillers", "repeats") and not value:
            kinds.add("fillers" if name == "fillers" else "repeats")
        else:
            raise BadInput(f"“{one}” is nothing to tighten by. Try quiet=0.3, fillers or repeats.")
    leave = min(Wanted().leave_us, longer)
    fillers = of_language(language) if "fillers" in kinds else ()
    return Tightening(frozenset(kinds), Wanted(longer, leave, fillers, Room(), language))


def _seconds(asked: str, value: str) -> int:
    try:
        seconds = float(value)
    except ValueError:
        seconds = 0.0
    if not 0.1 <= seconds <= 2:
        raise BadInput(f"“{asked}”: a quiet is from 0.1 to 2 seconds long.")
    return round(seconds * SECOND)


def tightened(
    words: Sequence[Word], whole: Clip, loudness: Loudness, frames: Frames, asked: Tightening
) -> Timeline:
    """A recording's timeline (``whole`` is all of it) without what is asked to go."""
    strand = Strand(1, whole.source_id, whole.start_us, whole.end_us)
    before = [replace(whole, strand_id=strand.id)]
    loud = {whole.source_id: loudness}
    items = talk(Timeline(before), [strand], {whole.source_id: words}, loud)
    found = removals(items, Timeline(before), loud, asked.wanted)
    goes = [(strand.id, one.from_us, one.to_us) for one in found if one.kind in asked.kinds]
    clips = without_all(before, goes)
    if frames.rate:
        parting = parting_of({whole.source_id: words})
        clips = whole_frames(clips, before, [strand], frames.length_us, parting)
    return Timeline([replace(clip, id=at) for at, clip in enumerate(clips or before, start=1)])
