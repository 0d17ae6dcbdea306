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
from mortiser.core.transcript.comparing import compare
from mortiser.core.transcript.doubt import doubtful
from mortiser.core.transcript.voting import contests
from mortiser.core.transcript.words import Word
from mortiser.settings import Settings
from mortiser.speech.beside import as_said as spoken_as
from mortiser.speech.engines import ensemble_for
from mortiser.speech.sound_alikes import SoundAlikes, sound_alikes
from mortiser.wiring import model_place

NEAR = 8
"""Words on either side that say what fits."""
VOICES = ("kettle", "counter", "joe", "heart")


def run() -> None:
    """Print the presses of each wrong word, and the sum for a wrong word and for a misheard one."""
    ensemble = ensemble_for("en", [], model_place(Settings()))
    presses = wrong = misheard = heard = 0
    every = voices()
    for name in VOICES:
        sound, truth = every[name]
        first, words = hear_twice(sound, ensemble)
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
    mine, theirs = spoken_as([word.text for word in words]), spoken_as(truth)
    alike = sound_alikes()
    total = int(any(doubtful(word) for word in words))
    wrong: set[int] = set()
    for place in contests(mine, theirs):
        said = [
            [word for word, owner in zip(theirs.said, theirs.owner, strict=True) if owner == index]
            for index in range(place.start, place.stop)
        ]
        ways = _ways(words, place.first, place.end, [" ".join(one) for one in said])
        best = min(
            (
                {index: (text, _cost(alike, words, index, text)) for index, text in way.items()}
                for way in ways
            ),
            key=lambda way: sum(cost for _, cost in way.values()),
        )
        wrong.update(best)
        for index, (text, cost) in best.items():
            total += cost
            if through:
                print(f"        “{words[index].text}” for “{text}”: {cost}")
    if not through:
        total += sum(doubtful(word) for index, word in enumerate(words) if index not in wrong)
    found = compare(as_said(truth), as_said([word.text for word in words]))
    return total, len(found.differences)


def _ways(words: list[Word], first: int, end: int, said: list[str]) -> list[dict[int, str]]:
    """How ``first`` to ``end`` may become what was said: what each word becomes, nothing where it goes. Words that
    were missed are put in with the one behind them."""
    if first == end:
        at = min(end, len(words) - 1)
        return [{at: " ".join([*said, *as_said([words[at].text])])}]
    count = end - first
    if count == len(said):
        return [dict(enumerate(said, first))]
    ways = [
        {first + i: " ".join(said) if i == takes else "" for i in range(count)}
        for takes in range(count)
    ]
    if count > len(said) > 1:
        gone = count - len(said)
        ways += [
            dict(enumerate([*said, *[""] * gone], first)),
            dict(enumerate([*[""] * gone, *said], first)),
        ]
    return ways


def _cost(alike: SoundAlikes, words: list[Word], index: int, meant: str) -> int:
    """The presses that put a word right."""
    word = words[index]
    first = max(0, index - NEAR)
    near, index = words[first : index + NEAR + 1], index - first
    there = int(not doubtful(word))
    if not meant or meant in _said(word.alternatives if not there else alike.others(near, index)):
        return there + 1
    for letters in range(1, len(meant) - 1):
        if meant in _said(alike.others(near, index, meant[:letters])):
            return there + 1 + letters + 1
    return there + 1 + len(meant) + 1


def _said(offered: Sequence[str]) -> list[str]:
    return [" ".join(as_said([one])) for one in offered]
