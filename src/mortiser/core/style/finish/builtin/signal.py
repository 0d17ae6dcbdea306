"""Signal."""

from mortiser.core.style.finish.builtin.accents import usual
from mortiser.core.style.finish.model import Finish, Pattern
from mortiser.core.style.finish.motions import Entrance, Motion
from mortiser.core.style.finish.parts import Outline, Place, Shadow

SIGNAL = Finish(
    name="Signal",
    about="Block capitals on a slant, stamped down word by word; every second line in orange.",
    font="Bungee",
    weight=400,
    size=0.086,
    case="upper",
    line_height=1.06,
    word_gap=0.3,
    place=Place(width=0.86, dy=0.18, turn=-4),
    ahead=(255, 255, 255, 255),
    live=(255, 255, 255, 255),
    past=(255, 255, 255, 255),
    outlines=(Outline(width=0.07, colour=(16, 18, 26, 255)),),
    shadow=Shadow(dx=0.07, dy=0.07, blur=0.0, colour=(16, 18, 26, 255)),
    accents=usual(
        (255, 146, 56, 255), (196, 204, 216, 255), (16, 18, 26, 255), (255, 146, 56, 255)
    ),
    pattern=Pattern(by="line", cycle=(0, 1)),
    motion=Motion(
        entrance=Entrance(kind="stamp", by="word", when="spoken", duration_ms=130, curve="out")
    ),
)
