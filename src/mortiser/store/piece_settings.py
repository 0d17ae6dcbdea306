"""A piece's settings, read from its row and written to it; what cannot be read has the usual in its stead."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable
from typing import TypeVar

from mortiser.core.assembly.cutaway import STORED as CUTAWAYS
from mortiser.core.assembly.grade import STORED as GRADES
from mortiser.core.assembly.grade import Grades
from mortiser.core.assembly.joining import STORED as JOINS
from mortiser.core.assembly.joining import Joins
from mortiser.core.captions.pace import PACES, Pace
from mortiser.core.captions.pace import STORED as PACE
from mortiser.core.captions.standing import NOTHING
from mortiser.core.captions.standing import STORED as STANDING
from mortiser.core.common.errors import MortiserError
from mortiser.core.framing.layer import STORED as LAYERS
from mortiser.core.framing.shape import MOST_SIDE, Shape, shapes_of
from mortiser.core.framing.shape import STORED as SHAPES
from mortiser.core.project.output import STORED as OUTPUTS
from mortiser.core.project.output import USUAL_OUTPUTS
from mortiser.core.project.post import STORED as POST
from mortiser.core.project.post import Post
from mortiser.core.project.settings import PieceSettings
from mortiser.core.style.finish.builtin import DEFAULT_FINISH, FINISHES
from mortiser.core.style.finish.stored import STORED as FINISH

T = TypeVar("T")
COLUMNS = {
    "shapes": "shapes",
    "finish": "finish",
    "pace": "pace",
    "file_pace": "pace of caption files",
    "standing": "looks of speakers",
    "layers": "layers",
    "joins": "transitions",
    "grades": "look of the picture",
    "cutaways": "cutaways",
    "outputs": "outputs",
    "post": "post",
}
"""The columns that may be unreadable, and what they are called then."""
WRITTEN: dict[str, Callable[[PieceSettings], object]] = {
    "name": lambda of: of.name,
    "shapes": lambda of: SHAPES.write(of.shapes),
    "finish": lambda of: FINISH.write(of.finish),
    "pace": lambda of: PACE.write(of.pace),
    "file_pace": lambda of: PACE.write(of.file_pace) if of.file_pace else "",
    "checked_by": lambda of: of.checked_by,
    "show_speakers": lambda of: int(of.show_speakers),
    "standing": lambda of: STANDING.write(of.standing),
    "goal_us": lambda of: of.goal_us,
    "layers": lambda of: LAYERS.write(of.layers),
    "joins": lambda of: JOINS.write(of.joins),
    "grades": lambda of: GRADES.write(of.grades),
    "cutaways": lambda of: CUTAWAYS.write(of.cutaways),
    "outputs": lambda of: OUTPUTS.write(of.outputs),
    "post": lambda of: POST.write(of.post),
    "naming": lambda of: of.naming,
}
"""Each setting's column, and what is written there."""


def read_settings(row: sqlite3.Row) -> tuple[PieceSettings, tuple[str, ...]]:
    """The settings in a row of ``piece``, and the names of those that cannot be read."""
    lost: list[str] = []

    def held(column: str, read: Callable[[str], T], usual: T) -> T:
        try:
            return read(row[column])
        except (ValueError, TypeError, KeyError, MortiserError):
            lost.append(COLUMNS[column])
            return usual

    width, height = row["width"], row["height"]
    # As near to the first one as can be.
    usual = Shape(id=1, width=_side(width), height=_side(height))
    found = PieceSettings(
        name=row["name"],
        shapes=held("shapes", lambda text: shapes_of(text, width, height), (usual,)),
        finish=held("finish", FINISH.read, FINISHES[DEFAULT_FINISH]),
        pace=held("pace", PACE.read, PACES["quick"]),
        file_pace=held("file_pace", _file_pace_of, None),
        checked_by=row["checked_by"],
        show_speakers=bool(row["show_speakers"]),
        standing=held("standing", STANDING.read, NOTHING),
        goal_us=row["goal_us"],
        layers=held("layers", LAYERS.read, ()),
        joins=held("joins", JOINS.read, Joins()),
        grades=held("grades", GRADES.read, Grades()),
        cutaways=held("cutaways", CUTAWAYS.read, ()),
        outputs=held("outputs", OUTPUTS.read, USUAL_OUTPUTS),
        post=held("post", POST.read, Post()),
        naming=row["naming"],
    )
    return found, tuple(lost)


def changed_columns(was: PieceSettings, now: PieceSettings) -> dict[str, object]:
    """The columns that have to be written for settings to be others; one that cannot be read and is not
    set anew stays as it is."""
    return {
        column: write(now)
        for column, write in WRITTEN.items()
        if getattr(was, column) != getattr(now, column)
    }


def _file_pace_of(text: str) -> Pace | None:
    return PACE.read(text) if text else None


def _side(side: int) -> int:
    return max(2, min(side, MOST_SIDE))
