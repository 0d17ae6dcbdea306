"""Hearings of the same sound set beside each other, word by word, as they are said."""

from __future__ import annotations

import re
from collections.abc import Collection, Sequence
from dataclasses import dataclass
from difflib import SequenceMatcher

from mortiser.core.transcript.doubt import MOST_ALTERNATIVES
from mortiser.core.transcript.voting import Spoken
from mortiser.core.transcript.words import Word, word_key
from mortiser.speech.spoken import spoken, spoken_map

WRITTEN = {"grey": "gray", "tyre": "tire"}
"""Spellings of one word: no reason to vote."""


@dataclass(frozen=True)
class Other:
    """What another hearing had at a word's place: nothing against it, or this text instead."""

    agrees: bool
    text: str | None = None


def compare(texts: Sequence[str], others: Sequence[str]) -> list[Other]:
    """For each word of ``texts`` whether another hearing of the same sound has it too.

    Numbers and signs are compared as they are said. Where as many words stand in its place, the
    one there is what the other hearing had instead.
    """
    mine, theirs = ([_said(t) for t in side] for side in (texts, others))
    result = [Other(False)] * len(texts)
    for tag, a0, a1, b0, b1 in SequenceMatcher(None, mine, theirs, autojunk=False).get_opcodes():
        if tag == "equal":
            result[a0:a1] = [Other(True)] * (a1 - a0)
        elif tag == "replace":
            spelt = "".join(mine[a0:a1]) == "".join(theirs[b0:b1])
            for index in range(a0, a1):
                even = a1 - a0 == b1 - b0
                text = others[b0 + index - a0] if even else None
                text = " ".join(others[b0:b1]) if a1 - a0 == 1 and b1 - b0 == 2 else text
                result[index] = Other(spelt, None if spelt else text)
    return result


def as_said(texts: Sequence[str]) -> Spoken:
    """Written words as they are said, each spelling of a word alike."""
    said, owner = spoken_map(texts)
    return Spoken(tuple(WRITTEN.get(word, word) for word in said), tuple(owner), len(texts))


def as_heard(word: Word) -> str:
    """The word before the glossary wrote it."""
    return word.text if word.heard_as is None else word.heard_as


def _said(text: str) -> str:
    return " ".join(WRITTEN.get(word, word) for word in spoken(text)) or word_key(text)


def alternatives(
    text: str, others: Sequence[str | None], names: Collection[str] = ()
) -> tuple[str, ...]:
    """Different things that a word may be, as they would be written in its place; names keep their capitals."""
    found: dict[tuple[str, int], str] = {}
    tail = re.sub(r"^.*?([.,!?;:…]*)$", r"\1", text)
    for other in others:
        if other is None:
            continue
        plain = other.strip(".,!?;:…")
        if text[:1].isupper():
            plain = plain[:1].upper() + plain[1:]
        elif other not in names and not plain.startswith(("I ", "I'")) and plain != "I":
            plain = plain[:1].lower() + plain[1:]
        if plain and _key(plain) != _key(text):
            found.setdefault(_key(plain), plain + tail)
    return tuple(found.values())[:MOST_ALTERNATIVES]


def _key(text: str) -> tuple[str, int]:
    """The same for spellings that differ in capitals and signs, but not for "dolls" and "doll's"."""
    return word_key(text), text.replace("’", "'").rstrip("'").count("'")
