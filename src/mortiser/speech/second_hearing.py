"""Hear a stretch again in other ways: vote on its words, and say which of them do not hold.

The second engine and the first one vote (core.voting); the witnesses back one or the other. What was
heard instead is offered as an alternative. Without the second engine words are judged and none is
changed.
"""

from __future__ import annotations

import re
from bisect import bisect_right
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from difflib import SequenceMatcher
from itertools import accumulate, islice

from mortiser.core.doubt import Signs, confidences
from mortiser.core.time import SECOND
from mortiser.core.voting import (
    Contest,
    Evidence,
    Spoken,
    contests,
    heard_at,
    second_is_right,
    styled,
)
from mortiser.core.words import Word, tokens, word_key
from mortiser.speech.chunks import LONG_S, chunks
from mortiser.speech.placing import placed
from mortiser.speech.seams import RATE, Change, Judge, Recogniser, Samples, Verdict
from mortiser.speech.sphinx import SphinxAligner
from mortiser.speech.spoken import spoken, spoken_map
from mortiser.speech.witnesses import Testimony, Witnesses

MOST_ALTERNATIVES = 3
MARGIN_US = 150_000
PAUSE_US = 350_000
LONGEST_US = 9 * SECOND
FILLERS = frozenset({"um", "uh", "ah", "er", "erm", "hm", "hmm", "mm", "oh", "eh"})
"""The second engine leaves these out: its silence says nothing about them."""
WRITTEN = {"grey": "gray", "tyre": "tire"}
"""Spellings of one word: no reason to vote."""


@dataclass(frozen=True)
class Other:
    """What another hearing had at a word's place: nothing against it, or this text instead."""

    agrees: bool
    text: str | None = None


@dataclass(frozen=True)
class _Second:
    """What the second engine heard in a stretch: words, and how sure it is of each."""

    words: tuple[Word, ...]

    @property
    def texts(self) -> list[str]:
        return [word.text for word in self.words]


_Voted = tuple[Word, float | None]
"""A word, and how likely it is right where it was in a contest."""


class SecondHearing:
    """Judge; holds models, so one is made for a whole recording."""

    def __init__(
        self,
        second: Recogniser | None = None,
        write: Callable[[Sequence[Word]], list[Word]] = list,
    ) -> None:
        """``write`` puts names into the second engine's words as the glossary has them."""
        self._second = second
        self._write = write
        self._witnesses = Witnesses()
        self._aligner = SphinxAligner()

    def judge(self, words: Sequence[Word], samples: Samples, from_us: int = 0) -> Verdict:
        """See Judge."""
        runs = list(stretches(words))
        heard = [self._witnesses.hear(_cut(samples, run, from_us)) for run in runs]
        second = self._hear(samples, from_us)
        changes: list[Change] = []
        chances: dict[int, float] = {}
        if second is not None:
            changes, chances = self._vote(words, second, list(zip(runs, heard, strict=True)))
            changes = [self._timed(one, words, samples, from_us) for one in changes]
        stay = [(word, chances.get(index)) for index, word in enumerate(words)]
        voted = [
            [(word, change.words[0].confidence) for word in change.words] for change in changes
        ]
        return Verdict(
            tuple(self._sure(_parted(stay, runs), heard, second)),
            tuple(self._judged(changes, voted, stay, runs, heard, second)),
        )

    def _hear(self, samples: Samples, from_us: int) -> _Second | None:
        if self._second is None:
            return None
        words = [
            Word(
                text,
                from_us + round((line.offset_s + time.start_s) * SECOND),
                from_us + round((line.offset_s + time.end_s) * SECOND),
                min(0.999, time.support),
            )
            for line in self._second.hear(samples)
            for text, time in zip(tokens(line.text), line.times, strict=True)
        ]
        return _Second(tuple(self._write(words)))

    def _vote(
        self,
        words: Sequence[Word],
        second: _Second,
        heard: Sequence[tuple[list[Word], Testimony]],
    ) -> tuple[list[Change], dict[int, float]]:
        """What is to be changed, and the chance of being right of every word that was in a contest
        and stays."""
        texts = [word.text for word in words]
        changes: list[Change] = []
        chances: dict[int, float] = {}
        for contest in contests(_spoken(texts), _spoken(second.texts)):
            mine = words[contest.first : contest.end]
            theirs = second.words[contest.start : contest.stop]
            if any(not _open(word) for word in mine) or _only_fillers(mine, theirs):
                continue
            chance = second_is_right(self._evidence(words, contest, theirs, heard))
            if chance > 0.5:
                before = texts[contest.first - 1] if contest.first else None
                fresh = styled([w.text for w in theirs], before, [w.text for w in mine])
                changes.append(
                    Change(
                        contest.first,
                        contest.end,
                        tuple(
                            replace(word, text=text, confidence=round(chance, 3))
                            for word, text in zip(theirs, fresh, strict=True)
                        ),
                    )
                )
            for index in range(contest.first, contest.end):
                chances[index] = 1 - chance
        return changes, chances

    def _evidence(
        self,
        words: Sequence[Word],
        contest: Contest,
        theirs: Sequence[Word],
        heard: Sequence[tuple[list[Word], Testimony]],
    ) -> Evidence:
        at = 0
        run, testimony = heard[-1]
        for run, testimony in heard:  # noqa: B007
            if contest.first < at + len(run):
                break
            at += len(run)
        first, end = contest.first - at, min(contest.end - at, len(run))
        spoken_run = _spoken([word.text for word in run])
        low = sum(owner < first for owner in spoken_run.owner)
        high = sum(owner < end for owner in spoken_run.owner)
        mine = "".join(_spoken([w.text for w in words[contest.first : contest.end]]).said)
        other = "".join(_spoken([w.text for w in theirs]).said)
        said = [
            "".join(heard_at(spoken_run.said, _spoken(texts).said, low, high))
            for texts in (*testimony.hearings, testimony.decoded)
        ]
        *hearings, decoded = said
        return Evidence(
            least_sure=min((word.confidence or 0 for word in theirs), default=1.0),
            added=contest.first == contest.end,
            left_out=not theirs,
            hearings_for=hearings.count(other),
            hearings_against=hearings.count(mine),
            decoder_for=decoded == other,
            decoder_against=decoded == mine,
            guessed=sum(not self._aligner.knows(w.text) for w in words[contest.first : contest.end])
            - sum(not self._aligner.knows(w.text) for w in theirs),
        )

    def _timed(
        self, change: Change, words: Sequence[Word], samples: Samples, from_us: int
    ) -> Change:
        """The change with its words where the sound has them, between their new neighbours."""
        if not change.words:
            return change
        low = words[change.first - 1].end_us if change.first else from_us
        last = from_us + len(samples) * SECOND // RATE
        high = words[change.end].start_us if change.end < len(words) else last
        low, high = min(low, high), max(low, high)
        mine = words[change.first : change.end]
        near = (
            (mine[0].start_us, mine[-1].end_us)
            if mine
            else (change.words[0].start_us, change.words[-1].end_us)
        )
        start = max(low - MARGIN_US, min(near[0], change.words[0].start_us) - MARGIN_US, from_us)
        end = min(high + MARGIN_US, max(near[1], change.words[-1].end_us) + MARGIN_US)
        sound = samples[(start - from_us) * RATE // SECOND : (end - from_us) * RATE // SECOND]
        texts = [word.text for word in change.words]
        found = placed(texts, sound, start, (low, high), self._aligner, "heard")
        return replace(
            change,
            words=tuple(
                replace(word, start_us=time.start_us, end_us=time.end_us, aligned=time.aligned)
                for word, time in zip(change.words, found, strict=True)
            ),
        )

    def _judged(
        self,
        changes: Sequence[Change],
        voted: Sequence[list[_Voted]],
        stay: Sequence[_Voted],
        runs: Sequence[list[Word]],
        heard: Sequence[Testimony],
        second: _Second | None,
    ) -> Iterator[Change]:
        """The changes, their words judged among their new neighbours."""
        ends = list(accumulate(map(len, runs)))
        parts: list[list[_Voted]] = [[] for _ in runs]
        places: list[tuple[int, int]] = []
        at = 0
        for change, fresh in zip(changes, voted, strict=True):
            for index in range(at, change.first):
                parts[bisect_right(ends, index)].append(stay[index])
            part = min(len(runs) - 1, bisect_right(ends, change.first))
            places.append((part, len(parts[part])))
            parts[part] += fresh
            at = change.end
        for index in range(at, len(stay)):
            parts[bisect_right(ends, index)].append(stay[index])
        sure = iter(self._sure(parts, heard, second))
        final = [[next(sure) for _ in part] for part in parts]
        for change, (part, first) in zip(changes, places, strict=True):
            fresh_words = final[part][first : first + len(change.words)]
            old = [word.text for word, _ in stay[change.first : change.end]]
            yield replace(change, words=tuple(_with_old(fresh_words, old)))

    def _sure(
        self,
        runs: Sequence[Sequence[_Voted]],
        heard: Sequence[Testimony],
        second: _Second | None,
    ) -> list[Word]:
        """Words, each with how sure it is and what else it may be."""
        every = [word.text for run in runs for word, _ in run]
        seconds = compare(every, second.texts) if second else None
        result: list[Word] = []
        for run, testimony in zip(runs, heard, strict=True):
            texts = [word.text for word, _ in run]
            hearings = [compare(texts, other) for other in testimony.hearings]
            decoded = compare(texts, testimony.decoded)
            at = len(result)
            signs = [
                Signs(
                    hearings_against=sum(not hearing[i].agrees for hearing in hearings),
                    decoder_against=not decoded[i].agrees,
                    guessed=not self._aligner.knows(word.text),
                    chance=chance,
                    voted=second is not None,
                )
                for i, (word, chance) in enumerate(run)
            ]
            for i, ((word, _), sure) in enumerate(zip(run, confidences(signs), strict=True)):
                others = [h[i].text for h in (*hearings, decoded)]
                if seconds is not None:
                    others.insert(0, seconds[at + i].text)
                result.append(
                    replace(
                        word,
                        confidence=round(sure, 3),
                        alternatives=_alternatives(word.text, others),
                    )
                )
        return result


def heard_again(
    sound: Iterable[Samples], words: Sequence[Word], judge: Judge, from_us: int = 0
) -> Iterator[tuple[list[Word], Verdict, int]]:
    """Judge the words (source time) of a sound that begins at ``from_us``, in stretches as long as the
    second engine likes them: (the words that begin there, the verdict, the moment reached in µs)."""
    for start_s, samples in chunks(sound, LONG_S, LONG_S):
        start = from_us + round(start_s * SECOND)
        end = start + len(samples) * SECOND // RATE
        run = [word for word in words if start <= word.start_us < end]
        yield run, judge.judge(run, samples, start), end


def settled(verdict: Verdict) -> list[Word]:
    """The words of a stretch with all changes made."""
    result: list[Word] = []
    at = 0
    for change in verdict.changes:
        result += [*verdict.words[at : change.first], *change.words]
        at = change.end
    return [*result, *verdict.words[at:]]


def stretches(words: Sequence[Word]) -> Iterator[list[Word]]:
    """The words in runs that end in a pause, or where they get long."""
    run: list[Word] = []
    for word in words:
        if run and (
            word.start_us - run[-1].end_us > PAUSE_US or word.end_us - run[0].start_us > LONGEST_US
        ):
            yield run
            run = []
        run.append(word)
    if run:
        yield run


def compare(texts: Sequence[str], others: Sequence[str]) -> list[Other]:
    """For each word of ``texts`` whether another hearing of the same sound has it too.

    Numbers and signs are compared as they are said. Where as many words stand in its place, the
    one there is what the other hearing had instead.
    """
    mine, theirs = ([_said(t) for t in side] for side in (texts, others))
    result = [Other(False)] * len(texts)
    for tag, a0, a1, b0, b1 in SequenceMatcher(None, mine, theirs, autojunk=False).get_opcodes():
        if tag == "equal":
            result[a0:a1] = [Other(True)] * (a1 - a0)
        elif tag == "replace":
            spelt = "".join(mine[a0:a1]) == "".join(theirs[b0:b1])
            for index in range(a0, a1):
                even = a1 - a0 == b1 - b0
                text = others[b0 + index - a0] if even else None
                text = " ".join(others[b0:b1]) if a1 - a0 == 1 and b1 - b0 == 2 else text
                result[index] = Other(spelt, None if spelt else text)
    return result


def _parted(words: Sequence[_Voted], runs: Sequence[Sequence[Word]]) -> list[list[_Voted]]:
    """Words in runs as long as those given."""
    rest = iter(words)
    return [list(islice(rest, len(run))) for run in runs]


def _with_old(words: Sequence[Word], old: Sequence[str]) -> list[Word]:
    """Words with those they replaced as their first alternatives, where one stands for one."""
    if len(words) == 1 and old:
        before = [" ".join(old)]
    elif len(words) == len(old):
        before = list(old)
    else:
        return list(words)
    return [
        replace(word, alternatives=_alternatives(word.text, [text, *word.alternatives]))
        for word, text in zip(words, before, strict=True)
    ]


def _cut(samples: Samples, run: Sequence[Word], from_us: int) -> Samples:
    start = max(0, run[0].start_us - MARGIN_US - from_us) * RATE // SECOND
    return samples[start : max(start, (run[-1].end_us + MARGIN_US - from_us) * RATE // SECOND)]


def _open(word: Word) -> bool:
    """Heard, and not settled by anybody."""
    return word.origin == "heard" and word.heard_as is None and word.confidence != 1.0


def _only_fillers(mine: Sequence[Word], theirs: Sequence[Word]) -> bool:
    return bool(mine) and not theirs and all(word_key(word.text) in FILLERS for word in mine)


def _spoken(texts: Sequence[str]) -> Spoken:
    said, owner = spoken_map(texts)
    return Spoken(tuple(WRITTEN.get(word, word) for word in said), tuple(owner), len(texts))


def _said(text: str) -> str:
    return " ".join(WRITTEN.get(word, word) for word in spoken(text)) or word_key(text)


def _alternatives(text: str, others: Sequence[str | None]) -> tuple[str, ...]:
    """Different things heard instead, as they would be written in the word's place."""
    found: dict[str, str] = {}
    tail = re.sub(r"^.*?([.,!?;:…]*)$", r"\1", text)
    for other in others:
        if other is None:
            continue
        plain = other.strip(".,!?;:…")
        if text[:1].isupper():
            plain = plain[:1].upper() + plain[1:]
        elif not plain.startswith(("I ", "I'")) and plain != "I":
            plain = plain[:1].lower() + plain[1:]
        if plain and word_key(plain) != word_key(text):
            found.setdefault(word_key(plain), plain + tail)
    return tuple(found.values())[:MOST_ALTERNATIVES]
