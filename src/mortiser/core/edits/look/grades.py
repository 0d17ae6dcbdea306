"""Edits of how pictures look."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from mortiser.core.assembly.grade import PLAIN, Amount, Grade, Strength
from mortiser.core.common.errors import BadInput
from mortiser.core.common.limits import Id
from mortiser.core.edits.base import BaseEdit, short
from mortiser.core.edits.session import EditSession


class GradeChanges(BaseModel):
    """What is set of a grade; the rest stays."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    exposure: float | None = Field(default=None, ge=-2, le=2)
    contrast: Amount | None = None
    shadows: Amount | None = None
    lights: Amount | None = None
    saturation: Amount | None = None
    warmth: Amount | None = None
    tint: Amount | None = None
    grain: Strength | None = None
    vignette: Strength | None = None
    softness: Strength | None = None

    def on(self, grade: Grade) -> Grade:
        """A grade with them."""
        return grade.model_copy(update=self.model_dump(exclude_none=True))


class GradePicture(BaseEdit):
    """Set how the whole picture looks, or a recording in this piece."""

    kind: Literal["grade_picture"] = "grade_picture"
    piece_id: Id
    source_id: Id | None = Field(default=None, description="The whole picture where None.")
    changes: GradeChanges = GradeChanges()
    afresh: bool = Field(default=False, description="Whether all else is as recorded.")

    def label(self, session: EditSession) -> str:
        what = next(iter(self.changes.model_dump(exclude_none=True)), "look")
        if self.source_id is None:
            return f"{what} of the picture"
        return f"{what} of {short(session.source_name(self.source_id))}"

    def apply(self, session: EditSession) -> None:
        was = session.settings(self.piece_id)
        if self.source_id is not None and session.picture(self.source_id) is None:
            raise BadInput(
                f"{session.source_name(self.source_id)} has no picture. Choose another recording."
            )
        grades = was.grades
        old = grades.whole if self.source_id is None else grades.of(self.source_id)
        new = self.changes.on(PLAIN if self.afresh else old)
        if self.source_id is None:
            now = grades.model_copy(update={"whole": new})
        else:
            now = grades.with_source(self.source_id, new)
        session.save_settings(self.piece_id, replace(was, grades=now))
