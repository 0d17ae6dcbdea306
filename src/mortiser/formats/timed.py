"""What readers of timed captions share: times as they are really written, and what was repaired."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace
from itertools import pairwise

from mortiser.core.common.time import MILLISECOND, SECOND
from mortiser.formats.base import Caption, GridPlace
from mortiser.formats.markup import Marked

MOST_NOTES = 60
OF_THE_FILE = "the file's "
"""What begins so is no look of single captions."""
UNTIMED_US = 2 * SECOND
"""How long a caption is given whose end cannot be used."""
_TIME = r"(?:(\d{1,3})\s*:\s*)?(\d{1,3})\s*:\s*(\d{1,2})(?:\s*[.,:]\s*(\d{1,6}))?"
TIME = re.compile(_TIME)
TIME_LINE = re.compile(rf"^\s*({_TIME})\s*(?:-{{1,2}}|[–—])\s*>\s*({_TIME})(.*)$")
STRICT_LINE = re.compile(
    r"^(?:\d{2,}:)?\d{2}:\d{2}[.,]\d{3} --> (?:\d{2,}:)?\d{2}:\d{2}[.,]\d{3}(?:\s.*)?$"
)


@dataclass(frozen=True)
class ReadingNote:
    """Something that was repaired or left out, and the moment of the file it is about (µs)."""

    text: str
    at_us: int | None = None


@dataclass
class CaptionReading:
    """Captions read so far, and what was repaired, left out or could not be taken."""

    captions: list[Caption] = field(default_factory=list)
    notes: list[ReadingNote] = field(default_factory=list)
    lost: dict[str, list[int]] = field(default_factory=dict)
    """Looks that a piece cannot hold: where each stood (µs)."""

    def note(self, line: int, text: str, at_us: int | None = None) -> None:
        """Say what was done about a line (counted from 1)."""
        self.notes.append(ReadingNote(f"Line {line}: {text}", at_us))

    def lose(self, what: str, at_us: int) -> None:
        """A look at a moment was not taken."""
        self.lost.setdefault(what, []).append(at_us)

    def add(
        self,
        line: int,
        start_us: int,
        end_us: int,
        lines: Iterable[Marked],
        speaker: str | None = None,
        place: GridPlace | None = None,
    ) -> None:
        """Take a caption; one without words, or that ends before it starts, is seen to."""
        kept = [one for one in lines if one.words]
        if not kept:
            self.note(line, "the caption has no words and was left out.", start_us)
            return
        if end_us < start_us:
            self.note(line, "start and end were the wrong way round; they were swapped.", end_us)
            start_us, end_us = end_us, start_us
        elif end_us == start_us:
            self.note(line, "the caption had no length; it was given two seconds.", start_us)
            end_us = start_us + UNTIMED_US
        for what in sorted({lost for one in kept for lost in one.lost}):
            self.lose(what, start_us)
        voice = next((one.voice for one in kept if one.voice), None)
        flags = [italic for one in kept for italic in one.italic]
        self.captions.append(
            Caption(
                start_us,
                end_us,
                tuple(one.text for one in kept),
                (),
                speaker or voice,
                italic=tuple(index for index, italic in enumerate(flags) if italic),
                starts=_starts(kept, start_us, end_us),
                place=place or next((p for one in kept if (p := _place(one))), None),
            )
        )

    def ended(self) -> CaptionReading:
        """The captions in order and without overlaps, at most MOST_NOTES notes."""
        found = sorted(self.captions, key=lambda caption: caption.start_us)
        notes = list(self.notes)
        if found != self.captions:
            notes.append(ReadingNote("Captions were out of order and were sorted."))
        overlaps: list[int] = []
        for index, (one, after) in enumerate(pairwise(found)):
            if one.end_us > after.start_us > one.start_us:
                found[index] = replace(one, end_us=after.start_us)
                overlaps.append(one.start_us)
        if overlaps:
            count = len(overlaps)
            plural = "s" if count > 1 else ""
            text = f"{count} overlap{plural} with the next caption ended early."
            notes.append(ReadingNote(text, overlaps[0]))
        for what, places in self.lost.items():
            count = len(places)
            where = f", in {count} captions" if count > 1 else ", in one caption"
            if what.startswith(OF_THE_FILE):
                where = ""
            notes.append(
                ReadingNote(f"Not taken: {what}{where}. Dress has looks of its own.", places[0])
            )
        if len(notes) > MOST_NOTES:
            notes = [*notes[:MOST_NOTES], ReadingNote(f"… and {len(notes) - MOST_NOTES} more.")]
        return CaptionReading(found, notes)


def _starts(lines: Sequence[Marked], start_us: int, end_us: int) -> tuple[int, ...]:
    """When each word begins, where all but the first are said and lie in order; else nothing."""
    said = [start for one in lines for start in one.starts]
    whole = [start_us if said[0] is None else said[0], *said[1:]]
    times = [start for start in whole if start is not None]
    in_order = times == sorted(times) and start_us <= times[0] and times[-1] <= end_us
    return tuple(times) if len(said) > 1 and len(times) == len(said) and in_order else ()


def _place(line: Marked) -> GridPlace | None:
    return GridPlace.of(line.align) if line.align is not None else None


def microseconds(text: str) -> int:
    """A time with or without hours, with any number of decimals."""
    found = TIME.search(text)
    if found is None:
        raise ValueError(text)
    hours, minutes, seconds, rest = found.groups()
    whole = (int(hours or 0) * 60 + int(minutes)) * 60 + int(seconds)
    return whole * SECOND + (round(float(f"0.{rest}") * 1000) * MILLISECOND if rest else 0)


def blocks(
    lines: Sequence[str], reading: CaptionReading
) -> Iterable[tuple[int, int, int, list[str]]]:
    """(line number, start µs, end µs, text lines) of every block that begins with two times.

    What follows the times on their line is the first of the text lines.

    A block ends at a blank line, or where the next one's number or times begin.
    """
    at = 0
    while at < len(lines):
        found = TIME_LINE.match(lines[at])
        if found is None:
            if "-->" in lines[at] or "->" in lines[at]:
                reading.note(at + 1, f"“{lines[at].strip()[:40]}” is no time; left out.")
            at += 1
            continue
        number = at + 1
        start, end = microseconds(found.group(1)), microseconds(found.group(6))
        if not STRICT_LINE.match(lines[at].strip()):
            said = lines[at].strip()[:40]
            reading.note(number, f"“{said}” read as {start / SECOND:.3f} s.", start)
        at += 1
        text = [found.group(11)]
        while at < len(lines) and lines[at].strip() and not TIME_LINE.match(lines[at]):
            counted = lines[at].strip().isdigit() and at + 1 < len(lines)
            if counted and TIME_LINE.match(lines[at + 1]):
                break
            text.append(lines[at])
            at += 1
        yield number, start, end, text
