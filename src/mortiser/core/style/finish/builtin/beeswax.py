"""Beeswax."""

from mortiser.core.style.finish.builtin.accents import usual
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.motions import Emphasis, Entrance, Motion
from mortiser.core.style.finish.parts import Gradient, Outline, Shadow

HONEY = Gradient(first=(255, 240, 186, 255), last=(246, 178, 52, 255), angle=90)
CREAM = Gradient(first=(255, 255, 250, 255), last=(246, 236, 214, 255), angle=90)

BEESWAX = Finish(
    name="Beeswax",
    about="Round letters in a thick rim; the word being said swells and turns to honey.",
    font="Baloo 2",
    weight=800,
    size=0.104,
    line_height=1.08,
    word_gap=0.34,
    ahead=CREAM,
    live=HONEY,
    past=CREAM,
    outlines=(Outline(width=0.1, colour=(74, 40, 16, 255)),),
    shadow=Shadow(dx=0.0, dy=0.08, blur=0.06, colour=(40, 20, 6, 190)),
    accents=usual(
        Gradient(first=(255, 214, 226, 255), last=(240, 112, 140, 255)),
        (226, 214, 190, 255),
        (246, 178, 52, 255),
        (74, 40, 16, 255),
    ),
    motion=Motion(
        entrance=Entrance(kind="swell", duration_ms=200, strength=0.5, curve="over"),
        emphasis=Emphasis(kind="grow", duration_ms=120, strength=1.1, curve="over"),
    ),
)
