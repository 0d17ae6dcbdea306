"""Edits of the project and its pieces as wholes."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from pydantic import Field, JsonValue

from mortiser.core.common.errors import BadInput
from mortiser.core.common.limits import Id, Name
from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.session import EditSession
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.style.finish.changes import changed
from mortiser.core.style.finish.model import Finish


class SetFinish(BaseEdit):
    """Give the whole piece another finish: a built-in one by its name, or any as a value."""

    kind: Literal["set_finish"] = "set_finish"
    piece_id: Id
    finish: Name | Finish

    def label(self, session: EditSession) -> str:
        return f"finish {self.finish if isinstance(self.finish, str) else self.finish.name}"

    def apply(self, session: EditSession) -> None:
        finish = FINISHES.get(self.finish) if isinstance(self.finish, str) else self.finish
        if finish is None:
            raise BadInput(f"There is no finish “{self.finish}”. Try {', '.join(FINISHES)}.")
        session.save_settings(
            self.piece_id, replace(session.settings(self.piece_id), finish=finish)
        )


class ChangeFinish(BaseEdit):
    """Set some values of the piece's finish, by their dotted paths: ``{"shadow.blur": 0.2}``."""

    kind: Literal["change_finish"] = "change_finish"
    piece_id: Id
    changes: dict[str, JsonValue] = Field(min_length=1, max_length=60)

    def label(self, session: EditSession) -> str:
        return f"finish: {setting_name(next(iter(self.changes)))}"

    def apply(self, session: EditSession) -> None:
        was = session.settings(self.piece_id)
        now = replace(was, finish=changed(was.finish, self.changes))
        session.save_settings(self.piece_id, now)


def setting_name(path: str) -> str:
    """A dotted path as somebody would say it."""
    steps = [step.replace("_", " ") for step in path.split(".") if not step.isdecimal()]
    return " ".join(steps)


class RenameProject(BaseEdit):
    """Give the project another name."""

    kind: Literal["rename_project"] = "rename_project"
    name: str = Field(min_length=1, max_length=120)

    def label(self, session: EditSession) -> str:
        return "rename project"

    def apply(self, session: EditSession) -> None:
        if not self.name.strip():
            raise BadInput("A project needs a name.")
        session.rename_project(self.name.strip())
