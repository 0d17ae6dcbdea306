"""A language model that has heard nothing: how usual a text is, and how surprising each of its words.

SmolLM2-135M-Instruct (Allal et al. 2025) in 8 bits by CTranslate2; some 600 tokens a second on one core.
"""

from __future__ import annotations

import os
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from mortiser.core.errors import BadInput

BEGIN = "<|endoftext|>"
"""What texts stood behind in training."""
LONGEST = 400
"""Tokens of one text."""


class Reader:
    """Holds the model; see protocols.Reader."""

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
        """See protocols.Reader."""
        found = self._scored(
            [encoded.tokens for encoded in self._tokenizer.encode_batch(list(texts))]
        )
        return [sum(chances) for chances in found]

    def surprises(self, before: Sequence[str], words: Sequence[str]) -> list[float]:
        """See protocols.Reader."""
        texts = [*before, *words]
        text = " ".join(texts)
        ends: list[int] = []
        for word in texts:
            ends.append((ends[-1] + 1 if ends else 0) + len(word))
        result = [0.0] * len(texts)
        at = 0
        encoded = self._tokenizer.encode(text)
        (chances,) = self._scored([encoded.tokens])
        for (_, end), chance in zip(encoded.offsets, chances, strict=True):
            while end > ends[at]:
                at += 1
            result[at] -= chance
        return result[len(before) :]

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
