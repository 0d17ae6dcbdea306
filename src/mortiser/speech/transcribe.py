"""From sound to timed words: hear a line, align it, fill in what could not be found."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace

from mortiser.core.transcript.carry import spread
from mortiser.core.transcript.doubt import alone
from mortiser.core.transcript.words import Word, tokens, word_key
from mortiser.speech.chunks import chunks
from mortiser.speech.pipelined import one_ahead
from mortiser.speech.protocols import (
    RATE,
    Aligner,
    HeardLine,
    Recogniser,
    Samples,
    WordTime,
    later,
)

MOST_REPEATED = 3
ALIGNED = "en"
"""The language that the aligner knows; its times go before those of an engine."""


@dataclass(frozen=True)
class TimedLine:
    """Words of one line in source time, ready to be stored."""

    words: tuple[Word, ...]


def transcribe(
    sound: Iterable[Samples], recogniser: Recogniser, aligner: Aligner
) -> Iterator[TimedLine | float]:
    """Yield lines of timed words as they are found, and seconds of sound done in between.

    Words never overlap and their starts never go back, also from line to line. A word that the
    aligner did not find is placed between its neighbours and marked as not aligned.
    """
    last: tuple[Word, ...] = ()
    stretches = chunks(sound, recogniser.stretch_s)
    for (start_s, samples), lines in one_ahead(stretches, lambda one: recogniser.hear(one[1])):
        for line in lines:
            words = _behind(last, timed_words(line, aligner, start_s))
            if words:
                last = words
                yield TimedLine(words)
        yield start_s + len(samples) / RATE


def timed_words(line: HeardLine, aligner: Aligner, from_s: float = 0) -> tuple[Word, ...]:
    """The words of a heard line with their times, in a stretch of sound that begins at ``from_s``."""
    line = later(line, from_s)
    texts = tokens(line.text)
    found: Sequence[WordTime | None] = line.times
    if not found or line.language == ALIGNED:
        found = aligner.align(texts, line.samples)
    else:
        found = [replace(time, support=alone(time.support)) for time in line.times]
    words: list[Word] = []
    index = 0
    while index < len(texts):
        time = found[index]
        if time is not None:
            words.append(_word(texts[index], time, line.offset_s))
            index += 1
            continue
        stop = index
        while stop < len(texts) and found[stop] is None:
            stop += 1
        start_us = words[-1].end_us if words else _us(max(line.start_s, line.offset_s))
        following = found[stop] if stop < len(texts) else None
        end_us = _us(line.offset_s + following.start_s) if following else _us(line.end_s)
        for word in spread(texts[index:stop], start_us, max(start_us, end_us)):
            words.append(replace(word, origin="heard", confidence=0.2))
        index = stop
    return tuple(words)


def _word(text: str, time: WordTime, offset_s: float) -> Word:
    return Word(
        text, _us(offset_s + time.start_s), _us(offset_s + time.end_s), time.support, aligned=True
    )


def _behind(last: Sequence[Word], words: tuple[Word, ...]) -> tuple[Word, ...]:
    """The new line's words put behind the last line's.

    Neighbouring lines may share a little sound, so that a word at the seam is heard twice: it is
    dropped from the new line when it was spoken before the last line ended.
    """
    if not last or not words:
        return words
    edge = last[-1].end_us
    for count in range(min(MOST_REPEATED, len(last), len(words)), 0, -1):
        same = [word_key(w.text) for w in last[-count:]] == [
            word_key(w.text) for w in words[:count]
        ]
        if same and words[0].start_us < edge:
            words = words[count:]
            break
    return tuple(
        replace(w, start_us=max(w.start_us, edge), end_us=max(w.end_us, edge)) for w in words
    )


def _us(seconds: float) -> int:
    return max(0, round(seconds * 1_000_000))
