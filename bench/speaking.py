"""Who speaks: share of speech time right, and time taken, on conversations and on one voice alone.

Two voices, two more made of them by speaking higher and deeper, taking turns at random; the demo's
conversation; and each voice alone, which must stay one.
"""

from __future__ import annotations

import json
import time
from collections.abc import Iterator
from itertools import groupby, permutations
from pathlib import Path

import numpy as np
import numpy.typing as npt
from scripts.demo_media.story import COUNTER

from bench.report import at_least, at_most
from mortiser.core.transcript.words import Word
from mortiser.media.sound import RATE, stream_sound
from mortiser.speech.speakers import SpectralSpeakers

Sound = npt.NDArray[np.float32]
Voice = tuple[Sound, list[Word]]
MEDIA = Path(__file__).parent / "media"
DEMO = Path("src/mortiser/demo/media")
LONGEST_S = 200


def run() -> None:
    """Print the measurements of telling speakers apart."""
    joe, heart = voice(MEDIA / "joe.ogg"), voice(MEDIA / "heart.ogg")
    deep, high = bent(joe, 0.88), bent(heart, 1.12)
    names = [line.voice for line in COUNTER for _ in line.text.split()]
    demo = voice(DEMO / "counter.m4a")
    talks = {
        "demo conversation": (*demo, names),
        "two voices": mixed({"joe": joe, "heart": heart}, 0),
        "two, 15 dB noise": noisy(mixed({"joe": joe, "heart": heart}, 0)),
        "three voices": mixed({"joe": joe, "heart": heart, "deep": deep}, 2),
        "four voices": mixed({"joe": joe, "heart": heart, "deep": deep, "high": high}, 3),
        "an hour of two": hour({"joe": joe, "heart": heart}),
    }
    for name, (sound, words, truth) in talks.items():
        started = time.perf_counter()
        found = SpectralSpeakers().find([sound], words)
        spent = time.perf_counter() - started
        seconds = len(sound) / RATE
        against = f"{seconds:.0f} s, {len(set(truth))} people, {len(set(found))} found"
        at_least(f"right, {name}", 100 * share_right(found, truth, words), "%", 85, against, 1)
        at_most(f"time, {name}", spent / seconds, "×", 1, "real time", 3)
    alone = [joe, heart, deep, high, voice(DEMO / "kettle.mp4"), voice(DEMO / "lyric.m4a")]
    kept = sum(set(SpectralSpeakers().find([sound], words)) == {0} for sound, words in alone)
    at_least("one voice stayed one", kept, "of 6", 6, "recordings of one person")


def voice(recording: Path) -> Voice:
    """A recording's sound and its true words."""
    rows = json.loads(recording.with_suffix(".words.json").read_text())["words"]
    words = [Word(row["text"], row["start_us"], row["end_us"]) for row in rows]
    return np.concatenate(list(stream_sound(recording))), words


def bent(spoken: Voice, speed: float) -> Voice:
    """The same voice faster and higher, or slower and deeper."""
    sound, words = spoken
    places = np.arange(0, len(sound), speed)
    made = np.interp(places, np.arange(len(sound)), sound).astype(np.float32)
    return made, [Word(w.text, int(w.start_us / speed), int(w.end_us / speed)) for w in words]


def sentences(words: list[Word]) -> Iterator[list[Word]]:
    """Words up to each end of a sentence."""
    ends = np.cumsum([0, *(word.text[-1] in ".?!" for word in words[:-1])])
    for _, run_ in groupby(zip(ends, words, strict=True), key=lambda pair: pair[0]):
        yield [word for _, word in run_]


def mixed(voices: dict[str, Voice], seed: int) -> tuple[Sound, list[Word], list[str]]:
    """Sentences of several people, one to three at a turn, chosen at random."""
    rng = np.random.default_rng(seed)
    left = {name: sentences(words) for name, (_, words) in voices.items()}
    parts: list[Sound] = []
    words: list[Word] = []
    truth: list[str] = []
    at = 0
    while at < LONGEST_S * RATE:
        name = str(rng.choice(list(voices)))
        for _ in range(rng.integers(1, 4)):
            said = next(left[name], None)
            if said is None:
                return np.concatenate(parts), words, truth
            start = max(0, said[0].start_us - 100_000) * RATE // 1_000_000
            end = (said[-1].end_us + 120_000) * RATE // 1_000_000
            shift = (at - start) * 1_000_000 // RATE
            words += [Word(w.text, w.start_us + shift, w.end_us + shift) for w in said]
            truth += [name] * len(said)
            parts.append(voices[name][0][start:end])
            at += len(parts[-1])
    return np.concatenate(parts), words, truth


def noisy(talk: tuple[Sound, list[Word], list[str]]) -> tuple[Sound, list[Word], list[str]]:
    """The same in a humming room."""
    sound, words, truth = talk
    noise = np.random.default_rng(5).normal(0, 1, len(sound))
    noise = np.convolve(noise, [0.4, 0.3, 0.2, 0.1], "same")
    level = np.sqrt(np.mean(sound**2) / np.mean(noise**2)) * 10 ** (-15 / 20)
    return (sound + noise * level).astype(np.float32), words, truth


def hour(voices: dict[str, Voice]) -> tuple[Sound, list[Word], list[str]]:
    """Eighteen talks after one another, each a little faster or slower, louder or softer."""
    rng = np.random.default_rng(1)
    parts: list[Sound] = []
    words: list[Word] = []
    truth: list[str] = []
    at = 0
    for seed in range(18):
        sound, said, names = mixed(voices, seed)
        sound, said = bent((sound, said), float(rng.uniform(0.97, 1.03)))
        sound = sound * rng.uniform(0.7, 1.2) + rng.normal(0, 0.002, len(sound))
        shift = at * 1_000_000 // RATE
        words += [Word(w.text, w.start_us + shift, w.end_us + shift) for w in said]
        truth += names
        parts.append(sound.astype(np.float32))
        at += len(sound)
    return np.concatenate(parts), words, truth


def share_right(found: list[int], truth: list[str], words: list[Word]) -> float:
    """Share of the words' time given to the right person, with the best naming of those found."""
    people = sorted(set(truth)) + ["nobody"] * len(set(found))
    lengths = [word.end_us - word.start_us for word in words]
    best = 0
    for naming in set(permutations(people[: len(set(truth)) + len(set(found))], len(set(found)))):
        names = dict(zip(sorted(set(found)), naming, strict=True))
        right = sum(n for n, f, t in zip(lengths, found, truth, strict=True) if names[f] == t)
        best = max(best, right)
    return best / sum(lengths)


if __name__ == "__main__":
    run()
