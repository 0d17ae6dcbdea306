"""How usual a wording is: the trigram language model in pocketsphinx's wheel (20,000 words)."""

from __future__ import annotations

from collections.abc import Sequence

from pocketsphinx import Config, LogMath, NGramModel, get_model_path

UNIT = 1e-4
"""The model counts in logarithms to the base 1.0001."""
FLOOR = -13.0
"""Of a word it does not know: as a rare one, in nats."""
RAREST = -16.0
"""Of a word that one would still think of (nats); most of what is rarer are names."""
REACH = 2
"""A trigram looks two words back."""


class Wording:
    """Holds the model."""

    def __init__(self) -> None:
        self._model = NGramModel(
            Config(loglevel="FATAL"), LogMath(), get_model_path("en-us/en-us.lm.bin")
        )

    def usual(self, word: str) -> float:
        """How likely a word is by itself, as a logarithm (nats); far below RAREST where the model has it not."""
        return float(self._model.prob([word])) * UNIT

    def likelihood(
        self, before: Sequence[str], middle: Sequence[str], after: Sequence[str]
    ) -> float:
        """How likely words are between their neighbours, as a logarithm (nats)."""
        words = [*before, *middle, *after]
        end = min(len(words), len(before) + len(middle) + REACH)
        return sum(self._word(words[max(0, at - REACH) : at + 1]) for at in range(len(before), end))

    def _word(self, words: Sequence[str]) -> float:
        """The last word's, after those before it; the model takes them the last one first."""
        return max(FLOOR, float(self._model.prob(list(words[::-1]))) * UNIT)
