"""Bobbin."""

from mortiser.core.style.finish.builtin.accents import usual
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.motions import Emphasis, Entrance, Exit, Motion
from mortiser.core.style.finish.parts import Outline, Place, Shadow

BOBBIN = Finish(
    name="Bobbin",
    about="Very large letters in the middle, all of them small, sprung up as they are said, with a beat on each word.",
    font="Alegreya",
    weight=800,
    size=0.142,
    case="lower",
    line_height=0.98,
    word_gap=0.3,
    max_lines=3,
    place=Place(width=0.88, dy=0.06),
    ahead=(252, 240, 236, 255),
    live=(255, 172, 148, 255),
    past=(252, 240, 236, 255),
    outlines=(Outline(width=0.06, colour=(66, 24, 58, 255)),),
    shadow=Shadow(dx=0.0, dy=0.05, blur=0.1, colour=(30, 8, 26, 170)),
    accents=usual(
        (214, 188, 255, 255),
        (226, 206, 214, 255),
        (255, 172, 148, 255),
        (66, 24, 58, 255),
        from_live=True,
    ),
    motion=Motion(
        entrance=Entrance(kind="swell", by="word", when="spoken", duration_ms=150, curve="over"),
        emphasis=Emphasis(kind="pulse", duration_ms=180, strength=0.6),
        exit=Exit(kind="shrink", duration_ms=110),
    ),
)
