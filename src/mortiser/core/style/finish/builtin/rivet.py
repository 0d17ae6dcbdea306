"""Rivet."""

from mortiser.core.style.finish.builtin.accents import usual
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.motions import Entrance, Motion
from mortiser.core.style.finish.parts import Place, Plate

RIVET = Finish(
    name="Rivet",
    about="Typed on a steel label, one letter after the other, the newest word in copper.",
    font="JetBrains Mono",
    weight=700,
    size=0.072,
    line_height=1.32,
    word_gap=0.5,
    align="left",
    place=Place(across="left", dx=0.03, dy=0.2, width=0.82),
    ahead=(226, 232, 236, 255),
    live=(255, 172, 118, 255),
    past=(226, 232, 236, 255),
    plate=Plate(behind="caption", colour=(30, 40, 52, 240), pad_x=0.36, pad_y=0.2, radius=0.18),
    accents=usual(
        (140, 222, 196, 255),
        (150, 164, 176, 255),
        (255, 172, 118, 255),
        (30, 40, 52, 255),
        from_live=True,
    ),
    motion=Motion(entrance=Entrance(kind="appear", by="letter", when="spoken")),
)
