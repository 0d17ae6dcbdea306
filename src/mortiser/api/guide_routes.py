"""Guides, and the captions that are in the way in a shape."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated

from fastapi import Query
from pydantic import BaseModel, ConfigDict, Field

from mortiser.api.context import OpenContext
from mortiser.api.routing import routes
from mortiser.api.schemas import OneShape
from mortiser.core.common.limits import Id, Name
from mortiser.core.framing.frame import even_size
from mortiser.core.framing.guides import MOST_GUIDES, Guide
from mortiser.core.framing.shape import shape_word
from mortiser.core.scene.layered import layer_readers
from mortiser.core.scene.overlap_checks import Kind, PlacedCaptions, layers_in_the_way
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.layout.caption_lines import lay_out_all
from mortiser.core.style.layout.rect import Rect
from mortiser.core.transcript.words import Cue
from mortiser.fonts import font_book
from mortiser.store import guides, projects, subjects

router = routes("/api", "guides")


class GuidesBody(BaseModel):
    guides: list[Guide] = Field(max_length=MOST_GUIDES)


class TroubleView(BaseModel):
    model_config = ConfigDict(from_attributes=True)

    kind: Kind
    cue_id: Id
    at_us: int
    about: str
    alone: dict[str, float] | None = Field(
        description="Settings that were tried and help this caption alone, in all shapes."
    )


class LayerTroubleView(BaseModel):
    model_config = ConfigDict(from_attributes=True)

    kind: Kind
    layer_id: Id
    at_us: int
    about: str
    y: float | None = Field(description="Another height where nothing is the matter.")


class HelpView(BaseModel):
    model_config = ConfigDict(from_attributes=True)

    changes: dict[str, float] = Field(description="Settings of captions in this shape.")
    left: int = Field(description="How many captions would still be in the way.")


class InTheWayView(BaseModel):
    troubles: list[TroubleView]
    layers: list[LayerTroubleView]
    help: HelpView | None


@router.get("/guides")
def list_guides(context: OpenContext) -> list[Guide]:
    """The guides of the workspace."""
    return list(guides.all_of(context.database.connection))


@router.put("/guides")
def keep_guides(body: GuidesBody, context: OpenContext) -> list[Guide]:
    """Have these guides from now on."""
    guides.keep(context.database, tuple(body.guides))
    return body.guides


@router.delete("/guides")
def reset_guides(context: OpenContext) -> list[Guide]:
    """Go back to the guides that there are at the beginning."""
    guides.keep(context.database, None)
    return list(guides.all_of(context.database.connection))


@router.get("/pieces/{piece_id}/in-the-way")
def in_the_way(
    piece_id: Id,
    context: OpenContext,
    shape_id: OneShape = None,
    guide: Annotated[Name, Query(description="The guide that counts; none without a name.")] = "",
) -> InTheWayView:
    """The captions that lie under a guide, over a face or too near the edge, and what would help."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id).in_shape(shape_id)
        said = projects.piece_cues(db, piece_id)
        cues = piece.settings.standing.shown(said)
        faces = subjects.of_sources(db, piece.facts.pictures.keys())
        known = guides.all_of(db)
    size = even_size(*piece.size)
    areas = [
        area
        for one in known
        if one.name == guide and one.shape == shape_word(*size)
        for area in one.areas
    ]

    def reaches(shown: Sequence[Cue], finish: Finish) -> list[Rect]:
        return [one.reach for one in lay_out_all(shown, finish, size, font_book())]

    placed = PlacedCaptions(piece, cues, areas, faces, reaches)
    found = placed.troubles()
    help_ = placed.helped() if found else None
    return InTheWayView(
        troubles=[TroubleView.model_validate(one) for one in found],
        layers=[
            LayerTroubleView.model_validate(one)
            for one in layers_in_the_way(
                layer_readers(piece, said, size, font_book()), areas, faces
            )
        ],
        help=HelpView.model_validate(help_) if help_ else None,
    )
