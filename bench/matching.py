"""A separate microphone found under ten minutes of a recording, and sounds that do not belong."""

from __future__ import annotations

import time
from itertools import cycle

import numpy as np
from tests.core.test_matching import microphone

from bench.report import at_least, at_most
from bench.trimming import VOICES
from mortiser.core.editing.matching import RATE, Sound, match
from mortiser.media.sound import stream_sound

LONG_S = 600
CASES = ((1.2345, 50.0), (0.0, -50.0), (20.5, 50.0), (7.77, 0.0))
"""Offset (s) and drift (millionths)."""
STRANGERS = 20
STRANGER_S = 40


def run() -> None:
    """Print how far off the beginning and the end are, how long it takes, what is refused."""
    voices = [np.concatenate(list(stream_sound(file))) for file in VOICES]
    whole = np.concatenate([part for part, _ in zip(cycle(voices), range(12), strict=False)])
    whole = _noisy(whole[: LONG_S * RATE])
    off, took, sure = [], [], []
    for offset_s, drift in CASES:
        heard = microphone(whole, offset_s, drift)
        started = time.perf_counter()
        found = match(whole, heard)
        took.append(time.perf_counter() - started)
        sure.append(100 * found.sure)
        begin = found.offset_us / 1e3 - offset_s * 1e3
        off += [abs(begin), abs(begin + (found.drift_ppm - drift) * LONG_S / 1e3)]
    against = f"{len(CASES)} pairs of ten minutes, 50 ppm, another equalisation, 10 dB of noise"
    at_most("farthest off at either end", max(off), "ms", 5, against, 2)
    at_most("time for one of them", max(took), "s", 10, "the clock", 1)
    at_least("least sure of them", min(sure), "%", 50, "what belongs has to have")
    random = np.random.default_rng(20)
    refused = 0
    for _ in range(STRANGERS):
        one, other = random.choice(len(voices), 2, replace=False)
        a, b = (_part(voices[which], random) for which in (one, other))
        refused += not match(a, microphone(b, 0.3)).belongs
    at_least("pairs that do not belong, refused", refused, "", STRANGERS, f"{STRANGERS} of them")


def _part(sound: Sound, random: np.random.Generator) -> Sound:
    at = int(random.integers(0, max(1, len(sound) - STRANGER_S * RATE)))
    return sound[at : at + STRANGER_S * RATE]


def _noisy(sound: Sound) -> Sound:
    hiss = np.random.default_rng(1).normal(size=len(sound))
    return np.asarray(sound + hiss * np.sqrt(np.square(sound).mean() / 10), np.float32)
