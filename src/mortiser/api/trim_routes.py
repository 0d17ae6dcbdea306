"""Trimming: the whole talk of a piece, what can go of it, and the lists of fillers."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from typing import Annotated, Literal

from fastapi import Query
from pydantic import BaseModel, ConfigDict, Field

from mortiser.api.context import OpenContext
from mortiser.api.routing import routes
from mortiser.core.common.limits import Id, Micros, Name
from mortiser.core.common.time import SECOND
from mortiser.core.editing import talk
from mortiser.core.editing.beyond import Side, beyond
from mortiser.core.editing.cutting import Loudness, Room
from mortiser.core.editing.highlights import thoughts
from mortiser.core.editing.removals import Kind, Wanted, removals
from mortiser.core.editing.strand import Strand, reach
from mortiser.core.editing.talk import Item, Quiet
from mortiser.core.project.piece import Piece
from mortiser.core.project.source import Source
from mortiser.core.transcript.unspaced import joined
from mortiser.core.transcript.words import Word
from mortiser.store import projects, transcript
from mortiser.store.fillers import fillers, set_fillers
from mortiser.store.rows import load_strands
from mortiser.wiring import AppContext

router = routes("/api", "trim")
USUAL = Wanted()
Length = Annotated[Micros, Query(le=10 * SECOND)]


class TalkItemView(BaseModel):
    """A word, or (id 0) a quiet stretch."""

    id: int
    text: str
    start_us: int = Field(description="In source time.")
    end_us: int
    at_us: int | None = Field(description="Where it begins in the piece; none where it is struck.")
    kept_us: int = Field(description="How much of a quiet stretch is kept.")
    struck: bool = Field(description="Whether a press on it brings it back.")
    sounds: bool = Field(description="Whether something is heard where no words are.")
    cut_from_us: int = Field(description="What of it goes when it is taken out.")
    cut_to_us: int


class TalkRowView(BaseModel):
    strand_id: int
    speaker: str | None
    film: str | None = Field(
        description="The recording that plays here where nothing is said in it."
    )
    items: list[TalkItemView]


class ClipView(BaseModel):
    id: int
    strand_id: int
    source_id: int
    start_us: int = Field(description="In source time.")
    end_us: int
    at_us: int = Field(description="In the piece.")


class BeyondView(BaseModel):
    """What the recording says before or behind what was put into the piece."""

    strand_id: int
    side: Side
    text: str


class TalkView(BaseModel):
    digest: str = Field(description="Of the clips it was told for.")
    beyond: list[BeyondView]
    rows: list[TalkRowView]
    clips: list[ClipView]


class RemovalView(BaseModel):
    model_config = ConfigDict(from_attributes=True)

    kind: Kind
    strand_id: int
    from_us: int
    to_us: int
    saves_us: int
    at_us: int
    before: str
    text: str
    after: str
    reason: str


class ThoughtView(BaseModel):
    """A passage of the piece that could be one of its own."""

    model_config = ConfigDict(from_attributes=True)

    strand_id: int
    first_word: int
    last_word: int
    at_us: int
    length_us: int
    text: str
    reasons: list[str]


class FillersView(BaseModel):
    language: str
    fillers: list[str]


class FillersBody(BaseModel):
    fillers: list[Annotated[str, Field(max_length=200)]] = Field(max_length=200)


def _items(context: AppContext, db: sqlite3.Connection, piece: Piece) -> list[Item]:
    sources = projects.read_sources(db, piece.project_id)
    return talk.talk(piece.timeline, *_said(db, piece), _loud(context, sources))


def _loud(context: AppContext, sources: list[Source]) -> dict[int, Loudness]:
    return {one.id: context.loudness(one) for one in sources}


def _said(db: sqlite3.Connection, piece: Piece) -> tuple[list[Strand], dict[int, list[Word]]]:
    """What was put into a piece, and the words of its sources."""
    strands = load_strands(db, piece.id)
    sources = {strand.source_id for strand in strands}
    return strands, {source_id: transcript.source_words(db, source_id) for source_id in sources}


@router.get("/pieces/{piece_id}/talk")
def read_talk(
    piece_id: Id,
    context: OpenContext,
    before_us: Length = USUAL.room.before_us,
    after_us: Length = USUAL.room.after_us,
) -> TalkView:
    """Everything that is said in what was put into the piece, in its order, struck or kept."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id)
        strands, words = _said(db, piece)
        rows = projects.read_sources(db, piece.project_id)
    items = talk.talk(piece.timeline, strands, words, _loud(context, rows))
    spoken = {item.strand_id for item in items if not isinstance(item, Quiet)}
    names = {row.id: row.name for row in rows}
    films = {one.id: names[one.source_id] for one in strands if one.id not in spoken}
    # A film that was taken out is brought back by an undo, or put in again.
    items = [item for item in items if item.strand_id in spoken or item.at_us is not None]
    return TalkView(
        digest=piece.timeline.digest,
        beyond=list(_beyond(strands, words, {row.id: row.duration_us for row in rows})),
        rows=[
            _row(row, Room(before_us, after_us), films.get(row[0].strand_id))
            for row in talk.rows(items)
        ],
        clips=[
            ClipView(
                id=placed.clip.id,
                strand_id=placed.clip.strand_id,
                source_id=placed.clip.source_id,
                start_us=placed.clip.start_us,
                end_us=placed.clip.end_us,
                at_us=placed.at_us,
            )
            for placed in piece.timeline.placed
        ],
    )


def _beyond(
    strands: list[Strand], words: dict[int, list[Word]], lengths: dict[int, int]
) -> Iterator[BeyondView]:
    sides: tuple[Side, Side] = ("before", "behind")
    for strand in strands:
        room = reach(strand, strands, lengths[strand.source_id])
        for side in sides:
            if found := beyond(strand, words[strand.source_id], room, side):
                text = joined([word.text for word in found])
                yield BeyondView(strand_id=strand.id, side=side, text=text)


def _row(items: list[Item], room: Room, film: str | None) -> TalkRowView:
    speakers = [item.word.speaker for item in items if not isinstance(item, Quiet)]
    return TalkRowView(
        strand_id=items[0].strand_id,
        speaker=speakers[0] if speakers else None,
        film=film,
        items=[_item(item, room) for item in items],
    )


def _item(item: Item, room: Room) -> TalkItemView:
    cut = (
        item.cut(room.after_us, room.before_us)
        if isinstance(item, Quiet)
        else (item.start_us, item.end_us)
    )
    return TalkItemView(
        id=0 if isinstance(item, Quiet) else item.word.id,
        text="" if isinstance(item, Quiet) else item.word.text,
        start_us=item.start_us,
        end_us=item.end_us,
        at_us=item.at_us,
        kept_us=item.kept_us if isinstance(item, Quiet) else 0,
        struck=item.taken(room.after_us, room.before_us)
        if isinstance(item, Quiet)
        else item.at_us is None,
        sounds=isinstance(item, Quiet) and item.sounds,
        cut_from_us=cut[0],
        cut_to_us=cut[1],
    )


@router.get("/pieces/{piece_id}/removals")
def what_can_go(
    piece_id: Id,
    context: OpenContext,
    quiet_us: Length = USUAL.quiet_us,
    leave_us: Length = USUAL.leave_us,
    before_us: Length = USUAL.room.before_us,
    after_us: Length = USUAL.room.after_us,
    order: Literal["time", "saved"] = "time",
) -> list[RemovalView]:
    """Quiet and pauses with sound longer than ``quiet_us``, fillers, repeats, and what lies before and
    after the talk."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id)
        items = _items(context, db, piece)
        sources = projects.read_sources(db, piece.project_id)
        language = _language(piece, sources)
        listed = fillers(db, language)
    loud = _loud(context, sources)
    wanted = Wanted(quiet_us, leave_us, listed, Room(before_us, after_us), language)
    found = removals(items, piece.timeline, loud, wanted)
    if order == "saved":
        found.sort(key=lambda one: -one.saves_us)
    return [RemovalView.model_validate(one) for one in found]


@router.get("/pieces/{piece_id}/thoughts")
def worth_a_piece(piece_id: Id, context: OpenContext) -> list[ThoughtView]:
    """Passages worth a piece of their own, the best first."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id)
        items = _items(context, db, piece)
        language = _language(piece, projects.read_sources(db, piece.project_id))
    return [ThoughtView.model_validate(one) for one in thoughts(items, language)]


def _language(piece: Piece, sources: list[Source]) -> str:
    return next(one.language for one in sources if one.id == piece.source_id)


@router.get("/pieces/{piece_id}/fillers")
def read_fillers(piece_id: Id, context: OpenContext) -> FillersView:
    """The fillers of the piece's language."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id)
        language = _language(piece, projects.read_sources(db, piece.project_id))
        return FillersView(language=language, fillers=list(fillers(db, language)))


@router.put("/fillers/{language}")
def list_fillers(language: Name, body: FillersBody, context: OpenContext) -> FillersView:
    """List a language's fillers anew; its usual ones come back where the list is empty."""
    kept = set_fillers(context.database, language, body.fillers)
    return FillersView(language=language, fillers=list(kept))
