"""Lay words over a stretch of a recording: imported, from a script, or heard again."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from mortiser.core.captions.cue_timing import untimed_cue
from mortiser.core.captions.grouping import Ruler, group
from mortiser.core.captions.pace import Pace
from mortiser.core.common.limits import Id
from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.projection import caption_fresh
from mortiser.core.edits.retiming import retime_all
from mortiser.core.edits.session import EditSession
from mortiser.core.transcript.words import Cue, Origin, Seam, Shown, Word


class LaidWord(BaseModel):
    """A word in piece time."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    text: str
    start_us: int
    end_us: int
    confidence: float | None = None
    speaker: str | None = None
    origin: Origin = "imported"
    aligned: bool = True
    heard_as: str | None = None
    seam: Seam = "free"
    accent: int = 0
    look: str = ""

    @classmethod
    def of(cls, word: Word) -> LaidWord:
        """The same as a part of an edit."""
        return cls(
            **{name: getattr(word, name) for name in cls.model_fields if hasattr(word, name)}
        )

    @property
    def middle_us(self) -> int:
        """As of a word."""
        return (self.start_us + self.end_us) // 2

    def word(self) -> Shown:
        """The word, not stored yet."""
        return Shown(**self.model_dump())


class LaidCaption(BaseModel):
    """Words shown together; times (piece µs) that are given are pinned."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    words: list[LaidWord] = Field(min_length=1)
    start_us: int | None = None
    end_us: int | None = None


class LayCaptions(BaseEdit):
    """Put captions in the place of all words said in a stretch of the piece (piece µs), but for
    those in the stretches of it that are ``spared``.

    Other pieces that show the stretch get the new words too, grouped their own way.
    """

    kind: Literal["lay_captions"] = "lay_captions"
    about: str
    piece_id: Id
    from_us: int
    to_us: int
    captions: list[LaidCaption]
    spared: list[tuple[int, int]] = Field(default_factory=list)

    def label(self, session: EditSession) -> str:
        return self.about

    def brought(self) -> frozenset[tuple[int | None, int | None]]:
        return frozenset((one.start_us, one.end_us) for one in self.captions)

    def apply(self, session: EditSession) -> None:
        gone = {
            word.id
            for word in session.words_between(self.piece_id, self.from_us, self.to_us)
            if not within(word.middle_us, self.spared)
        }
        mine = session.cues(self.piece_id)
        others = session.elsewhere(gone, {cue.id for cue in mine})
        left = [cue.with_words(tuple(w for w in cue.words if w.id not in gone)) for cue in mine]
        session.delete_cues([cue for cue in left if not cue.words])
        session.save_cues(
            [
                cue
                for was, cue in zip(mine, left, strict=True)
                if cue.words != was.words and cue.words
            ]
        )
        session.delete_words(sorted(gone))
        laid = session.save_cues([self._cue(caption) for caption in self.captions])
        fresh = [word for cue in laid for word in cue.words]
        retime_all(session, self.piece_id)
        for piece_id in {cue.piece_id for cue in others} - {self.piece_id}:
            caption_fresh(session, piece_id, {word.id for word in fresh}, session.pace(piece_id))
            retime_all(session, piece_id)

    def _cue(self, caption: LaidCaption) -> Cue:
        cue = untimed_cue(self.piece_id, [word.word() for word in caption.words])
        start = cue.start_us if caption.start_us is None else caption.start_us
        end = max(cue.end_us, start + 1) if caption.end_us is None else caption.end_us
        pins = caption.start_us is not None, caption.end_us is not None
        return Cue(self.piece_id, cue.words, start, end, *pins)


def within(at_us: int, stretches: Sequence[tuple[int, int]]) -> bool:
    """Whether a moment lies in one of some stretches."""
    return any(start <= at_us < end for start, end in stretches)


def grouped(words: Sequence[Shown], pace: Pace, ruler: Ruler | None = None) -> list[LaidCaption]:
    """Words as captions of the piece's own pace."""
    laid = [LaidWord.of(word) for word in words]
    return [LaidCaption(words=laid[a:b]) for a, b in group(words, pace, ruler)]
