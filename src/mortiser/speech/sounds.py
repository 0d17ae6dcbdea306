"""How written English words are said: pocketsphinx's dictionary, then rules from letters."""

from __future__ import annotations

from collections.abc import Iterable
from functools import cache
from itertools import groupby, islice, product
from pathlib import Path

from pocketsphinx import get_model_path

from mortiser.core.transcript.sounding import Phones
from mortiser.speech.letters import phones as by_rule
from mortiser.speech.spoken import spoken

MOST_WAYS = 6
LEAST_PART = 4
"""Shorter parts are found in nearly any name."""


class DictionarySounds:
    """Sounds (see core.transcript.sounding), of the dictionary in the aligner's wheel."""

    def phones(self, text: str) -> Phones:
        """See Sounds."""
        return _joined(_ways(word)[0] for word in _said(text))

    def variants(self, text: str) -> list[Phones]:
        """See Sounds."""
        ways = [_ways(word) for word in _said(text)]
        return list(dict.fromkeys(_joined(chosen) for chosen in islice(product(*ways), MOST_WAYS)))

    def known(self, word: str) -> bool:
        """See Sounds."""
        return all(part in dictionary() for part in spoken(word))


def _said(text: str) -> list[str]:
    return [word for token in text.split() for word in spoken(token)]


def _joined(words: Iterable[str]) -> Phones:
    """The phones of several words; one that is said twice in a row is said once."""
    phones = [phone for word in words for phone in word.split()]
    return tuple(phone for phone, _ in groupby(phones))


def _ways(word: str) -> list[str]:
    """How a word may be said: as in the dictionary, else by rule or as the two words it is made of."""
    found = dictionary().get(word)
    if found:
        return [found]
    ways = [by_rule(word)]
    for cut in range(len(word) - LEAST_PART, LEAST_PART - 1, -1):
        first, second = dictionary().get(word[:cut]), dictionary().get(word[cut:])
        if first and second:
            ways.append(f"{first} {second}")
    return ways


@cache
def dictionary() -> dict[str, str]:
    """134,860 words with their first pronunciation; read once, when first asked for."""
    lines = Path(get_model_path("en-us/cmudict-en-us.dict")).read_text().splitlines()
    return dict(line.split(" ", 1) for line in lines)
