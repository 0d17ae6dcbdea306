"""Tide."""

from mortiser.core.style.finish.builtin.accents import usual
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.motions import Emphasis, Entrance, Exit, Loop, Motion
from mortiser.core.style.finish.parts import Outline, Shadow

TIDE = Finish(
    name="Tide",
    about="Soft round letters that float gently; what has been said turns pale blue.",
    font="Comfortaa",
    weight=700,
    size=0.09,
    line_height=1.2,
    word_gap=0.36,
    ahead=(255, 255, 255, 255),
    live=(150, 230, 255, 255),
    past=(190, 226, 240, 255),
    outlines=(Outline(width=0.078, colour=(16, 52, 76, 240)),),
    shadow=Shadow(dx=0.0, dy=0.03, blur=0.24, colour=(8, 36, 56, 215)),
    accents=usual(
        (255, 222, 150, 255), (176, 200, 212, 255), (150, 230, 255, 255), (16, 52, 76, 255)
    ),
    motion=Motion(
        entrance=Entrance(kind="fade", by="word", when="start", duration_ms=200, stagger_ms=50),
        emphasis=Emphasis(kind="grow", duration_ms=200, strength=0.6),
        exit=Exit(kind="sink", by="word", duration_ms=140, stagger_ms=20),
        loop=Loop(kind="bob", by="word", period_ms=2000),
    ),
)
