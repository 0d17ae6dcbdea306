"""Which language a recording is in, where nobody said so."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable

from mortiser.speech.activity import speech_in
from mortiser.speech.chunks import LONG_S, chunks
from mortiser.speech.protocols import LanguageFinder, Samples

FIND_OUT = "auto"
"""Chosen in place of a language that nobody named."""
ENOUGH = 0.8
LOOKS = 4
"""Stretches with speech that are listened to where the first leave doubt."""
LEAST_SPEECH_S = 1.0


def language_spoken(sound: Iterable[Samples], finder: LanguageFinder) -> str | None:
    """The language most of the first stretches with speech are in; None where nobody speaks."""
    chances: dict[str, float] = defaultdict(float)
    looks = 0
    for _, samples in chunks(sound, LONG_S, 10.0):
        if sum(end - start for start, end in speech_in(samples)) < LEAST_SPEECH_S:
            continue
        language, chance = finder.language_of(samples)
        chances[language] += chance
        looks += 1
        if chance >= ENOUGH or looks == LOOKS:
            break
    return max(chances, key=lambda code: chances[code], default=None)
