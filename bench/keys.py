"""Key presses from transcribed to clean, word by word, for the way through the doubts.

D goes to the first doubt; a digit takes an alternative, A keeps the word, X takes it out, and each goes on to
the next. A word that no alternative puts right is typed: Enter, its letters, Enter. A wrong word that is
not in doubt is found by reading: one press more to get there.
"""

from __future__ import annotations

from collections.abc import Sequence

from bench.doubting import as_said, hear_twice, voices
from bench.report import at_most
from mortiser.core.comparing import Difference, compare
from mortiser.core.doubt import doubtful
from mortiser.core.words import Word
from mortiser.settings import Settings
from mortiser.speech.engines import second_for
from mortiser.speech.spoken import spoken_map
from mortiser.wiring import model_place

VOICES = ("kettle", "counter", "joe", "heart")


def run() -> None:
    """Print the presses of each wrong word, and the sum for a wrong word and for a misheard one."""
    second = second_for("en", [], model_place(Settings()))
    presses = wrong = misheard = 0
    every = voices()
    for name in VOICES:
        sound, truth = every[name]
        first, words = hear_twice(sound, second)
        these, places = _presses(words, truth)
        presses += these
        wrong += places
        misheard += len(compare(as_said(truth), as_said([w.text for w in first])).differences)
        print(f"      {name}: {these} presses for {places} words wrong")
    at_most("presses a word the quick engine misheard", presses / misheard, "", 2, f"{misheard}", 2)
    at_most("presses a word left wrong by the vote", presses / wrong, "", 2, f"{wrong}", 2)


def _presses(words: list[Word], truth: list[str]) -> tuple[int, int]:
    _, owner = spoken_map([word.text for word in words])
    true = as_said(truth)
    found = compare(true, as_said([word.text for word in words]))
    at = _by_word(found.differences, owner, true)
    total = int(any(doubtful(word) for word in words))
    for index, word in enumerate(words):
        meant = at.get(index)
        if meant is None:
            total += doubtful(word)
            continue
        ways = [" ".join(as_said([other])) for other in word.alternatives]
        by_key = doubtful(word) and (meant == "" or meant in ways)
        cost = 1 if by_key else 2 + len(meant) + (not doubtful(word))
        total += cost
        print(f"        “{word.text}” for “{meant}”: {cost}")
    return total, len(found.differences)


def _by_word(
    differences: Sequence[Difference], owner: Sequence[int], true: Sequence[str]
) -> dict[int, str]:
    """What is meant in the place of each written word that is wrong; nothing where it was added."""
    meant: dict[int, list[str]] = {}
    for one in differences:
        here = meant.setdefault(owner[min(one.heard, len(owner) - 1)], [])
        if one.kind != "added":
            here.append(true[one.said])
    return {index: " ".join(texts) for index, texts in meant.items()}
