"""Loudness by EBU R 128: sound measured, and brought to a loudness with its true peaks kept low."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from fractions import Fraction

import av
from av.filter import Graph

CEILING_DB = -1.0
"""True peaks stay below this (dBTP), as EBU R 128 has it."""
LIMIT_DB = -1.6
"""What samples are limited to for that: between two of them the sound may pass both."""
SILENT = -69.0
NEAR_LU = 0.1
TRIES = 5
Frames = Iterator[av.AudioFrame]
Make = Callable[[], Frames]
"""The sound from its beginning."""


@dataclass(frozen=True)
class Measured:
    """Integrated loudness (LUFS) and true peak (dBTP)."""

    lufs: float
    peak_db: float

    @property
    def silent(self) -> bool:
        """Whether there is nothing to be heard."""
        return self.lufs < SILENT


@dataclass(frozen=True)
class Level:
    """What is done to a sound: a gain (dB), and whether peaks are limited after it."""

    gain_db: float = 0.0
    limited: bool = False


def measure(frames: Frames) -> Measured:
    """The loudness of a sound (ITU-R BS.1770-4, as EBU R 128 has it)."""
    said: dict[str, str] = {}
    for frame in _through(frames, [("ebur128", "metadata=1:peak=true")]):
        said = frame.metadata or said
    lufs = float(said.get("lavfi.r128.I", "-70"))
    peak = float(said.get("lavfi.r128.true_peak", "0"))
    return Measured(lufs, 20 * math.log10(max(peak, 1e-6)))


def level_for(make: Make, target: float) -> Level:
    """What brings a sound to a loudness (LUFS); nothing for one that is silent."""
    found = measure(make())
    if found.silent:
        return Level()
    gain = target - found.lufs
    if found.peak_db + gain <= CEILING_DB:
        return Level(gain)
    for _ in range(TRIES):
        off = target - measure(levelled(make(), Level(gain, True))).lufs
        if abs(off) < NEAR_LU:
            break
        # What is limited grows by less than it is raised by.
        gain += 1.5 * off
    return Level(gain, True)


def levelled(frames: Frames, level: Level) -> Frames:
    """A sound, changed."""
    if level == Level():
        return frames
    chain = [("volume", f"{level.gain_db:.3f}dB")]
    if level.limited:
        limit = 10 ** (LIMIT_DB / 20)
        chain.append(("alimiter", f"limit={limit:.5f}:attack=5:release=60:level=0:latency=1"))
    return _through(frames, chain)


def _through(frames: Frames, chain: list[tuple[str, str]]) -> Frames:
    first = next(frames, None)
    if first is None:
        return
    graph = Graph()
    rate, layout = first.sample_rate, first.layout.name
    into = graph.add_abuffer(
        format=first.format.name, sample_rate=rate, layout=layout, time_base=Fraction(1, rate)
    )
    last = into
    for name, options in chain:
        step = graph.add(name, options)
        last.link_to(step)
        last = step
    back = graph.add("aformat", f"sample_fmts=fltp:sample_rates={rate}:channel_layouts={layout}")
    sink = graph.add("abuffersink")
    last.link_to(back)
    back.link_to(sink)
    graph.configure()
    graph.push(first)
    yield from _ready(graph)
    for frame in frames:
        graph.push(frame)
        yield from _ready(graph)
    graph.push(None)
    yield from _ready(graph)


def _ready(graph: Graph) -> Frames:
    while True:
        try:
            frame = graph.pull()
        except (av.error.BlockingIOError, av.error.EOFError):
            return
        assert isinstance(frame, av.AudioFrame)
        yield frame
