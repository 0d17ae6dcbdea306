"""Make a piece as a jig says."""

from __future__ import annotations

from typing import Literal

from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.desk import Desk
from mortiser.core.edits.pacing import SetPace
from mortiser.core.jig import Jig, filled
from mortiser.core.limits import Id


class ApplyJig(BaseEdit):
    """Give a piece the shapes, layers, finish and pace of a jig; what it says, its cuts, marks and own looks
    of captions stay."""

    kind: Literal["apply_jig"] = "apply_jig"
    piece_id: Id
    jig: Jig

    def label(self, desk: Desk) -> str:
        return f"jig {self.jig.name}"

    def apply(self, desk: Desk) -> None:
        before = desk.layers(self.piece_id)
        desk.set_shapes(self.piece_id, self.jig.shapes)
        desk.set_layers(
            self.piece_id, filled(self.jig.layers, before, desk.piece_name(self.piece_id))
        )
        desk.set_finish(self.piece_id, self.jig.finish)
        desk.set_file_pace(self.piece_id, self.jig.file_pace)
        if desk.pace(self.piece_id) != self.jig.pace:
            SetPace(piece_id=self.piece_id, pace=self.jig.pace).apply(desk)
