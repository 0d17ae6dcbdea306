"""Captions of files at a pace of their own: the same words, grouped, timed and broken into lines
by the limits of the file, whatever the picture shows."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from mortiser.core.captions.cue_timing import retime, untimed_cue
from mortiser.core.captions.grouping import group
from mortiser.core.captions.pace import Pace
from mortiser.core.common.frames import Frames
from mortiser.core.editing.timeline import Timeline
from mortiser.core.style.layout.lines import break_lines
from mortiser.core.transcript.unspaced import joined
from mortiser.core.transcript.words import Cue, Shown

Lined = tuple[Cue, tuple[str, ...]]
"""A caption and its lines."""


def file_captions(
    cues: Sequence[Cue], pace: Pace, timeline: Timeline, frames: Frames, *, named: bool = False
) -> list[Lined]:
    """The captions of a piece's words at another pace, none with a line longer than it allows.

    What was decided by hand for the picture (breaks, joins, line ends, pinned times) is not taken
    over; hand-typed captions keep their own words together. With ``named`` room is left for the
    speaker's name at each turn.
    """
    words = [replace(word, seam="free") for cue in cues for word in cue.words]
    if not words:
        return []
    heads = _heads(words) if named else [""] * len(words)
    measured = [_headed(word, head) for word, head in zip(words, heads, strict=True)]
    ranges = group(measured, pace)
    piece_id = cues[0].piece_id
    made = [untimed_cue(piece_id, words[a:b]) for a, b in ranges]
    timed = retime(made, timeline, pace, frames)
    lines = [_lines(words[a:b], heads[a], pace.line_chars) for a, b in ranges]
    return list(zip(timed, lines, strict=True))


def _heads(words: Sequence[Shown]) -> list[str]:
    """What stands before a word where somebody else begins to speak."""
    before: str | None = None
    heads = []
    for word in words:
        heads.append(f"{word.speaker}: " if word.speaker and word.speaker != before else "")
        before = word.speaker
    return heads


def _headed(word: Shown, head: str) -> Shown:
    """A word as long as with what stands before it."""
    return replace(word, text="·" * len(head) + word.text) if head else word


def _lines(words: Sequence[Shown], head: str, most: int) -> tuple[str, ...]:
    widths = [len(word.text) + (len(head) if not index else 0) for index, word in enumerate(words)]
    ranges = break_lines(widths, 1, most)
    return tuple(joined([word.text for word in words[a:b]]) for a, b in ranges)
