"""Linen."""

from mortiser.core.style.finish.builtin.accents import usual
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.parts import Place, Plate

LINEN = Finish(
    name="Linen",
    about="Plain and calm: even letters on a dark cloth near the foot, nothing moves.",
    font="Noto Sans",
    weight=500,
    size=0.066,
    line_height=1.3,
    word_gap=0.26,
    max_lines=3,
    place=Place(down="bottom", dy=-0.1, width=0.86),
    ahead=(250, 248, 242, 255),
    live=(250, 248, 242, 255),
    past=(250, 248, 242, 255),
    plate=Plate(behind="line", colour=(20, 20, 22, 206), pad_x=0.3, pad_y=0.0, radius=0.1),
    accents=usual(
        (250, 214, 120, 255), (196, 192, 186, 255), (250, 248, 242, 255), (28, 28, 30, 255)
    ),
)
