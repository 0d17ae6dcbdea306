"""Scripts that are written without spaces: where words part, and where none stands between them.

Words of Chinese, Japanese and Thai are cut by BudouX (Apache-2.0), a small model of phrase breaks
that needs no dictionary: its phrases are what captions light up and break lines at. Words part
only between two letters of such a script, so that putting them together again gives the text.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from functools import lru_cache
from itertools import pairwise

import budoux

_KANA = re.compile(r"[\u3040-\u30ff\uff66-\uff9f]")
_THAI = re.compile(r"[\u0e00-\u0e7f]")
_UNSPACED = re.compile(
    r"[\u0e00-\u0e7f\u3001-\u303f\u3040-\u30ff\u3400-\u4dbf\u4e00-\u9fff\uf900-\ufaff"
    r"\uff01-\uff0f\uff1a-\uff20\uff3b-\uff40\uff5b-\uff9f\U00020000-\U0003fffd]"
)
_LEADING = frozenset("、。，．：；？！）］｝〉》」』】〕ー…々ゝゞ")
"""Signs that begin no word."""


def tight(before: str, after: str) -> bool:
    """Whether no space stands between two neighbouring words."""
    return bool(before and after and _UNSPACED.match(before[-1]) and _UNSPACED.match(after[0]))


def joined(texts: Sequence[str]) -> str:
    """Words as running text: single spaces, and none where the script has none."""
    if not texts:
        return ""
    parts = [texts[0]]
    for before, after in pairwise(texts):
        parts.append(after if tight(before, after) else f" {after}")
    return "".join(parts)


def cut(token: str) -> list[str]:
    """A run without white space as words."""
    return list(_cut(token)) if _UNSPACED.search(token) else [token]


@lru_cache(maxsize=4096)
def _cut(token: str) -> tuple[str, ...]:
    if _KANA.search(token):
        parts = _japanese().parse(token)
    elif _THAI.search(token):
        parts = _thai().parse(token)
    else:
        parts = _chinese().parse(token)
    words: list[str] = []
    for part in parts:
        parted = words and tight(words[-1], part) and part[0] not in _LEADING
        if parted or not words:
            words.append(part)
        else:
            words[-1] += part
    return tuple(words)


@lru_cache(maxsize=1)
def _chinese() -> budoux.Parser:
    return budoux.load_default_simplified_chinese_parser()


@lru_cache(maxsize=1)
def _japanese() -> budoux.Parser:
    return budoux.load_default_japanese_parser()


@lru_cache(maxsize=1)
def _thai() -> budoux.Parser:
    return budoux.load_default_thai_parser()
