"""Doubts: which words are flagged, against texts that are known, over five voices, one in noise.

Two voices were spoken (scripts/demo_media/corpus.py); *deep* and *high* are the same played slower and
faster, *noise* has low noise at 10 dB and is counted apart. The model of core.doubt was fitted on the
four clean ones; each left out in turn gave 62 % recall with 11.5 % flagged.
"""

from __future__ import annotations

import json
import time
from difflib import SequenceMatcher
from pathlib import Path

import numpy as np
import numpy.typing as npt

from bench.report import at_least, at_most
from mortiser.core.checks import doubtful
from mortiser.core.words import Word
from mortiser.media.sound import RATE, stream_sound
from mortiser.speech.moonshine import MoonshineRecogniser
from mortiser.speech.second_hearing import SecondHearing
from mortiser.speech.sphinx import SphinxAligner
from mortiser.speech.spoken import spoken_map
from mortiser.speech.transcribe import TimedLine, transcribe

MEDIA = Path("bench/media")
SPELLINGS = {"tyre": "tire", "grey": "gray"}
Sound = npt.NDArray[np.float32]


def run() -> None:
    """Print recall, share flagged and calibration, over all voices together and each alone."""
    judged: list[tuple[Word, bool]] = []
    seconds = spent = 0.0
    for name, (sound, truth) in voices().items():
        words = [
            word
            for item in transcribe(
                np.array_split(sound, 400), MoonshineRecogniser(), SphinxAligner()
            )
            if isinstance(item, TimedLine)
            for word in item.words
        ]
        started = time.perf_counter()
        judge = SecondHearing()
        words = [word for part in stretches(words) for word in judge.judge(part, _cut(sound, part))]
        spent += time.perf_counter() - started
        seconds += len(sound) / RATE
        these = list(zip(words, _wrong(words, truth), strict=True))
        if name != "noise":
            judged += these
        recall, flagged = _rates(these)
        wrong = sum(bad for _, bad in these)
        print(
            f"      {name:<6} {len(these)} words, {wrong} wrong: {recall:.0f} % of them flagged, {flagged:.1f} % of all"
        )
    recall, flagged = _rates(judged)
    at_least("wrong words flagged", recall, "%", 60, f"{sum(bad for _, bad in judged)} wrong words")
    at_most("words flagged", flagged, "%", 12, f"{len(judged)} words", 1)
    at_most("second listening", spent / seconds, "×", 1, "real time, two cores", 2)
    print("      chance of being right, said and true:")
    for low, high in ((0, 0.25), (0.25, 0.5), (0.5, 0.75), (0.75, 0.9), (0.9, 0.95), (0.95, 1)):
        part = [
            (w.confidence or 0, not bad) for w, bad in judged if low <= (w.confidence or 0) < high
        ]
        if part:
            said, true = np.mean(part, axis=0)
            print(f"        {said:.2f} said, {true:.2f} true, {len(part)} words")


def voices() -> dict[str, tuple[Sound, list[str]]]:
    """Sound and true words of each voice."""
    made: dict[str, tuple[Sound, list[str]]] = {}
    for name, other, stretch in (("joe", "deep", 0.9), ("heart", "high", 1.14)):
        sound = np.concatenate(list(stream_sound(MEDIA / f"{name}.ogg")))
        truth = [w["text"] for w in json.loads((MEDIA / f"{name}.words.json").read_text())["words"]]
        positions = np.arange(0, len(sound), stretch)
        bent = np.interp(positions, np.arange(len(sound)), sound).astype(np.float32)
        made |= {name: (sound, truth), other: (bent, truth)}
    sound, truth = made["joe"]
    noise = np.convolve(
        np.random.default_rng(5).normal(0, 1, len(sound)), [0.4, 0.3, 0.2, 0.1], "same"
    )
    level = np.sqrt(np.mean(sound**2) / np.mean(noise**2)) * 10 ** (-10 / 20)
    return made | {"noise": ((sound + noise * level).astype(np.float32), truth)}


def _cut(sound: Sound, words: list[Word]) -> Sound:
    start = max(0, words[0].start_us - MARGIN_US) * RATE // 1_000_000
    return sound[start : (words[-1].end_us + MARGIN_US) * RATE // 1_000_000]


def _wrong(words: list[Word], truth: list[str]) -> list[bool]:
    """Whether each heard word is wrong, compared as it is said."""
    said, origin = spoken_map([word.text for word in words])
    true, _ = spoken_map(truth)
    sides = [[SPELLINGS.get(word, word) for word in side] for side in (true, said)]
    right = {
        block.b + i
        for block in SequenceMatcher(None, *sides, autojunk=False).get_matching_blocks()
        for i in range(block.size)
    }
    bad = [False] * len(words)
    for index, owner in enumerate(origin):
        bad[owner] |= index not in right
    return bad


def _rates(judged: list[tuple[Word, bool]]) -> tuple[float, float]:
    wrong = [doubtful(word) for word, bad in judged if bad]
    return 100 * float(np.mean(wrong)), 100 * float(np.mean([doubtful(word) for word, _ in judged]))
