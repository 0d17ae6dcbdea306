"""Mark words with an accent of the finish, or take the mark away."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Literal

from pydantic import Field

from mortiser.core.common.limits import Ids
from mortiser.core.edits.base import BaseEdit, chosen, save_changed, short, words_of
from mortiser.core.edits.session import EditSession
from mortiser.core.style.finish.model import MOST_ACCENTS
from mortiser.core.transcript.words import Cue, Shown


class MarkWords(BaseEdit):
    """Mark words of some captions with the finish's accent of a number; 0 takes marks away.

    What the accent looks like is the finish's business, so marks outlive a change of finish.
    """

    kind: Literal["mark_words"] = "mark_words"
    cue_ids: Ids = Field(min_length=1)
    word_ids: Ids = Field(min_length=1)
    accent: int = Field(ge=0, le=MOST_ACCENTS)

    def label(self, session: EditSession) -> str:
        words = self._words(chosen(session, self.cue_ids))
        what = f"“{short(words[0].text)}”" if len(words) == 1 else f"{len(words)} words"
        return f"mark {what}" if self.accent else f"unmark {what}"

    def apply(self, session: EditSession) -> None:
        cues = chosen(session, self.cue_ids)
        wanted = set(self._words(cues))
        marked = [
            cue.with_words(
                tuple(replace(w, accent=self.accent) if w in wanted else w for w in cue.words)
            )
            for cue in cues
        ]
        save_changed(session, cues, marked)

    def _words(self, cues: Sequence[Cue]) -> list[Shown]:
        return words_of(cues, self.word_ids)
