"""Pieces: captions, scene, caption files, deliveries, jobs."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated

from fastapi import Path, Query, Response
from fastapi.responses import FileResponse, JSONResponse, StreamingResponse
from pydantic import BaseModel, Field

from mortiser.api import schemas
from mortiser.api.attachments import attachment
from mortiser.api.routing import routes
from mortiser.api.scene_schemas import SceneView
from mortiser.api.schemas import OneShape
from mortiser.api.shop import OpenShop
from mortiser.core import search
from mortiser.core.errors import Conflict, NotFound
from mortiser.core.frame import even_size
from mortiser.core.limits import Id, Micros, Name
from mortiser.core.scene import build_scene, scene_json
from mortiser.core.scene.layered import layer_reels
from mortiser.core.scene.waves import LONGEST_US, NOT_HEARD
from mortiser.core.shape import MOST_SHAPES
from mortiser.core.tapping import reaction_delay
from mortiser.fonts import font_book
from mortiser.formats.registry import FORMATS
from mortiser.jobs.delivering import file_stem
from mortiser.jobs.preparing import peaks_files
from mortiser.jobs.sounds import is_laid
from mortiser.media.peaks import piece_sound
from mortiser.outputs.captions import caption_text
from mortiser.outputs.zipped import zipped
from mortiser.store import deliveries, finishes, jobs, projects
from mortiser.wiring import known_engines

FileName = Annotated[str, Path(max_length=300)]
router = routes("/api", "pieces")


class DeliverBody(BaseModel):
    shape_ids: list[Id] = Field(default=[], max_length=MOST_SHAPES)


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
def engines(shop: OpenShop) -> list[EngineView]:
    """The speech engines on this machine and the languages they know."""
    return [
        EngineView(
            name=engine.name,
            about=engine.about,
            languages=list(engine.languages),
            trouble=engine.trouble,
        )
        for engine in known_engines(shop.settings)
    ]


@router.post("/tapping/delay")
def measure_delay(taps: TapsBody) -> DelayView:
    """How late somebody taps, from taps along with clicks."""
    return DelayView(delay_us=reaction_delay(taps.clicks_us, taps.taps_us))


@router.get("/pieces/{piece_id}/cues")
def cues(piece_id: Id, shop: OpenShop, from_us: Micros = 0) -> list[schemas.CueView]:
    """The captions that end after a moment, in time order."""
    with shop.database.snapshot() as db:
        end = projects.piece(db, piece_id).timeline.duration_us + 1
        found = projects.window_cues(db, piece_id, from_us, max(end, from_us + 1))
    return [schemas.CueView.of(cue) for cue in found]


@router.get("/pieces/{piece_id}/find")
def find(
    piece_id: Id,
    shop: OpenShop,
    text: Annotated[str, Query(max_length=200)],
    whole_words: bool = False,
    match_case: bool = False,
) -> list[MatchView]:
    """Every place of a text in the captions, in order."""
    with shop.database.snapshot() as db:
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
    shop: OpenShop,
    from_us: Micros,
    to_us: Annotated[Micros, Query(gt=0)],
    finish: Name | None = None,
    shape_id: OneShape = None,
) -> JSONResponse:
    """The scene of a window of the piece (see core.scene), in its finish or in another to try."""
    with shop.database.snapshot() as db:
        piece = projects.piece(db, piece_id).in_shape(shape_id)
        found = projects.shown_cues(db, piece, from_us, to_us)
        look = finishes.named(db, finish) if finish else piece.worn
        said = projects.piece_cues(db, piece_id) if piece.layers_follow_captions else []
        rows = projects.source_rows(db, piece.project_id) if piece.draws_sound else []
    size = even_size(*piece.size)
    built = build_scene(found, look, size, font_book())
    if not finish:
        heard = NOT_HEARD
        if piece.draws_sound:
            around = max(0, from_us - LONGEST_US), to_us + LONGEST_US
            heard = piece_sound(peaks_files(shop.workspace, piece, rows), piece.timeline, *around)
        reels = layer_reels(piece, said, size, font_book(), heard)
        layers = [one for reel in reels for one in reel.between(from_us, to_us)]
        built = replace(built, cues=(*layers, *built.cues))
    # Sent as it is: checking the largest answer there is took longer than making it.
    return JSONResponse(scene_json(built))


@router.get("/cues/{cue_id}/whole")
def whole_moment(cue_id: Id, shop: OpenShop, shape_id: OneShape = None) -> MomentView:
    """The first moment at which all of a caption stands, its entrance over."""
    with shop.database.snapshot() as db:
        cue = projects.cue(db, cue_id)
        piece = projects.piece(db, cue.piece_id).in_shape(shape_id)
        found = projects.shown_cues(db, piece, cue.start_us, cue.end_us)
    size = even_size(*piece.size)
    built = build_scene(found, piece.worn, size, font_book())
    return MomentView(at_us=next(one.whole_us for one in built.cues if one.id == cue_id))


@router.get("/pieces/{piece_id}/captions.{ending}", response_class=Response)
def captions(piece_id: Id, ending: Name, shop: OpenShop) -> Response:
    """The captions as a file: srt, vtt, ttml, txt, csv or json."""
    if ending not in FORMATS:
        raise NotFound(f"There is no caption format “{ending}”. Try {', '.join(FORMATS)}.")
    with shop.database.snapshot() as db:
        piece = projects.piece(db, piece_id)
        found = projects.piece_cues(db, piece_id)
        name = file_stem(projects.project_row(db, piece.project_id)["name"])
    kinds = {
        "vtt": "text/vtt",
        "json": "application/json",
        "ttml": "application/ttml+xml",
        "csv": "text/csv",
    }
    return Response(
        caption_text(ending, found, piece),
        media_type=f"{kinds.get(ending, 'text/plain')}; charset=utf-8",
        headers=attachment(f"{name}.{ending}"),
    )


@router.post("/pieces/{piece_id}/deliveries", status_code=201)
def deliver(piece_id: Id, shop: OpenShop, body: DeliverBody | None = None) -> schemas.DeliveryView:
    """Start a delivery of the piece as it is now, in some of its shapes or in all of them."""
    db = shop.database.connection
    piece = projects.piece(db, piece_id)
    shape_ids = body.shape_ids if body else []
    for shape_id in shape_ids:
        piece.in_shape(shape_id)
    source = projects.source_row(db, piece.source_id)
    if not projects.window_cues(db, piece_id, 0, piece.timeline.duration_us + 1):
        raise Conflict("There are no captions to deliver yet. Wait for the first words.")
    shop.workspace.need(source["size_bytes"], shop.settings.spare_disk)
    shown = {clip.source_id for clip in piece.timeline.clips}
    for row in projects.source_rows(db, piece.project_id):
        if row["id"] in shown and not is_laid(shop.workspace, row):
            raise Conflict(
                "The microphone's sound is being laid under the picture. Deliver in a moment."
            )
    project = projects.project_row(db, piece.project_id)
    several = len(projects.pieces(db, piece.project_id)) > 1
    stem = file_stem(f"{project['name']} {piece.name}" if several else project["name"])
    delivery_id, job_id = deliveries.order(shop.database, piece_id, stem, shape_ids)
    shop.queue.submit(job_id)
    views = schemas.DeliveryView.of_project(db, piece.project_id)
    return next(view for view in views if view.id == delivery_id)


@router.get("/deliveries/{delivery_id}/files/{name}", response_class=FileResponse)
def delivered_file(delivery_id: Id, name: FileName, shop: OpenShop) -> FileResponse:
    """A complete file of a delivery."""
    db = shop.database.connection
    deliveries.get(db, delivery_id)
    known = {file.name for file in deliveries.files_of(db, [delivery_id])[delivery_id]}
    file = shop.workspace.delivery(delivery_id) / name
    if name not in known or not file.exists():
        raise NotFound("That file is not there. Deliver the piece again.")
    return FileResponse(file, filename=name)


@router.get("/deliveries/{delivery_id}/all.zip", response_class=StreamingResponse)
def all_files(delivery_id: Id, shop: OpenShop) -> StreamingResponse:
    """All files of a delivery as one ZIP, made while it is sent."""
    db = shop.database.connection
    row = deliveries.get(db, delivery_id)
    folder = shop.workspace.delivery(delivery_id)
    files = [folder / file.name for file in deliveries.files_of(db, [delivery_id])[delivery_id]]
    if not files or not all(file.exists() for file in files):
        raise NotFound("Those files are not there. Deliver the piece again.")
    headers = attachment(f"{row['stem']}.zip")
    return StreamingResponse(zipped(files), media_type="application/zip", headers=headers)


@router.post("/jobs/{job_id}/cancel")
def cancel(job_id: Id, shop: OpenShop) -> schemas.JobView:
    """Stop a job."""
    return schemas.JobView.of(jobs.ask_cancel(shop.database, job_id))


@router.post("/jobs/{job_id}/retry")
def retry(job_id: Id, shop: OpenShop) -> schemas.JobView:
    """Do a failed or cancelled job again; transcription goes on where it stopped."""
    row = jobs.requeue(shop.database, job_id)
    shop.queue.submit(job_id)
    return schemas.JobView.of(row)
