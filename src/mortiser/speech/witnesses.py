"""Further hearings of a stretch of sound that do not stand for election but say whom they back.

One by the quick engine of the sound played slower (a word that was a guess changes more often than one
that was heard; a second one, faster, told nothing more), and one of another decoder with a language
model of its own.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

import numpy as np
from pocketsphinx import Decoder, get_model_path

from mortiser.core.words import tokens
from mortiser.speech.moonshine import MoonshineRecogniser
from mortiser.speech.protocols import RATE, Samples

SPEED = 0.86
SILENCE = np.zeros(RATE // 4, np.float32)


@dataclass(frozen=True)
class Testimony:
    """What the further hearings had, as written words."""

    slower: list[str]
    decoded: list[str]


class Witnesses:
    """Holds two models, so one is made for a whole recording."""

    def __init__(self) -> None:
        self._engine = MoonshineRecogniser()
        self._decoder = Decoder(
            hmm=get_model_path("en-us/en-us"),
            dict=get_model_path("en-us/cmudict-en-us.dict"),
            lm=get_model_path("en-us/en-us.lm.bin"),
            beam=1e-40,
            pbeam=1e-40,
            wbeam=1e-30,
            maxhmmpf=1_500,
            fwdflat=False,
            bestpath=False,
            loglevel="FATAL",
        )

    def hear(self, samples: Samples) -> Testimony:
        """Both, of at most some ten seconds."""
        return Testimony(self._slower(samples), self._decode(samples))

    def _slower(self, samples: Samples) -> list[str]:
        positions = np.arange(0, len(samples), SPEED)
        bent = np.interp(positions, np.arange(len(samples)), samples).astype(np.float32)
        heard = self._engine.hear(np.concatenate([SILENCE, bent, SILENCE]))
        return [text for line in heard for text in tokens(line.text)]

    def _decode(self, samples: Samples) -> list[str]:
        pcm = (np.clip(samples, -1, 1) * 32767).astype("<i2").tobytes()
        self._decoder.start_utt()
        self._decoder.process_raw(pcm, full_utt=True)
        self._decoder.end_utt()
        found = self._decoder.hyp()
        return [re.sub(r"\(\d+\)$", "", word) for word in found.hypstr.split()] if found else []
