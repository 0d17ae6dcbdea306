"""Words worth an accent: found by plain rules, each with its reason, strongest first.

A word's score is the strongest thing about it: a figure, a name, a strong word, what follows a turn
("not", "but"), a long or rare content word, or the last content word of a sentence, where English
puts its weight (end focus).
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from mortiser.core.transcript.sentences import ends_sentence
from mortiser.core.transcript.words import Cue, Word, word_key


def _words(text: str) -> frozenset[str]:
    return frozenset(word_key(word) for word in text.split())


NUMBERS = _words(
    """two three four five six seven eight nine ten eleven twelve twenty thirty forty fifty hundred
    thousand million half double twice"""
)
STRONG = _words(
    """never always best worst free only must stop every nobody everybody nothing everything first
    last biggest smallest secret wrong right perfect dangerous huge tiny love hate warning mistake
    amazing terrible finally forever impossible"""
)
TURNS = _words("not but instead because without never actually except")
PLAIN = _words(
    """a about after again all also am an and any are as at be been before being but by can could
    did do does doing down for from get gets getting go goes going gone got had has have having he
    her here him his how i if in into is it its just know let like little look make makes me more
    most much my no not now of off oh okay on once one only or other our out over own put really
    said same say see she should so some still such take than that the their them then there these
    they thing things think this those through time to too um uh up us very want was way we well
    were what when where which while who why will with would yes you your i'm it's that's don't
    can't we're you're i've they're there's"""
)
LONG = 7
"""Letters from which a content word counts as rare, when it is said no more than twice."""
LEAST = 0.3


@dataclass(frozen=True, slots=True)
class Suggestion:
    """A word worth an accent, and why; ``score`` from 0 to 1."""

    cue_id: int
    word_id: int
    text: str
    reason: str
    score: float


def suggest(cues: Sequence[Cue], density: float) -> list[Suggestion]:
    """The best words to mark in captions in time order, until about ``density`` of all are marked.

    Captions of up to four words get one at most, longer ones two. Words that are marked already are
    left out, and count as their caption's.
    """
    counts = Counter(word_key(word.text) for cue in cues for word in cue.words)
    found: list[tuple[float, int, Suggestion]] = []
    room: dict[int, int] = {}
    total = order = done = 0
    before: Word | None = None
    for cue in cues:
        total += len(cue.words)
        marked = sum(1 for word in cue.words if word.accent)
        done += marked
        room[cue.id] = (1 if len(cue.words) <= 4 else 2) - marked
        for word in cue.words:
            score, reason = max(_reasons(word, before, counts), default=(0.0, ""))
            if score >= LEAST and not word.accent:
                made = Suggestion(cue.id, word.id, word.text, reason, score)
                found.append((-score, order, made))
            order += 1
            before = word
    left = round(density * total) - done
    taken: list[tuple[int, Suggestion]] = []
    for _, at, one in sorted(found, key=lambda entry: entry[:2]):
        if left > 0 and room[one.cue_id] > 0:
            room[one.cue_id] -= 1
            left -= 1
            taken.append((at, one))
    return [one for _, one in sorted(taken, key=lambda entry: entry[0])]


def _reasons(word: Word, before: Word | None, counts: Counter[str]) -> Iterator[tuple[float, str]]:
    key = word_key(word.text)
    starts = before is None or ends_sentence(before.text)
    content = key not in PLAIN
    if any(ch.isdecimal() for ch in word.text):
        yield 1.0, "a figure"
    elif key in NUMBERS:
        # "One in ten, ten, ten": a number that comes again and again is no news.
        yield (0.8 if counts[key] <= 2 else 0.4), "a number"
    if content and not starts and word.text[:1].isupper():
        yield 0.75, "a name"
    if key in STRONG:
        yield 0.7, "a strong word"
    if not content:
        return
    if before is not None and not starts and word_key(before.text) in TURNS:
        yield 0.6, f"after “{before.text}”"
    if len(key) >= LONG and counts[key] <= 2:
        yield min(0.65, 0.35 + 0.03 * len(key)), "a rare word"
    if ends_sentence(word.text):
        yield 0.45, "ends its sentence"
