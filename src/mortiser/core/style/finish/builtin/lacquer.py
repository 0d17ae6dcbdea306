"""Lacquer."""

from mortiser.core.style.finish.builtin.accents import usual
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.motions import Entrance, Motion
from mortiser.core.style.finish.parts import Outline, Plank, Shadow

LACQUER = Finish(
    name="Lacquer",
    about="The whole phrase stands; a lacquered plank slides under the word being said.",
    font="Rubik",
    weight=800,
    size=0.088,
    line_height=1.24,
    word_gap=0.27,
    ahead=(255, 252, 244, 255),
    live=(255, 255, 255, 255),
    past=(255, 252, 244, 255),
    outlines=(Outline(width=0.055, colour=(28, 22, 18, 235)),),
    shadow=Shadow(dx=0.0, dy=0.05, blur=0.16, colour=(0, 0, 0, 150)),
    plank=Plank(colour=(178, 58, 42, 255), pad_x=0.16, pad_y=-0.02, radius=0.16),
    accents=usual(
        (250, 196, 84, 255), (206, 200, 190, 255), (28, 58, 74, 255), (255, 252, 244, 255)
    ),
    motion=Motion(entrance=Entrance(kind="settle", duration_ms=180)),
)
