"""One press strikes what is kept and brings back what is struck."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from mortiser.core.common.limits import Id, Micros
from mortiser.core.editing.talk import taken_out
from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.cutting.trimming import (
    CutStretches,
    OfPassages,
    RestoreStretches,
    RestoreWords,
    StrandStretch,
    StrikeWords,
    strands_of,
    words_around,
)
from mortiser.core.edits.session import EditSession


class ToggleWords(OfPassages):
    """Strike words; bring them back where all of them are struck."""

    kind: Literal["toggle_words"] = "toggle_words"

    def label(self, session: EditSession) -> str:
        return self._meant(session).label(session)

    def apply(self, session: EditSession) -> None:
        self._meant(session).apply(session)

    def _meant(self, session: EditSession) -> StrikeWords | RestoreWords:
        strands, timeline = strands_of(session, self.piece_id), session.timeline(self.piece_id)
        made: type[StrikeWords | RestoreWords] = RestoreWords
        for passage in self.passages:
            words, a, b = words_around(session, strands, passage)
            if any(timeline.shows(passage.strand_id, one.middle_us) for one in words[a : b + 1]):
                made = StrikeWords
                break
        return made(**self.model_dump(exclude={"kind"}))


class ToggleQuiet(BaseEdit):
    """Take out what goes of a quiet stretch (``cut_from_us`` to ``cut_to_us``); bring all of it back where no
    more of it is left than what stays."""

    kind: Literal["toggle_quiet"] = "toggle_quiet"
    piece_id: Id
    strand_id: Id
    from_us: Micros = Field(description="Where the quiet begins, in the time of the source.")
    to_us: Micros
    cut_from_us: Micros = Field(description="What of it goes.")
    cut_to_us: Micros

    @model_validator(mode="after")
    def _has_order(self) -> ToggleQuiet:
        if not self.from_us <= self.cut_from_us <= self.cut_to_us <= self.to_us:
            raise ValueError("what goes of a quiet stretch lies in it")
        return self

    def label(self, session: EditSession) -> str:
        return self._meant(session).label(session)

    def apply(self, session: EditSession) -> None:
        self._meant(session).apply(session)

    def _meant(self, session: EditSession) -> CutStretches | RestoreStretches:
        kept = sum(
            max(0, min(clip.end_us, self.to_us) - max(clip.start_us, self.from_us))
            for clip in session.timeline(self.piece_id).clips
            if clip.strand_id == self.strand_id
        )
        whole, goes = self.to_us - self.from_us, self.cut_to_us - self.cut_from_us
        made, start, end = (
            (RestoreStretches, self.from_us, self.to_us)
            if taken_out(kept, whole, goes)
            else (CutStretches, self.cut_from_us, self.cut_to_us)
        )
        stretch = StrandStretch(strand_id=self.strand_id, from_us=start, to_us=end)
        return made(piece_id=self.piece_id, stretches=[stretch], found="quiet")
