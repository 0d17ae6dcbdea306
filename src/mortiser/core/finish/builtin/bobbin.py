"""Bobbin."""

from mortiser.core.finish.builtin.accents import usual
from mortiser.core.finish.model import Finish
from mortiser.core.finish.motions import Emphasis, Entrance, Exit, Motion
from mortiser.core.finish.parts import Outline, Place, Shadow

BOBBIN = Finish(
    name="Bobbin",
    about="Very large capitals in the middle, sprung up as they are said, with a beat on each word.",
    font="Anton",
    weight=400,
    size=0.165,
    case="upper",
    line_height=1.12,
    word_gap=0.2,
    max_lines=3,
    place=Place(width=0.88, dy=0.06),
    ahead=(255, 248, 232, 255),
    live=(198, 255, 160, 255),
    past=(255, 248, 232, 255),
    outlines=(Outline(width=0.045, colour=(26, 30, 24, 255)),),
    shadow=Shadow(dx=0.0, dy=0.05, blur=0.1, colour=(0, 0, 0, 170)),
    accents=usual(
        (255, 150, 190, 255),
        (208, 204, 190, 255),
        (198, 255, 160, 255),
        (26, 30, 24, 255),
        from_live=True,
    ),
    motion=Motion(
        entrance=Entrance(kind="swell", by="word", when="spoken", duration_ms=150, curve="over"),
        emphasis=Emphasis(kind="pulse", duration_ms=180, strength=0.6),
        exit=Exit(kind="shrink", duration_ms=110),
    ),
)
