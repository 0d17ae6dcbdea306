"""The motions by name; ``core/style/motion`` plays them."""

from __future__ import annotations

from typing import Literal

EntranceName = Literal[
    "none", "appear", "fade", "settle", "rise", "drop", "slide", "swell", "stamp", "swing"
]
EmphasisName = Literal["none", "grow", "lift", "tilt", "pulse", "ink"]
ExitName = Literal["none", "fade", "sink", "lift_off", "shrink"]
LoopName = Literal["none", "sway", "breathe", "bob"]
Curve = Literal["linear", "out", "inout", "over"]
