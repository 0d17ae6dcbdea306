"""What else a word may be."""

from __future__ import annotations

from typing import Annotated

from fastapi import Query

from mortiser.api.context import OpenContext
from mortiser.api.routing import routes
from mortiser.core.common.limits import Id
from mortiser.core.edits.base import word_of
from mortiser.store import projects, transcript
from mortiser.wiring import sound_alikes

router = routes("/api/cues/{cue_id}/words/{word_id}", "words")
AROUND_US = 3_000_000
"""Of the words beside it, those so near say what fits."""
SPOKEN = "en"
"""The language whose sounds and wordings are known."""


@router.get("/others")
def others(
    cue_id: Id,
    word_id: Id,
    context: OpenContext,
    begun: Annotated[str, Query(max_length=60, description="What it is to begin with.")] = "",
) -> list[str]:
    """What a word may be that is not as it was said, the likeliest first; few or none in some languages."""
    with context.database.snapshot() as db:
        cue = projects.cue(db, cue_id)
        word = word_of(cue, word_id)
        around = word.start_us - AROUND_US, word.end_us + AROUND_US
        near = projects.window_cues(db, cue.piece_id, *around)
        source = projects.read_source(db, word.source_id)
        typed = transcript.typed_texts(db, source.project_id)
    words = [one for each in near for one in each.words]
    if source.language != SPOKEN:
        return [one for one in word.alternatives if one.casefold().startswith(begun.casefold())]
    alike = sound_alikes()
    entries = context.glossary.now().spellings.entries
    names = [*(entry.written for entry in entries), *alike.made_up(typed)]
    index = next(at for at, one in enumerate(words) if one.id == word_id)
    return list(alike.others(words, index, begun, names))
