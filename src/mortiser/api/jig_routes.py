"""Jigs: kept, forgotten, taken to another workspace and back."""

from __future__ import annotations

from fastapi import Request, Response
from pydantic import BaseModel, Field

from mortiser.api.attachments import attachment
from mortiser.api.bodies import in_time, small_body
from mortiser.api.context import OpenContext
from mortiser.api.routing import routes
from mortiser.core.common.limits import Id
from mortiser.core.delivery.naming import file_stem
from mortiser.core.edits.look.jigs import ApplyJig
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.project.jig import JIGS, SUNG, Jig, jig_of, read_jig, write_jig
from mortiser.media.probe import tags
from mortiser.store import editing, jigs, projects

router = routes("/api", "jigs")
LARGEST = 1024**2


class JigView(BaseModel):
    id: int | None = Field(description="None for a built-in one.")
    jig: Jig


class JigBody(BaseModel):
    name: str = Field(max_length=200)


@router.get("/jigs")
def list_jigs(context: OpenContext) -> list[JigView]:
    """The workspace's own jigs, then the built-in ones."""
    own = [JigView(id=id_, jig=jig) for id_, jig in jigs.saved(context.database.connection)]
    return [*own, *(JigView(id=None, jig=jig) for jig in JIGS)]


@router.post("/pieces/{piece_id}/jig", status_code=201)
def save_jig(piece_id: Id, body: JigBody, context: OpenContext) -> JigView:
    """Keep how a piece is made under a name, in the place of a jig of that name."""
    piece = projects.piece(context.database.connection, piece_id)
    jig = jig_of(body.name, piece)
    return JigView(id=jigs.save(context.database, jig), jig=jig)


@router.post("/projects/{project_id}/cover", status_code=204)
def use_cover(project_id: Id, cover: OwnPicture, context: OpenContext) -> None:
    """Show a song beside its cover, title and performer first: the project's own, or as its file says."""
    db = context.database.connection
    piece = projects.chosen_piece(db, project_id)
    source = projects.read_source(db, piece.source_id)
    title, performer = tags(context.workspace.path(source.path))
    edit = ApplyJig(
        piece_id=piece.id,
        jig=SUNG,
        texts=[title or piece.settings.name, performer],
        pictures=[cover],
    )
    editing.apply(
        context.database, project_id, projects.read_project(db, project_id).revision, edit
    )


@router.delete("/jigs/{jig_id}", status_code=204)
def remove_jig(jig_id: Id, context: OpenContext) -> None:
    """Forget a saved jig; pieces made with it stay as they are."""
    jigs.remove(context.database, jig_id)


@router.get("/jigs/{jig_id}/file", response_class=Response)
def export_jig(jig_id: Id, context: OpenContext) -> Response:
    """A saved jig as a file."""
    jig = jigs.get(context.database.connection, jig_id)
    headers = attachment(f"{file_stem(jig.name)}.jig.json")
    return Response(write_jig(jig), media_type="application/json", headers=headers)


@router.post("/jigs/file", status_code=201)
async def import_jig(request: Request, context: OpenContext) -> JigView:
    """Keep the jig of a file, in the place of one of its name."""
    data = await small_body(request, LARGEST)

    def taken_in() -> JigView:
        jig = read_jig(data)
        return JigView(id=jigs.save(context.database, jig), jig=jig)

    return await in_time(taken_in)
