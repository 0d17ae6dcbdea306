"""How sure one may be of a heard word, from signs that proved themselves on speech with known text.

Two logistic models: where a second engine heard the word too, and where it did not. Fitted on 3,960
words of ten recordings; how much of what is wrong they flag is printed by ``bench doubting``.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from mortiser.core.transcript.words import Word

LEAST_RIVAL, MOST_RIVAL = -10.0, 15.0
"""Nats; beyond these a rival says nothing more."""


@dataclass(frozen=True, slots=True)
class Signs:
    """What speaks for and against a word.

    ``guessed``: no dictionary knows it; ``surprise``: how little a language model expected it (nats).
    ``letters``: how long it is; a short one is seldom misheard. ``contested``: whether it stood against
    another one; ``left``: the chance, 0 to 1, that was left to the other then. ``sure``: how sure the
    second engine is of the word, 0 where it has another, None where there is no such engine; only then
    counts ``third_against``, that a third engine had another word (it is in the contest otherwise).
    ``rival``: by how much better the best word of much the same sound would read (nats, see speech.rivals).
    """

    guessed: bool
    surprise: float
    letters: int
    contested: bool = False
    left: float = 0.0
    sure: float | None = None
    third_against: bool = False
    rival: float = LEAST_RIVAL


@dataclass(frozen=True, slots=True)
class DoubtWeights:
    """What each sign counts (log odds of being wrong); ``following``: the surprise of the next two."""

    base: float
    guessed: float
    following: float
    letters: float
    surprise: float = 0.0
    left: float = 0.0
    beside_contested: float = 0.0
    sure: float = 0.0
    third: float = 0.0
    beside_third: float = 0.0
    rival: float = 0.0


TWICE = DoubtWeights(
    base=-1.81,
    guessed=0.92,
    following=0.209,
    letters=-0.2,
    left=5.31,
    beside_contested=0.82,
    sure=-2.92,
    rival=0.174,
)
"""Beside its rival a word's own surprise tells nothing more."""
ONCE = DoubtWeights(
    base=-5.23,
    guessed=1.74,
    surprise=0.278,
    following=0.202,
    letters=-0.338,
    third=4.09,
    beside_third=0.85,
)
MOST_LETTERS = 8
MOST_SURPRISE = 14.0
"""Nats; beyond that a word is only rarer."""
NEXT = 2
"""A wrong word makes so many after it surprising."""
SURE_POWER = 8
"""An engine that is sure by less than nine tenths says next to nothing."""


ALONE_BASE = -0.40
ALONE_SURE = -5.06


def alone(sure: float) -> float:
    """The chance that a word is right which one engine heard alone, by how sure it is (0 to 1).

    Fitted on 2,900 English words; other languages have not been measured.
    """
    return 1 / (1 + math.exp(ALONE_BASE + ALONE_SURE * sure**SURE_POWER))


def confidences(signs: Sequence[Signs]) -> list[float]:
    """The chance, 0 to 1, that each word of a stretch of speech is right; neighbours count a little."""
    result = []
    for index, sign in enumerate(signs):
        weights = ONCE if sign.sure is None else TWICE
        score = weights.base + weights.guessed * sign.guessed
        score += weights.letters * min(MOST_LETTERS, sign.letters)
        score += weights.surprise * min(MOST_SURPRISE, sign.surprise)
        for one in signs[index + 1 : index + 1 + NEXT]:
            score += weights.following * min(MOST_SURPRISE, one.surprise) / NEXT
        score += weights.left * sign.left
        score += weights.sure * (sign.sure or 0.0) ** SURE_POWER
        score += weights.third * sign.third_against
        score += weights.rival * max(LEAST_RIVAL, min(MOST_RIVAL, sign.rival))
        beside = [signs[i] for i in (index - 1, index + 1) if 0 <= i < len(signs)]
        for one in beside:
            against = weights.beside_third * one.third_against
            against += weights.beside_contested * one.contested
            score += against / len(beside)
        result.append(1 / (1 + math.exp(score)))
    return result


MOST_ALTERNATIVES = 6
"""So many things that a word may be are shown, each with a key."""
DOUBT_BELOW = 0.9
"""Flags about one word in twelve."""


def doubtful(word: Word) -> bool:
    """A heard word that is not sure enough and was not settled by hand since."""
    return word.origin == "heard" and word.confidence is not None and word.confidence < DOUBT_BELOW
