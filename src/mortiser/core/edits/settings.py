"""Edits of the project and its pieces as wholes."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.desk import Desk
from mortiser.core.errors import BadInput
from mortiser.core.finish.builtin import FINISHES


class SetFinish(BaseEdit):
    """Give the whole piece another finish."""

    kind: Literal["set_finish"] = "set_finish"
    piece_id: int
    finish: str

    def label(self, desk: Desk) -> str:
        return f"finish {self.finish}"

    def apply(self, desk: Desk) -> None:
        if self.finish not in FINISHES:
            raise BadInput(f"There is no finish “{self.finish}”. Try {', '.join(FINISHES)}.")
        desk.set_finish(self.piece_id, self.finish)


class RenameProject(BaseEdit):
    """Give the project another name."""

    kind: Literal["rename_project"] = "rename_project"
    name: str = Field(min_length=1, max_length=120)

    def label(self, desk: Desk) -> str:
        return "rename project"

    def apply(self, desk: Desk) -> None:
        if not self.name.strip():
            raise BadInput("A project needs a name.")
        desk.rename_project(self.name.strip())
