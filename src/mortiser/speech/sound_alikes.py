"""Words that sound like another one and may stand in its place."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import cache, cached_property, lru_cache
from sys import intern

from rapidfuzz.distance import Levenshtein
from rapidfuzz.process import extract

from mortiser.core.transcript.doubt import MOST_ALTERNATIVES
from mortiser.core.transcript.sounding import Phones, classes, difference
from mortiser.core.transcript.words import Word, word_key
from mortiser.speech.beside import alternatives, as_heard, as_said
from mortiser.speech.sounds import DictionarySounds, dictionary
from mortiser.speech.spoken import spoken
from mortiser.speech.wording import RAREST, Wording

FARTHEST = 0.4
"""Words that sound more different (see core.transcript.sounding.difference) are not offered."""
USUAL = 0.03
"""What a nat of the language model counts, in such differences. Of 93 doubtful words that were wrong in six recordings,
28 were right in what else was heard, 46 with six of what was heard and what sounds alike."""
MOST_BEGUN = 300
"""So many of the words that begin as written are compared, the nearest by the classes of their phones."""
REMEMBERED = 500
"""So many words are remembered with what sounds like them, some 15 kB each."""
LAST = "\uffff"
MARKS = ".,!?;:…\"'“”‘’()[]"
SHORTEST = 3
"""Letters of what may own something."""


@dataclass(frozen=True)
class _Vocabulary:
    """Words in the order of their letters, with their phones and the classes of these."""

    words: tuple[str, ...]
    phones: tuple[Phones, ...]
    classes: tuple[str, ...]


class SoundAlikes:
    """Looks through the words of the dictionary that the language model has too."""

    def __init__(self, wording: Wording) -> None:
        self.wording = wording
        self._sounds = DictionarySounds()
        # Words come again and again.
        self.nearby = lru_cache(REMEMBERED)(self._nearby)

    @cached_property
    def _vocabulary(self) -> _Vocabulary:
        """Worked out when first needed; that takes half a second."""
        # Each phone once in memory, not once a word.
        known = {
            word: tuple(map(intern, said.split())) for word, said in sorted(dictionary().items())
        }
        usual = self.wording.usual
        words = tuple(word for word in known if _is_word(word) and usual(word) > RAREST)
        phones = tuple(known[word] for word in words)
        return _Vocabulary(words, phones, tuple(map(classes, phones)))

    def others(
        self, words: Sequence[Word], index: int, begun: str = "", names: Sequence[str] = ()
    ) -> tuple[str, ...]:
        """What one of some neighbouring words may be, at most MOST_ALTERNATIVES, as they would be written there.

        First what else was heard, then names that sound alike, "doll's" for "dolls", other words that sound alike.
        Where it was begun to write what it is, only what begins so.
        """
        word = words[index]
        texts = [as_heard(one) for one in words]
        before, after = (as_said(part).said for part in (texts[:index], texts[index + 1 :]))
        start = begun.casefold()
        heard = [text for text in word.alternatives if text.casefold().startswith(start)]
        known = self._names(word.text, start, names)
        owner = [one for one in _owner(word.text) if one.startswith(start)]
        alike = self.of(word.text, before, after, MOST_ALTERNATIVES, start)
        offered = [*heard, *known, *owner, *map(_written, alike)]
        return alternatives(word.text, offered, names)

    def made_up(self, texts: Iterable[str]) -> list[str]:
        """Those of some words that no dictionary knows, which are names most of the time."""
        bare = dict.fromkeys(text.strip(MARKS) for text in texts)
        return [text for text in bare if word_key(text) not in dictionary() and _is_word(text)]

    def of(
        self,
        text: str,
        before: Sequence[str],
        after: Sequence[str],
        most: int,
        begun: str = "",
    ) -> list[str]:
        """Words that may be meant by one between spoken neighbours, the likeliest first, at most so many.

        Those that begin with some letters may sound as different as they like, and their sound alone counts: of 80
        words that are not among six at first 40 were found by it after some letters, 37 where wording counts even a
        little. None for what is not one spoken word, as a number of several.
        """
        if begun:
            found = [(apart, word) for word, apart in self._compared(text, begun)]
        else:
            found = [
                (apart - USUAL * self.wording.likelihood(before, [word], after), word)
                for word, apart in self.nearby(text)
            ]
        return [word for _, word in sorted(found)[:most]]

    def _nearby(self, text: str) -> tuple[tuple[str, float], ...]:
        """Words that sound like a spoken word, and by how much each differs
        (see core.transcript.sounding.difference)."""
        return tuple((word, apart) for word, apart in self._compared(text) if apart <= FARTHEST)

    def _compared(self, text: str, begun: str = "") -> Iterator[tuple[str, float]]:
        said = spoken(text)
        if len(said) == 1:
            phones = self._sounds.phones(text)
            for word, its in self._near(phones, begun):
                if word != said[0]:
                    yield word, difference(phones, its)

    def _names(self, text: str, begun: str, names: Sequence[str]) -> list[str]:
        phones = self._sounds.phones(text)
        found = []
        for name in names:
            if name.casefold().startswith(begun):
                apart = difference(phones, self._sounds.phones(name))
                if begun or apart <= FARTHEST:
                    found.append((apart, name))
        return [name for _, name in sorted(found)]

    def _near(self, phones: Phones, begun: str) -> Iterator[tuple[str, Phones]]:
        """Words that may sound alike, or begin with some letters and sound most alike.

        Phones are never nearer than their classes, and both count.
        """
        every = self._vocabulary
        first, end = (bisect_left(every.words, edge) for edge in (begun, begun + LAST))
        near = extract(
            classes(phones),
            every.classes[first:end],
            scorer=Levenshtein.normalized_distance,
            score_cutoff=None if begun else FARTHEST,
            limit=MOST_BEGUN if begun else None,
        )
        return ((every.words[first + at], every.phones[first + at]) for _, _, at in near)


def _owner(text: str) -> list[str]:
    """The other way of writing what is said the same of several and of what is somebody's."""
    said = "".join(spoken(text))
    one = said.removesuffix("'s") if said.endswith("'s") else said.removesuffix("s")
    if one == said or len(one) < SHORTEST or one not in dictionary():
        return []
    # "This" is no "thi's": it is not said as that would be.
    if dictionary().get(f"{one}s") not in [
        dictionary()[one] + end for end in (" S", " Z", " IH Z", " AH Z")
    ]:
        return []
    return [f"{one}s" if said.endswith("'s") else f"{one}'s"]


def _written(word: str) -> str:
    """A word of the dictionary with the capital that it always has."""
    return word.capitalize() if word == "i" or word.startswith("i'") else word


@cache
def sound_alikes() -> SoundAlikes:
    """Made once, when first asked for."""
    return SoundAlikes(Wording())


def _is_word(text: str) -> bool:
    return text.isascii() and text[0].isalpha() and (len(text) > 1 or text in ("a", "i"))
