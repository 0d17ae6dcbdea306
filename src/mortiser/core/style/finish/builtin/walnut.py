"""Walnut."""

from mortiser.core.style.finish.builtin.accents import usual
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.motions import Emphasis, Entrance, Exit, Motion
from mortiser.core.style.finish.parts import Outline, Place, Shadow

WALNUT = Finish(
    name="Walnut",
    about="Large serif letters set to the left, one word drifting in after the other.",
    font="Playfair Display",
    weight=900,
    size=0.108,
    line_height=1.08,
    word_gap=0.26,
    align="left",
    place=Place(across="left", dx=0.02, dy=0.16, width=0.78),
    ahead=(250, 242, 228, 255),
    live=(250, 242, 228, 255),
    past=(250, 242, 228, 255),
    outlines=(Outline(width=0.035, colour=(46, 26, 14, 245)),),
    shadow=Shadow(dx=0.0, dy=0.05, blur=0.28, colour=(20, 10, 4, 225)),
    accents=usual(
        (240, 186, 120, 255),
        (206, 196, 180, 255),
        (70, 40, 24, 235),
        (250, 236, 214, 255),
    ),
    motion=Motion(
        entrance=Entrance(
            kind="rise", by="word", when="start", duration_ms=260, stagger_ms=60, strength=0.5
        ),
        emphasis=Emphasis(kind="lift", duration_ms=160, strength=0.5),
        exit=Exit(kind="lift_off", duration_ms=160),
    ),
)
