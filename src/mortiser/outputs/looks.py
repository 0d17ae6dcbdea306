"""The nearest to a finish that caption files can say."""

from __future__ import annotations

from mortiser.core.style.finish.changes import dressed
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.parts import Paint, ends
from mortiser.core.transcript.words import Cue
from mortiser.formats.base import Colour, Look
from mortiser.formats.base import GridPlace as Corner

BOLD = 600
ROWS = {"top": 0.0, "middle": 0.5, "bottom": 1.0}
COLUMNS = {"left": 0.0, "centre": 0.5, "right": 1.0}
EDGE = 0.08
"""What captions at the top and at the foot keep from the edge, a share of the height."""


def look_of(finish: Finish, size: tuple[int, int]) -> Look:
    """A finish as files have it, for a picture of a size in pixels: plain colours, the innermost outline."""
    letters = finish.size * min(size)
    rim = finish.outlines[0] if finish.outlines else None
    box = finish.plate or finish.plank
    place = finish.place
    y = min(1 - EDGE, max(EDGE, ROWS[place.down] + place.dy))
    said = _plain(finish.live)
    return Look(
        font=finish.font,
        bold=finish.weight >= BOLD,
        size=letters,
        said=said,
        ahead=_plain(finish.ahead),
        outline=rim.colour if rim else (0, 0, 0, 255),
        outline_width=rim.width * letters if rim else 0.0,
        shadow=finish.shadow.dy * letters if finish.shadow else 0.0,
        box=box.colour if box else None,
        upper=finish.case == "upper",
        place=Corner(place.down, finish.align),
        x=min(0.95, max(0.05, 0.5 + place.dx)),
        y=y,
        accents=tuple(_plain(one.live) if one.live else said for one in finish.accents),
    )


def own_place(cue: Cue, finish: Finish) -> Corner | None:
    """Where a caption stands that has a place of its own, to the third of the picture; None for others."""
    if not cue.look:
        return None
    own, usual = dressed(finish, cue.look).place, finish.place
    if (own.down, own.across, own.dx, own.dy) == (usual.down, usual.across, usual.dx, usual.dy):
        return None
    x = COLUMNS[own.across] + own.dx
    return Corner.at(x, ROWS[own.down] + own.dy) or Corner("bottom", "centre")


def _plain(paint: Paint) -> Colour:
    return ends(paint)[0]
