"""What holds for a piece wherever it applies, now and later: marks and looks of words by their
spelling, and looks of captions by who speaks in them.

Marks and looks of words are put on words as they come, so that one place can be changed alone;
looks of speakers are worked out when a caption is shown, and lie under its own look.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import replace

from pydantic import BaseModel, ConfigDict, Field

from mortiser.core.common.stored import Stored
from mortiser.core.style.finish.changes import look_of, look_text
from mortiser.core.style.finish.model import MOST_ACCENTS
from mortiser.core.transcript.speakers import speaker_of
from mortiser.core.transcript.words import Cue, Shown, Word, word_key

MOST_KEPT = 500


class Standing(BaseModel):
    """Keys are spellings (see core.transcript.words.word_key) and speakers' names; looks as they are stored."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    marks: dict[str, int] = Field(default={}, max_length=MOST_KEPT)
    own: dict[str, str] = Field(default={}, max_length=MOST_KEPT)
    speakers: dict[str, str] = Field(default={}, max_length=MOST_KEPT)

    def dressed(self, word: Shown, before: Word | None = None) -> Shown:
        """A word that has come (or now reads otherwise than ``before``) with what holds for it."""
        key = word_key(word.text)
        if before is not None and word_key(before.text) == key:
            return word
        accent = word.accent or min(self.marks.get(key, 0), MOST_ACCENTS)
        own = word.own or self.own.get(key, "")
        return (
            word
            if (accent, own) == (word.accent, word.own)
            else replace(word, accent=accent, own=own)
        )

    def with_mark(self, text: str, accent: int) -> Standing:
        """The same with words of a spelling marked from now on; 0 takes that back."""
        left = {key: value for key, value in self.marks.items() if key != word_key(text)}
        return self.model_copy(
            update={"marks": left | ({word_key(text): accent} if accent else {})}
        )

    def with_own(self, text: str, look: str) -> Standing:
        """The same with words of a spelling dressed from now on; "" takes that back."""
        left = {key: value for key, value in self.own.items() if key != word_key(text)}
        return self.model_copy(update={"own": left | ({word_key(text): look} if look else {})})

    def with_speaker(self, name: str, look: str) -> Standing:
        """The same with what somebody says dressed from now on; "" takes that back."""
        left = {key: value for key, value in self.speakers.items() if key != name}
        return self.model_copy(update={"speakers": left | ({name: look} if look else {})})

    def shown(self, cues: Sequence[Cue]) -> list[Cue]:
        """Captions as they are painted: over the look of who speaks lies their own."""
        return [self._shown(cue) for cue in cues] if self.speakers else list(cues)

    def _shown(self, cue: Cue) -> Cue:
        under = self.speakers.get(speaker_of(cue) or "", "")
        if not under:
            return cue
        look = look_text(look_of(under) | look_of(cue.look))
        return cue.with_words(tuple(replace(word, look=look) for word in cue.words))


NOTHING = Standing()


STORED: Stored[Standing] = Stored(Standing, first=lambda text: json.loads(text) if text else {})
"""Texts of before versions are empty for nothing."""
