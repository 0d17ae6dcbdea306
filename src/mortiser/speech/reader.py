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
        return [sum(self._scored(self._tokenizer.encode(text).tokens)) for text in texts]

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
        for (_, end), chance in zip(encoded.offsets, self._scored(encoded.tokens), strict=True):
            while end > ends[at]:
                at += 1
            result[at] -= chance
        return result[len(before) :]

    def _scored(self, tokens: Sequence[str]) -> list[float]:
        """The logarithm of each token's chance behind those before it (nats)."""
        parts = [tokens[first : first + LONGEST] for first in range(0, len(tokens), LONGEST)]
        found = self._model.score_batch([[BEGIN, *part] for part in parts])
        return [chance for one in found for chance in one.log_probs]
