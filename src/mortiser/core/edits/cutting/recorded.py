"""Passages taken from the recordings themselves, whichever pieces show them: put in, or in another
take's stead."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from pydantic import BaseModel, ConfigDict

from mortiser.core.common.limits import Id
from mortiser.core.editing.strand import Strand, with_stretch
from mortiser.core.editing.timeline import Timeline
from mortiser.core.edits.base import BaseEdit, short
from mortiser.core.edits.cutting.putting import WordPlace, clip_of, put_clips
from mortiser.core.edits.cutting.recaptioning import caption_all
from mortiser.core.edits.cutting.trimming import (
    Passage,
    RestoreWords,
    StrikeWords,
    strands_of,
    words_around,
)
from mortiser.core.edits.session import EditSession
from mortiser.core.transcript.unspaced import joined

WHOLE = 1
"""The number that all of a recording has here, as a strand."""


class Recorded(BaseModel):
    """Words of a recording, from one to another, by their ids."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    first_word: Id
    last_word: Id


class PutRecorded(BaseEdit):
    """Play a passage of a recording (also) in the piece: behind a word, or at the beginning."""

    kind: Literal["put_recorded"] = "put_recorded"
    piece_id: Id
    said: Recorded
    behind: WordPlace | None = None

    def label(self, session: EditSession) -> str:
        return f"put {_about(session, self.said)} here"

    def apply(self, session: EditSession) -> None:
        clip = clip_of(session, _whole(session, self.said), _passage(self.said), self.piece_id)
        put_clips(session, self.piece_id, [clip], self.behind)
        caption_all(session, self.piece_id)


class UseTake(BaseEdit):
    """Play another take in the stead of one that plays; the earlier one is struck where it stands."""

    kind: Literal["use_take"] = "use_take"
    piece_id: Id
    instead: Passage
    take: Recorded

    def label(self, session: EditSession) -> str:
        return f"use another take: {_about(session, self.take)}"

    def apply(self, session: EditSession) -> None:
        behind = WordPlace(strand_id=self.instead.strand_id, word_id=self.instead.last_word)
        if not self._brought_back(session, behind):
            PutRecorded(piece_id=self.piece_id, said=self.take, behind=behind).apply(session)
        StrikeWords(piece_id=self.piece_id, passages=[self.instead]).apply(session)

    def _brought_back(self, session: EditSession, behind: WordPlace) -> bool:
        """Bring the take back where it stands struck beside the one that plays, or was put in once and
        nothing of it plays."""
        strands = strands_of(session, self.piece_id)
        timeline = session.timeline(self.piece_id)
        first = session.said(self.take.first_word)
        plays = session.said(self.instead.first_word).middle_us
        for strand in strands.values():
            holds = strand.start_us <= first.middle_us <= strand.end_us
            if strand.source_id != first.source_id or not holds:
                continue
            passage = Passage(strand_id=strand.id, **self.take.model_dump())
            words, a, b = words_around(session, strands, passage)
            if any(timeline.shows(strand.id, word.middle_us) for word in words[a : b + 1]):
                continue
            if not timeline.of_strand(strand.id):
                clip = clip_of(session, strands, passage, self.piece_id)
                put_clips(session, self.piece_id, [replace(clip, strand_id=strand.id)], behind)
                caption_all(session, self.piece_id)
                return True
            start, end = words[a].start_us, words[b].end_us
            then = Timeline(with_stretch(timeline.clips, strand, start, end))
            here = then.shows(strand.id, first.middle_us)
            other = then.shows(self.instead.strand_id, plays)
            if here and other and (here.end_us >= other.at_us and other.end_us >= here.at_us):
                RestoreWords(piece_id=self.piece_id, passages=[passage]).apply(session)
                return True
        return False


def _whole(session: EditSession, said: Recorded) -> dict[int, Strand]:
    source_id = session.said(said.first_word).source_id
    return {WHOLE: Strand(WHOLE, source_id, 0, session.source_length(source_id))}


def _passage(said: Recorded) -> Passage:
    return Passage(strand_id=WHOLE, first_word=said.first_word, last_word=said.last_word)


def _about(session: EditSession, said: Recorded) -> str:
    words, a, b = words_around(session, _whole(session, said), _passage(said))
    return f"“{short(joined([word.text for word in words[a : b + 1]]))}”"
