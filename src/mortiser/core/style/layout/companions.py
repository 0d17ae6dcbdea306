"""Where the emoji stand that go with words without being part of the text."""

from __future__ import annotations

from mortiser.core.style.finish.model import Accent
from mortiser.core.style.layout.fonts import CAPITALS, EMOJI_MIDDLE, Stamp, emoji_key

ASIDE = 0.14
"""Between a companion and its word, share of the type size."""
FOOT = 0.25
"""A large one by a word's side goes no further below the baseline, share of the type size."""
LINE_TOP = 0.85
"""What of a line is above the baseline at least, share of the type size."""


def companion_room(accent: Accent | None, size: float, leftwards: bool) -> tuple[float, float]:
    """What a word's companion takes to its left and to its right, in pixels."""
    companion = accent.companion if accent else None
    if companion is None or companion.place == "above":
        return 0.0, 0.0
    room = (companion.size + ASIDE) * size
    return (room, 0.0) if (companion.place == "before") != leftwards else (0.0, room)


def companion_head(accent: Accent | None, size: float) -> float:
    """What a word's companion takes above its line, in pixels."""
    companion = accent.companion if accent else None
    if accent is None or companion is None:
        return 0.0
    if companion.place == "above":
        return max(0.0, (companion.size + CAPITALS * (accent.scale - 1)) * size)
    top = max(EMOJI_MIDDLE * accent.scale + companion.size / 2, companion.size - FOOT)
    return max(0.0, (top - LINE_TOP) * size)


def companion_stamp(
    accent: Accent | None, size: float, advance: float, leftwards: bool
) -> Stamp | None:
    """A word's companion, placed from the word's pen."""
    companion = accent.companion if accent else None
    if accent is None or companion is None:
        return None
    side = float(round(companion.size * size))
    if companion.place == "above":
        x = (advance - side) / 2
        y = -(CAPITALS * accent.scale + ASIDE / 2) * size - side
    else:
        left = (companion.place == "before") != leftwards
        x = -side - ASIDE * size if left else advance + ASIDE * size
        foot = min(side / 2 - EMOJI_MIDDLE * size * accent.scale, FOOT * size)
        y = foot - side
    return Stamp(emoji_key(companion.emoji), round(x, 3), round(y, 3), side)
