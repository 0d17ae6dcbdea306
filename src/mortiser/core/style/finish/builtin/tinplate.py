"""Tinplate."""

from mortiser.core.style.finish.builtin.accents import usual
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.motions import Emphasis, Entrance, Motion
from mortiser.core.style.finish.parts import Gradient, Outline, Place, Shadow

TIN = Gradient(first=(255, 255, 255, 255), last=(168, 184, 200, 255), angle=90)
SEA = Gradient(first=(190, 250, 240, 255), last=(30, 176, 180, 255), angle=90)

TINPLATE = Finish(
    name="Tinplate",
    about="Tall shining capitals with a double rim; the word being said steps up in sea green.",
    font="Anton",
    weight=400,
    size=0.116,
    case="upper",
    letter_gap=0.02,
    line_height=1.3,
    word_gap=0.28,
    place=Place(width=0.84, dy=0.2),
    ahead=TIN,
    live=SEA,
    past=TIN,
    outlines=(
        Outline(width=0.045, colour=(18, 28, 40, 255)),
        Outline(width=0.04, colour=(240, 244, 248, 255)),
    ),
    shadow=Shadow(dx=0.0, dy=0.06, blur=0.2, colour=(0, 0, 0, 170)),
    accents=usual(
        Gradient(first=(255, 240, 160, 255), last=(255, 176, 40, 255)),
        (190, 200, 210, 255),
        (18, 28, 40, 255),
        (190, 250, 240, 255),
    ),
    motion=Motion(
        entrance=Entrance(kind="drop", by="line", when="start", duration_ms=200, stagger_ms=70),
        emphasis=Emphasis(kind="lift", duration_ms=110, strength=0.65, curve="over"),
    ),
)
