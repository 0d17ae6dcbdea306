"""How captions and words come in. Each motion gives tracks to lay over a word's rest state.

To add one: write a function of the same form and name it in CUE_MOTIONS or WORD_MOTIONS.
Motions are short and shorten themselves when words come fast.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from mortiser.core.finish.model import CueMotionName, WordMotionName
from mortiser.core.motion.track import Key, Track, fixed

SETTLE_US = 180_000
RISE_US = 160_000


@dataclass(frozen=True, slots=True)
class Moves:
    """Tracks of one item: opacity (o), offset in pixels (dx, dy), scale (s)."""

    opacity: Track = fixed(1.0)
    move: Track = fixed(0.0, 0.0)
    scale: Track = fixed(1.0)


@dataclass(frozen=True, slots=True)
class Moment:
    """What a motion may look at: times in piece µs, the type size in pixels."""

    cue_start_us: int
    cue_end_us: int
    live: tuple[int, int]
    size: float


def still(_: Moment) -> Moves:
    """No motion at all."""
    return Moves()


def settle(moment: Moment) -> Moves:
    """The caption sinks the last bit into its place and is there."""
    start = moment.cue_start_us
    length = min(SETTLE_US, (moment.cue_end_us - start) // 3)
    return Moves(
        opacity=(Key(start, (0.0,)), Key(start + max(1, length // 2), (1.0,), "linear")),
        move=(
            Key(start, (0.0, -0.22 * moment.size)),
            Key(start + max(1, length), (0.0, 0.0), "out"),
        ),
    )


def rise(moment: Moment) -> Moves:
    """The word is not there until it is said, then rises into its place and grows to size."""
    start, end = moment.live
    length = max(1, min(RISE_US, (end - start) * 2 // 3))
    return Moves(
        opacity=(
            Key(start - 1, (0.0,)),
            Key(start, (0.35,), "hold"),
            Key(start + max(1, length // 2), (1.0,)),
        ),
        move=(Key(start, (0.0, 0.34 * moment.size)), Key(start + length, (0.0, 0.0), "over")),
        scale=(Key(start, (0.82,)), Key(start + length, (1.0,), "over")),
    )


CUE_MOTIONS: dict[CueMotionName, Callable[[Moment], Moves]] = {"still": still, "settle": settle}
WORD_MOTIONS: dict[WordMotionName, Callable[[Moment], Moves]] = {"still": still, "rise": rise}
