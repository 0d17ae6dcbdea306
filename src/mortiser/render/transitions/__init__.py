"""Transitions in planes: each is a function of two pictures and how much has gone over.

One module for those that are alike; lengths are shares of the frame, so that every size looks the same.
"""

from __future__ import annotations

from mortiser.core.assembly.transition import Transition, TransitionKind
from mortiser.paint.inks import PlaneInks
from mortiser.render.transitions import fading, masked, moving, optical
from mortiser.render.transitions.pair import Mix, Pair, Three

MIXES: dict[TransitionKind, Mix] = {
    "dissolve": fading.dissolve,
    "colour": fading.through_colour,
    "slide": moving.slide,
    "push": moving.push,
    "whip": moving.whip,
    "wipe": masked.wipe,
    "iris": masked.iris,
    "picture": masked.by_picture,
    "zoom": optical.zoom,
    "blur": optical.blur,
}


def mixed(one: Three, other: Three, share: float, transition: Transition, inks: PlaneInks) -> Three:
    """Planes of yuv420p (of even sizes) between one picture and another, ``share`` (0 to 1) of the way; both hold
    colours as ``inks`` says, and are not written to."""
    if share <= 0:
        return one
    if share >= 1:
        return other
    return MIXES[transition.kind](Pair(one, other, share, transition, inks))
