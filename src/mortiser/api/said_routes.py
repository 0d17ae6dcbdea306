"""What was said in all recordings of a project: looked for, and takes of the same words."""

from __future__ import annotations

import sqlite3
from typing import Annotated

from fastapi import Query
from pydantic import BaseModel, Field

from mortiser.api.context import OpenContext
from mortiser.api.routing import routes
from mortiser.core.common.limits import Id
from mortiser.core.editing.takes import takes
from mortiser.core.editing.utterances import Utterance, playing, said
from mortiser.core.transcript.words import Word
from mortiser.store import projects, transcript
from mortiser.store.rows import load_strands

router = routes("/api/pieces/{piece_id}", "trim")
MOST = 200
"""Sentences that are listed."""


class SaidWordView(BaseModel):
    text: str
    noticed: bool = Field(description="What was looked for; of takes, what the one beside has not.")


class UtteranceView(BaseModel):
    """A sentence of a recording."""

    source_id: int
    recording: str
    first_word: int
    last_word: int
    start_us: int = Field(description="In source time.")
    end_us: int
    words: list[SaidWordView]
    strand_id: int | None = Field(description="What of the piece it plays in, where it does.")
    at_us: int | None = Field(description="Where it begins in the piece.")


class TakesView(BaseModel):
    takes: list[UtteranceView]


@router.get("/said")
def find_said(
    piece_id: Id,
    context: OpenContext,
    text: Annotated[str, Query(max_length=200)] = "",
    source_id: Annotated[Id | None, Query(description="One recording alone.")] = None,
) -> list[UtteranceView]:
    """The sentences a text is said in (all of them where it is empty), in all recordings of the piece's
    project."""
    with context.database.snapshot() as db:
        words = _words(db, piece_id)
        if source_id is not None:
            words = {source_id: words.get(source_id, [])}
        (views,) = _views(db, piece_id, [said(words, text)[:MOST]])
    return views


@router.get("/takes")
def find_takes(piece_id: Id, context: OpenContext) -> list[TakesView]:
    """Sentences said more than once in all recordings of the piece's project, the takes of each together."""
    with context.database.snapshot() as db:
        found = takes(_words(db, piece_id))[:MOST]
        return [TakesView(takes=views) for views in _views(db, piece_id, found)]


def _words(db: sqlite3.Connection, piece_id: int) -> dict[int, list[Word]]:
    piece = projects.piece(db, piece_id)
    return {
        row.id: transcript.source_words(db, row.id)
        for row in projects.read_sources(db, piece.project_id)
    }


def _views(
    db: sqlite3.Connection, piece_id: int, groups: list[list[Utterance]]
) -> list[list[UtteranceView]]:
    """What was found, group by group, with where it plays in a piece."""
    piece = projects.piece(db, piece_id)
    strands = load_strands(db, piece_id)
    names = {row.id: row.name for row in projects.read_sources(db, piece.project_id)}

    def view(one: Utterance) -> UtteranceView:
        place = playing(one, piece.timeline, strands)
        return UtteranceView(
            source_id=one.source_id,
            recording=names[one.source_id],
            first_word=one.words[0].id,
            last_word=one.words[-1].id,
            start_us=one.words[0].start_us,
            end_us=one.words[-1].end_us,
            words=[
                SaidWordView(text=word.text, noticed=at in one.noticed)
                for at, word in enumerate(one.words)
            ],
            strand_id=place.strand_id if place else None,
            at_us=place.at_us if place else None,
        )

    return [[view(one) for one in group] for group in groups]
