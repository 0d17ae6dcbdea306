"""How much better another word of much the same sound would read: a sign that it was said.

What a language model expects behind the words before is known of every word at once (see protocols.Reading); how well
those behind would follow is asked of the trigram model.
"""

from __future__ import annotations

from collections.abc import Sequence

from mortiser.core.transcript.doubt import LEAST_RIVAL
from mortiser.speech.beside import as_said
from mortiser.speech.protocols import Reading
from mortiser.speech.sound_alikes import SoundAlikes
from mortiser.speech.wording import REACH

APART = 30.0
"""What sounds that have nothing in common count (nats)."""
FOLLOWING = 1.8
"""What a nat counts that the words behind are likelier: the trigram model sees little."""


class Rivals:
    """Looks among the words that sound alike."""

    def __init__(self, alike: SoundAlikes) -> None:
        self._alike = alike

    def best(self, reading: Reading, texts: Sequence[str], index: int) -> float:
        """By how much better the best of them would read than a word of a text does, less what it sounds apart (nats).

        LEAST_RIVAL where none sounds alike.
        """
        text = texts[index]
        near = self._alike.nearby(text)
        if not near:
            return LEAST_RIVAL
        capital = text[:1].isupper()
        words = [word.capitalize() if capital else word for word, _ in near]
        before = as_said(texts[max(0, index - REACH) : index]).said[-REACH:]
        after = as_said(texts[index + 1 : index + 1 + REACH]).said[:REACH]
        mine = self._followed(before, as_said([text]).said, after)
        return max(
            likelier - APART * apart + FOLLOWING * (self._followed(before, [word], after) - mine)
            for likelier, (word, apart) in zip(reading.instead(index, words), near, strict=True)
        )

    def _followed(self, before: Sequence[str], words: Sequence[str], after: Sequence[str]) -> float:
        """How likely words behind some others are (nats)."""
        likely = self._alike.wording.likelihood
        return likely(before, words, after) - likely(before, words, ())
