"""Ribbon."""

from mortiser.core.style.finish.builtin.accents import usual
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.motions import Entrance, Loop, Motion
from mortiser.core.style.finish.parts import Place, Plate

RIBBON = Finish(
    name="Ribbon",
    about="Each word on a slip of paper that drops in as it is said and sways.",
    font="Rubik",
    weight=800,
    size=0.08,
    line_height=1.34,
    word_gap=0.42,
    place=Place(width=0.84, dy=0.2),
    ahead=(38, 44, 66, 255),
    live=(190, 44, 84, 255),
    past=(38, 44, 66, 255),
    plate=Plate(behind="word", colour=(255, 250, 240, 250), pad_x=0.16, pad_y=-0.06, radius=0.08),
    accents=usual(
        (20, 104, 150, 255), (112, 118, 136, 255), (190, 44, 84, 255), (255, 250, 240, 255)
    ),
    motion=Motion(
        entrance=Entrance(
            kind="drop", by="word", when="spoken", duration_ms=180, strength=0.5, curve="over"
        ),
        loop=Loop(kind="sway", by="word", period_ms=2200, strength=0.8),
    ),
)
