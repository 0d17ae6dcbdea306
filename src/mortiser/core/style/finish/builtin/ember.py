"""Ember."""

from mortiser.core.style.finish.builtin.accents import usual
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.motions import Emphasis, Entrance, Motion
from mortiser.core.style.finish.parts import Gradient, Outline, Shadow

GLOW = Gradient(first=(255, 226, 130, 255), last=(255, 104, 40, 255), angle=90)

EMBER = Finish(
    name="Ember",
    about="Ash-grey capitals that glow through from the first letter to the last as they are said.",
    font="Oswald",
    weight=600,
    size=0.108,
    case="upper",
    letter_gap=0.015,
    line_height=1.2,
    word_gap=0.24,
    ahead=(206, 202, 198, 255),
    live=GLOW,
    past=GLOW,
    outlines=(Outline(width=0.05, colour=(34, 20, 16, 255)),),
    shadow=Shadow(dx=0.0, dy=0.0, blur=0.42, colour=(255, 96, 30, 130)),
    accents=usual(
        Gradient(first=(255, 255, 255, 255), last=(255, 222, 120, 255)),
        (170, 160, 154, 255),
        (255, 120, 44, 255),
        (34, 20, 16, 255),
        from_live=True,
    ),
    motion=Motion(
        entrance=Entrance(kind="fade", duration_ms=140),
        emphasis=Emphasis(kind="ink"),
    ),
)
