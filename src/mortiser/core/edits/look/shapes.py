"""Edits of the shapes of a piece."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Literal

from pydantic import Field, JsonValue

from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.common.limits import Id
from mortiser.core.editing.timeline import Clip
from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.look.settings import setting_name
from mortiser.core.edits.session import EditSession
from mortiser.core.framing.shape import (
    LARGEST,
    MOST_SHAPES,
    SMALLEST,
    Backdrop,
    Fit,
    Framing,
    Shape,
    shape_word,
)
from mortiser.core.style.finish.changes import changed

MUCH_WIDER = 2.2
"""A frame that is so much wider than its picture would show no more than two fifths of its height."""


class ShapeEdit(BaseEdit):
    """An edit of one shape of a piece."""

    piece_id: Id
    shape_id: Id


class AddShape(BaseEdit):
    """Show the piece in one more shape, with the face in it."""

    kind: Literal["add_shape"] = "add_shape"
    piece_id: Id
    width: int = Field(ge=SMALLEST, le=LARGEST)
    height: int = Field(ge=SMALLEST, le=LARGEST)

    def label(self, session: EditSession) -> str:
        return f"add shape {shape_word(*self._size)}"

    @property
    def _size(self) -> tuple[int, int]:
        return self.width & ~1, self.height & ~1

    def _fit(self, session: EditSession) -> Fit:
        """Pictures fill the frame, unless it is so much wider that a face would fill it too."""
        picture = first_picture(session, session.timeline(self.piece_id).clips)
        if picture is None:
            return "fill"
        wider = (self._size[0] / self._size[1]) / (picture[0] / picture[1])
        return "whole" if wider > MUCH_WIDER else "fill"

    def apply(self, session: EditSession) -> None:
        was = session.settings(self.piece_id)
        if any(one.size == self._size for one in was.shapes):
            raise BadInput(f"The piece has a shape of {self._size[0]} × {self._size[1]} already.")
        if len(was.shapes) >= MOST_SHAPES:
            raise BadInput(f"A piece has {MOST_SHAPES} shapes at most. Take one away first.")
        fresh = Shape(
            id=max(one.id for one in was.shapes) + 1,
            width=self._size[0],
            height=self._size[1],
            framing=Framing(fit=self._fit(session), follow="calm"),
        )
        session.save_settings(self.piece_id, replace(was, shapes=(*was.shapes, fresh)))


class DropShape(ShapeEdit):
    """Show the piece in one shape less."""

    kind: Literal["drop_shape"] = "drop_shape"

    def label(self, session: EditSession) -> str:
        return f"take shape {shape_word(*shape_of(session, self).size)} away"

    def apply(self, session: EditSession) -> None:
        shape_of(session, self)
        was = session.settings(self.piece_id)
        left = tuple(one for one in was.shapes if one.id != self.shape_id)
        if not left:
            raise BadInput("A piece has a shape at least. Add another one first.")
        session.save_settings(self.piece_id, replace(was, shapes=left))


class ResizeShape(ShapeEdit):
    """Give a shape another size."""

    kind: Literal["resize_shape"] = "resize_shape"
    width: int = Field(ge=SMALLEST, le=LARGEST)
    height: int = Field(ge=SMALLEST, le=LARGEST)

    def label(self, session: EditSession) -> str:
        return f"size {self.width} × {self.height}"

    def apply(self, session: EditSession) -> None:
        size = self.width & ~1, self.height & ~1
        others = [one for one in session.settings(self.piece_id).shapes if one.id != self.shape_id]
        if any(one.size == size for one in others):
            raise BadInput(f"The piece has a shape of {size[0]} × {size[1]} already.")
        change_shape(session, self, {"width": size[0], "height": size[1]})


class SetBackdrop(ShapeEdit):
    """What lies behind pictures that do not cover the frame."""

    kind: Literal["set_backdrop"] = "set_backdrop"
    backdrop: Backdrop

    def label(self, session: EditSession) -> str:
        return f"backdrop: {self.backdrop.kind}"

    def apply(self, session: EditSession) -> None:
        change_shape(session, self, {"backdrop": self.backdrop})


class DressShape(ShapeEdit):
    """Set how captions look in one shape alone, by dotted paths: null goes back to the finish, no paths at
    all go back altogether."""

    kind: Literal["dress_shape"] = "dress_shape"
    changes: dict[str, JsonValue] = Field(max_length=60)

    def label(self, session: EditSession) -> str:
        where = f"in {shape_word(*shape_of(session, self).size)}"
        if not self.changes:
            return f"captions {where} back to finish"
        return f"{setting_name(next(iter(self.changes)))} {where}"

    def apply(self, session: EditSession) -> None:
        whole = {**shape_of(session, self).look, **self.changes} if self.changes else {}
        look = {path: value for path, value in whole.items() if value is not None}
        changed(session.settings(self.piece_id).finish, look)
        change_shape(session, self, {"look": look})


def first_picture(session: EditSession, clips: Sequence[Clip]) -> tuple[int, int] | None:
    """The size of the first picture that clips show; None without any."""
    sources = dict.fromkeys(clip.source_id for clip in clips)
    return next(filter(None, map(session.picture, sources)), None)


def shape_of(session: EditSession, edit: ShapeEdit) -> Shape:
    """The shape an edit is about. Raises NotFound."""
    for one in session.settings(edit.piece_id).shapes:
        if one.id == edit.shape_id:
            return one
    raise NotFound("That shape is not there any more. The page shows the newest state.")


def change_shape(session: EditSession, edit: ShapeEdit, values: dict[str, object]) -> None:
    """Set values of the shape an edit is about. Raises NotFound."""
    shape_of(session, edit)
    was = session.settings(edit.piece_id)
    shapes = tuple(
        one.model_copy(update=values) if one.id == edit.shape_id else one for one in was.shapes
    )
    session.save_settings(edit.piece_id, replace(was, shapes=shapes))
