"""Repeats and false starts found in a script that says where they are."""

from __future__ import annotations

from pathlib import Path

from bench.report import at_least
from mortiser.core.editing.repeats import repeats
from mortiser.core.transcript.fillers import filler_runs, of_language
from mortiser.core.transcript.words import Word, tokens

SCRIPTS = ("repeats", "repeats-unseen")
"""What is to go stands in braces. The second one was written when the rules stood."""
WORD_US = 350_000
BESIDE = 1
"""So many words more or less than marked are still the same repeat: a filler beside it, say."""


def run() -> None:
    """Print how many of the marked repeats are found, and how many of those found are marked."""
    for name in SCRIPTS:
        _measure(name)


def _measure(name: str) -> None:
    words, marked = _script(Path("bench/media") / f"{name}.txt")
    fillers = {at for a, b in filler_runs(words, of_language("en")) for at in range(a, b + 1)}
    found = [(one.first, one.last) for one in repeats(words, fillers)]
    right = [one for one in found if any(_same(one, other) for other in marked)]
    missed = [one for one in marked if not any(_same(one, other) for other in found)]
    against = f"{len(marked)} marked in {len(words)} words"
    print(f"  {name}")
    at_least("repeats found", 100 * (1 - len(missed) / len(marked)), "%", 80, against)
    at_least(
        "of those found, marked", 100 * len(right) / len(found), "%", 90, f"{len(found)} found"
    )
    for a, b in missed:
        print(f"      missed: {_text(words, a, b)}")
    for a, b in found:
        if (a, b) not in right:
            print(f"      wrong:  {_text(words, a, b)}")


def _same(one: tuple[int, int], other: tuple[int, int]) -> bool:
    return all(abs(a - b) <= BESIDE for a, b in zip(one, other, strict=True))


def _script(path: Path) -> tuple[list[Word], list[tuple[int, int]]]:
    """The words as somebody would say them, and the (first, last) of each stretch in braces."""
    words: list[Word] = []
    marked: list[tuple[int, int]] = []
    for number, part in enumerate(path.read_text(encoding="utf-8").replace("}", "{").split("{")):
        first = len(words)
        for token in tokens(part):
            at = len(words) * WORD_US
            words.append(Word(token, at, at + WORD_US, id=len(words) + 1))
        if number % 2:
            marked.append((first, len(words) - 1))
    return words, marked


def _text(words: list[Word], first: int, last: int) -> str:
    said = " ".join(word.text for word in words[first : last + 1])
    return f"“{said}” … “{' '.join(word.text for word in words[last + 1 : last + 6])}”"
