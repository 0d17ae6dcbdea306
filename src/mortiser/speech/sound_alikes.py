"""Words that sound like another one and may stand in its place."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache

from rapidfuzz.distance import Levenshtein
from rapidfuzz.process import extract

from mortiser.core.sounding import COARSE, Phones, classes, difference
from mortiser.speech.sounds import DictionarySounds, dictionary
from mortiser.speech.spoken import spoken
from mortiser.speech.wording import RAREST, Wording

FARTHEST = 0.4
"""Words that sound more different (see core.sounding.difference) are not offered."""
USUAL = 0.03
"""What a nat of the language model counts, in such differences. Of 93 doubtful words that were wrong in six recordings,
28 were right in what else was heard, 46 with six of what was heard and what sounds alike."""


@dataclass(frozen=True)
class _Vocabulary:
    """Words with their phones, and the classes of these."""

    words: tuple[str, ...]
    phones: tuple[Phones, ...]
    classes: tuple[str, ...]


class SoundAlikes:
    """Looks through the words of the dictionary that the language model has too."""

    def __init__(self, wording: Wording) -> None:
        self._wording = wording
        self._sounds = DictionarySounds()

    def of(self, text: str, before: Sequence[str], after: Sequence[str], most: int) -> list[str]:
        """Words that may be meant by one between spoken neighbours, the likeliest first, at most so many.

        None for what is not one spoken word, as a number of several.
        """
        said = spoken(text)
        if len(said) != 1:
            return []
        phones, every = self._sounds.phones(text), _vocabulary()
        near = extract(
            classes(phones),
            every.classes,
            scorer=Levenshtein.normalized_distance,
            score_cutoff=FARTHEST / COARSE,
            limit=None,
        )
        found: list[tuple[float, str]] = []
        for _, _, index in near:
            word = every.words[index]
            apart = difference(phones, every.phones[index])
            if word != said[0] and apart <= FARTHEST:
                likely = self._wording.likelihood(before, [word], after)
                found.append((apart - USUAL * likely, word))
        return [word for _, word in sorted(found)[:most]]


@cache
def _vocabulary() -> _Vocabulary:
    """Worked out once, when first asked for; that takes half a second."""
    wording = Wording()
    known = {word: tuple(said.split()) for word, said in dictionary().items()}
    words = tuple(word for word in known if _is_word(word) and wording.usual(word) > RAREST)
    phones = tuple(known[word] for word in words)
    return _Vocabulary(words, phones, tuple(map(classes, phones)))


def _is_word(text: str) -> bool:
    return text.isascii() and (len(text) > 1 or text in ("a", "i"))
