"""Edits of what a piece is delivered as, and of what is written beside it."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.desk import Desk
from mortiser.core.limits import Id
from mortiser.core.output_kinds import ALL_OUTPUTS, OutputKind, in_order
from mortiser.core.post import Post


class SetOutputs(BaseEdit):
    """Say which kinds of files a piece is delivered as."""

    kind: Literal["set_outputs"] = "set_outputs"
    piece_id: Id
    outputs: list[OutputKind] = Field(min_length=1, max_length=len(ALL_OUTPUTS))

    def label(self, desk: Desk) -> str:
        return "files to deliver"

    def apply(self, desk: Desk) -> None:
        desk.set_outputs(self.piece_id, in_order(self.outputs))


class SetPost(BaseEdit):
    """Write the title, the description and the tags that go with a piece."""

    kind: Literal["set_post"] = "set_post"
    piece_id: Id
    post: Post

    def label(self, desk: Desk) -> str:
        return "text for the post"

    def apply(self, desk: Desk) -> None:
        desk.set_post(self.piece_id, self.post)
