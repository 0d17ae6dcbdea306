"""The accents that every built-in finish has, in the finish's own colours."""

from __future__ import annotations

from mortiser.core.style.finish.model import Accent
from mortiser.core.style.finish.motions import Emphasis
from mortiser.core.style.finish.parts import Colour, Paint, WordPlate


def usual(
    bright: Paint, hush: Paint, tag: Colour, tag_ink: Colour, *, from_live: bool = False
) -> tuple[Accent, ...]:
    """Bright, Loud, Hush, Tag and Lean.

    ``from_live`` leaves a word's *ahead* paint alone, for finishes whose words come as spoken.
    """
    ahead = None if from_live else bright
    return (
        Accent(name="Bright", about="In the second colour.", ahead=ahead, live=bright, past=bright),
        Accent(
            name="Loud",
            about="Larger, in the second colour.",
            ahead=ahead,
            live=bright,
            past=bright,
            scale=1.25,
        ),
        Accent(name="Hush", about="Smaller and quieter.", ahead=hush, past=hush, scale=0.82),
        Accent(
            name="Tag",
            about="On a plate of its own.",
            ahead=tag_ink,
            live=tag_ink,
            past=tag_ink,
            plate=WordPlate(colour=tag, pad_x=0.14, pad_y=-0.04, radius=0.14),
            outlines=(),
        ),
        Accent(
            name="Lean",
            about="Tilted and raised, with a beat as it is said.",
            ahead=ahead,
            live=bright,
            past=bright,
            tilt=-5,
            lift=0.05,
            scale=1.08,
            emphasis=Emphasis(kind="pulse", duration_ms=260),
        ),
    )
