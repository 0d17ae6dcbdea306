"""Hearing: words right, words on time, fast, soon, and small.

The truth beside each demo clip comes from the voices' own phoneme durations.
"""

from __future__ import annotations

import json
import re
import sys
import tempfile
import time
from collections.abc import Iterable, Iterator
from pathlib import Path
from typing import Any

import numpy as np

from bench.looped import looped
from bench.report import alone, at_least, at_most, measured
from mortiser.core.transcript.comparing import compare
from mortiser.core.transcript.words import Word
from mortiser.media.probe import probe
from mortiser.media.sound import stream_sound
from mortiser.settings import Settings
from mortiser.speech.chunks import chunks
from mortiser.speech.engines import ensemble_for
from mortiser.speech.memory import share_heaps
from mortiser.speech.moonshine import MoonshineRecogniser
from mortiser.speech.protocols import RATE, HeardLine, Samples
from mortiser.speech.second_hearing import SecondHearing, heard_again
from mortiser.speech.sphinx import SphinxAligner
from mortiser.speech.transcribe import TimedLine, transcribe
from mortiser.wiring import model_place

MEDIA = Path("src/mortiser/demo/media")
CLIPS = ("kettle.mp4", "counter.m4a")
SPELLINGS = {"gray": "grey"}


def key(text: str) -> list[str]:
    """Words of a text as word error is counted: letters alone, both spellings the same."""
    found = re.findall(r"[a-z']+", text.lower().replace("-", " "))
    return [SPELLINGS.get(word.strip("'"), word.strip("'")) for word in found if word.strip("'")]


def run() -> None:
    """Print all hearing measurements."""
    errors = total = 0
    onsets: list[float] = []
    for clip in CLIPS:
        truth = json.loads((MEDIA / clip).with_suffix(".words.json").read_text())["words"]
        words: list[Word] = []
        for item in transcribe(stream_sound(MEDIA / clip), MoonshineRecogniser(), SphinxAligner()):
            if isinstance(item, TimedLine):
                words += item.words
        said, heard = (
            [" ".join(key(w["text"])) for w in truth],
            [" ".join(key(w.text)) for w in words],
        )
        found = compare(said, heard)
        errors += len(found.differences)
        total += len(said)
        onsets += [(words[b].start_us - truth[a]["start_us"]) / 1000 for a, b in found.same]
    against = f"{total} words known from the voices"
    at_most("word error", 100 * errors / total, "%", 6, against, 1)
    at_most("word onset, median |error|", float(np.median(np.abs(onsets))), "ms", 40, against)
    at_most(
        "word onset, 95 % |error|", float(np.percentile(np.abs(onsets), 95)), "ms", 120, against
    )
    _speed()
    _length()
    _made_up()


def _speed() -> None:
    ear = alone("bench.hearing", "recognise", "2")
    both = alone("bench.hearing", "transcribe", "2")
    ratio = both["work_cpu_s"] / ear["work_cpu_s"]
    at_most("recognition and alignment", ratio, "×", 1.4, "CPU of recognition alone", 2)
    at_least("speed", both["seconds"] / both["work_wall_s"], "×", 5, "real time, two cores", 1)
    twice = alone("bench.hearing", "twice", "4")
    speed = twice["seconds"] / twice["work_wall_s"]
    at_least("speed, heard twice and judged", speed, "×", 4, "real time, two cores", 1)


def _length() -> None:
    short = alone("bench.hearing", "transcribe", "1")
    long = alone("bench.hearing", "transcribe", "15")
    at_most("first line of ten minutes", long["first_line_s"], "s", 5, "the start of the work", 1)
    grown = long["peak_mb"] - short["peak_mb"]
    at_most("memory grown over ten minutes", grown, "MB", 60, f"{short['peak_mb']:.0f} MB for 40 s")
    short, long = alone("bench.hearing", "twice", "2"), alone("bench.hearing", "twice", "8")
    at_most(
        "memory, heard twice", long["peak_mb"], "MB", 1200, f"{short['peak_mb']:.0f} MB for 80 s"
    )


def _made_up() -> None:
    """Words over ten minutes of silence, of noise and of chords."""
    ensemble = ensemble_for("en", [], model_place(Settings()))
    engines = {
        "quick engine": MoonshineRecogniser(),
        "second engine": ensemble.second,
        "third engine": ensemble.third,
    }
    for name, engine in engines.items():
        if engine is None:
            continue
        for what, sound in wordless(600).items():
            lines = [
                line.text
                for _, samples in chunks(np.array_split(sound, 600), engine.stretch_s)
                for line in engine.hear(samples)
            ]
            against = f"{name}: {' / '.join(lines[:3])}" if lines else name
            at_most(f"lines heard in ten minutes of {what}", len(lines), "", 0, against)


def wordless(seconds: int) -> dict[str, Samples]:
    """Silence, soft noise, and chords that change with a beat."""
    rng = np.random.default_rng(3)
    at = np.arange(seconds * RATE) / RATE
    roots = 220 * 2 ** (rng.integers(-5, 7, seconds * 2) / 12)
    root = np.repeat(roots, RATE // 2)
    phase = 2 * np.pi * np.cumsum(root) / RATE
    chord = sum(np.sin(phase * ratio) for ratio in (1, 1.25, 1.5, 2))
    beat = np.exp(-8 * (at % 0.5))
    drum = rng.normal(0, 1, len(at)) * np.exp(-40 * (at % 0.5))
    return {
        "silence": np.zeros(len(at), np.float32),
        "noise": rng.normal(0, 0.02, len(at)).astype(np.float32),
        "music": (0.08 * chord * (0.3 + beat) + 0.1 * drum).astype(np.float32),
    }


def _work(kind: str, times: int) -> dict[str, Any]:
    # As every command begins.
    share_heaps()
    with tempfile.TemporaryDirectory() as folder:
        clip = MEDIA / "kettle.mp4"
        length_us = times * probe(clip).duration_us
        recording = looped(clip, Path(folder) / "long.m4a", length_us, picture=False)
        started = time.perf_counter()
        first = 0.0
        seconds = 0.0
        engine = MoonshineRecogniser()
        sound = stream_sound(recording)
        items = (
            _recognised(sound, engine)
            if kind == "recognise"
            else transcribe(sound, engine, SphinxAligner())
        )
        words: list[Word] = []
        for item in items:
            if isinstance(item, float):
                seconds = item
            elif isinstance(item, HeardLine | TimedLine) and not first:
                first = time.perf_counter() - started
            if isinstance(item, TimedLine):
                words += item.words
        # As jobs do, which come one after another.
        del engine, items
        if kind == "twice":
            judge = SecondHearing(ensemble_for("en", [], model_place(Settings())))
            for _ in heard_again(stream_sound(recording), words, judge):
                pass
        return {"seconds": seconds, "first_line_s": first, "rate": RATE}


def _recognised(
    sound: Iterable[Samples], engine: MoonshineRecogniser
) -> Iterator[HeardLine | float]:
    for start_s, samples in chunks(sound, engine.stretch_s):
        yield from engine.hear(samples)
        yield start_s + len(samples) / RATE


if __name__ == "__main__":
    measured(lambda: _work(sys.argv[1], int(sys.argv[2])))
