"""Other languages: how exact word times are, on sentences spoken with known times.

The synthesiser (scripts/demo_media/languages.py) is understood badly, so the known words are looked
for, as typed ones are. It does not read Chinese and Japanese well enough to measure them: they are
printed and not counted.
"""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np

from bench.report import at_most
from mortiser.media.sound import stream_sound
from mortiser.settings import Settings
from mortiser.speech.protocols import RATE
from mortiser.speech.whisper import WhisperRecogniser
from mortiser.wiring import model_place

MEDIA = Path("bench/media")
LANGUAGES = ("de", "es", "fr", "it", "pt", "nl", "pl", "tr", "ar", "hi", "ja", "zh")
NOT_READ = ("ja", "zh")
LONGEST_US = 24_000_000
LEAD_US = 300_000


def run() -> None:
    """Print how far off onsets are, by language and together."""
    folder = model_place(Settings()).folder()
    every: list[float] = []
    for language in LANGUAGES:
        file = MEDIA / f"language-{language}.ogg"
        sound = np.concatenate(list(stream_sound(file)))
        truth = json.loads(file.with_suffix(".words.json").read_text())["words"]
        off = _off(WhisperRecogniser(folder, language), sound, truth)
        print(
            f"      {language} {len(off)} words: median {np.median(off):.0f} ms, "
            f"95 % {np.quantile(off, 0.95):.0f} ms"
        )
        if language not in NOT_READ:
            every += off
    against = f"{len(every)} words in {len(LANGUAGES) - len(NOT_READ)} languages"
    at_most("word onset, median |error|", float(np.median(every)), "ms", 60, against)
    at_most("word onset, 95 % |error|", float(np.quantile(every, 0.95)), "ms", 180, against)


def _off(engine: WhisperRecogniser, sound: np.ndarray, truth: list[dict]) -> list[float]:
    off: list[float] = []
    at = 0
    while at < len(truth):
        start = max(0, truth[at]["start_us"] - LEAD_US)
        stop = at
        while stop < len(truth) and truth[stop]["start_us"] - start < LONGEST_US:
            stop += 1
        if stop < len(truth):
            # Back to the last pause.
            gaps = {n: truth[n]["start_us"] - truth[n - 1]["start_us"] for n in range(at + 1, stop)}
            stop = max(list(gaps)[-8:], key=lambda n: gaps[n])
        end = truth[stop]["start_us"] - LEAD_US // 2 if stop < len(truth) else len(sound) * 10**9
        samples = sound[start * RATE // 10**6 : end * RATE // 10**6]
        found = engine.align([word["text"] for word in truth[at:stop]], samples)
        off += [
            abs(time.start_s * 1000 + (start - word["start_us"]) / 1000)
            for word, time in zip(truth[at:stop], found, strict=True)
            if time is not None
        ]
        at = stop
    return off
