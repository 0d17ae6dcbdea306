"""What was set of a piece, read from its row; what cannot be read has the usual in its stead, and is named."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable
from functools import cached_property
from typing import TypeVar

from mortiser.core.captions.pace import PACES, Pace, pace_of
from mortiser.core.captions.standing import NOTHING, Standing, standing_of
from mortiser.core.common.errors import MortiserError
from mortiser.core.framing.layer import Layers, layers_of
from mortiser.core.framing.shape import MOST_SIDE, Shape, Shapes, shapes_of
from mortiser.core.project.output import USUAL_OUTPUTS, Outputs, outputs_of
from mortiser.core.project.post import Post, post_of
from mortiser.core.style.finish.builtin import DEFAULT_FINISH, FINISHES
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.stored import finish_of

T = TypeVar("T")
COLUMNS = {
    "shapes": "shapes",
    "finish": "finish",
    "pace": "pace",
    "file_pace": "pace of caption files",
    "standing": "looks of speakers",
    "layers": "layers",
    "outputs": "outputs",
    "post": "post",
}
"""The settings, and what they are called where they cannot be read."""


class PieceSettings:
    """The settings in a row of ``piece``, each read when it is asked for."""

    def __init__(self, row: sqlite3.Row) -> None:
        self._row = row
        self._lost: set[str] = set()

    @cached_property
    def shapes(self) -> Shapes:
        """The frames it is shown in; else one that is as near to the first one as can be."""
        width, height = self._row["width"], self._row["height"]
        usual = Shape(id=1, width=_side(width), height=_side(height))
        return self._held("shapes", lambda text: shapes_of(text, width, height), (usual,))

    @cached_property
    def finish(self) -> Finish:
        """How its captions look."""
        return self._held("finish", finish_of, FINISHES[DEFAULT_FINISH])

    @cached_property
    def pace(self) -> Pace:
        """How its captions are grouped and timed."""
        return self._held("pace", pace_of, PACES["quick"])

    @cached_property
    def file_pace(self) -> Pace | None:
        """The same for its caption files."""
        return self._held("file_pace", lambda text: pace_of(text) if text else None, None)

    @cached_property
    def standing(self) -> Standing:
        """What stands for speakers and spellings."""
        return self._held("standing", standing_of, NOTHING)

    @cached_property
    def layers(self) -> Layers:
        """What lies over its picture."""
        return self._held("layers", layers_of, layers_of(""))

    @cached_property
    def outputs(self) -> Outputs:
        """What it is delivered as."""
        return self._held("outputs", outputs_of, USUAL_OUTPUTS)

    @cached_property
    def post(self) -> Post:
        """What is written beside it."""
        return self._held("post", post_of, Post())

    @property
    def unreadable(self) -> tuple[str, ...]:
        """What has the usual in its stead, in words."""
        for column in COLUMNS:
            getattr(self, column)
        return tuple(name for column, name in COLUMNS.items() if column in self._lost)

    def _held(self, column: str, read: Callable[[str], T], usual: T) -> T:
        try:
            return read(self._row[column])
        except (ValueError, TypeError, KeyError, MortiserError):
            self._lost.add(column)
            return usual


def _side(side: int) -> int:
    return max(2, min(side, MOST_SIDE))
