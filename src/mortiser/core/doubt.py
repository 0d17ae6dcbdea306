"""How sure one may be of a heard word, from signs that proved themselves on speech with known text.

Two logistic models: where a second engine heard the word too, and where it did not. Fitted on 2,900
words of eight recordings; how much of what is wrong they flag is printed by ``bench doubting``.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from mortiser.core.words import Word


@dataclass(frozen=True, slots=True)
class Signs:
    """What speaks for and against a word.

    ``hearing_against``: another hearing of the same sound, played slower, had another word;
    ``decoder_against``: so had another decoder with its own language model; ``guessed``: no dictionary
    knows it. ``contested``: the second engine had something else in its place or beside it; ``sure``:
    how sure that engine is of the word, 0 where it has another, None where there is no such engine.
    """

    hearing_against: bool
    decoder_against: bool
    guessed: bool
    contested: bool = False
    sure: float | None = None


@dataclass(frozen=True, slots=True)
class Weights:
    """What each sign counts (log odds of being wrong)."""

    base: float
    hearing: float
    decoder: float
    guessed: float
    beside_hearing: float
    beside_decoder: float
    contested: float = 0.0
    beside_contested: float = 0.0
    sure: float = 0.0


TWICE = Weights(
    base=-2.71,
    hearing=0.66,
    decoder=1.04,
    guessed=1.16,
    beside_hearing=0.38,
    beside_decoder=0.39,
    contested=1.0,
    beside_contested=0.66,
    sure=-3.65,
)
ONCE = Weights(
    base=-3.78,
    hearing=2.16,
    decoder=1.35,
    guessed=2.75,
    beside_hearing=0.73,
    beside_decoder=-0.28,
)
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
        beside = [signs[i] for i in (index - 1, index + 1) if 0 <= i < len(signs)]
        score = weights.base + weights.hearing * sign.hearing_against
        score += weights.decoder * sign.decoder_against + weights.guessed * sign.guessed
        score += weights.contested * sign.contested
        score += weights.sure * (sign.sure or 0.0) ** SURE_POWER
        for one in beside:
            against = weights.beside_hearing * one.hearing_against
            against += weights.beside_decoder * one.decoder_against
            against += weights.beside_contested * one.contested
            score += against / len(beside)
        result.append(1 / (1 + math.exp(score)))
    return result


MOST_ALTERNATIVES = 6
"""So many things that a word may be are shown, each with a key."""
DOUBT_BELOW = 0.86
"""Flags about one word in eleven."""


def doubtful(word: Word) -> bool:
    """A heard word that is not sure enough and was not settled by hand since."""
    return word.origin == "heard" and word.confidence is not None and word.confidence < DOUBT_BELOW
