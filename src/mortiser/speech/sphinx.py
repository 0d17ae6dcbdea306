"""Forced alignment with pocketsphinx and its US English model (both in the wheel), at 10 ms.

The decoder finds onsets early by a constant and word ends a little early too; the two biases were
measured against voices whose phoneme times are known (``make bench`` prints what is left).
"""

from __future__ import annotations

import re
from collections.abc import Sequence

import numpy as np
from pocketsphinx import Decoder, get_model_path

from mortiser.speech.letters import phones
from mortiser.speech.protocols import RATE, Samples, WordTime
from mortiser.speech.spoken import spoken, spoken_map

FRAME_S = 0.01
ONSET_BIAS_S = 0.055
END_BIAS_S = 0.015
SHORTEST_S = 0.04
PHONE_S = (0.022, 0.34)
"""Seconds a phone usually takes; words outside are less likely to be what was said."""


class SphinxAligner:
    """Aligner; words that no dictionary has get phones from their letters."""

    def __init__(self) -> None:
        self._decoder = Decoder(
            hmm=get_model_path("en-us/en-us"),
            dict=get_model_path("en-us/cmudict-en-us.dict"),
            lm=None,
            bestpath=False,
            loglevel="FATAL",
        )
        self._guessed: set[str] = set()

    def align(self, words: Sequence[str], samples: Samples) -> list[WordTime | None]:
        """See Aligner."""
        said, origin = spoken_map(words)
        times: list[WordTime | None] = [None] * len(words)
        if not said or len(samples) < RATE // 20:
            return times
        for index, (start, end, support) in zip(origin, self._spans(said, samples), strict=False):
            known = times[index]
            if known is None:
                times[index] = WordTime(start, end, support)
            else:
                times[index] = WordTime(known.start_s, end, min(known.support, support))
        return _in_order(times, len(samples) / RATE)

    def knows(self, word: str) -> bool:
        """Whether the dictionary has all spoken words of a written one."""
        self._learn(spoken(word))
        return not self._guessed.intersection(spoken(word))

    def _learn(self, said: Sequence[str]) -> None:
        for word in said:
            if self._decoder.lookup_word(word) is None:
                self._decoder.add_word(word, phones(word), True)
                self._guessed.add(word)

    def _spans(self, said: list[str], samples: Samples) -> list[tuple[float, float, float]]:
        self._learn(said)
        self._decoder.set_align_text(" ".join(said))
        pcm = (np.clip(samples, -1, 1) * 32767).astype("<i2").tobytes()
        self._decoder.start_utt()
        self._decoder.process_raw(pcm, full_utt=True)
        self._decoder.end_utt()
        found = [s for s in self._decoder.seg() or () if s.word[0] not in "<("]
        if len(found) != len(said):
            return []
        return [
            (
                segment.start_frame * FRAME_S + ONSET_BIAS_S,
                (segment.end_frame + 1) * FRAME_S + END_BIAS_S,
                self._support(segment.word, segment.end_frame - segment.start_frame + 1),
            )
            for segment in found
        ]

    def _support(self, word: str, frames: int) -> float:
        """A first, coarse measure: guessed pronunciations and odd lengths are less sure."""
        plain = re.sub(r"\(\d+\)$", "", word)
        if plain in self._guessed:
            return 0.4
        spoken = self._decoder.lookup_word(plain) or "AH"
        each = frames * FRAME_S / len(spoken.split())
        return 0.9 if PHONE_S[0] <= each <= PHONE_S[1] else 0.45


def _in_order(times: list[WordTime | None], length_s: float) -> list[WordTime | None]:
    """The times without overlaps: a word ends where the next begins at the latest."""
    result: list[WordTime | None] = []
    after = length_s
    for time in reversed(times):
        if time is None:
            result.append(None)
            continue
        start = min(time.start_s, after)
        end = max(start, min(max(time.end_s, start + SHORTEST_S), after))
        result.append(WordTime(start, end, time.support))
        after = start
    return result[::-1]
