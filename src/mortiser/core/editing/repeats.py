"""Repeats and false starts: words begun again, of which the last, complete take stays.

Plain rules, so that each can be explained by the words it compared:

- A run of words that is said twice without anything between.
- A beginning of two words or more that is taken up again after words that lead nowhere: they end in a
  word that cannot end a phrase, or break off. Where nothing breaks off it has to be the beginning of a
  phrase, and "and" leads somewhere: people say alike what is alike.
- A beginning of which all words come again, others among them.
- A sentence whose beginning and most of whose words come again in the next one.

What is begun again more than once is one repeat.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass

from rapidfuzz.distance import LCSseq

from mortiser.core.common.time import MILLISECOND
from mortiser.core.transcript.sentences import ends_sentence
from mortiser.core.transcript.words import Word, word_key


def listed(text: str) -> frozenset[str]:
    """The words of a text."""
    return frozenset(text.split())


LONGEST = 8
"""Words of a run that is said twice."""
REACH = 12
"""A beginning is taken up again within so many words."""
TAKE_WORDS = 4
"""So many first words make two sentences takes of one another, where most others are alike too."""
ALIKE = 0.6
PAUSE_US = 250 * MILLISECOND
"""So long a pause breaks words off."""
AMONG = 2
"""So many other words may stand among those of a beginning that is taken up again."""
JOINING = listed(
    "and or but so because then well und oder aber also y o pero et ou mais e ma mas en maar"
)
"""Words behind which a phrase begins."""


BREAKS = ("-", "–", "—", "…")
PHRASE_ENDS = (",", ";", ":", ".", "!", "?")
MEANT_TWICE = listed(
    """very really so no yes much many more far long again never too bye ha had that right well knock
    hear there now come go blah"""
)
"""Words that are said twice on purpose, or that stand twice in good sentences."""
LEADS_ON = {
    "en": listed(
        """a an the to of and or but so because if when that which who with for from in on at by as is
        are was were be been can could will would should must may might do does did have has had i you
        he she it we they my your his her its our their this these those some any no not very just
        since until about there nearly"""
    ),
    "de": listed(
        """und oder aber der die das den dem des ein eine einen einem einer zu von mit für auf an in
        weil wenn dass ist sind war hat haben ich du er sie es wir ihr mein dein sein"""
    ),
    "es": listed("el la los las un una de del y o pero que con para por en es son yo mi tu su"),
    "fr": listed("le la les un une des du de et ou mais que qui avec pour en est sont je tu il"),
    "it": listed("il lo la i gli le un una di e o ma che con per in è sono io mio tuo suo"),
    "pt": listed("o a os as um uma de do da e ou mas que com para em é são eu meu seu"),
    "nl": listed("de het een van en of maar dat die met voor in op is zijn ik je hij zij wij"),
}
"""Words that a phrase does not end in, by language."""


@dataclass(frozen=True, slots=True)
class Repeat:
    """Words to take out, ``words[first:last + 1]``, and the ones they are begun again with."""

    first: int
    last: int
    again: int
    count: int
    """How many words are the same, from ``first`` and from ``again`` on."""


def repeats(
    words: Sequence[Word], skipped: Collection[int] = (), language: str = "en"
) -> list[Repeat]:
    """Repeats in order, none overlapping another. Words at ``skipped`` places (fillers) do not count as
    standing between, and are taken out with the words before them."""
    places = [at for at in range(len(words)) if at not in set(skipped)]
    said = [words[at] for at in places]
    keys = [word_key(word.text) for word in said]
    found: list[Repeat] = []
    at = 0
    while at < len(said):
        one = (
            _twice(said, keys, at)
            or _begun_again(said, keys, at, LEADS_ON.get(language, frozenset()))
            or _take(said, keys, at)
        )
        if one is None:
            at += 1
            continue
        again, count = one
        first = places[at]
        if found and found[-1].again == first:
            first = found.pop().first
        found.append(Repeat(first, places[again] - 1, places[again], count))
        at = again
    return found


def _twice(words: Sequence[Word], keys: Sequence[str], at: int) -> tuple[int, int] | None:
    """A run that is said twice: where it begins again, and its length. The longest one counts."""
    for count in range(min(LONGEST, (len(keys) - at) // 2), 0, -1):
        if keys[at : at + count] != keys[at + count : at + 2 * count]:
            continue
        if any(ends_sentence(word.text) for word in words[at : at + count]):
            continue
        if count == 1 and (keys[at] in MEANT_TWICE or keys[at].isdigit()):
            continue
        return at + count, count
    return None


def _begun_again(
    words: Sequence[Word], keys: Sequence[str], at: int, leading: Collection[str]
) -> tuple[int, int] | None:
    """A beginning that is taken up again after words that lead nowhere, or with others among its own."""
    begins = at == 0 or _breaks_off(words, at - 1) or keys[at - 1] in JOINING
    for again in range(at + 3, min(at + REACH, len(keys) - 1) + 1):
        if any(ends_sentence(word.text) for word in words[at : again - 1]):
            return None
        last = again - 1
        broken = _breaks_off(words, last)
        count = _same(keys, at, again)
        if count >= 2:
            leads = keys[last] in leading and (broken or keys[last] not in JOINING)
            ended = words[again + count - 1].text.endswith(PHRASE_ENDS)
            if words[last].text.endswith(BREAKS) or (leads and (broken or begins) and not ended):
                return again, count
        if count and begins and not broken and _all_come(keys, at, again):
            return again, again - at
    return None


def _breaks_off(words: Sequence[Word], at: int) -> bool:
    """Whether something ends behind a word, by its sign or by a pause."""
    if words[at].text.endswith((*PHRASE_ENDS, *BREAKS)):
        return True
    return at + 1 < len(words) and words[at + 1].start_us - words[at].end_us >= PAUSE_US


def _all_come(keys: Sequence[str], at: int, again: int) -> bool:
    """Whether all words from one place to another come again from there on, a few others among them."""
    return LCSseq.similarity(keys[at:again], keys[again : 2 * again - at + AMONG]) == again - at


def _take(words: Sequence[Word], keys: Sequence[str], at: int) -> tuple[int, int] | None:
    """A sentence that is said again as the next one."""
    if at and not ends_sentence(words[at - 1].text):
        return None
    again = _next_sentence(words, at)
    if again is None:
        return None
    end = _next_sentence(words, again) or len(words)
    count = _same(keys, at, again)
    if count < min(TAKE_WORDS, again - at):
        return None
    alike = LCSseq.similarity(keys[at:again], keys[again:end])
    return (again, count) if count >= 2 and alike >= ALIKE * (again - at) else None


def _same(keys: Sequence[str], at: int, again: int) -> int:
    count = 0
    while (
        again + count < len(keys) and at + count < again and keys[at + count] == keys[again + count]
    ):
        count += 1
    return count


def _next_sentence(words: Sequence[Word], at: int) -> int | None:
    for index in range(at, len(words) - 1):
        if ends_sentence(words[index].text):
            return index + 1
    return None
