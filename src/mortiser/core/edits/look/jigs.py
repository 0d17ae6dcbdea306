"""Make a piece as a jig says."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from mortiser.core.common.limits import Id
from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.captions.pacing import SetPace
from mortiser.core.edits.session import EditSession
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.framing.shape import MOST_LAYERS
from mortiser.core.project.jig import Jig, behind, filled


class ApplyJig(BaseEdit):
    """Give a piece the shapes, layers, finish, pace and outputs of a jig; what it says, its cuts, marks and own looks
    of captions stay. ``texts`` and ``pictures`` go into the jig's slots, in turn, in place of the piece's."""

    kind: Literal["apply_jig"] = "apply_jig"
    piece_id: Id
    jig: Jig
    texts: list[Annotated[str, Field(max_length=400)]] = Field(default=[], max_length=MOST_LAYERS)
    pictures: list[OwnPicture] = Field(default=[], max_length=MOST_LAYERS)

    def label(self, session: EditSession) -> str:
        return f"jig {self.jig.name}"

    def apply(self, session: EditSession) -> None:
        before = session.layers(self.piece_id)
        name = session.piece_name(self.piece_id)
        layers = filled(self.jig.layers, before, name, self.texts, self.pictures)
        session.set_shapes(self.piece_id, behind(self.jig.shapes, layers))
        session.set_layers(self.piece_id, layers)
        session.set_finish(self.piece_id, self.jig.finish)
        session.set_file_pace(self.piece_id, self.jig.file_pace)
        session.set_outputs(self.piece_id, self.jig.outputs)
        if session.pace(self.piece_id) != self.jig.pace:
            SetPace(piece_id=self.piece_id, pace=self.jig.pace).apply(session)
