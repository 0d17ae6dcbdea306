"""What may be wrong with captions, found by rules: each with its place and, where safe, a remedy."""

from __future__ import annotations

import unicodedata
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from mortiser.core.captions.pace import Pace
from mortiser.core.common.frames import Frames
from mortiser.core.common.time import MILLISECOND, SECOND
from mortiser.core.style.finish.changes import look_of
from mortiser.core.style.layout.rect import Rect
from mortiser.core.transcript.sentences import ends_sentence
from mortiser.core.transcript.words import Cue, Word, shortened

CheckKind = Literal[
    "overlap", "flicker", "touching", "too_short", "too_long", "too_fast", "wide_line", "many_lines", "orphan",
    "late", "early", "unshown", "empty", "order", "beyond", "off_frame",
]  # fmt: skip

LATE_US = 80 * MILLISECOND
"""A caption may start this much after its first word."""
SLACK_US = 2 * MILLISECOND
"""Times typed to the millisecond and rounded frames may be this far off."""
ALONE_US = 500 * MILLISECOND
"""A lone word this near its neighbour belongs to it."""
SAFE = 0.035
"""Share of the frame at each edge that letters keep out of (EBU R 95, action safe area)."""
APART_US = SECOND
"""Unshown words further apart are two findings."""


@dataclass(frozen=True, slots=True)
class Check:
    """Something to look at: a caption (or, for unshown speech, words) and a moment of the piece."""

    kind: CheckKind
    at_us: int
    about: str
    cue_id: int | None = None
    word_ids: tuple[int, ...] = ()
    fix: str | None = None
    """What the remedy would do, where there is a safe one."""


def check(
    cues: Sequence[Cue],
    limits: Pace,
    duration_us: int,
    frames: Frames,
    unshown: Sequence[Word] = (),
    lines: Sequence[Sequence[str]] | None = None,
    reaches: Sequence[Rect] | None = None,
    size: tuple[int, int] = (0, 0),
) -> list[Check]:
    """Everything the rules find in a piece's captions (all of them, in time order), by time.

    The piece lasts ``duration_us``; ``unshown`` are words said in it that no caption has; ``lines``
    the captions' lines as they are delivered and ``reaches`` the pixels they cover of a frame of
    ``size``, where they are known.
    """
    found: list[Check] = []
    for index, cue in enumerate(cues):
        before = cues[index - 1] if index else None
        after = cues[index + 1] if index + 1 < len(cues) else None
        found += _order(cue, before)
        found += _handover(cue, after, limits, frames)
        found += _length(cue, limits)
        found += _voice(cue, duration_us)
        found += _text(cue, before, after, limits)
        if lines is not None:
            found += _lines(cue, lines[index], limits)
        if reaches is not None:
            found += _place(cue, reaches[index], size)
    found += _unshown(unshown)
    return sorted(found, key=lambda item: item.at_us)


def _order(cue: Cue, before: Cue | None) -> list[Check]:
    if before is None or cue.words[0].start_us >= before.words[0].start_us:
        return []
    pinned = cue.start_pinned or before.start_pinned
    fix = "let both follow their words" if pinned else None
    return [_of("order", cue, "Its words are said before those of the caption in front.", fix)]


def _handover(cue: Cue, after: Cue | None, limits: Pace, frames: Frames) -> list[Check]:
    if after is None:
        return []
    gap = after.start_us - cue.end_us
    if gap < -SLACK_US:
        speakers = cue.words[-1].speaker, after.words[0].speaker
        if None not in speakers and speakers[0] != speakers[1]:
            return []
        return [
            _of("overlap", cue, f"Covers the next one for {-gap / SECOND:.2f} s.", "end it there")
        ]
    wanted = limits.gap_frames * frames.length_us
    if wanted and gap < wanted - max(SLACK_US, frames.length_us / 2):
        voice = cue.words[-1].end_us
        fix = "end it earlier" if voice <= after.start_us - wanted else None
        about = f"Hands over without the {limits.gap_frames} frames that are wanted."
        return [_of("touching", cue, about, fix)]
    allowed = abs(gap - wanted) <= max(SLACK_US, frames.length_us / 2)
    if allowed or gap >= limits.close_us:
        return []
    return [
        _of("flicker", cue, f"Goes off for {gap / SECOND:.2f} s before the next.", "close the gap")
    ]


def _length(cue: Cue, limits: Pace) -> list[Check]:
    length = cue.end_us - cue.start_us
    found = []
    # One word at a time lasts as long as it is said.
    if length < limits.shortest_us - SLACK_US and (limits.words > 1 or cue.pinned):
        fix = "follow the words" if cue.pinned else None
        about = f"Shows for {length / SECOND:.2f} s; {limits.shortest_us / SECOND:.2f} are wanted."
        found.append(_of("too_short", cue, about, fix))
    if length > limits.longest_us + SLACK_US:
        voice = cue.words[-1].end_us - cue.words[0].start_us
        fix = "part it" if len(cue.words) > 1 and voice > limits.longest_us else None
        if fix is None and cue.end_pinned:
            fix = "follow the words"
        found.append(_of("too_long", cue, f"Shows for {length / SECOND:.1f} s.", fix))
    speed = len(cue.text) * SECOND / length
    if speed > limits.chars_per_s + 0.5:
        about = f"{speed:.0f} characters a second; {limits.chars_per_s} can be read."
        found.append(_of("too_fast", cue, about, None))
    return found


def _voice(cue: Cue, duration_us: int) -> list[Check]:
    first = cue.words[0].start_us
    last = cue.words[-1].end_us
    found = []
    if cue.start_us > first + LATE_US:
        late = (cue.start_us - first) / SECOND
        fix = "follow the words" if cue.start_pinned else None
        found.append(_of("late", cue, f"Comes {late:.2f} s after its first word.", fix))
    if cue.end_us < last - LATE_US / 2:
        early = (last - cue.end_us) / SECOND
        fix = "follow the words" if cue.end_pinned else None
        found.append(_of("early", cue, f"Leaves {early:.2f} s before its last word ends.", fix))
    if cue.end_us > duration_us + SLACK_US:
        found.append(_of("beyond", cue, "Goes on after the end of the piece.", "end it there"))
    return found


def _text(cue: Cue, before: Cue | None, after: Cue | None, limits: Pace) -> list[Check]:
    if all(unicodedata.category(ch)[0] in "PZ" for ch in cue.text):
        return [_of("empty", cue, "Has no words, only marks.", "delete it")]
    if len(cue.words) > 1 or limits.words == 1 or (ends_sentence(cue.text) and _begins(before)):
        return []
    if before is not None and not ends_sentence(before.text) and _near(before, cue):
        fits = len(before.words) < limits.words and not (cue.pinned or before.end_pinned)
        fix = "join it to the one before" if fits else None
        return [_of("orphan", cue, "One word that belongs to the caption before.", fix)]
    if after is not None and not ends_sentence(cue.text) and _near(cue, after):
        fits = len(after.words) < limits.words and not (cue.pinned or after.start_pinned)
        fix = "join it to the next" if fits else None
        return [_of("orphan", cue, "One word that belongs to the next caption.", fix)]
    return []


def _begins(before: Cue | None) -> bool:
    return before is None or ends_sentence(before.text)


def _near(one: Cue, after: Cue) -> bool:
    return after.words[0].start_us - one.words[-1].end_us < ALONE_US


def _lines(cue: Cue, lines: Sequence[str], limits: Pace) -> list[Check]:
    found = []
    fix = "break its lines, or part it" if len(cue.words) > 1 else None
    longest = max(map(len, lines))
    if longest > limits.line_chars:
        about = f"{longest} characters in a line; {limits.line_chars} are allowed."
        found.append(_of("wide_line", cue, about, fix))
    if len(lines) > limits.lines:
        about = f"{len(lines)} lines; {limits.lines} are allowed."
        found.append(_of("many_lines", cue, about, fix))
    return found


def outside(reach: Rect, size: tuple[int, int]) -> tuple[str, float] | None:
    """The edge at which letters leave the safe area of a frame most, and by how many pixels."""
    (left, top, right, bottom), (width, height) = reach, size
    out = {
        "left": SAFE * width - left,
        "top": SAFE * height - top,
        "right": right - (1 - SAFE) * width,
        "lower": bottom - (1 - SAFE) * height,
    }
    edge = max(out, key=lambda name: out[name])
    return (edge, out[edge]) if out[edge] > 1 else None


def _place(cue: Cue, reach: Rect, size: tuple[int, int]) -> list[Check]:
    out = outside(reach, size)
    if out is None:
        return []
    moved = any(path.split(".")[0] in ("place", "size") for path in look_of(cue.look))
    fix = "back to the finish's place" if moved else None
    about = f"Letters stand {out[1]:.0f} pixels outside the safe area at the {out[0]} edge."
    return [_of("off_frame", cue, about, fix)]


def _unshown(words: Sequence[Word]) -> list[Check]:
    runs: list[list[Word]] = []
    for word in sorted(words, key=lambda w: w.start_us):
        if runs and word.start_us - runs[-1][-1].end_us < APART_US:
            runs[-1].append(word)
        else:
            runs.append([word])
    return [
        Check(
            "unshown",
            run[0].start_us,
            f"“{shortened(' '.join(w.text for w in run), 40)}” is said, but no caption shows it.",
            word_ids=tuple(w.id for w in run),
            fix="caption it",
        )
        for run in runs
    ]


def _of(kind: CheckKind, cue: Cue, about: str, fix: str | None) -> Check:
    return Check(kind, cue.start_us, about, cue.id, fix=fix)
