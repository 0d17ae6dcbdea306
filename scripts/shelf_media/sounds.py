"""Sounds and music, synthesised from tones and noise."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

import av
import numpy as np

RATE = 48_000
Wave = np.ndarray


@dataclass(frozen=True)
class Sound:
    """``make`` gives samples of shape (n,) between -1 and 1."""

    ref: str
    title: str
    tags: str
    make: Callable[[], Wave]


def write_sound(sound: Sound, file: Path) -> float:
    """Write a sound as AAC; its length in seconds."""
    samples = sound.make().astype(np.float32)
    samples *= 0.7 / max(1e-6, float(np.abs(samples).max()))
    with av.open(str(file), "w") as out:
        stream = out.add_stream("aac", rate=RATE, layout="mono", bit_rate=64_000)
        frame = av.AudioFrame.from_ndarray(samples[None, :], format="fltp", layout="mono")
        frame.rate = RATE
        for packet in [*stream.encode(frame), *stream.encode(None)]:
            out.mux(packet)
    return len(samples) / RATE


def _t(seconds: float) -> Wave:
    return np.arange(round(seconds * RATE)) / RATE


def _bell() -> Wave:
    t = _t(1.6)
    parts = ((1, 1.0, 3), (2.76, 0.6, 5), (5.4, 0.35, 8), (8.9, 0.2, 12))
    return sum(a * np.sin(2 * np.pi * 880 * k * t) * np.exp(-d * t) for k, a, d in parts)


def _click() -> Wave:
    t = _t(0.12)
    noise = np.random.default_rng(1).normal(size=len(t))
    return noise * np.exp(-90 * t) + 0.6 * np.sin(2 * np.pi * 190 * t) * np.exp(-40 * t)


def _whoosh() -> Wave:
    t = _t(0.7)
    noise = np.random.default_rng(2).normal(size=len(t))
    spectrum = np.fft.rfft(noise)
    hertz = np.fft.rfftfreq(len(t), 1 / RATE)
    airy = np.fft.irfft(spectrum * np.exp(-(((hertz - 900) / 700) ** 2)), len(t))
    return airy * np.sin(np.pi * t / 0.7) ** 3


def _knock() -> Wave:
    t = _t(0.5)
    one = np.sin(2 * np.pi * 150 * t) * np.exp(-30 * t) + 0.3 * np.sin(
        2 * np.pi * 410 * t
    ) * np.exp(-60 * t)
    return one + 0.8 * np.roll(one, RATE // 5) * (t > 0.2)


def _tune(notes: str, beat_s: float, bars: int, soft: float) -> Wave:
    """Plucked notes over a held fifth: letters are half tones above A, a stop is a rest."""
    steps = "a.b.cd.ef.g.".replace(".", "")
    scale = dict(zip(steps, (0, 2, 3, 5, 7, 8, 10), strict=True))
    total = round(bars * len(notes) * beat_s * RATE)
    out = np.zeros(total + RATE)
    for number in range(bars * len(notes)):
        note = notes[number % len(notes)]
        if note == "-":
            continue
        hertz = 220 * 2 ** (scale[note] / 12)
        t = _t(0.9)
        pluck = sum(np.sin(2 * np.pi * hertz * k * t) / k**1.6 for k in (1, 2, 3, 4))
        at = round(number * beat_s * RATE)
        out[at : at + len(t)] += pluck * np.exp(-soft * t)
        if number % 4 == 0:
            low = np.sin(2 * np.pi * 110 * t) * np.exp(-3 * t)
            out[at : at + len(t)] += 0.7 * low
    t = np.arange(len(out)) / RATE
    held = 0.08 * (np.sin(2 * np.pi * 110 * t) + np.sin(2 * np.pi * 165 * t))
    return (out + held)[:total] * np.minimum(1, 8 * (t[total - 1] - t[:total]))


SOUNDS = (
    Sound("shop-bell", "Shop bell", "bell door shop ring", _bell),
    Sound("switch-click", "Click of a switch", "click switch lamp button", _click),
    Sound("soft-whoosh", "Soft whoosh", "whoosh air fast swing", _whoosh),
    Sound("two-knocks", "Two knocks on wood", "knock wood table door", _knock),
)
MUSIC = (
    Sound("slow-lantern", "Slow lantern", "calm night slow warm", lambda: _tune("a-c-e-c-", 0.42, 5, 2.5)),
    Sound("bench-waltz", "Bench waltz", "waltz cosy work wood", lambda: _tune("aee-ccdbb", 0.3, 6, 4)),
    Sound("busy-hands", "Busy hands", "busy quick cheerful work", lambda: _tune("acegecdf", 0.2, 9, 6)),
)  # fmt: skip
