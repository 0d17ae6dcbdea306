"""Pine."""

from mortiser.core.style.finish.builtin.accents import usual
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.motions import Entrance, Motion
from mortiser.core.style.finish.parts import Outline, Shadow

PINE = Finish(
    name="Pine",
    about="Words rise into place as they are said and stay, the newest in resin gold.",
    font="Zilla Slab",
    weight=700,
    size=0.1,
    line_height=1.1,
    word_gap=0.26,
    ahead=(255, 250, 235, 255),
    live=(246, 196, 84, 255),
    past=(255, 250, 235, 255),
    outlines=(Outline(width=0.075, colour=(24, 38, 30, 245)),),
    shadow=Shadow(dx=0.03, dy=0.06, blur=0.2, colour=(0, 0, 0, 160)),
    accents=usual(
        (132, 204, 246, 255),
        (206, 200, 184, 255),
        (246, 196, 84, 255),
        (24, 38, 30, 255),
        from_live=True,
    ),
    motion=Motion(
        entrance=Entrance(kind="rise", by="word", when="spoken", duration_ms=160, curve="over")
    ),
)
