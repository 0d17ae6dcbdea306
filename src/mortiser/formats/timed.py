"""What readers of timed captions share: times as they are really written, and what was repaired."""

from __future__ import annotations

import html
import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace
from itertools import pairwise

from mortiser.core.time import MILLISECOND, SECOND
from mortiser.formats.base import Caption

MOST_NOTES = 60
UNTIMED_US = 2 * SECOND
"""How long a caption is given whose end cannot be used."""
_TIME = r"(?:(\d{1,3})\s*:\s*)?(\d{1,3})\s*:\s*(\d{1,2})(?:\s*[.,:]\s*(\d{1,6}))?"
TIME = re.compile(_TIME)
TIME_LINE = re.compile(rf"^\s*({_TIME})\s*(?:-{{1,2}}|[–—])\s*>\s*({_TIME})(.*)$")
STRICT_LINE = re.compile(
    r"^(?:\d{2,}:)?\d{2}:\d{2}[.,]\d{3} --> (?:\d{2,}:)?\d{2}:\d{2}[.,]\d{3}(?:\s.*)?$"
)
_TAG = re.compile(r"</?[a-zA-Z][^<>]*>|</?c[.\w]*>|<\d[\d:.]*>|\{\\[^{}]*\}")


@dataclass
class Reading:
    """Captions read so far, and a note a line of what was repaired or left out."""

    captions: list[Caption] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)

    def note(self, line: int, text: str) -> None:
        """Say what was done about a line (counted from 1)."""
        self.notes.append(f"Line {line}: {text}")

    def add(
        self,
        line: int,
        start_us: int,
        end_us: int,
        lines: Iterable[str],
        speaker: str | None = None,
    ) -> None:
        """Take a caption; one without words, or that ends before it starts, is seen to."""
        kept = tuple(clean for text in lines if (clean := " ".join(text.split())))
        if not kept:
            self.note(line, "the caption has no words and was left out.")
            return
        if end_us <= start_us:
            self.note(line, "the caption ended before it started; it was given two seconds.")
            end_us = start_us + UNTIMED_US
        self.captions.append(Caption(start_us, end_us, kept, (), speaker))

    def ended(self) -> Reading:
        """The captions in order and without overlaps, at most MOST_NOTES notes."""
        found = sorted(self.captions, key=lambda caption: caption.start_us)
        if found != self.captions:
            self.notes.append("Captions were out of order and were sorted.")
        overlaps = 0
        for index, (one, after) in enumerate(pairwise(found)):
            if one.end_us > after.start_us > one.start_us:
                found[index] = replace(one, end_us=after.start_us)
                overlaps += 1
        if overlaps:
            plural = "s" if overlaps > 1 else ""
            self.notes.append(f"{overlaps} overlap{plural} with the next caption ended early.")
        notes = self.notes[:MOST_NOTES]
        if len(self.notes) > MOST_NOTES:
            notes.append(f"… and {len(self.notes) - MOST_NOTES} more.")
        return Reading(found, notes)


def microseconds(text: str) -> int:
    """A time with or without hours, with any number of decimals."""
    found = TIME.search(text)
    if found is None:
        raise ValueError(text)
    hours, minutes, seconds, rest = found.groups()
    whole = (int(hours or 0) * 60 + int(minutes)) * 60 + int(seconds)
    return whole * SECOND + (round(float(f"0.{rest}") * 1000) * MILLISECOND if rest else 0)


def plain(text: str) -> str:
    """A line's words without markup."""
    return html.unescape(_TAG.sub("", text))


def blocks(lines: Sequence[str], reading: Reading) -> Iterable[tuple[int, int, int, list[str]]]:
    """(line number, start µs, end µs, text lines) of every block that begins with two times.

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
            reading.note(number, f"“{lines[at].strip()[:40]}” read as {start / SECOND:.3f} s.")
        at += 1
        text: list[str] = []
        while at < len(lines) and lines[at].strip() and not TIME_LINE.match(lines[at]):
            counted = lines[at].strip().isdigit() and at + 1 < len(lines)
            if counted and TIME_LINE.match(lines[at + 1]):
                break
            text.append(lines[at])
            at += 1
        yield number, start, end, text
