"""The whole talk of a piece in its order: what is kept and what is struck, words and quiet."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from mortiser.core.common.time import MILLISECOND
from mortiser.core.editing.cutting import SILENT, Loudness, Room
from mortiser.core.editing.strand import Strand
from mortiser.core.editing.timeline import Placed, Timeline
from mortiser.core.transcript.sentences import ends_sentence
from mortiser.core.transcript.words import Word

QUIET_US = 300 * MILLISECOND
"""A shorter gap between words is no quiet."""
PARTED_US = 700 * MILLISECOND
"""A quiet this long ends a row."""
SLACK_US = MILLISECOND
"""What is left of a quiet stretch may be so much longer than was asked for."""
LONGEST_ROW = 16
"""Words."""
ROOM = Room()
"""Words end and begin a little beside their times."""
NOTHING_KNOWN: Mapping[int, Loudness] = {}


@dataclass(frozen=True, slots=True)
class TalkWord:
    """A word, and the moment of the piece (µs) it begins at; None where it is struck."""

    strand_id: int
    word: Word
    at_us: int | None

    @property
    def start_us(self) -> int:
        """In source time."""
        return self.word.start_us

    @property
    def end_us(self) -> int:
        """In source time."""
        return self.word.end_us


@dataclass(frozen=True, slots=True)
class Quiet:
    """A stretch without words (source time), how much of it is kept, and where in the piece that begins;
    None where all of it is struck."""

    strand_id: int
    start_us: int
    end_us: int
    kept_us: int
    at_us: int | None
    side: Literal["before", "between", "behind"] = "between"
    """Whether it lies before all words of the strand, between two, or behind all."""
    sounds: bool = False
    """Whether something is heard in it: then it is a pause with sound."""

    def cut(self, after_us: int, before_us: int) -> tuple[int, int]:
        """What can be cut away of it: all but room after the word it follows and before the next."""
        return (
            self.start_us + (0 if self.side == "before" else after_us),
            self.end_us - (0 if self.side == "behind" else before_us),
        )

    def taken(self, after_us: int, before_us: int) -> bool:
        """Whether no more of it is left than that room."""
        start, end = self.cut(after_us, before_us)
        return taken_out(self.kept_us, self.end_us - self.start_us, max(0, end - start))


def taken_out(kept_us: int, whole_us: int, goes_us: int) -> bool:
    """Whether a quiet stretch is taken out: no more of it is kept than stays where ``goes_us`` of it go."""
    return kept_us <= whole_us - goes_us + SLACK_US


Item = TalkWord | Quiet


def talk(
    timeline: Timeline,
    strands: Sequence[Strand],
    words: Mapping[int, Sequence[Word]],
    loudness: Mapping[int, Loudness] = NOTHING_KNOWN,
) -> list[Item]:
    """Words and quiet of a piece's strands in the order they play; what is struck stands where it was.

    ``words`` are those of each source in time order, ``loudness`` says how loud it is. A strand nothing is
    kept of stands beside the one it was parted from; last, where there is none.
    """
    left = {
        strand.id: [
            _heard(item, loudness.get(strand.source_id, SILENT))
            for item in _of_strand(timeline, strand, words.get(strand.source_id, ()))
        ]
        for strand in strands
    }
    last = {clip.strand_id: at for at, clip in enumerate(timeline.clips)}
    found: list[Item] = []
    for at, clip in enumerate(timeline.clips):
        items = left.get(clip.strand_id, [])
        if last[clip.strand_id] == at:
            found += items
            left[clip.strand_id] = []
            continue
        count = sum(1 for item in items if _middle_us(item) < clip.end_us)
        found += items[:count]
        left[clip.strand_id] = items[count:]
    known = {strand.id: strand for strand in strands}
    for strand_id, items in left.items():
        if items:
            at = _place(found, known, known[strand_id])
            found[at:at] = items
    return found


def _heard(item: Item, loudness: Loudness) -> Item:
    """An item; a quiet in which something is heard is none."""
    if isinstance(item, Quiet) and loudness.sounds(*item.cut(ROOM.after_us, ROOM.before_us)):
        return replace(item, sounds=True)
    return item


def _place(items: Sequence[Item], strands: Mapping[int, Strand], lost: Strand) -> int:
    """Where a strand nothing is kept of stands: before what it goes on with, or behind what goes on with it."""
    for at, item in enumerate(items):
        other = strands[item.strand_id]
        if (other.source_id, other.start_us) == (lost.source_id, lost.end_us):
            return at
    for at in range(len(items), 0, -1):
        other = strands[items[at - 1].strand_id]
        if (other.source_id, other.end_us) == (lost.source_id, lost.start_us):
            return at
    return len(items)


def _middle_us(item: Item) -> int:
    return item.word.middle_us if isinstance(item, TalkWord) else item.start_us


def _of_strand(timeline: Timeline, strand: Strand, words: Sequence[Word]) -> Iterator[Item]:
    clips = [one for one in timeline.placed if one.clip.strand_id == strand.id]
    reached = strand.start_us
    first = True
    for word in words:
        middle = word.middle_us
        if not strand.start_us <= middle <= strand.end_us:
            continue
        if word.start_us - reached >= QUIET_US:
            yield _quiet(strand, clips, (reached, word.start_us), "before" if first else "between")
        placed = timeline.shows(strand.id, middle)
        yield TalkWord(strand.id, word, placed.to_piece(word.start_us) if placed else None)
        reached = max(reached, word.end_us)
        first = False
    if strand.end_us - reached >= QUIET_US:
        yield _quiet(strand, clips, (reached, strand.end_us), "before" if first else "behind")


def _quiet(
    strand: Strand,
    clips: Sequence[Placed],
    stretch: tuple[int, int],
    side: Literal["before", "between", "behind"],
) -> Quiet:
    start, end = stretch
    parts = [
        (one, max(start, one.clip.start_us), min(end, one.clip.end_us))
        for one in clips
        if one.clip.start_us < end and start < one.clip.end_us
    ]
    kept = sum(to - since for _, since, to in parts)
    at = parts[0][0].to_piece(parts[0][1]) if parts else None
    return Quiet(strand.id, start, end, kept, at, side)


def rows(items: Sequence[Item]) -> list[list[Item]]:
    """The talk in rows to read: a row ends with its sentence, at a longer quiet, where another one
    speaks, at another strand, or when it is long."""
    found: list[list[Item]] = []
    row: list[Item] = []
    for item in items:
        if row and _parts(row, item):
            found.append(row)
            row = []
        row.append(item)
    if row:
        found.append(row)
    return found


def _parts(row: Sequence[Item], item: Item) -> bool:
    """Whether an item begins a row of its own."""
    last = row[-1]
    if last.strand_id != item.strand_id:
        return True
    if isinstance(last, Quiet):
        return last.end_us - last.start_us >= PARTED_US or _ended(row)
    if isinstance(item, Quiet):
        return False
    spoken = [one for one in row if isinstance(one, TalkWord)]
    return (
        ends_sentence(last.word.text)
        or item.word.speaker != last.word.speaker
        or len(spoken) >= LONGEST_ROW
    )


def _ended(row: Sequence[Item]) -> bool:
    spoken = [one for one in row if isinstance(one, TalkWord)]
    return bool(spoken) and ends_sentence(spoken[-1].word.text)
