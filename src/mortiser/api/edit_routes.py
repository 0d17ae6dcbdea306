"""Edits of a project: made, taken back, made again, caught up with."""

from __future__ import annotations

from pydantic import BaseModel, Field

from mortiser.api import schemas
from mortiser.api.context import OpenContext
from mortiser.api.routing import routes
from mortiser.core.common.errors import Stale
from mortiser.core.common.limits import Id
from mortiser.core.edits.commands import AskedEdit
from mortiser.core.edits.cutting.microphone import MoveMicrophone
from mortiser.core.edits.look.settings import ChangeFinish, SetFinish
from mortiser.store import editing, finishes, journal, projects

router = routes("/api/projects", "projects")
MOST_PAST = 100
"""How many edits are listed to go back to."""


class PastView(BaseModel):
    undone: list[str] = Field(description="Taken back, the one taken back first of all first.")
    done: list[str] = Field(description="Newest first.")


class EditRequest(BaseModel):
    base_revision: Id
    edit: AskedEdit
    goes_on: bool = Field(
        default=False,
        description="One more step of the same dragging: undone together with the newest edit.",
    )


@router.get("/{project_id}/history")
def past_edits(project_id: Id, context: OpenContext) -> PastView:
    """The edits that were made, newest first, and those taken back."""
    with context.database.snapshot() as db:
        projects.read_project(db, project_id)
        undone, done = journal.past(db, project_id, MOST_PAST)
    return PastView(undone=undone, done=done)


@router.post("/{project_id}/edits")
def apply_edit(project_id: Id, request: EditRequest, context: OpenContext) -> schemas.EditAnswer:
    """Make one edit against a revision; the answer has only what changed."""
    made = editing.apply(
        context.database, project_id, request.base_revision, request.edit, goes_on=request.goes_on
    )
    if isinstance(request.edit, SetFinish | ChangeFinish):
        piece = projects.piece(context.database.connection, request.edit.piece_id)
        finishes.note_used(context.database, piece.settings.finish)
    if isinstance(request.edit, MoveMicrophone):
        context.lay_sounds(project_id)
    return schemas.EditAnswer.of(context.typed_words.follow(project_id, made))


@router.get("/{project_id}/changes")
def catch_up(project_id: Id, context: OpenContext, since: Id) -> schemas.EditAnswer:
    """All that was changed after a revision, as it is now. What is too long ago is stale."""
    found = editing.catch_up(context.database, project_id, since)
    if found is None:
        raise Stale("Too much has changed since. The whole project is being loaded.")
    return schemas.EditAnswer.of(found)


@router.post("/{project_id}/undo")
def undo(project_id: Id, request: schemas.StepRequest, context: OpenContext) -> schemas.EditAnswer:
    """Take the newest edit back."""
    made = editing.undo(context.database, project_id, request.base_revision)
    context.lay_sounds(project_id)
    return schemas.EditAnswer.of(context.typed_words.follow(project_id, made))


@router.post("/{project_id}/redo")
def redo(project_id: Id, request: schemas.StepRequest, context: OpenContext) -> schemas.EditAnswer:
    """Make the last undone edit again."""
    made = editing.redo(context.database, project_id, request.base_revision)
    context.lay_sounds(project_id)
    return schemas.EditAnswer.of(context.typed_words.follow(project_id, made))
