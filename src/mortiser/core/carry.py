"""Carry times over when text is corrected: which words live on, where the new ones sit.

Rules, each tested by random edits:
- a word whose letters did not change keeps its identity and its times to the microsecond;
- a replaced word takes the place of the one it replaces; where the numbers differ, the new
  words share the old ones' time by their likely spoken length;
- an added word goes into the quiet before the next word, or gets no length where there is none;
- starts never go backwards, words never overlap, none of the new text is lost.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from difflib import SequenceMatcher
from itertools import accumulate

from mortiser.core.words import Word, spoken_weight, tokens, word_key

LONGEST_ADDED_US = 400_000
"""An added word is not stretched over a long pause."""


def carry(old: Sequence[Word], text: str, room: tuple[int, int]) -> list[Word]:
    """Words for ``text`` with the times of ``old`` (in order) carried over.

    ``room`` is the source time in microseconds that may be used: from the end of the word
    before to the start of the word after. Kept and 1:1 replaced words keep their ids.
    """
    fresh = tokens(text)
    keys = [word_key(word.text) for word in old], [word_key(token) for token in fresh]
    matcher = SequenceMatcher(None, *keys, autojunk=False)
    result: list[Word] = []
    for tag, a0, a1, b0, b1 in matcher.get_opcodes():
        new = fresh[b0:b1]
        if tag == "equal":
            result += [_respelled(w, t) for w, t in zip(old[a0:a1], new, strict=True)]
        elif tag == "replace" and a1 - a0 == b1 - b0:
            result += [_replaced(w, t) for w, t in zip(old[a0:a1], new, strict=True)]
        elif tag == "replace":
            result += spread(new, old[a0].start_us, old[a1 - 1].end_us, old[a0].speaker)
        elif tag == "insert":
            left = result[-1].end_us if result else room[0]
            right = old[a0].start_us if a0 < len(old) else room[1]
            speaker = old[min(a0, len(old) - 1)].speaker if old else None
            result += _added(new, left, max(left, right), speaker, at_front=not result)
    return result


def spread(
    texts: Sequence[str], start_us: int, end_us: int, speaker: str | None = None
) -> list[Word]:
    """Typed words laid over a stretch of time in proportion to their likely spoken length."""
    weights = [spoken_weight(text) for text in texts]
    total, length = sum(weights), end_us - start_us
    edges = [start_us + length * part // total for part in accumulate(weights, initial=0)]
    return [
        Word(text, a, b, None, speaker, "typed", aligned=False)
        for text, a, b in zip(texts, edges, edges[1:], strict=False)
    ]


def _respelled(word: Word, text: str) -> Word:
    return word if word.text == text else replace(word, text=text)


def _replaced(word: Word, text: str) -> Word:
    return replace(word, text=text, origin="typed", confidence=None)


def _added(
    texts: Sequence[str], left: int, right: int, speaker: str | None, *, at_front: bool
) -> list[Word]:
    length = min(right - left, LONGEST_ADDED_US * len(texts))
    start = right - length if at_front else left
    return spread(texts, start, start + length, speaker)
