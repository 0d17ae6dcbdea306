"""The three word states as a colour track, and the plank that slides from word to word."""

from __future__ import annotations

from collections.abc import Sequence

from mortiser.core.finish.model import Accent, Finish, Plank
from mortiser.core.layout.block import Box
from mortiser.core.motion.track import Key, Track

SWITCH_US = 80_000
SLIDE_US = 120_000


def state_colours(finish: Finish, accent: Accent | None, live: tuple[int, int]) -> Track:
    """Fill of a word: ahead until its start, live until the next word, then past."""
    ahead, lit, past = finish.ahead, finish.live, finish.past
    if accent is not None:
        ahead, lit, past = accent.ahead or ahead, accent.live or lit, accent.past or past
    start, end = live
    switch = min(SWITCH_US, max(1, (end - start) // 3))
    return (
        Key(start, ahead),
        Key(start + switch, lit, "out"),
        Key(max(end, start + switch + 1), lit),
        Key(max(end, start + switch + 1) + SWITCH_US, past, "out"),
    )


def plank_box(
    plank: Plank, boxes: Sequence[Box], lives: Sequence[tuple[int, int]], size: float
) -> Track:
    """Box (x, y, w, h) under the live word, sliding on as the next word starts."""
    keys: list[Key] = []
    for box, (start, end) in zip(boxes, lives, strict=True):
        pad_x, pad_y = plank.pad_x * size, plank.pad_y * size
        value = (box.x - pad_x, box.y - pad_y, box.w + 2 * pad_x, box.h + 2 * pad_y)
        if not keys:
            keys.append(Key(start, value))
            continue
        slide = min(SLIDE_US, max(1, (end - start) // 2))
        keys.append(Key(start, keys[-1].value))
        keys.append(Key(start + slide, value, "inout"))
    return tuple(keys)
