"""Hear a stretch again in other ways: vote on its words, and say which of them do not hold.

A second engine and a third one stand against what the first has heard, one after another (core.transcript.voting),
and a reader says which wording is the likelier. What was heard instead is offered as an alternative.
Without a second engine words are judged and none is changed.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import replace
from difflib import SequenceMatcher

from mortiser.core.common.time import SECOND
from mortiser.core.transcript.doubt import LEAST_RIVAL, Signs, confidences, doubtful
from mortiser.core.transcript.voting import SECOND as AGAINST_FIRST
from mortiser.core.transcript.voting import THIRD as AGAINST_BOTH
from mortiser.core.transcript.words import Word, tokens, word_key
from mortiser.speech.beside import alternatives, compare
from mortiser.speech.chunks import LONG_S, chunks
from mortiser.speech.pipelined import one_ahead
from mortiser.speech.placing import placed
from mortiser.speech.protocols import (
    RATE,
    Ensemble,
    HeardChange,
    Recogniser,
    Relistened,
    Samples,
    SecondPass,
    Verdict,
)
from mortiser.speech.rivals import Rivals
from mortiser.speech.sound_alikes import sound_alikes
from mortiser.speech.sphinx import SphinxAligner
from mortiser.speech.standing import ContestPlace, changes, silent, standing, voted

MARGIN_US = 150_000
REMEMBERED = 24
"""So many words of the stretch before are read with those of the next."""
LOST = 0.3
"""How sure one is of a word that others were preferred to."""
NEAR = 8
"""Words on either side that say what fits."""


class SecondHearing:
    """SecondPass; holds models, so one is made for a whole recording."""

    def __init__(
        self,
        ensemble: Ensemble,
        write: Callable[[Sequence[Word]], list[Word]] = list,
    ) -> None:
        """``write`` puts names into what the others heard as the glossary has them."""
        self._jury = ensemble
        self._write = write
        self._aligner = SphinxAligner()
        self._alike = sound_alikes()
        self._rivals = Rivals(self._alike)
        self._before: list[str] = []

    def listen(self, samples: Samples, from_us: int = 0) -> Relistened:
        """See SecondPass."""
        second = self._heard(self._jury.second, samples, from_us)
        third = self._heard(self._jury.third, samples, from_us)
        return Relistened(samples, from_us, second, third)

    def judge(self, words: Sequence[Word], heard: Relistened) -> Verdict:
        """See SecondPass."""
        second, third = heard.second, heard.third
        places = standing(words)
        if second is not None:
            reader = self._jury.reader
            places = voted(places, second, third or (), AGAINST_FIRST, reader)
            if third is not None:
                places = voted(places, third, words, AGAINST_BOTH, reader)
        made = [
            self._timed(one, words, heard.samples, heard.from_us) for one in changes(places, words)
        ]
        judged = self._sure(places, words, second, third)
        self._before = [w.text for w in judged if not silent(w.text)][-REMEMBERED:]
        stays, fresh = _parted(judged, places)
        return Verdict(
            tuple(stays.get(index) or _lost(word, made, index) for index, word in enumerate(words)),
            tuple(_with_times(one, fresh) for one in made),
        )

    def _heard(
        self, engine: Recogniser | None, samples: Samples, from_us: int
    ) -> list[Word] | None:
        """The words another engine hears, with how sure it is of each."""
        if engine is None:
            return None
        return self._write(
            [
                Word(
                    text,
                    from_us + round((line.offset_s + time.start_s) * SECOND),
                    from_us + round((line.offset_s + time.end_s) * SECOND),
                    min(0.999, time.support),
                )
                for line in engine.hear(samples)
                for text, time in zip(tokens(line.text), line.times, strict=True)
            ]
        )

    def _timed(
        self, change: HeardChange, words: Sequence[Word], samples: Samples, from_us: int
    ) -> HeardChange:
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

    def _sure(
        self,
        places: Sequence[ContestPlace],
        first: Sequence[Word],
        second: Sequence[Word] | None,
        third: Sequence[Word] | None,
    ) -> list[Word]:
        """The words that stand now, each with how sure it is and what else it may be."""
        texts = [place.word.text for place in places]
        hearings = [side for side in (second, third, first) if side is not None]
        beside = [compare(texts, [word.text for word in side]) for side in hearings]
        by_third = beside[-2] if third is not None else None
        sure = _sureness(texts, second) if second is not None else None
        read = self._read(texts)
        signs = [
            Signs(
                guessed=not self._aligner.knows(place.word.text),
                surprise=read[i][0],
                letters=len(place.word.text.rstrip(".,!?;:…")),
                contested=place.left is not None,
                left=place.left or 0.0,
                sure=sure[i] if sure else None,
                third_against=by_third is not None and not by_third[i].agrees,
                rival=read[i][1],
            )
            if place.left is not None or not silent(place.word.text)
            else Signs(guessed=False, surprise=0.0, letters=len(place.word.text))
            for i, place in enumerate(places)
        ]
        judged = [
            replace(
                place.word,
                confidence=round(chance, 3),
                alternatives=alternatives(
                    place.word.text, [*(side[i].text for side in beside), *place.offered]
                ),
            )
            for i, (place, chance) in enumerate(zip(places, confidences(signs), strict=True))
        ]
        return [self._with_alikes(judged, i) for i in range(len(judged))]

    def _read(self, texts: Sequence[str]) -> list[tuple[float, float]]:
        """How little the reader expected each word, and by how much it prefers a rival
        (see core.transcript.doubt.Signs); of fillers nothing is said."""
        found = [(0.0, LEAST_RIVAL)] * len(texts)
        if self._jury.reader is not None:
            spoken = [i for i, text in enumerate(texts) if not silent(text)]
            said = [texts[i] for i in spoken]
            reading = self._jury.reader.read(self._before, said)
            for at, i in enumerate(spoken):
                found[i] = reading.surprises[at], self._rivals.best(reading, said, at)
        return found

    def _with_alikes(self, words: Sequence[Word], index: int) -> Word:
        """A word; a doubtful one may also be what sounds like it, after what was heard."""
        if not doubtful(words[index]):
            return words[index]
        first = max(0, index - NEAR)
        near = words[first : index + NEAR + 1]
        return replace(words[index], alternatives=self._alike.others(near, index - first))


def heard_again(
    sound: Iterable[Samples], words: Sequence[Word], judge: SecondPass, from_us: int = 0
) -> Iterator[tuple[list[Word], Verdict, int]]:
    """Judge the words (source time) of a sound that begins at ``from_us``, in stretches as long as the
    second engine likes them: (the words that begin there, the verdict, the moment reached in µs)."""

    def listen(stretch: tuple[float, Samples]) -> Relistened:
        return judge.listen(stretch[1], from_us + round(stretch[0] * SECOND))

    for (_, samples), heard in one_ahead(chunks(sound, LONG_S, LONG_S), listen):
        end = heard.from_us + len(samples) * SECOND // RATE
        run = [word for word in words if heard.from_us <= word.start_us < end]
        yield run, judge.judge(run, heard), end


def settled(verdict: Verdict) -> list[Word]:
    """The words of a stretch with all changes made."""
    result: list[Word] = []
    at = 0
    for change in verdict.changes:
        result += [*verdict.words[at : change.first], *change.words]
        at = change.end
    return [*result, *verdict.words[at:]]


def _sureness(texts: Sequence[str], second: Sequence[Word]) -> list[float]:
    """How sure the second engine is of each word, 0 where it has another."""
    sure = [0.0] * len(texts)
    mine, theirs = [word_key(text) for text in texts], [word_key(word.text) for word in second]
    for block in SequenceMatcher(None, mine, theirs, autojunk=False).get_matching_blocks():
        for step in range(block.size):
            sure[block.a + step] = second[block.b + step].confidence or 0.0
    return sure


def _parted(
    judged: Sequence[Word], places: Sequence[ContestPlace]
) -> tuple[dict[int, Word], Iterator[Word]]:
    """The first engine's words that stand, by number, and those that have come in, in order."""
    stays = {
        place.was: word for word, place in zip(judged, places, strict=True) if place.was is not None
    }
    fresh = (word for word, place in zip(judged, places, strict=True) if place.was is None)
    return stays, fresh


def _with_times(change: HeardChange, judged: Iterator[Word]) -> HeardChange:
    """The change with its words as they were judged."""
    return replace(
        change,
        words=tuple(
            replace(next(judged), start_us=word.start_us, end_us=word.end_us, aligned=word.aligned)
            for word in change.words
        ),
    )


def _lost(word: Word, made: Sequence[HeardChange], index: int) -> Word:
    """A word that lost its contest, as it is where the change is not made."""
    instead = next(one for one in made if one.first <= index < one.end)
    text = " ".join(one.text for one in instead.words)
    even = len(instead.words) == instead.end - instead.first
    other = instead.words[index - instead.first].text if even else text
    return replace(
        word, confidence=LOST, alternatives=alternatives(word.text, [other]) if other else ()
    )
