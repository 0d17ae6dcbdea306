"""Paces to choose from, and what the checks find in a piece."""

from __future__ import annotations

from pydantic import BaseModel, Field

from mortiser.api.context import OpenContext
from mortiser.api.routing import routes
from mortiser.core.captions.checks import Check, CheckKind, check
from mortiser.core.captions.pace import PACES, Pace, limits
from mortiser.core.common.limits import Id
from mortiser.core.edits.captions.trial import CaptionFacts
from mortiser.core.style.layout.caption_lines import lay_out_all
from mortiser.core.style.layout.ruler import LetterRuler
from mortiser.fonts import font_book
from mortiser.store import paces, projects

router = routes("/api", "pace")


class PaceBody(BaseModel):
    name: str = Field(max_length=200)
    pace: Pace


class PaceView(PaceBody):
    id: int | None = Field(description="None for a built-in one.")


class CheckView(BaseModel):
    kind: CheckKind
    at_us: int
    about: str
    cue_id: int | None
    word_ids: list[int]
    fix: str | None = Field(description="What the remedy would do, where there is a safe one.")

    @classmethod
    def of(cls, check: Check) -> CheckView:
        return cls(
            kind=check.kind,
            at_us=check.at_us,
            about=check.about,
            cue_id=check.cue_id,
            word_ids=list(check.word_ids),
            fix=check.fix,
        )


@router.get("/paces")
def list_paces(context: OpenContext) -> list[PaceView]:
    """The built-in paces, then the workspace's own."""
    built_in = [PaceView(id=None, name=name, pace=pace) for name, pace in PACES.items()]
    own = paces.saved(context.database.connection)
    return built_in + [PaceView(id=id_, name=name, pace=pace) for id_, name, pace in own]


@router.post("/paces", status_code=201)
def save_pace(body: PaceBody, context: OpenContext) -> PaceView:
    """Keep a pace under a name, in the place of one of that name."""
    made, name = paces.save(context.database, body.name, body.pace)
    return PaceView(id=made, name=name, pace=body.pace)


@router.delete("/paces/{pace_id}", status_code=204)
def remove_pace(pace_id: Id, context: OpenContext) -> None:
    """Forget a saved pace; pieces that have it keep it."""
    paces.remove(context.database, pace_id)


@router.get("/pieces/{piece_id}/checks")
def checks(piece_id: Id, context: OpenContext) -> list[CheckView]:
    """What the rules find in the captions, in order of time."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id).in_shape()
        cues = projects.piece_cues(db, piece_id)
        hidden = projects.unshown(db, piece)
    size = piece.size
    laid = lay_out_all(
        piece.settings.standing.shown(cues), piece.settings.finish, size, font_book()
    )
    lines, reaches = [one.lines for one in laid], [one.reach for one in laid]
    allowed = limits(piece.settings.checked_by, piece.settings.pace)
    found = check(
        cues, allowed, piece.timeline.duration_us, piece.facts.frames, hidden, lines, reaches, size
    )
    facts = CaptionFacts(
        piece.timeline,
        piece.settings.pace,
        piece.facts.frames,
        LetterRuler(piece.settings.finish, size, font_book()),
    )
    worn = piece.settings.finish, size
    offers = context.offers.of(found, cues, facts, allowed, worn)
    return [CheckView.of(item) for item in offers]
