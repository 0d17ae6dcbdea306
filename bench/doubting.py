"""The vote and the doubts: words wrong before and after, which ones are flagged, over texts that are known.

Two voices were spoken (scripts/demo_media/corpus.py); *deep* and *high* are the same played slower and
faster, *noise* and *noise heart* have low noise at 10 dB; *kettle* and *counter* are the demo's.
"""

from __future__ import annotations

import json
import time
from dataclasses import dataclass
from difflib import SequenceMatcher
from pathlib import Path

import numpy as np
import numpy.typing as npt

from bench.report import at_least, at_most
from mortiser.core.transcript.comparing import compare
from mortiser.core.transcript.doubt import doubtful
from mortiser.core.transcript.words import Word
from mortiser.media.sound import RATE, stream_sound
from mortiser.settings import Settings
from mortiser.speech.engines import ensemble_for
from mortiser.speech.moonshine import MoonshineRecogniser
from mortiser.speech.protocols import Ensemble
from mortiser.speech.second_hearing import SecondHearing, heard_again, settled
from mortiser.speech.sphinx import SphinxAligner
from mortiser.speech.spoken import spoken_map
from mortiser.speech.transcribe import TimedLine, transcribe
from mortiser.wiring import model_place

MEDIA = Path("bench/media")
DEMO = Path("src/mortiser/demo/media")
SPELLINGS = {"tyre": "tire", "grey": "gray"}
PARTS = {
    "bench/media": ("joe", "heart"),
    "demo": ("kettle", "counter"),
    "10 dB of noise": ("noise", "noise heart"),
}
Sound = npt.NDArray[np.float32]


@dataclass
class Heard:
    """A voice heard once and twice; every word of the second with whether it is wrong."""

    said: int
    wrong_before: int
    wrong_after: int
    judged: list[tuple[Word, bool]]


def run() -> None:
    """Print word errors, recall, share flagged and calibration, together and voice by voice."""
    ensemble = ensemble_for("en", [], model_place(Settings()))
    found: dict[str, Heard] = {}
    seconds = spent = 0.0
    for name, (sound, truth) in voices().items():
        started = time.perf_counter()
        words, final = hear_twice(sound, ensemble)
        spent += time.perf_counter() - started
        seconds += len(sound) / RATE
        found[name] = Heard(
            len(as_said(truth)),
            _errors(words, truth),
            _errors(final, truth),
            list(zip(final, _wrong(final, truth), strict=True)),
        )
        _print(name, found[name])
    for part, names in PARTS.items():
        some = [found[name] for name in names]
        said = sum(one.said for one in some)
        before = 100 * sum(one.wrong_before for one in some) / said
        after = 100 * sum(one.wrong_after for one in some) / said
        limit = {"bench/media": 5, "demo": 3, "10 dB of noise": 6}[part]
        at_most(f"word error, {part}", after, "%", limit, f"{before:.1f} % by the first alone", 1)
    judged = [pair for name, one in found.items() if "noise" not in name for pair in one.judged]
    recall, flagged = _rates(judged)
    at_least("wrong words flagged", recall, "%", 80, f"{sum(bad for _, bad in judged)} wrong words")
    at_most("words flagged", flagged, "%", 9, f"{len(judged)} words", 1)
    at_least("heard twice, aligned, judged", seconds / spent, "×", 4, "real time, two cores", 1)
    for limit in (0.7, 0.75, 0.8, 0.83, 0.86, 0.9):
        flags = [((word.confidence or 0) < limit, bad) for word, bad in judged]
        found_wrong = np.mean([flag for flag, bad in flags if bad])
        every = np.mean([flag for flag, _ in flags])
        print(
            f"      flagged below {limit:.2f}: {found_wrong:.0%} of the wrong words, {every:.1%} of all"
        )
    print("      chance of being right, said and true:")
    for low, high in ((0, 0.25), (0.25, 0.5), (0.5, 0.75), (0.75, 0.9), (0.9, 0.95), (0.95, 1)):
        part = [
            (w.confidence or 0, not bad) for w, bad in judged if low <= (w.confidence or 0) < high
        ]
        if part:
            told, true = np.mean(part, axis=0)
            print(f"        {told:.2f} said, {true:.2f} true, {len(part)} words")


def _print(name: str, one: Heard) -> None:
    recall, flagged = _rates(one.judged)
    wrong = sum(bad for _, bad in one.judged)
    print(
        f"      {name:<12} word error {100 * one.wrong_before / one.said:4.1f} -> "
        f"{100 * one.wrong_after / one.said:4.1f} %; {wrong} words wrong, {recall:.0f} % of them "
        f"flagged, {flagged:.1f} % of all"
    )


def voices() -> dict[str, tuple[Sound, list[str]]]:
    """Sound and true words of each voice."""
    made: dict[str, tuple[Sound, list[str]]] = {}
    for name, other, stretch in (("joe", "deep", 0.9), ("heart", "high", 1.14)):
        sound, truth = _read(MEDIA / f"{name}.ogg")
        positions = np.arange(0, len(sound), stretch)
        bent = np.interp(positions, np.arange(len(sound)), sound).astype(np.float32)
        made |= {name: (sound, truth), other: (bent, truth)}
    for name, file in (("kettle", "kettle.mp4"), ("counter", "counter.m4a")):
        made[name] = _read(DEMO / file)
    noises = {"noise": ("joe", 5), "noise heart": ("heart", 6)}
    for name, (voice, seed) in noises.items():
        sound, truth = made[voice]
        made[name] = (noisy(sound, seed), truth)
    return made


def noisy(sound: Sound, seed: int) -> Sound:
    """With low noise at 10 dB under it."""
    noise = np.convolve(
        np.random.default_rng(seed).normal(0, 1, len(sound)), [0.4, 0.3, 0.2, 0.1], "same"
    )
    level = np.sqrt(np.mean(sound**2) / np.mean(noise**2)) * 10 ** (-10 / 20)
    return (sound + noise * level).astype(np.float32)


def hear_twice(sound: Sound, ensemble: Ensemble) -> tuple[list[Word], list[Word]]:
    """The words after the first hearing, and after the vote."""
    blocks = np.array_split(sound, max(1, len(sound) // RATE))
    items = transcribe(blocks, MoonshineRecogniser(), SphinxAligner())
    words = [word for item in items if isinstance(item, TimedLine) for word in item.words]
    judge = SecondHearing(ensemble)
    return words, [w for _, v, _ in heard_again(blocks, words, judge) for w in settled(v)]


def _read(file: Path) -> tuple[Sound, list[str]]:
    truth = json.loads(file.with_suffix(".words.json").read_text())["words"]
    return np.concatenate(list(stream_sound(file))), [word["text"] for word in truth]


def as_said(texts: list[str]) -> list[str]:
    """Words as they are spoken, both spellings the same."""
    return [SPELLINGS.get(word, word) for word in spoken_map(texts)[0]]


def _errors(words: list[Word], truth: list[str]) -> int:
    """Words wrong, missed and added, compared as they are said."""
    return len(compare(as_said(truth), as_said([word.text for word in words])).differences)


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
    return 100 * float(np.mean(wrong or [1.0])), 100 * float(
        np.mean([doubtful(word) for word, _ in judged])
    )
