"""What captions are dressed with: finishes, emoji, fonts; and a still of any moment."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated

from fastapi import Path, Query, Request, Response
from pydantic import BaseModel, ConfigDict, Field

from mortiser.apart import done_apart
from mortiser.api.attachments import attachment
from mortiser.api.bodies import in_time, small_body
from mortiser.api.context import OpenContext
from mortiser.api.routing import routes
from mortiser.api.schemas import OneShape
from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.common.limits import Id, Micros, Name
from mortiser.core.delivery.naming import file_stem
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.stored import read_finishes, write_finishes
from mortiser.core.style.suggesting import suggest
from mortiser.emoji import LARGEST_SIDE, emoji_png, emoji_to_choose, find_emoji
from mortiser.fonts import font_book, own, shipped
from mortiser.outputs.plans import painted, plan_of
from mortiser.store import deliveries, finishes, palette, projects
from mortiser.wiring import still

router = routes("/api", "dress")
FOR_EVER = {"Cache-Control": "public, max-age=31536000, immutable"}
MOST_FOUND = 120
LARGEST_FINISHES = 2 * 1024**2


class FinishView(BaseModel):
    id: int | None = Field(description="None for a built-in one.")
    finish: Finish
    default: bool = Field(default=False, description="Whether new pieces begin with it.")


class FinishBody(BaseModel):
    name: str = Field(max_length=200)
    finish: Finish


class FinishChange(BaseModel):
    name: str | None = Field(default=None, max_length=200)
    finish: Finish | None = None


class DefaultBody(BaseModel):
    finish: Finish | None = Field(description="None for the one used last.")


class FamilyView(BaseModel):
    name: str
    weights: list[int]
    own: bool


class ColourBody(BaseModel):
    colour: str = Field(pattern=r"^#[0-9a-fA-F]{6}$")


class SuggestionView(BaseModel):
    model_config = ConfigDict(from_attributes=True)

    cue_id: Id
    word_id: Id
    text: str
    reason: str


class EmojiView(BaseModel):
    text: str
    name: str
    code: str = Field(description="Code points in hexadecimal, as its picture is asked for.")
    group: int


@router.get("/finishes")
def list_finishes(context: OpenContext) -> list[FinishView]:
    """The workspace's own finishes, then the built-in ones."""
    db = context.database.connection
    chosen = finishes.default(db)
    kept = finishes.saved(db)
    whole = [*kept, *((None, finish) for finish in FINISHES.values())]
    return [FinishView(id=id_, finish=one, default=one == chosen) for id_, one in whole]


@router.post("/finishes", status_code=201)
def save_finish(body: FinishBody, context: OpenContext) -> FinishView:
    """Keep a finish under a new name."""
    id_, finish = finishes.add(context.database, body.name, body.finish)
    return FinishView(id=id_, finish=finish)


@router.put("/finishes/{finish_id}")
def change_finish(finish_id: Id, body: FinishChange, context: OpenContext) -> FinishView:
    """Rename a saved finish, or put another look in its place; pieces keep the look they have."""
    changed = finishes.change(context.database, finish_id, body.name, body.finish)
    return FinishView(id=finish_id, finish=changed)


@router.delete("/finishes/{finish_id}", status_code=204)
def remove_finish(finish_id: Id, context: OpenContext) -> None:
    """Forget a saved finish; pieces that have it keep it."""
    finishes.remove(context.database, finish_id)


@router.put("/default-finish", status_code=204)
def choose_default(body: DefaultBody, context: OpenContext) -> None:
    """Choose what new pieces begin with."""
    finishes.set_default(context.database, body.finish)


@router.get("/finishes/file", response_class=Response)
def export_finishes(
    context: OpenContext, name: Annotated[list[Name] | None, Query(max_length=200)] = None
) -> Response:
    """Finishes as a file: those named, else all of the workspace's own."""
    db = context.database.connection
    kept = [finish for _, finish in finishes.saved(db)]
    chosen = [finishes.named(db, one) for one in name] if name else kept
    if not chosen:
        raise NotFound("There is no finish of your own to export yet. Save one first.")
    return Response(
        write_finishes(chosen),
        media_type="application/json",
        headers=attachment("finishes.json"),
    )


@router.post("/finishes/file", status_code=201)
async def import_finishes(request: Request, context: OpenContext) -> list[FinishView]:
    """Keep the finishes of a file; a name that is taken gets a number."""
    data = await small_body(request, LARGEST_FINISHES)

    def taken_in() -> list[FinishView]:
        kept = finishes.add_all(context.database, read_finishes(data))
        return [FinishView(id=id_, finish=finish) for id_, finish in kept]

    return await in_time(taken_in)


@router.get("/pieces/{piece_id}/suggestions")
def suggestions(
    piece_id: Id, context: OpenContext, density: Annotated[float, Query(ge=0, le=0.5)] = 0.1
) -> list[SuggestionView]:
    """Words worth an accent, with the reason; ``density`` is about how many of all words."""
    with context.database.snapshot() as db:
        projects.piece(db, piece_id)
        cues = projects.piece_cues(db, piece_id)
    return [SuggestionView.model_validate(one) for one in suggest(cues, density)]


@router.get("/pieces/{piece_id}/still.png", response_class=Response)
def read_still(
    piece_id: Id, context: OpenContext, at_us: Micros, shape_id: OneShape = None
) -> Response:
    """The frame that shows at a moment, with its captions, as the delivery has it."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id).in_shape(shape_id)
        at_us = min(at_us, piece.timeline.duration_us - 1)
        found = (
            painted(piece, projects.piece_cues(db, piece_id))
            if piece.layers_follow_captions
            else projects.shown_cues(db, piece, at_us, at_us + 1)
        )
        sources = deliveries.ordered_sources(db, piece.project_id)
    plan = plan_of(piece, found, sources, context.workspace.path)
    data = still(plan, at_us)
    name = file_stem(projects.read_project(context.database.connection, piece.project_id).name)
    headers = attachment(f"{name}-{at_us // 1000}.png")
    return Response(data, media_type="image/png", headers=headers)


@router.get("/fonts")
def fonts() -> list[FamilyView]:
    """The font families at hand."""
    families = font_book().families.items()
    return [
        FamilyView(name=name, weights=list(weights), own=name not in shipped())
        for name, weights in families
    ]


@router.post("/fonts", status_code=201)
async def add_font(request: Request, context: OpenContext) -> FamilyView:
    """Add a TTF or OTF file of one's own; it is checked and cleaned first."""
    data = await small_body(request, own.LARGEST)

    def taken_in() -> FamilyView:
        font = done_apart(own.checked, data)
        if font.family in shipped():
            font = replace(font, family=f"{font.family} (own)")
        own.add(context.workspace.fonts, font)
        weights = font_book().families[font.family]
        return FamilyView(name=font.family, weights=list(weights), own=True)

    return await in_time(taken_in)


@router.delete("/fonts", status_code=204)
def remove_font(family: Name, context: OpenContext) -> None:
    """Forget a family of one's own (as a value: names may hold any signs); looks fall back."""
    own.remove(context.workspace.fonts, family)


@router.get("/emoji")
def emoji(find: Annotated[str, Query(max_length=60)] = "") -> list[EmojiView]:
    """Emoji to choose from: found by their names, or the first of each group."""
    found = find_emoji(find) if find.strip() else emoji_to_choose()
    return [
        EmojiView(text=one.text, name=one.name, code=_code(one.text), group=one.group)
        for one in found[:MOST_FOUND]
    ]


@router.get("/emoji/{code}/{side}.png", response_class=Response)
def emoji_picture(code: Name, side: Annotated[int, Path(ge=1, le=LARGEST_SIDE)]) -> Response:
    """The picture of an emoji: its code points in hexadecimal, and its side in pixels."""
    try:
        text = "".join(chr(int(part, 16)) for part in code.split("-"))
    except (ValueError, OverflowError) as error:
        raise BadInput(
            f"“{code}” is no emoji: write code points as 1f9f5 or 270b-1f3fd."
        ) from error
    return Response(emoji_png(text, side), media_type="image/png", headers=FOR_EVER)


def _code(text: str) -> str:
    return "-".join(f"{ord(ch):x}" for ch in text if ch != "\ufe0f")


@router.get("/palette")
def list_palette(context: OpenContext) -> list[str]:
    """The colours that the workspace keeps, as #rrggbb."""
    return palette.colours(context.database.connection)


@router.post("/palette", status_code=204)
def keep_colour(body: ColourBody, context: OpenContext) -> None:
    """Keep a colour for every project."""
    palette.keep(context.database, body.colour)


@router.delete("/palette/{colour}", status_code=204)
def forget_colour(
    colour: Annotated[str, Path(pattern=r"^[0-9a-fA-F]{6}$")], context: OpenContext
) -> None:
    """Take a colour (six digits, without #) out of the palette."""
    palette.forget(context.database, f"#{colour}")
