"""The text beside a video: title, description and tags, proposed from what is said, each with its reason.

Tags are key phrases by RAKE (S. Rose, D. Engel, N. Cramer, W. Cowley, "Automatic keyword extraction from
individual documents", 2010): runs of words between stop words and signs, each word scored by how many words it
stands beside in all runs over how often it is said. Here what is said often counts for more than what is long: the root
of a phrase's score, as often as it is said.
"""

from __future__ import annotations

import json
from collections import Counter, defaultdict
from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass
from typing import Annotated

from pydantic import Field

from mortiser.core.common.stored import Stored
from mortiser.core.style.finish.parts import Value
from mortiser.core.style.suggesting import NUMBERS, PLAIN
from mortiser.core.transcript.fillers import filler_runs, of_language
from mortiser.core.transcript.sentences import ends_clause, sentences
from mortiser.core.transcript.words import Cue, Word, word_key

LONGEST_TITLE, LONGEST_TEXT, MOST_TAGS, LONGEST_TAG = 100, 2_200, 30, 60
"""Letters of a title, of a description and of a tag, and how many tags there are, at most."""
TITLE, TEXT, TAGS = 70, 280, 6
"""As much is proposed at most."""
PHRASE = 3
"""Words of a key phrase at most."""
SHORT = 3
"""Words of so many letters are taken for stop words in languages without a list."""

Tag = Annotated[str, Field(min_length=1, max_length=LONGEST_TAG)]


class Post(Value):
    """What is written beside a video."""

    title: str = Field(default="", max_length=LONGEST_TITLE)
    text: str = Field(default="", max_length=LONGEST_TEXT)
    tags: tuple[Tag, ...] = Field(default=(), max_length=MOST_TAGS)


@dataclass(frozen=True)
class Proposal:
    """A post, and why it says what it says: a reason for the title, the description and each tag."""

    post: Post
    reasons: tuple[str, ...]


STORED: Stored[Post] = Stored(Post, first=lambda text: json.loads(text) if text else {})
"""Texts of before versions leave out what is empty."""


def proposed(cues: Sequence[Cue], name: str, language: str = "en") -> Proposal:
    """A post for a piece: its first sentence that says something, the first few, and its key phrases."""
    words = _without_fillers([word for cue in cues for word in cue.words], language)
    said = [[word.text for word in words[first : last + 1]] for first, last in sentences(words)]
    stops = _stops(words, language)
    reasons: list[str] = []
    opening = next((one for one in said if any(word_key(w) not in stops for w in one)), None)
    title = _cut(" ".join(opening), TITLE) if opening else name[:LONGEST_TITLE]
    title = _begun(title.rstrip(".,;: "))
    reasons.append("Title: the first sentence." if opening else "Title: the piece's name.")
    text = ""
    count = 0
    for sentence in said:
        longer = f"{text} {' '.join(sentence)}".strip()
        if len(longer) > TEXT:
            break
        text, count = longer, count + 1
    if not count and said:
        text = _cut(" ".join(said[0]), TEXT)
    reasons.append(
        f"Description: the first {count} sentences." if count > 1 else "Description: how it begins."
    )
    tags: list[str] = []
    for phrase, often in _phrases(words, stops):
        tag = "".join(phrase)
        if len(tags) == TAGS or any(tag in one or one in tag for one in tags):
            continue
        tags.append(tag[:LONGEST_TAG])
        times = f"said {often} times" if often > 1 else "said once"
        reasons.append(f"#{tag}: “{' '.join(phrase)}”, {times}.")
    return Proposal(Post(title=title, text=_begun(text), tags=tuple(tags)), tuple(reasons))


def _without_fillers(words: Sequence[Word], language: str) -> list[Word]:
    gone = {
        at
        for first, last in filler_runs(words, of_language(language))
        for at in range(first, last + 1)
    }
    return [word for at, word in enumerate(words) if at not in gone]


def _stops(words: Sequence[Word], language: str) -> Collection[str]:
    if language == "en":
        return PLAIN | NUMBERS | {"times"}
    return {key for word in words if len(key := word_key(word.text)) <= SHORT}


def _phrases(words: Sequence[Word], stops: Collection[str]) -> list[tuple[tuple[str, ...], int]]:
    """Key phrases and how often each is said, the best first; of equals the one said first."""
    runs = list(_runs(words, stops))
    often, beside = Counter[str](), defaultdict[str, int](int)
    for run in runs:
        for key in run:
            often[key] += 1
            beside[key] += len(run)
    counts = Counter(run[at : at + size] for run in runs for size in range(1, PHRASE + 1)
                     for at in range(len(run) - size + 1) if size == len(run) or size == 1)  # fmt: skip
    first = {phrase: number for number, phrase in reversed(list(enumerate(counts)))}
    score = {
        phrase: sum(beside[key] / often[key] for key in phrase) ** 0.5 * count
        for phrase, count in counts.items()
        if not all(key.isdigit() for key in phrase)
    }
    ranked = sorted(score, key=lambda phrase: (-score[phrase], first[phrase]))
    return [(phrase, counts[phrase]) for phrase in ranked]


def _runs(words: Sequence[Word], stops: Collection[str]) -> Iterator[tuple[str, ...]]:
    """Runs of words that mean something, parted by stop words, signs and sentences; long ones by PHRASE."""
    ends = {last for _, last in sentences(words)}
    run: list[str] = []
    for at, word in enumerate(words):
        key = word_key(word.text)
        if key and key not in stops:
            run.append(key)
        if run and (
            not key or key in stops or at in ends or ends_clause(word.text) or len(run) == PHRASE
        ):
            yield tuple(run)
            run = []
    if run:
        yield tuple(run)


def _begun(text: str) -> str:
    """With a capital: a filler may have stood before it."""
    first = text[:1].upper()
    return first + text[1:] if len(first) == 1 else text


def _cut(text: str, most: int) -> str:
    """A text, at a word's end where it is too long."""
    if len(text) <= most:
        return text
    return text[: most - 1].rsplit(" ", 1)[0].rstrip(",;:") + "…"
