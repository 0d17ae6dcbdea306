"""The finishes that come with Mortiser. To add one: write the value, it is found by its name."""

from mortiser.core.finish.model import Accent, Finish, Outline, Plank, Shadow

LACQUER = Finish(
    name="Lacquer",
    about="The whole phrase stands; a lacquered plank slides under the word being said.",
    font="Rubik_800ExtraBold",
    size=0.088,
    measure=0.84,
    max_lines=3,
    anchor_y=0.71,
    line_height=1.24,
    word_gap=0.27,
    ahead=(255, 252, 244, 255),
    live=(255, 255, 255, 255),
    past=(255, 252, 244, 255),
    outline=Outline(width=0.055, colour=(28, 22, 18, 235)),
    shadow=Shadow(dx=0.0, dy=0.05, blur=0.16, colour=(0, 0, 0, 150)),
    plank=Plank(colour=(178, 58, 42, 255), pad_x=0.16, pad_y=-0.02, radius=0.16),
    cue_motion="settle",
    accents=(
        Accent(
            name="Bright",
            about="Brass-coloured.",
            ahead=(250, 196, 84, 255),
            past=(250, 196, 84, 255),
        ),
        Accent(
            name="Loud",
            about="Larger, brass-coloured.",
            ahead=(250, 196, 84, 255),
            past=(250, 196, 84, 255),
            scale=1.24,
        ),
        Accent(
            name="Hush",
            about="Smaller and greyer.",
            ahead=(206, 200, 190, 255),
            past=(206, 200, 190, 255),
            scale=0.84,
        ),
    ),
)

PINE = Finish(
    name="Pine",
    about="Words rise into place as they are said and stay, the newest in resin gold.",
    font="ZillaSlab_700Bold",
    size=0.1,
    measure=0.84,
    max_lines=3,
    anchor_y=0.71,
    line_height=1.1,
    word_gap=0.26,
    ahead=(255, 250, 235, 255),
    live=(246, 196, 84, 255),
    past=(255, 250, 235, 255),
    outline=Outline(width=0.075, colour=(24, 38, 30, 245)),
    shadow=Shadow(dx=0.03, dy=0.06, blur=0.2, colour=(0, 0, 0, 160)),
    word_motion="rise",
    accents=(
        Accent(
            name="Bright",
            about="Sky blue from when it is said.",
            live=(132, 204, 246, 255),
            past=(132, 204, 246, 255),
        ),
        Accent(
            name="Loud",
            about="Larger and sky blue.",
            live=(132, 204, 246, 255),
            past=(132, 204, 246, 255),
            scale=1.24,
        ),
        Accent(
            name="Hush",
            about="Smaller and greyer.",
            live=(212, 206, 190, 255),
            past=(206, 200, 184, 255),
            scale=0.84,
        ),
    ),
)

FINISHES: dict[str, Finish] = {finish.name: finish for finish in (LACQUER, PINE)}
DEFAULT_FINISH = LACQUER.name
