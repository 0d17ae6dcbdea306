"""The paints of the word states as tracks, and the plank that goes from word to word."""

from __future__ import annotations

from collections.abc import Sequence

from mortiser.core.style.finish.model import Accent, Finish
from mortiser.core.style.finish.parts import Gradient, Paint, Plank, ends
from mortiser.core.style.layout.rect import Rect
from mortiser.core.style.motion.track import Ease, Key, Track, Value

SWITCH_US = 80_000
SLIDE_US = 120_000


def states(finish: Finish, accent: Accent | None) -> tuple[Paint, Paint, Paint]:
    """Ahead, live and past of a word."""
    if accent is None:
        return finish.ahead, finish.live, finish.past
    return accent.ahead or finish.ahead, accent.live or finish.live, accent.past or finish.past


def fill_track(paints: Sequence[Paint], live: tuple[int, int]) -> Track:
    """Fill of a word: ahead until its start, live until the next word, then past.

    Four values (a colour) where all paints are plain, else eight: both ends of a gradient.
    """
    ahead, lit, past = fill_values(paints)
    start, end = live
    switch = min(SWITCH_US, max(1, (end - start) // 3))
    over = max(end, start + switch + 1)
    return (
        Key(start, ahead),
        Key(start + switch, lit, "out"),
        Key(over, lit),
        Key(over + SWITCH_US, past, "out"),
    )


def ink_tracks(
    paints: Sequence[Paint], live: tuple[int, int], said_us: int, edges: tuple[float, float]
) -> tuple[Track, Track, Track]:
    """A paint running through a word as it is said: its base, the ink, and the ink's (from, to).

    ``edges`` are where the ink begins and ends, in pixels of the word; from the right where the
    first is larger. When all is inked, the base takes over, so that edges are painted once.
    """
    ahead, lit, past = fill_values(paints)
    start, end = live
    done = max(start + 1, min(end, start + max(said_us, (end - start) // 2)))
    over = max(done + 1, end)
    base = (
        Key(done, ahead),
        Key(done + 1, lit, "hold"),
        Key(over + 1, lit),
        Key(over + 1 + SWITCH_US, past, "out"),
    )
    empty, full = (edges[0], edges[0]), (min(edges), max(edges))
    ink = (
        Key(start, empty),
        Key(done, full),
        Key(done + 1, empty, "hold"),
    )
    return base, (Key(start, lit),), ink


def fill_values(paints: Sequence[Paint]) -> list[Value]:
    """The paints as values of one length that can run into each other."""
    if any(isinstance(paint, Gradient) for paint in paints):
        return [tuple(map(float, sum(ends(paint), ()))) for paint in paints]
    return [tuple(map(float, ends(paint)[0])) for paint in paints]


def angle_of(paints: Sequence[Paint]) -> float | None:
    """The angle in degrees of the first gradient among them; None where all are plain."""
    return next((paint.angle for paint in paints if isinstance(paint, Gradient)), None)


def plank_box(
    plank: Plank, boxes: Sequence[Rect], lives: Sequence[tuple[int, int]], size: float
) -> Track:
    """Box (x, y, w, h) under the live word, going on as the next word starts."""
    keys: list[Key] = []
    pad_x, pad_y = plank.pad_x * size, plank.pad_y * size
    for box, (start, end) in zip(boxes, lives, strict=True):
        wide = box.grown(pad_x, pad_y)
        value = (wide.left, wide.top, wide.width, wide.height)
        if not keys:
            keys.append(Key(start, value))
            continue
        if value == keys[-1].value:
            continue
        slides = plank.travel == "slide"
        way: Ease = "inout" if slides else "hold"
        length = min(SLIDE_US, max(1, (end - start) // 2)) if slides else 1
        keys.append(Key(start, keys[-1].value))
        keys.append(Key(start + length, value, way))
    return tuple(keys)
