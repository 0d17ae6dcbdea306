"""Paces to choose from, and what the checks find in a piece."""

from __future__ import annotations

from mortiser.api import schemas
from mortiser.api.routing import routes
from mortiser.api.shop import OpenShop
from mortiser.core.checks import check
from mortiser.core.layout.caption_lines import lay_out_all
from mortiser.core.limits import Id
from mortiser.core.pace import PACES, limits
from mortiser.fonts import font_book
from mortiser.store import paces, projects

router = routes("/api", "pace")


@router.get("/paces")
def list_paces(shop: OpenShop) -> list[schemas.PaceView]:
    """The built-in paces, then the workspace's own."""
    built_in = [schemas.PaceView(id=None, name=name, pace=pace) for name, pace in PACES.items()]
    own = paces.saved(shop.database.connection)
    return built_in + [schemas.PaceView(id=id_, name=name, pace=pace) for id_, name, pace in own]


@router.post("/paces", status_code=201)
def save_pace(body: schemas.PaceBody, shop: OpenShop) -> schemas.PaceView:
    """Keep a pace under a name, in the place of one of that name."""
    made, name = paces.save(shop.database, body.name, body.pace)
    return schemas.PaceView(id=made, name=name, pace=body.pace)


@router.delete("/paces/{pace_id}", status_code=204)
def remove_pace(pace_id: Id, shop: OpenShop) -> None:
    """Forget a saved pace; pieces that have it keep it."""
    paces.remove(shop.database, pace_id)


@router.get("/pieces/{piece_id}/checks")
def checks(piece_id: Id, shop: OpenShop) -> list[schemas.CheckView]:
    """What the rules find in the captions, in order of time."""
    with shop.database.snapshot() as db:
        piece = projects.piece(db, piece_id)
        cues = projects.piece_cues(db, piece_id)
        hidden = projects.unshown(db, piece)
    size = piece.width, piece.height
    laid = lay_out_all(piece.standing.shown(cues), piece.finish, size, font_book())
    lines, reaches = [one.lines for one in laid], [one.reach for one in laid]
    allowed = limits(piece.checked_by, piece.pace)
    found = check(
        cues, allowed, piece.timeline.duration_us, piece.frames, hidden, lines, reaches, size
    )
    return [schemas.CheckView.of(item) for item in found]
