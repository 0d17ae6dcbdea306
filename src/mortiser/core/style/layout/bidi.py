"""Which way text runs: embedding levels and visual order.

Source: Unicode Standard Annex 9, the bidirectional algorithm; levels come from python-bidi.
"""

from __future__ import annotations

import unicodedata
from collections.abc import Sequence

from bidi.algorithm import (
    explicit_embed_and_overrides,
    get_base_level,
    get_embedding_levels,
    get_empty_storage,
    resolve_implicit_levels,
    resolve_neutral_types,
    resolve_weak_types,
)

_TURNS = {"R", "AL", "AN", "RLE", "RLO", "RLI"}
_DROPPED = {"BN", "RLE", "LRE", "RLO", "LRO", "PDF"}
"""Characters the algorithm takes out first (rule X9): they follow the one before."""


def runs_left(text: str) -> bool:
    """Whether a paragraph runs from right to left, by its first strong letter (rules P2, P3)."""
    return _turns(text) and get_base_level(text) == 1


def levels(text: str, leftwards: bool) -> list[int]:
    """The embedding level of each character in a paragraph of a direction; odd runs leftwards."""
    base = int(leftwards)
    if not leftwards and not _turns(text):
        return [0] * len(text)
    kept = [ch for ch in text if unicodedata.bidirectional(ch) not in _DROPPED]
    storage = get_empty_storage()
    storage["base_level"], storage["base_dir"] = base, "LR"[base]
    get_embedding_levels("".join(kept), storage)
    explicit_embed_and_overrides(storage)
    resolve_weak_types(storage)
    resolve_neutral_types(storage, False)
    resolve_implicit_levels(storage, False)
    found = iter([ch["level"] for ch in storage["chars"]])
    levels: list[int] = []
    for ch in text:
        dropped = unicodedata.bidirectional(ch) in _DROPPED
        levels.append((levels[-1] if levels else base) if dropped else next(found))
    return levels


def visual_order(levels: Sequence[int]) -> list[int]:
    """Indexes from left to right for items with these levels (rule L2)."""
    order = list(range(len(levels)))
    for level in range(max(levels, default=0), 0, -1):
        start = 0
        while start < len(order):
            end = start
            while end < len(order) and levels[order[end]] >= level:
                end += 1
            order[start:end] = order[start:end][::-1]
            start = end + 1
    return order


def _turns(text: str) -> bool:
    return not text.isascii() and any(unicodedata.bidirectional(ch) in _TURNS for ch in text)
