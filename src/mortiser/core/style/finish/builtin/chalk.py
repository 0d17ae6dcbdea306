"""Chalk."""

from mortiser.core.style.finish.builtin.accents import usual
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.motions import Entrance, Exit, Motion
from mortiser.core.style.finish.parts import Place, Plate

CHALK = Finish(
    name="Chalk",
    about="Handwriting on a slate, letter by letter as it is said.",
    font="Caveat",
    weight=700,
    size=0.118,
    line_height=1.05,
    word_gap=0.24,
    place=Place(width=0.8, dy=0.2, turn=-1.5),
    ahead=(244, 241, 230, 255),
    live=(244, 241, 230, 255),
    past=(228, 226, 216, 255),
    plate=Plate(behind="caption", colour=(38, 50, 52, 232), pad_x=0.34, pad_y=0.16, radius=0.12),
    accents=usual(
        (250, 214, 110, 255),
        (176, 184, 180, 255),
        (120, 190, 178, 255),
        (24, 34, 36, 255),
        from_live=True,
    ),
    motion=Motion(
        entrance=Entrance(kind="fade", by="letter", when="spoken", duration_ms=60),
        exit=Exit(kind="fade", duration_ms=120),
    ),
)
