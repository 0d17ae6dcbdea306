"""Names and trade words that are to be written one way, put in where something like them was heard.

A window of one to four heard words is taken for an entry when its letters are those of the entry or
of a form it is known to be heard as, or when it sounds nearly the same. How nearly depends on how
much there is to go by: windows of well-known words must be closer, and short entries are never
matched by sound alone.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

from mortiser.core.transcript.carry import replaced_stretches, spread
from mortiser.core.transcript.sentences import ends_sentence
from mortiser.core.transcript.sounding import Phones, Sounds, difference
from mortiser.core.transcript.words import AnyWord, Word, tokens, word_key

MOST_WORDS = 4
LEAST_PHONES = 4
NEAR = 0.3
"""Differences up to this are taken where the window has a word no dictionary knows …"""
NEARER = 0.26
"""… and up to this where all its words are well known."""
LOOSE = 0.4
"""A doubtful word may stand for an entry that differs up to this."""
OFFERED = 0.5
"""A correction is worth an entry only when what was heard sounds at least this much alike."""

_AFFIXES = re.compile(r"^([^\w]*)(.*?)((?:['’]s)?[^\w]*)$", re.DOTALL)


@dataclass(frozen=True, slots=True)
class Entry:
    """How something is written, and forms it has been heard as. ``id`` is 0 until it is stored."""

    written: str
    heard: tuple[str, ...] = ()
    id: int = 0


@dataclass(frozen=True, slots=True)
class Respelling:
    """Words ``first`` to ``last`` (inclusive) are to read ``text``."""

    first: int
    last: int
    text: str


class Glossary:
    """Entries made ready for matching."""

    def __init__(
        self, entries: Iterable[Entry], sounds: Sounds, refused: Iterable[str] = ()
    ) -> None:
        """``refused``: what was heard and put back where an entry had been written."""
        self._sounds = sounds
        self._refused = {_letters(text) for text in refused}
        self._by_letters: dict[str, str] = {}
        self._by_sound: list[tuple[str, Phones]] = []
        self._phones = lru_cache(4096)(sounds.phones)
        for entry in entries:
            for form in (entry.written, *entry.heard):
                self._by_letters.setdefault(_letters(form), entry.written)
                self._by_sound += [
                    (entry.written, phones)
                    for phones in sounds.variants(form)
                    if len(phones) >= LEAST_PHONES
                ]

    def changes(self, words: Sequence[Word]) -> list[Respelling]:
        """What is to be written otherwise, in order, no two overlapping.

        Only heard words that nobody has settled are touched; a window never reaches over the end of a sentence.
        """
        found: list[tuple[float, int, int, str]] = []
        for first, last in _windows(words):
            texts = [word.text for word in words[first : last + 1]]
            head, core, tail = _split(texts)
            match = self._match(core)
            if match is None:
                continue
            score, written = match
            text = head + _cased(written, core) + tail
            if text == " ".join(texts):
                # Right already: nothing else may claim these words.
                score, text = -1.0, ""
            found.append((score, first, last, text))
        taken: set[int] = set()
        chosen: list[Respelling] = []
        for _, first, last, text in sorted(found, key=lambda f: (f[0], f[1] - f[2], f[1])):
            if taken.isdisjoint(range(first, last + 1)):
                taken.update(range(first, last + 1))
                if text:
                    chosen.append(Respelling(first, last, text))
        return sorted(chosen, key=lambda change: change.first)

    def like(self, text: str) -> str | None:
        """The entry that a doubtful word may stand for, looser than what is changed at once."""
        head, core, tail = _split([text])
        phones = self._phones(core)
        best = min(
            ((difference(phones, form), written) for written, form in self._by_sound),
            default=(1.0, ""),
        )
        return head + best[1] + tail if best[0] <= LOOSE else None

    def _match(self, core: str) -> tuple[float, str] | None:
        letters = _letters(core)
        if letters in self._refused:
            return None
        written = self._by_letters.get(letters)
        if written is not None:
            return 0.0, written
        phones = self._phones(core)
        if len(phones) < LEAST_PHONES:
            return None
        limit = NEARER if all(self._sounds.known(word) for word in core.split()) else NEAR
        best: tuple[float, str] | None = None
        for written, form in self._by_sound:
            if abs(len(form) - len(phones)) > limit * max(len(form), len(phones)):
                continue
            apart = difference(phones, form)
            if apart <= limit and (best is None or apart < best[0]):
                best = (apart, written)
        return best


def reworded(words: Sequence[AnyWord], changes: Iterable[Respelling]) -> list[AnyWord]:
    """The words with the changes made; what was heard stays beside each (``heard_as``).

    The first word of a change carries all that was heard, the rest of it an empty text. Where the
    number of words stays, so do their times; else the new ones share the old ones' time.
    """
    result: list[AnyWord] = []
    at = 0
    for change in changes:
        result += words[at : change.first]
        old = words[change.first : change.last + 1]
        new = tokens(change.text)
        heard = " ".join(word.text for word in old)
        if len(new) == len(old):
            made = [replace(word, text=text) for word, text in zip(old, new, strict=True)]
        elif len(new) == 1:
            made = [replace(old[0], text=new[0], end_us=old[-1].end_us)]
        else:
            shared = spread(new, old[0].start_us, old[-1].end_us)
            made = [
                replace(
                    old[0],
                    text=one.text,
                    start_us=one.start_us,
                    end_us=one.end_us,
                    aligned=False,
                    id=0 if index else old[0].id,
                )
                for index, one in enumerate(shared)
            ]
        result += [
            replace(word, confidence=None, alternatives=(), heard_as="" if index else heard)
            for index, word in enumerate(made)
        ]
        at = change.last + 1
    return [*result, *words[at:]]


def corrections(old: Sequence[Word], text: str) -> list[tuple[str, str]]:
    """(heard, written) for every heard stretch of up to four words that a new text replaces."""
    return [
        (_bare(" ".join(word.text for word in stretch)), _bare(" ".join(fresh)))
        for stretch, fresh in replaced_stretches(old, text)
        if len(stretch) <= MOST_WORDS
        and len(fresh) <= MOST_WORDS
        and all(word.origin == "heard" and word.heard_as is None for word in stretch)
    ]


def heard_at(words: Sequence[Word], heard: str) -> list[int]:
    """Where (by the first word's place) something was heard with these letters and nobody has settled it."""
    letters = _letters(heard)
    return [
        first
        for first, word in enumerate(words)
        if letters.startswith(word_key(word.text))
        for last in _window_ends(words, first)
        if _letters(_split([one.text for one in words[first : last + 1]])[1]) == letters
    ]


def worth_an_entry(heard: str, written: str, sounds: Sounds) -> bool:
    """Whether a correction looks like something misheard and not like a change of mind."""
    said, meant = sounds.phones(heard), sounds.phones(written)
    return len(meant) >= LEAST_PHONES - 1 and difference(said, meant) <= OFFERED


def _windows(words: Sequence[Word]) -> Iterator[tuple[int, int]]:
    return ((first, last) for first in range(len(words)) for last in _window_ends(words, first))


def _window_ends(words: Sequence[Word], first: int) -> Iterator[int]:
    """The last words of the windows that begin with a word."""
    for last in range(first, min(first + MOST_WORDS, len(words))):
        if not words[last].unsettled:
            return
        yield last
        if ends_sentence(words[last].text):
            return


def _split(texts: Sequence[str]) -> tuple[str, str, str]:
    """What stands before, the words themselves, and the possessive or marks behind them."""
    found = _AFFIXES.match(" ".join(texts))
    assert found is not None
    return found.group(1), found.group(2), found.group(3)


def _letters(text: str) -> str:
    return "".join(word_key(token) for token in tokens(text))


def _bare(text: str) -> str:
    return _split([text])[1]


def _cased(written: str, core: str) -> str:
    """A capital at the start of a sentence stays a capital."""
    if core[:1].isupper() and written[:1].islower():
        return written[:1].upper() + written[1:]
    return written
