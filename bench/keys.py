"""Key presses from transcribed to clean, word by word, for two ways through the doubts.

Listening through: Shift D plays them all; a digit takes an alternative, X takes a word out, what is left as it
is, is kept at the end. One by one: D goes to the first doubt; A keeps a word, and each key goes on to the next. A word
that no alternative puts right is written: 7, its letters until it is offered and the digit that takes it, or all of
them and Enter; listening goes on by itself. A wrong word that is not in doubt is asked about when it is heard: Q, then
as before.
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
from mortiser.speech.sound_alikes import SoundAlikes, sound_alikes
from mortiser.speech.spoken import spoken_map
from mortiser.wiring import model_place

NEAR = 8
"""Words on either side that say what fits."""
VOICES = ("kettle", "counter", "joe", "heart")


def run() -> None:
    """Print the presses of each wrong word, and the sum for a wrong word and for a misheard one."""
    second = second_for("en", [], model_place(Settings()))
    presses = wrong = misheard = heard = 0
    every = voices()
    for name in VOICES:
        sound, truth = every[name]
        first, words = hear_twice(sound, second)
        these, places = _presses(words, truth)
        through, _ = _presses(words, truth, through=True)
        presses += these
        heard += through
        wrong += places
        misheard += len(compare(as_said(truth), as_said([w.text for w in first])).differences)
        print(
            f"      {name}: {through} presses listening through, {these} one by one, {places} words wrong"
        )
    for way, count in (("listening through", heard), ("one by one", presses)):
        at_most(
            f"{way}: a misheard word", count / misheard, "presses", 2, f"{misheard} misheard", 2
        )
        at_most(f"{way}: a word left wrong", count / wrong, "presses", 2, f"{wrong} left wrong", 2)


def _presses(words: list[Word], truth: list[str], *, through: bool = False) -> tuple[int, int]:
    _, owner = spoken_map([word.text for word in words])
    true = as_said(truth)
    found = compare(true, as_said([word.text for word in words]))
    at = _by_word(found.differences, owner, true)
    alike = sound_alikes()
    total = int(any(doubtful(word) for word in words))
    for index, word in enumerate(words):
        meant = at.get(index)
        if meant is None:
            total += doubtful(word) and not through
            continue
        first = max(0, index - NEAR)
        near = words[first : index + NEAR + 1]
        cost = _cost(alike, near, index - first, meant)
        total += cost
        if through:
            print(f"        “{word.text}” for “{meant}”: {cost}")
    return total, len(found.differences)


def _cost(alike: SoundAlikes, near: list[Word], index: int, meant: str) -> int:
    """The presses that put one of some neighbouring words right."""
    word = near[index]
    there = int(not doubtful(word))
    if not meant or meant in _said(word.alternatives if not there else alike.others(near, index)):
        return there + 1
    for letters in range(1, len(meant) - 1):
        if meant in _said(alike.others(near, index, meant[:letters])):
            return there + 1 + letters + 1
    return there + 1 + len(meant) + 1


def _said(offered: Sequence[str]) -> list[str]:
    return [" ".join(as_said([one])) for one in offered]


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
