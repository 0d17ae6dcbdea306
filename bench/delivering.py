"""Deliveries: the overlay against the burned-in video, loudness, what was expected, two at once, an hour."""

from __future__ import annotations

import sys
import tempfile
from collections.abc import Iterable
from concurrent.futures import ThreadPoolExecutor
from fractions import Fraction
from functools import partial
from pathlib import Path
from time import perf_counter
from typing import Any

import av
import numpy as np
from av.filter import Graph

from bench.burning import CLIP, SIZE, reader
from bench.report import alone, at_least, at_most, measured
from mortiser.core.common.time import SECOND
from mortiser.core.delivery.estimate import expected
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.project.output import VideoFile
from mortiser.media.forms import Form, form_of, h264
from mortiser.media.probe import probe
from mortiser.render import sound
from mortiser.render.burn import burn
from mortiser.render.loudness import level_for
from mortiser.render.overlay import write_overlay
from mortiser.render.picture import usual_rate
from mortiser.render.plan import Recording, RenderPlan
from mortiser.render.reading_back import loudness_of

STRETCH_US = 8 * SECOND
TARGETS = (-14.0, -16.0, -23.0)
FORMS = ("h264", "h265", "mkv", "vp9", "av1", "prores")
NEAR = 3
HOUR_S = 3_600
SMALL = (360, 640)


def run() -> None:
    """Print all measurements of deliveries."""
    _overlay()
    _loudness()
    _expected()
    _at_once()
    hour = alone("bench.delivering", "hour")
    at_most("peak memory of an hour", hour["peak_mb"], "MB", 700, f"{SMALL[0]} × {SMALL[1]}")
    made = hour["frames"] / hour["work_wall_s"]
    at_least("its speed", made / 30, "×", 1.0, "real time", 1)


def _plan(length_us: int = STRETCH_US, finish: str = "Lacquer") -> RenderPlan:
    facts = probe(CLIP)
    recording = Recording(CLIP, facts.duration_us)
    timeline = Timeline([Clip(0, 0, min(length_us, facts.duration_us))])
    shows = reader(finish, facts.duration_us)
    return RenderPlan(timeline, {0: recording}, SIZE, shows, rate=usual_rate(recording))


def _overlay() -> None:
    """The overlay laid over the recording by FFmpeg, against the burned-in frames, both uncompressed but for the
    overlay itself."""
    with tempfile.TemporaryDirectory() as folder:
        over, burned = Path(folder) / "over.mov", Path(folder) / "burned.mp4"
        write_overlay(_plan(), over, _nothing, form_of("overlay", "fine"))
        whole = Form("mp4", "libx264", {"qp": "0", "preset": "ultrafast"})
        burn(_plan(), burned, _nothing, whole)
        near, seen, worst = 0, 0, 0.0
        for laid, wanted in zip(_laid(over), _frames(burned), strict=False):
            for one, other in zip(laid, wanted, strict=True):
                off = np.abs(one.astype(np.int16) - other)
                near += int((off <= NEAR).sum())
                seen += off.size
                worst = max(worst, float(off.max()))
    at_least(
        "overlay as burned in", 100 * near / seen, "%", 99.9, f"of all samples within {NEAR}", 3
    )
    print(f"    the farthest sample is {worst:.0f} of 255 off")


def _laid(over: Path) -> Iterable[list[np.ndarray[Any, Any]]]:
    with av.open(str(over)) as above, av.open(str(CLIP)) as below:
        graph = Graph()
        picture, top = below.streams.video[0], above.streams.video[0]
        base, laid = (graph.add_buffer(template=one) for one in (picture, top))
        mixed = graph.add("overlay", "format=yuv420:eof_action=pass")
        sink = graph.add("buffersink")
        # The clip states no matrix: players take one of its size for BT.709, FFmpeg's filters for BT.601.
        stated = graph.add("setparams", "colorspace=bt709:range=tv")
        base.link_to(stated)
        stated.link_to(mixed, 0, 0)
        laid.link_to(mixed, 0, 1)
        mixed.link_to(sink)
        graph.configure()
        for one, other in zip(below.decode(picture), above.decode(top), strict=False):
            base.push(one)
            laid.push(other)
            while True:
                try:
                    frame = sink.pull()
                except (av.error.BlockingIOError, av.error.EOFError):
                    break
                yield _planes(frame)


def _frames(file: Path) -> Iterable[list[np.ndarray[Any, Any]]]:
    with av.open(str(file)) as reading:
        for frame in reading.decode(video=0):
            yield _planes(frame)


def _planes(frame: av.VideoFrame) -> list[np.ndarray[Any, Any]]:
    found = []
    for plane in frame.planes:
        rows = np.frombuffer(memoryview(plane), np.uint8).reshape(plane.height, -1)
        found.append(rows[:, : plane.width])
    return found


def _loudness() -> None:
    with tempfile.TemporaryDirectory() as folder:
        for target in TARGETS:
            out = Path(folder) / "out.mp4"
            plan = _plan(20 * SECOND)
            form = h264(preset="ultrafast")
            assert form.sound is not None
            rate, layout = sound.form(plan, form.sound)
            level = level_for(partial(sound.frames, plan, rate, layout), target)
            burn(plan, out, _nothing, form, level=level)
            found = loudness_of(out, plan.timeline.duration_us)
            at_most(f"loudness off {target:.0f} LUFS", abs(found.lufs - target), "LU", 0.5, "", 2)
            at_most("  true peak", found.peak_db, "dBTP", -0.5, "EBU R 128 has −1", 1)


def _expected() -> None:
    """What is said before, against what comes: before any file has been made on this machine."""
    facts = probe(CLIP)
    fineness = 8 * CLIP.stat().st_size / (SIZE[0] * SIZE[1] * len(facts.frame_pts_us))
    for form in FORMS:
        output = VideoFile(form=form)
        with tempfile.TemporaryDirectory() as folder:
            out = Path(folder) / f"out.{output.ending}"
            begun = perf_counter()
            burn(_plan(), out, _nothing, form_of(output.form, output.quality))
            took = perf_counter() - begun
            size = out.stat().st_size
        frames = round(STRETCH_US / SECOND * 30)
        thought = expected(output, SIZE, frames, STRETCH_US / SECOND, fineness)
        at_most(
            f"{form}: size expected", _off(thought.size, size), "×", 2, "too much or too little", 2
        )
        at_most("  time expected", _off(thought.seconds, took), "×", 2, "too much or too little", 2)


def _off(thought: float, came: float) -> float:
    return max(thought / came, came / thought)


def _at_once() -> None:
    """Two deliveries beside each other, against one after the other."""
    begun = perf_counter()
    for _ in range(2):
        alone("bench.delivering", "one")
    after = perf_counter() - begun
    begun = perf_counter()
    with ThreadPoolExecutor(2) as pool:
        list(pool.map(lambda _: alone("bench.delivering", "one"), range(2)))
    beside = perf_counter() - begun
    at_most("two at once", beside / after, "×", 1.05, "one after the other", 2)


def _one() -> dict[str, Any]:
    with tempfile.TemporaryDirectory() as folder:
        burn(_plan(), Path(folder) / "out.mp4", _nothing)
    return {}


def _hour() -> dict[str, Any]:
    """An hour of the clip again and again, small: memory does not go by the size of the frame alone."""
    facts = probe(CLIP)
    recording = Recording(CLIP, facts.duration_us)
    times = HOUR_S * SECOND // facts.duration_us + 1
    timeline = Timeline([Clip(0, 0, facts.duration_us, id=n + 1) for n in range(times)])
    shows = reader("Lacquer", facts.duration_us)
    plan = RenderPlan(timeline, {0: recording}, SMALL, shows, rate=Fraction(30))
    with tempfile.TemporaryDirectory() as folder:
        out = Path(folder) / "out.mp4"
        burn(plan, out, _nothing, h264(preset="ultrafast"))
        return {"frames": len(probe(out).frame_pts_us)}


def _nothing(_: float) -> None:
    """Nobody looks on."""


if __name__ == "__main__":
    measured({"hour": _hour, "one": _one}[sys.argv[1]])
