"""What is said in the Lantern Lane Mending Room: the lines of every demo clip.

A line is (voice, text, pause after it in seconds). The faults are meant: fillers, a long
pause, a sentence said twice, names and trade words that a recogniser mishears.
"""

from typing import NamedTuple


class Line(NamedTuple):
    """One breath of speech."""

    voice: str
    text: str
    pause_s: float


KETTLE = [
    Line("joe", "Good morning from Lantern Lane, where we mend things.", 0.75),
    Line("joe", "Today, um, this kettle came in stone cold.", 0.35),
    Line("joe", "Nine times out of ten it is the fuse, not the element.", 0.45),
    Line("joe", "Nine times out of ten it is the fuse.", 0.3),
    Line("joe", "So before you throw it away, open the plug and look for a thin grey wire.", 1.7),
    Line("joe", "If it has gone, ask for Marlo at the front desk.", 0.3),
    Line("joe", "He keeps a tin of fuses, three amp and thirteen amp.", 0.5),
    Line("joe", "Uh, never wrap the old one in foil.", 0.4),
    Line("joe", "Bring your kettle, your chair or your radio on Saturday at ten.", 0.35),
    Line("joe", "We show you how, and you do the mending yourself.", 0.4),
    Line("joe", "Nothing costs more than two pounds, and the tea is free.", 0.9),
]

COUNTER = [
    Line("heart", "Welcome back to the mending room. What have you got for me?", 0.35),
    Line("joe", "A radio from my grandmother. It hums, but it does not talk.", 0.4),
    Line("heart", "Hm, that sounds like a tired capacitor. When did you last hear a station?", 0.3),
    Line("joe", "Last winter, I think. Then somebody dropped it on the stairs.", 0.45),
    Line("heart", "So we open the back, we clean the dial, and we check every joint.", 0.3),
    Line("joe", "Can I do the soldering myself?", 0.25),
    Line("heart", "Of course. Sit down next to Marlo, he will pass you the iron.", 0.6),
]

CHAIR = [
    Line("joe", "Good evening from Lantern Lane, this chair came in with a loose leg.", 0.5),
    Line("joe", "Take the leg out, um, scrape off the old glue, and press it back in.", 0.45),
    Line("joe", "Bring your kettle, your chair or your radio on Saturday at eleven.", 0.4),
    Line("joe", "We show you how, and you do the mending yourself.", 0.8),
]
"""Two sentences of it are takes of the kettle's."""

LYRIC = [
    Line("heart", "Lantern lane, oh lantern lane,", 0.9),
    Line("heart", "mend the kettle, mend the chair,", 0.9),
    Line("heart", "nothing broken stays the same,", 0.9),
    Line("heart", "someone with a screw to spare.", 1.2),
]
