"""What happens at the cuts of a piece, and what could."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from functools import partial
from typing import Annotated

from fastapi import Query, Response
from pydantic import BaseModel, ConfigDict, Field

from mortiser.api.context import OpenContext
from mortiser.api.routing import routes
from mortiser.api.schemas import OneShape
from mortiser.core.assembly.cutaway import PictureSeen, RecordingSeen, Seen
from mortiser.core.assembly.grade import GRADES, PLAIN
from mortiser.core.assembly.ideas import Named, asked_for, ideas, named_ideas, uncovered
from mortiser.core.assembly.joining import cuts
from mortiser.core.assembly.transition import TRANSITION_NAMES, Transition, TransitionKind
from mortiser.core.common.errors import MortiserError
from mortiser.core.common.limits import Id, Micros
from mortiser.jobs.fetching import OWN
from mortiser.outputs.plans import plan_of
from mortiser.store import deliveries, pictures, projects, transcript
from mortiser.wiring import AppContext, grade_sheet, transition_sheet

router = routes("/api", "assembly")
MOVING: tuple[TransitionKind, ...] = tuple(
    one.kind for one in TRANSITION_NAMES if one.kind != "picture"
)
"""Those that can be shown without a picture of the user's own, in the order of their rows."""


Digest = Annotated[
    str,
    Query(max_length=500, description="Of what is seen: another picture, once that is another."),
]


class CutView(BaseModel):
    at_us: int = Field(description="Where in the piece.")
    transition: Transition | None = Field(description="None for a plain cut.")
    own: bool = Field(description="Whether that was set for this cut alone.")
    lasts_us: int = Field(
        description="How long it is seen; less than it says where clips are short."
    )


@router.get("/pieces/{piece_id}/cuts")
def read_cuts(piece_id: Id, context: OpenContext) -> list[CutView]:
    """The cuts of a piece in order, and what happens there."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id)
    return [
        CutView(
            at_us=one.after.at_us,
            transition=one.transition,
            own=one.own,
            lasts_us=2 * one.half_us,
        )
        for one in cuts(piece.timeline, piece.settings.joins)
    ]


class IdeaView(BaseModel):
    model_config = ConfigDict(from_attributes=True)

    cue_id: int
    at_us: int
    text: str
    reason: str
    seen: Seen | None = Field(description="What could be seen, where that is known.")
    name: str
    library: str = Field(
        description="Where it would be fetched, by its ``ref``; empty where it is here."
    )
    ref: str


@router.get("/pieces/{piece_id}/library-ideas")
def library_ideas(piece_id: Id, context: OpenContext) -> list[IdeaView]:
    """Captions that say what something in a library is called. A library that does not answer has none."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id)
        cues = projects.piece_cues(db, piece_id)
        here = {
            credit.place
            for credit in (
                *(source.credit for source in projects.read_sources(db, piece.project_id)),
                *(credit for _, credit in pictures.credited(db)),
            )
            if credit
        }
    text = asked_for(cues)
    known: list[Named] = []
    for name, library in context.tools.libraries.items():
        if name == OWN or not text:
            continue
        with suppress(MortiserError):
            known += [
                Named(one.name, library=name, ref=one.ref, tags=one.tags)
                for one in library.search(text, ("film", "picture"), 0).found
                if (name, one.ref) not in here
            ]
    free = uncovered(cues, [(one.start_us, one.end_us) for one in piece.covers])
    return [IdeaView.model_validate(one) for one in named_ideas(free, known)]


@router.get("/pieces/{piece_id}/cutaway-ideas")
def cutaway_ideas(piece_id: Id, context: OpenContext, shape_id: OneShape = None) -> list[IdeaView]:
    """Captions that something could be seen over: where a name is said, and where nothing changes for long."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id).in_shape(shape_id)
        cues = projects.piece_cues(db, piece_id)
        named = [
            Named(one.name, PictureSeen(picture=one)) for one in pictures.newest(db) if one.name
        ]
        for source in projects.read_sources(db, piece.project_id):
            if source.width and not transcript.word_count(db, source.id):
                named.append(Named(source.name, RecordingSeen(source_id=source.id)))
    shown = [
        at
        for move in piece.shape.moves
        for at in piece.timeline.showings(move.source_id, move.start_us)
    ]
    found = ideas(
        cues,
        piece.timeline.duration_us,
        [*piece.timeline.cuts, *shown],
        [(one.start_us, one.end_us) for one in piece.covers],
        named,
    )
    return [IdeaView.model_validate(one) for one in found]


@router.get("/pieces/{piece_id}/transitions.jpg", response_class=Response)
def moving_transitions(
    piece_id: Id, context: OpenContext, at_us: Micros, shape_id: OneShape = None, of: Digest = ""
) -> Response:
    """Every transition at a moment of the piece: a row of frames for each kind but that by a picture."""
    del of
    return _sheet(context, piece_id, shape_id, partial(transition_sheet, at_us=at_us, kinds=MOVING))


@router.get("/pieces/{piece_id}/grades.jpg", response_class=Response)
def seen_graded(
    piece_id: Id, context: OpenContext, at_us: Micros, shape_id: OneShape = None, of: Digest = ""
) -> Response:
    """The frame at a moment of the piece as it was recorded, and beside that in each of our grades."""
    del of
    grades = [PLAIN, *GRADES.values()]
    return _sheet(context, piece_id, shape_id, partial(grade_sheet, at_us=at_us, grades=grades))


def _sheet(
    context: AppContext, piece_id: int, shape_id: int | None, draw: Callable[..., bytes]
) -> Response:
    """A picture that is drawn of what is seen of a piece without its captions."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id).in_shape(shape_id)
        sources = deliveries.ordered_sources(db, piece.project_id)
    data = draw(plan_of(piece, [], sources, context.workspace.path, layers=False))
    headers = {"Cache-Control": "private, max-age=3600"}
    return Response(data, media_type="image/jpeg", headers=headers)
