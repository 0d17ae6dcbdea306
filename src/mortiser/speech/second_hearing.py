"""Hear a line again in other ways, to find the words that do not hold.

Two further hearings by the same engine of the sound played at other speeds (a word that was a guess
changes more often than one that was heard), one pass of another decoder with a language model of its
own, and whether a dictionary knows the word. What was heard instead is offered as an alternative.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from difflib import SequenceMatcher

import numpy as np
from pocketsphinx import Decoder, get_model_path

from mortiser.core.doubt import Signs, confidences
from mortiser.core.words import Word, tokens, word_key
from mortiser.speech.moonshine import MoonshineRecogniser
from mortiser.speech.seams import RATE, HeardLine, Samples
from mortiser.speech.sphinx import SphinxAligner
from mortiser.speech.spoken import spoken

SPEEDS = (1.08, 0.86)
MOST_ALTERNATIVES = 3
SILENCE = np.zeros(RATE // 4, np.float32)


@dataclass(frozen=True)
class Other:
    """What another hearing had at a word's place: nothing against it, or this text instead."""

    agrees: bool
    text: str | None = None


class SecondHearing:
    """Judges heard words; holds two models, so one is made for a whole recording."""

    def __init__(self) -> None:
        self._engine = MoonshineRecogniser()
        self._aligner = SphinxAligner()
        self._decoder = Decoder(
            hmm=get_model_path("en-us/en-us"),
            dict=get_model_path("en-us/cmudict-en-us.dict"),
            lm=get_model_path("en-us/en-us.lm.bin"),
            beam=1e-40,
            pbeam=1e-40,
            wbeam=1e-30,
            maxhmmpf=3_000,
            loglevel="FATAL",
        )

    def judge(self, words: Sequence[Word], samples: Samples) -> list[Word]:
        """The words of one stretch of sound with confidence and alternatives."""
        texts = [word.text for word in words]
        hearings = [compare(texts, self._again(samples, speed)) for speed in SPEEDS]
        decoded = compare(texts, self._decode(samples))
        signs = [
            Signs(
                hearings_against=sum(not hearing[i].agrees for hearing in hearings),
                decoder_against=not decoded[i].agrees,
                guessed=not self._aligner.knows(text),
            )
            for i, text in enumerate(texts)
        ]
        return [
            replace(
                word,
                confidence=round(sure, 3),
                alternatives=_alternatives(word.text, [h[i].text for h in (*hearings, decoded)]),
            )
            for i, (word, sure) in enumerate(zip(words, confidences(signs), strict=True))
        ]

    def _again(self, samples: Samples, speed: float) -> list[str]:
        positions = np.arange(0, len(samples), speed)
        bent = np.interp(positions, np.arange(len(samples)), samples).astype(np.float32)
        heard = self._engine.hear([np.concatenate([SILENCE, bent, SILENCE])])
        return [t for line in heard if isinstance(line, HeardLine) for t in tokens(line.text)]

    def _decode(self, samples: Samples) -> list[str]:
        pcm = (np.clip(samples, -1, 1) * 32767).astype("<i2").tobytes()
        self._decoder.start_utt()
        self._decoder.process_raw(pcm, full_utt=True)
        self._decoder.end_utt()
        found = self._decoder.hyp()
        return [re.sub(r"\(\d+\)$", "", word) for word in found.hypstr.split()] if found else []


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


def _said(text: str) -> str:
    return " ".join(spoken(text)) or word_key(text)


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
