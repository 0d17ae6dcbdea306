"""Edits of what a piece is delivered as, and of what is written beside it."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from pydantic import Field

from mortiser.core.common.limits import Id
from mortiser.core.delivery.naming import MOST_PATTERN, checked_pattern
from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.session import EditSession
from mortiser.core.project.output import MOST_OUTPUTS, StoredOutput, each_once
from mortiser.core.project.post import Post


class SetOutputs(BaseEdit):
    """Say what a piece is delivered as, and how the files are named (as before where None is said)."""

    kind: Literal["set_outputs"] = "set_outputs"
    piece_id: Id
    outputs: list[StoredOutput] = Field(min_length=1, max_length=MOST_OUTPUTS)
    naming: str | None = Field(default=None, max_length=MOST_PATTERN)

    def label(self, session: EditSession) -> str:
        return "files to deliver"

    def apply(self, session: EditSession) -> None:
        was = session.settings(self.piece_id)
        naming = was.naming if self.naming is None else checked_pattern(self.naming)
        now = replace(was, outputs=each_once(self.outputs), naming=naming)
        session.save_settings(self.piece_id, now)


class SetPost(BaseEdit):
    """Write the title, the description and the tags that go with a piece."""

    kind: Literal["set_post"] = "set_post"
    piece_id: Id
    post: Post

    def label(self, session: EditSession) -> str:
        return "text for the post"

    def apply(self, session: EditSession) -> None:
        session.save_settings(
            self.piece_id, replace(session.settings(self.piece_id), post=self.post)
        )
