"""A clip with a flash and a click each second, cut at fifty random places: is all of it where it belongs?"""

from __future__ import annotations

import tempfile
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import numpy.typing as npt

from bench.report import at_most
from mortiser.core.common.time import SECOND
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.render.burn import burn
from mortiser.render.plan import Recording, RenderPlan

LONG_S = 120
FPS = 30
RATE = 48_000
SIZE = (320, 180)
CUTS = 50
CLICK = 96
"""Samples."""
AROUND_S = 0.05
"""So far around a click, AAC rings."""


def run() -> None:
    """Print how far clicks and flashes of the delivery are off, and what sounds where nothing should."""
    with tempfile.TemporaryDirectory() as folder:
        source, out = Path(folder) / "clip.mp4", Path(folder) / "out.mp4"
        _make(source)
        timeline = _timeline()
        recording = Recording(source, LONG_S * SECOND)
        burn(RenderPlan(timeline, {0: recording}, SIZE, rate=Fraction(FPS)), out, lambda _: None)
        white, sound = _read(out)
    against = f"{CUTS} cuts of {LONG_S} s, {timeline.duration_us / SECOND:.1f} s left"
    wrong = sum(
        shown != (timeline.playing(at).to_source(at) * FPS // SECOND % FPS == 0)
        for number, shown in enumerate(white)
        for at in (round((number + 0.5) * SECOND / FPS),)
    )
    at_most(
        "frames that are not the ones asked for", wrong, "", 0, f"{len(white)} frames; {against}"
    )
    wanted = [
        one.to_piece(second * SECOND) / SECOND
        for one in timeline.placed
        for second in range(LONG_S)
        if one.clip.start_us <= second * SECOND and second * SECOND + 20_000 < one.clip.end_us
    ]
    loud = np.flatnonzero(np.abs(sound) > 0.3) / RATE
    off = [float(np.min(np.abs(loud - at))) * 1e3 for at in wanted]
    at_most("the farthest click", max(off), "ms", 5, f"{len(wanted)} clicks; {against}", 2)
    near = np.zeros(len(sound), bool)
    for at in (one.to_piece(k * SECOND) / SECOND for one in timeline.placed for k in range(LONG_S)):
        near[max(0, int((at - AROUND_S) * RATE)) : int((at + AROUND_S) * RATE)] = True
    step = float(np.abs(sound[~near]).max())
    at_most("the loudest of what is silent", 20 * np.log10(step + 1e-9), "dB", -60, against, 0)


def _timeline() -> Timeline:
    """Random clips of whole frames; nothing is cut within a click."""
    random = np.random.default_rng(50)
    frames = np.sort(random.choice(np.arange(20, LONG_S * FPS - 20), CUTS * 2, replace=False))
    frames = np.array([frame + 3 if frame % FPS == 0 else frame for frame in frames])
    edges = [0, *frames.tolist(), LONG_S * FPS]
    clips = [
        Clip(0, start * SECOND // FPS, end * SECOND // FPS, number + 1, 1)
        for number, (start, end) in enumerate(zip(edges[::2], edges[1::2], strict=True))
        if end > start
    ]
    return Timeline(clips)


def _make(file: Path) -> None:
    black, white = (np.full((SIZE[1], SIZE[0], 3), value, np.uint8) for value in (16, 235))
    samples = np.zeros(LONG_S * RATE, np.float32)
    for second in range(LONG_S):
        samples[second * RATE : second * RATE + CLICK] = 0.8
    with av.open(str(file), "w") as out:
        picture = out.add_stream("libx264", rate=FPS)
        picture.width, picture.height = SIZE
        track = out.add_stream("flac", rate=RATE, layout="mono")
        track.codec_context.format = "s16"
        for number in range(LONG_S * FPS):
            flash = number % FPS == 0
            frame = av.VideoFrame.from_ndarray(white if flash else black, format="rgb24")
            frame.pts, frame.time_base = number, Fraction(1, FPS)
            out.mux(picture.encode(frame))
        out.mux(picture.encode(None))
        sound = av.AudioFrame.from_ndarray(
            (samples * 32767).astype(np.int16).reshape(1, -1), format="s16", layout="mono"
        )
        sound.sample_rate, sound.pts = RATE, 0
        out.mux(track.encode(sound))
        out.mux(track.encode(None))


def _read(file: Path) -> tuple[list[bool], npt.NDArray[np.float32]]:
    """Which frames are white, and the sound from the moment zero on."""
    with av.open(str(file)) as reading:
        white = [
            float(np.asarray(frame.to_ndarray(format="gray")).mean()) > 120
            for frame in reading.decode(video=0)
        ]
    parts = []
    with av.open(str(file)) as reading:
        for frame in reading.decode(audio=0):
            assert frame.pts is not None
            assert frame.time_base is not None
            start = round(float(frame.pts * frame.time_base) * RATE)
            samples = np.asarray(frame.to_ndarray(), np.float32).mean(axis=0)
            parts.append(samples[max(0, -start) :])
    return white, np.concatenate(parts)
