"""Pieces: captions, scene, caption files, deliveries, jobs."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated

from fastapi import Query, Response
from fastapi.responses import JSONResponse
from pydantic import BaseModel, Field, ValidationError

from mortiser.api import schemas
from mortiser.api.attachments import attachment
from mortiser.api.context import OpenContext
from mortiser.api.routing import routes
from mortiser.api.scene_schemas import SceneView
from mortiser.api.schemas import OneShape
from mortiser.core.captions.tapping import reaction_delay
from mortiser.core.common.errors import NotFound
from mortiser.core.common.limits import Id, Micros, Name
from mortiser.core.delivery.naming import file_stem
from mortiser.core.framing.frame import even_size
from mortiser.core.project.output import TextFile
from mortiser.core.project.text_forms import TEXT_FORMS
from mortiser.core.scene import build_scene, scene_json
from mortiser.core.scene.layered import layer_readers
from mortiser.core.scene.waves import LONGEST_US, NOT_HEARD
from mortiser.core.transcript import search
from mortiser.fonts import font_book
from mortiser.jobs.preparing import peaks_files
from mortiser.media.peaks import piece_sound
from mortiser.outputs.captions import caption_text
from mortiser.store import finishes, projects
from mortiser.wiring import known_engines

router = routes("/api", "pieces")


class DelayView(BaseModel):
    delay_us: int


class EngineView(BaseModel):
    name: str
    about: str
    languages: list[str]
    trouble: str | None = Field(description="Why it cannot be used, if so.")


class MatchView(BaseModel):
    cue_id: int
    start_us: int = Field(description="Where its first word starts, in source time.")
    word_ids: list[int]


class MomentView(BaseModel):
    at_us: int


class TapsBody(BaseModel):
    clicks_us: list[Micros] = Field(max_length=100)
    taps_us: list[Micros] = Field(max_length=200)


@router.get("/engines")
def engines(context: OpenContext) -> list[EngineView]:
    """The speech engines on this machine and the languages they know."""
    return [
        EngineView(
            name=engine.name,
            about=engine.about,
            languages=list(engine.languages),
            trouble=engine.trouble,
        )
        for engine in known_engines(context.settings)
    ]


@router.post("/tapping/delay")
def measure_delay(taps: TapsBody) -> DelayView:
    """How late somebody taps, from taps along with clicks."""
    return DelayView(delay_us=reaction_delay(taps.clicks_us, taps.taps_us))


@router.get("/pieces/{piece_id}/cues")
def cues(piece_id: Id, context: OpenContext, from_us: Micros = 0) -> list[schemas.CueView]:
    """The captions that end after a moment, in time order."""
    with context.database.snapshot() as db:
        end = projects.piece(db, piece_id).timeline.duration_us + 1
        found = projects.window_cues(db, piece_id, from_us, max(end, from_us + 1))
    return [schemas.CueView.of(cue) for cue in found]


@router.get("/pieces/{piece_id}/find")
def find(
    piece_id: Id,
    context: OpenContext,
    text: Annotated[str, Query(max_length=200)],
    whole_words: bool = False,
    match_case: bool = False,
) -> list[MatchView]:
    """Every place of a text in the captions, in order."""
    with context.database.snapshot() as db:
        projects.piece(db, piece_id)
        found = projects.piece_cues(db, piece_id)
    owners = [(cue, word) for cue in found for word in cue.words]
    return [
        MatchView(
            cue_id=owners[match.first][0].id,
            start_us=owners[match.first][1].start_us,
            word_ids=[word.id for _, word in owners[match.first : match.last + 1]],
        )
        for match in search.find(found, text, whole_words=whole_words, match_case=match_case)
    ]


@router.get("/pieces/{piece_id}/scene", response_model=SceneView)
def scene(
    piece_id: Id,
    context: OpenContext,
    from_us: Micros,
    to_us: Annotated[Micros, Query(gt=0)],
    finish: Name | None = None,
    shape_id: OneShape = None,
) -> JSONResponse:
    """The scene of a window of the piece (see core.scene), in its finish or in another to try."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id).in_shape(shape_id)
        found = projects.shown_cues(db, piece, from_us, to_us)
        look = finishes.named(db, finish) if finish else piece.worn
        said = projects.piece_cues(db, piece_id) if piece.layers_follow_captions else []
        rows = projects.read_sources(db, piece.project_id) if piece.draws_sound else []
    size = even_size(*piece.size)
    built = build_scene(found, look, size, font_book())
    if not finish:
        heard = NOT_HEARD
        if piece.draws_sound:
            around = max(0, from_us - LONGEST_US), to_us + LONGEST_US
            heard = piece_sound(
                peaks_files(context.workspace, piece, rows), piece.timeline, *around
            )
        readers = layer_readers(piece, said, size, font_book(), heard)
        layers = [one for reader in readers for one in reader.between(from_us, to_us)]
        built = replace(built, cues=(*layers, *built.cues))
    # Sent as it is: checking the largest answer there is took longer than making it.
    return JSONResponse(scene_json(built))


@router.get("/cues/{cue_id}/whole")
def whole_moment(cue_id: Id, context: OpenContext, shape_id: OneShape = None) -> MomentView:
    """The first moment at which all of a caption stands, its entrance over."""
    with context.database.snapshot() as db:
        cue = projects.cue(db, cue_id)
        piece = projects.piece(db, cue.piece_id).in_shape(shape_id)
        found = projects.shown_cues(db, piece, cue.start_us, cue.end_us)
    size = even_size(*piece.size)
    built = build_scene(found, piece.worn, size, font_book())
    return MomentView(at_us=next(one.whole_us for one in built.cues if one.id == cue_id))


@router.get("/pieces/{piece_id}/captions.{ending}", response_class=Response)
def captions(piece_id: Id, ending: Name, context: OpenContext) -> Response:
    """The captions as a file: srt, vtt, ass, ttml, txt, csv or json."""
    try:
        wanted = TextFile.model_validate({"form": ending})
    except ValidationError:
        raise NotFound(
            f"There is no caption format “{ending}”. Try {', '.join(TEXT_FORMS)}."
        ) from None
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id).in_shape()
        found = projects.piece_cues(db, piece_id)
        name = file_stem(projects.read_project(db, piece.project_id).name)
        first = projects.read_source(db, piece.timeline.clips[0].source_id)
    return Response(
        caption_text(wanted, found, piece, language=first.language),
        media_type=f"{TEXT_FORMS[ending].media_type}; charset=utf-8",
        headers=attachment(f"{name}.{ending}"),
    )
