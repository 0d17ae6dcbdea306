"""Make a piece as a jig says."""

from __future__ import annotations

from dataclasses import replace
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
    """Give a piece the shapes, layers, finish, pace, transitions, look and outputs of a jig; what it says, its cuts,
    marks and own looks of captions stay. ``texts`` and ``pictures`` go into the jig's slots, in turn, in place of the
    piece's."""

    kind: Literal["apply_jig"] = "apply_jig"
    piece_id: Id
    jig: Jig
    texts: list[Annotated[str, Field(max_length=400)]] = Field(default=[], max_length=MOST_LAYERS)
    pictures: list[OwnPicture] = Field(default=[], max_length=MOST_LAYERS)

    def label(self, session: EditSession) -> str:
        return f"jig {self.jig.name}"

    def apply(self, session: EditSession) -> None:
        was = session.settings(self.piece_id)
        layers = filled(self.jig.layers, was.layers, was.name, self.texts, self.pictures)
        now = replace(
            was,
            shapes=behind(self.jig.shapes, layers),
            layers=layers,
            finish=self.jig.finish,
            file_pace=self.jig.file_pace,
            joins=self.jig.joins.model_copy(update={"own": was.joins.own}),
            grades=was.grades.model_copy(update={"whole": self.jig.look}),
            outputs=self.jig.outputs,
        )
        session.save_settings(self.piece_id, now)
        if session.pace(self.piece_id) != self.jig.pace:
            SetPace(piece_id=self.piece_id, pace=self.jig.pace).apply(session)
