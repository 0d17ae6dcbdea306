"""A language model that has heard nothing: how usual a text is, and how surprising each of its words.

SmolLM2-135M-Instruct (Allal et al. 2025) in 8 bits by CTranslate2; some 600 tokens a second on one core.
"""

from __future__ import annotations

import os
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
import numpy.typing as npt

from mortiser.core.common.errors import BadInput

BEGIN = "<|endoftext|>"
"""What texts stood behind in training."""
LONGEST = 400
"""Tokens of one text."""
PIECE = 2.0
"""Nats that a further token of a word is taken to cost: most words are one."""


@dataclass(slots=True)
class _Place:
    """What a reader expected in the place of a word (nats): how little it did the word, how likely its letters
    alone were, and every token instead of their first one, which may open the text."""

    surprise: float = 0.0
    likely: float = 0.0
    chances: npt.NDArray[np.float32] | None = None
    opens: bool = False


class HeldReading:
    """See protocols.Reading; holds the chance of every token in the place of each one, 0.2 MB a token."""

    def __init__(self, tokenizer: Any, places: Sequence[_Place]) -> None:
        self._tokenizer = tokenizer
        self._places = places
        self.surprises = [place.surprise for place in places]

    def instead(self, index: int, words: Sequence[str]) -> list[float]:
        """See protocols.Reading. Of a word of several tokens the first is known, the others cost PIECE each."""
        place = self._places[index]
        chances = place.chances
        if chances is None:
            return [0.0] * len(words)
        space = "" if place.opens else " "
        found = self._tokenizer.encode_batch([space + word for word in words])
        return [
            float(chances[one.ids[0]]) - PIECE * (len(one.ids) - 1) - place.likely for one in found
        ]


class SmallLanguageModel:
    """Holds the model; see protocols.LanguageModel."""

    def __init__(self, folder: Path) -> None:
        """Raises BadInput where the folder has no such model."""
        from ctranslate2 import Generator
        from tokenizers import Tokenizer

        try:
            self._tokenizer: Any = Tokenizer.from_file(str(folder / "tokenizer.json"))
            self._model: Any = Generator(
                str(folder),
                device="cpu",
                compute_type="int8",
                intra_threads=min(4, os.cpu_count() or 1),
            )
        except Exception as error:  # The tokenizer's library raises bare exceptions.
            raise BadInput(f"The language model in {folder} cannot be loaded: {error}") from error

    def likelihoods(self, texts: Sequence[str]) -> list[float]:
        """See protocols.LanguageModel."""
        found = self._scored(
            [encoded.tokens for encoded in self._tokenizer.encode_batch(list(texts))]
        )
        return [sum(chances) for chances in found]

    def read(self, before: Sequence[str], words: Sequence[str]) -> HeldReading:
        """See protocols.LanguageModel."""
        texts = [*before, *words]
        text = " ".join(texts)
        ends: list[int] = []
        for word in texts:
            ends.append((ends[-1] + 1 if ends else 0) + len(word))
        found = [_Place() for _ in texts]
        encoded = self._tokenizer.encode(text)
        at = 0
        for number, (token, (start, end)) in enumerate(
            zip(encoded.ids, encoded.offsets, strict=True)
        ):
            if number % LONGEST == 0:
                rows = self._expected(encoded.ids[number : number + LONGEST])
            while end > ends[at]:
                at += 1
            row, place = rows[number % LONGEST], found[at]
            chance = float(row[token])
            place.surprise -= chance
            if any(map(str.isalnum, text[start:end])):
                place.likely += chance
                if place.chances is None:
                    place.chances, place.opens = row, number == 0
        return HeldReading(self._tokenizer, found[len(before) :])

    def _expected(self, tokens: Sequence[int]) -> npt.NDArray[np.float32]:
        """The logarithm of the chance of every token there is, in the place of each of some tokens."""
        begin = self._tokenizer.token_to_id(BEGIN)
        behind = [begin, *tokens[:-1]]
        found = np.asarray(self._model.forward_batch([behind], return_log_probs=True))
        rows: npt.NDArray[np.float32] = found[0]
        return rows

    def _scored(self, texts: Sequence[Sequence[str]]) -> list[list[float]]:
        """The logarithm of each token's chance behind those before it, text by text (nats)."""
        parts = [
            (number, [BEGIN, *tokens[first : first + LONGEST]])
            for number, tokens in enumerate(texts)
            for first in range(0, len(tokens), LONGEST)
        ]
        result: list[list[float]] = [[] for _ in texts]
        for (number, _), found in zip(
            parts, self._model.score_batch([part for _, part in parts]), strict=True
        ):
            result[number] += found.log_probs
        return result
