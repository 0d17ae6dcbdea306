"""Veneer."""

from mortiser.core.style.finish.builtin.accents import usual
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.motions import Entrance, Exit, Motion
from mortiser.core.style.finish.parts import Place, Plate

VENEER = Finish(
    name="Veneer",
    about="Dark serif letters on pale strips; the second strip waits until it is said.",
    font="Alegreya",
    weight=800,
    size=0.09,
    line_height=1.26,
    word_gap=0.24,
    align="left",
    place=Place(across="left", down="bottom", dx=0.02, dy=-0.14, width=0.82),
    ahead=(96, 84, 72, 255),
    live=(168, 52, 28, 255),
    past=(42, 34, 28, 255),
    plate=Plate(behind="line", colour=(246, 238, 222, 244), pad_x=0.22, pad_y=-0.05, radius=0.05),
    accents=usual(
        (20, 92, 104, 255), (128, 116, 102, 255), (42, 34, 28, 255), (246, 238, 222, 255)
    ),
    motion=Motion(
        entrance=Entrance(kind="slide", by="line", when="spoken", duration_ms=220, strength=0.5),
        exit=Exit(kind="fade", duration_ms=100),
    ),
)
