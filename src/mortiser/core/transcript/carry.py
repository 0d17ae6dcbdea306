"""Carry times over when text is corrected: which words live on, where the new ones sit.

Rules, each tested by random edits:
- a word whose letters did not change keeps its identity and its times to the microsecond;
- a replaced word takes the place of the one it replaces; where the numbers differ, the new
  words share the old ones' time by their likely spoken length;
- an added word goes into the quiet before the next word, or gets no length where there is none;
- what was decided about the place behind a word that goes stays at that place, and words that
  were all marked alike leave their mark to those that replace them;
- starts never go backwards, words never overlap, none of the new text is lost.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import accumulate

from rapidfuzz.distance import LCSseq

from mortiser.core.transcript.unspaced import cut, tight
from mortiser.core.transcript.words import (
    Shown,
    Word,
    shown,
    spoken_weight,
    tokens,
    tokens_plain,
    word_key,
)

LONGEST_ADDED_US = 400_000
"""An added word is not stretched over a long pause."""


def carry(old: Sequence[Shown], text: str, room: tuple[int, int]) -> list[Shown]:
    """Words for ``text`` with the times of ``old`` (in order) carried over.

    ``room`` is the time of the piece in microseconds that may be used: from the end of the word
    before to the start of the word after. Kept and 1:1 replaced words keep their ids.
    """
    fresh = tokens_like(text, [word.text for word in old])
    keys = [word_key(word.text) for word in old], [word_key(token) for token in fresh]
    result: list[Shown] = []
    looks = {word.look for word in old}
    for same, a0, a1, b0, b1 in _blocks(*keys):
        new = fresh[b0:b1]
        if same:
            result += [_respelled(w, t) for w, t in zip(old[a0:a1], new, strict=True)]
        elif a1 - a0 == b1 - b0:
            result += [_replaced(w, t) for w, t in zip(old[a0:a1], new, strict=True)]
        elif a1 > a0 and b1 > b0:
            fresh_words = spread(new, old[a0].start_us, old[a1 - 1].end_us, old[a0].speaker)
            accents = {word.accent for word in old[a0:a1]}
            mark = accents.pop() if len(accents) == 1 else 0
            result += [replace(shown(word), accent=mark) for word in fresh_words]
        elif b1 > b0:
            left = result[-1].end_us if result else room[0]
            right = old[a0].start_us if a0 < len(old) else room[1]
            speaker = old[min(a0, len(old) - 1)].speaker if old else None
            result += map(shown, _added(new, left, max(left, right), speaker, at_front=not result))
        if not same and a1 - a0 != b1 - b0 and a1 > a0 and result and result[-1].seam == "free":
            result[-1] = replace(result[-1], seam=old[a1 - 1].seam)
    if len(looks) == 1 and looks != {""}:
        (look,) = looks
        result = [replace(word, look=look) for word in result]
    return result


def tokens_like(text: str, old: Sequence[str]) -> list[str]:
    """A text's words; where a script has no spaces, parted as the old words are where they stand.

    Words cut in another context would else lose the times of those they are.
    """
    known = sorted({word for word in old if len(word) > 1}, key=len, reverse=True)
    if not any(tight(word[-1], word[-1]) or tight(word[0], word[0]) for word in old):
        return tokens(text)
    found: list[str] = []
    for run in tokens_plain(text):
        at = rest = 0
        while at < len(run):
            word = next((one for one in known if run.startswith(one, at)), None)
            parts = word and (at == 0 or tight(run[at - 1], run[at]))
            end = at + len(word) if word else at
            if word and parts and (end == len(run) or tight(run[end - 1], run[end])):
                found += cut(run[rest:at]) if at > rest else []
                found.append(word)
                at = rest = end
            else:
                at += 1
        found += cut(run[rest:]) if rest < len(run) else []
    return found


def _blocks(old: Sequence[str], new: Sequence[str]) -> Iterator[tuple[bool, int, int, int, int]]:
    """Runs of (same?, old range, new range) along a longest common subsequence of the keys.

    A longest one, not difflib's greedy one: deleting words must never be taken for replacing them.
    """
    differs: list[int] | None = None
    for step in LCSseq.opcodes(old, new):
        ranges = step.src_start, step.src_end, step.dest_start, step.dest_end
        if step.tag == "equal":
            if differs:
                yield False, *_four(differs)
            differs = None
            yield True, *ranges
        elif differs is None:
            differs = list(ranges)
        else:
            differs[1], differs[3] = ranges[1], ranges[3]
    if differs:
        yield False, *_four(differs)


def _four(ranges: list[int]) -> tuple[int, int, int, int]:
    a0, a1, b0, b1 = ranges
    return a0, a1, b0, b1


def replaced_stretches(
    old: Sequence[Word], text: str
) -> Iterator[tuple[Sequence[Word], list[str]]]:
    """Each run of old words that a new text puts other words in the place of, with these words."""
    fresh = tokens_like(text, [word.text for word in old])
    keys = [word_key(word.text) for word in old], [word_key(token) for token in fresh]
    for same, a0, a1, b0, b1 in _blocks(*keys):
        if not same and a1 > a0 and b1 > b0:
            yield old[a0:a1], fresh[b0:b1]


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


def _respelled(word: Shown, text: str) -> Shown:
    return word if word.text == text else replace(word, text=text)


def _replaced(word: Shown, text: str) -> Shown:
    return replace(word, text=text, origin="typed", confidence=None, alternatives=(), heard_as=None)


def _added(
    texts: Sequence[str], left: int, right: int, speaker: str | None, *, at_front: bool
) -> list[Word]:
    length = min(right - left, LONGEST_ADDED_US * len(texts))
    start = right - length if at_front else left
    return spread(texts, start, start + length, speaker)
