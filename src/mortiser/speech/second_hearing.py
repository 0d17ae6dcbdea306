"""Hear a stretch again in other ways: vote on its words, and say which of them do not hold.

The second engine and the first one vote (core.voting); the witnesses back one or the other. What was
heard instead is offered as an alternative. Without the second engine words are judged and none is
changed.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from difflib import SequenceMatcher
from itertools import accumulate, islice

import numpy as np

from mortiser.core.doubt import Signs, confidences, doubtful
from mortiser.core.time import SECOND
from mortiser.core.voting import (
    Contest,
    Evidence,
    contests,
    heard_at,
    second_is_right,
    styled,
)
from mortiser.core.words import Word, tokens, word_key
from mortiser.speech.beside import alternatives, as_heard, as_said, compare
from mortiser.speech.chunks import LONG_S, chunks
from mortiser.speech.placing import placed
from mortiser.speech.protocols import RATE, Change, Judge, Samples, SecondEngine, Verdict
from mortiser.speech.sound_alikes import sound_alikes
from mortiser.speech.sphinx import SphinxAligner
from mortiser.speech.witnesses import Testimony, Witnesses
from mortiser.speech.wording import Wording

MARGIN_US = 150_000
PAUSE_US = 350_000
LONGEST_US = 9 * SECOND
FILLERS = frozenset({"um", "uh", "ah", "er", "erm", "hm", "hmm", "mm", "oh", "eh"})
"""The second engine leaves these out: its silence says nothing about them."""


@dataclass(frozen=True)
class _Second:
    """What the second engine heard in a stretch: words, and how sure it is of each."""

    words: tuple[Word, ...]

    @property
    def texts(self) -> list[str]:
        return [word.text for word in self.words]


_Voted = tuple[Word, bool]
"""A word, and whether it was in a contest."""


@dataclass(frozen=True)
class _Heard:
    """A run of words between pauses, its sound, and what the witnesses say of it."""

    run: list[Word]
    sound: Samples
    testimony: Testimony


class SecondHearing:
    """Judge; holds models, so one is made for a whole recording."""

    def __init__(
        self,
        second: SecondEngine | None = None,
        write: Callable[[Sequence[Word]], list[Word]] = list,
    ) -> None:
        """``write`` puts names into the second engine's words as the glossary has them."""
        self._second = second
        self._write = write
        self._witnesses = Witnesses()
        self._aligner = SphinxAligner()
        self._wording = Wording()
        self._alike = sound_alikes()

    def judge(self, words: Sequence[Word], samples: Samples, from_us: int = 0) -> Verdict:
        """See Judge."""
        runs = list(stretches(words))
        heard = [self._heard(run, samples, from_us) for run in runs]
        second = self._hear(samples, from_us)
        changes: list[Change] = []
        contested: set[int] = set()
        if second is not None:
            changes, contested = self._vote(words, second, heard)
            changes = [self._timed(one, words, samples, from_us) for one in changes]
        stay = [(word, index in contested) for index, word in enumerate(words)]
        voted = [[(word, True) for word in change.words] for change in changes]
        return Verdict(
            tuple(self._sure(_parted(stay, runs), heard, second)),
            tuple(self._judged(changes, voted, stay, runs, heard, second)),
        )

    def _heard(self, run: list[Word], samples: Samples, from_us: int) -> _Heard:
        sound = _cut(samples, run, from_us)
        return _Heard(run, sound, self._witnesses.hear(sound))

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
        heard: Sequence[_Heard],
    ) -> tuple[list[Change], set[int]]:
        """What is to be changed, and the words that were in a contest."""
        texts = [word.text for word in words]
        changes: list[Change] = []
        contested: set[int] = set()
        for contest in contests(as_said(texts), as_said(second.texts)):
            mine = words[contest.first : contest.end]
            theirs = second.words[contest.start : contest.stop]
            if not all(word.unsettled for word in mine) or _only_fillers(mine, theirs):
                continue
            if second_is_right(self._evidence(words, contest, theirs, heard)) > 0.5:
                before = texts[contest.first - 1] if contest.first else None
                fresh = styled([w.text for w in theirs], before, [w.text for w in mine])
                changes.append(
                    Change(
                        contest.first,
                        contest.end,
                        tuple(
                            replace(word, text=text)
                            for word, text in zip(theirs, fresh, strict=True)
                        ),
                    )
                )
            contested.update(range(contest.first, contest.end))
        return changes, contested

    def _evidence(
        self,
        words: Sequence[Word],
        contest: Contest,
        theirs: Sequence[Word],
        heard: Sequence[_Heard],
    ) -> Evidence:
        """What speaks for whom, in the run (or runs) of words the contest lies in."""
        starts = list(accumulate((len(one.run) for one in heard), initial=0))
        low = max(0, min(len(heard) - 1, bisect_right(starts, contest.first) - 1))
        high = max(low, min(len(heard) - 1, bisect_right(starts, contest.end - 1) - 1))
        first, end = starts[low], starts[high + 1]
        before, after = words[first : contest.first], words[contest.end : end]
        mine = words[contest.first : contest.end]
        one, other = (
            " ".join(map(as_heard, (*before, *middle, *after))) for middle in (theirs, mine)
        )
        sound = np.concatenate([each.sound for each in heard[low : high + 1]])
        assert self._second is not None
        likely = self._second.likelihoods(sound, [one, other])
        sides = [as_said([w.text for w in part]).said for part in (before, theirs, mine, after)]
        said = [
            word for each in heard[low : high + 1] for word in as_said(each.testimony.slower).said
        ]
        whole = [*sides[0], *sides[2], *sides[3]]
        there = heard_at(whole, said, len(sides[0]), len(sides[0]) + len(sides[2]))
        return Evidence(
            preference=likely[0] - likely[1],
            wording=self._wording.difference(*sides),
            hearing_against="".join(there) == "".join(sides[2]),
            named=any(word.heard_as is not None for word in theirs),
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
        heard: Sequence[_Heard],
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
        heard: Sequence[_Heard],
        second: _Second | None,
    ) -> list[Word]:
        """Words, each with how sure it is and what else it may be."""
        every = [word.text for run in runs for word, _ in run]
        seconds = compare(every, second.texts) if second else None
        sure = _sureness(every, second) if second else None
        result: list[Word] = []
        for run, one in zip(runs, heard, strict=True):
            texts = [word.text for word, _ in run]
            slower = compare(texts, one.testimony.slower)
            decoded = compare(texts, one.testimony.decoded)
            at = len(result)
            signs = [
                Signs(
                    hearing_against=not slower[i].agrees,
                    decoder_against=not decoded[i].agrees,
                    guessed=not self._aligner.knows(word.text),
                    contested=contested,
                    sure=sure[at + i] if sure else None,
                )
                for i, (word, contested) in enumerate(run)
            ]
            for i, ((word, _), chance) in enumerate(zip(run, confidences(signs), strict=True)):
                others = [slower[i].text, decoded[i].text]
                if seconds is not None:
                    others.insert(0, seconds[at + i].text)
                result.append(
                    replace(
                        word,
                        confidence=round(chance, 3),
                        alternatives=alternatives(word.text, others),
                    )
                )
            result[at:] = self._with_alikes(result[at:])
        return result

    def _with_alikes(self, run: Sequence[Word]) -> Iterator[Word]:
        """A run's words; doubtful ones may also be what sounds like them, after what was heard."""
        for index, word in enumerate(run):
            if doubtful(word):
                word = replace(word, alternatives=self._alike.others(run, index))
            yield word


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


def _sureness(texts: Sequence[str], second: _Second) -> list[float]:
    """How sure the second engine is of each word, 0 where it has another."""
    sure = [0.0] * len(texts)
    mine, theirs = ([word_key(text) for text in side] for side in (texts, second.texts))
    for block in SequenceMatcher(None, mine, theirs, autojunk=False).get_matching_blocks():
        for step in range(block.size):
            sure[block.a + step] = second.words[block.b + step].confidence or 0.0
    return sure


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
        replace(word, alternatives=alternatives(word.text, [text, *word.alternatives]))
        for word, text in zip(words, before, strict=True)
    ]


def _cut(samples: Samples, run: Sequence[Word], from_us: int) -> Samples:
    start = max(0, run[0].start_us - MARGIN_US - from_us) * RATE // SECOND
    return samples[start : max(start, (run[-1].end_us + MARGIN_US - from_us) * RATE // SECOND)]


def _only_fillers(mine: Sequence[Word], theirs: Sequence[Word]) -> bool:
    return bool(mine) and not theirs and all(word_key(word.text) in FILLERS for word in mine)
