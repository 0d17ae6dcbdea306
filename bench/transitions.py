"""Transitions and grades of a tall full-size frame, beside FFmpeg's own filters for the same: CPU of one thread."""

from __future__ import annotations

import time
from collections.abc import Callable
from fractions import Fraction

import av
import cv2
import numpy as np
from av.filter import Graph

from bench.report import at_most
from mortiser.core.assembly.grade import GRADES, Grade
from mortiser.core.assembly.transition import Transition, TransitionKind
from mortiser.paint.inks import PlaneInks
from mortiser.render.blend import BT709
from mortiser.render.composing import planes
from mortiser.render.grading import graded
from mortiser.render.transitions import mixed

SIZE = (1080, 1920)
FRAMES = 24
ROUNDS = 3
"""The least of which counts."""
INKS = PlaneInks(*BT709, full=False)
ALIKE: dict[TransitionKind, str] = {
    "dissolve": "fade",
    "colour": "fadeblack",
    "slide": "coverleft",
    "push": "slideleft",
    "wipe": "smoothleft",
    "iris": "circleopen",
    "zoom": "zoomin",
    "whip": "hblur",
    "blur": "hblur",
}
"""FFmpeg's ``xfade`` that is nearest to each."""
MOST = 1.2


def run() -> None:
    """Print the ratios."""
    cv2.setNumThreads(1)
    one, other = _picture(0.0), _picture(2.0)
    for kind, name in ALIKE.items():
        ours = _least(lambda kind=kind: _ours(kind, one, other))  # type: ignore[misc]
        theirs = _least(lambda name=name: _xfade(name, one, other))  # type: ignore[misc]
        reference = f"xfade {name}, {theirs / FRAMES * 1000:.1f} ms a frame"
        at_most(
            f"{kind}, {ours / FRAMES * 1000:.1f} ms a frame", ours / theirs, "×", MOST, reference, 2
        )
    grades = {"a grade of one part": Grade(saturation=0.2), **GRADES}
    theirs = _least(lambda: _filtered(one, [("lut3d", "interp=tetrahedral")]))
    reference = f"lut3d with its conversions, {theirs / FRAMES * 1000:.1f} ms a frame"
    for name, grade in grades.items():
        ours = _least(lambda grade=grade: _graded(grade, one))  # type: ignore[misc]
        at_most(
            f"{name}, {ours / FRAMES * 1000:.1f} ms a frame", ours / theirs, "×", MOST, reference, 2
        )


def _least(work: Callable[[], None]) -> float:
    """CPU s of a piece of work."""
    took = []
    for _ in range(ROUNDS):
        began = time.process_time()
        work()
        took.append(time.process_time() - began)
    return min(took)


def _picture(turn: float) -> av.VideoFrame:
    width, height = SIZE
    x, y = np.meshgrid(np.arange(width) / width, np.arange(height) / height)
    frame = av.VideoFrame(width, height, "yuv420p")
    luma = 126 + 70 * np.sin(5 * x + 3 * y + turn)
    blue, red = 128 + 40 * np.cos(4 * x - turn), 128 - 30 * np.sin(3 * y + turn)
    for plane, wanted in zip(planes(frame), (luma, blue[::2, ::2], red[::2, ::2]), strict=True):
        plane[...] = wanted.round()
    return frame


def _ours(kind: TransitionKind, one: av.VideoFrame, other: av.VideoFrame) -> None:
    how = Transition(kind=kind)
    for number in range(FRAMES):
        mixed(planes(one), planes(other), (number + 0.5) / FRAMES, how, INKS)


def _graded(grade: Grade, one: av.VideoFrame) -> None:
    for number in range(FRAMES):
        graded(planes(one), grade, INKS, number)


def _xfade(name: str, one: av.VideoFrame, other: av.VideoFrame) -> None:
    graph = Graph()
    graph.threads = 1
    inputs = [_buffer(graph, frame) for frame in (one, other)]
    fade = graph.add("xfade", f"transition={name}:duration={FRAMES / 30}:offset=0")
    sink = graph.add("buffersink")
    for index, source in enumerate(inputs):
        source.link_to(fade, 0, index)
    fade.link_to(sink)
    graph.configure()
    got = 0
    for number in range(FRAMES + 2):
        for source, frame in zip(inputs, (one, other), strict=True):
            frame.pts, frame.time_base = number, Fraction(1, 30)
            source.push(frame)
        got += _pulled(sink)
    assert got >= FRAMES


def _filtered(one: av.VideoFrame, filters: list[tuple[str, str]]) -> None:
    graph = Graph()
    graph.threads = 1
    start = end = _buffer(graph, one)
    shapes = [("format", "gbrp"), *filters, ("format", "yuv420p")]
    for name, arguments in shapes:
        following = graph.add(name, arguments)
        end.link_to(following)
        end = following
    sink = graph.add("buffersink")
    end.link_to(sink)
    graph.configure()
    for number in range(FRAMES):
        one.pts, one.time_base = number, Fraction(1, 30)
        start.push(one)
        _pulled(sink)


def _buffer(graph: Graph, frame: av.VideoFrame) -> av.filter.context.FilterContext:
    size = f"video_size={frame.width}x{frame.height}:pix_fmt={frame.format.name}"
    return graph.add("buffer", f"{size}:time_base=1/30:frame_rate=30")


def _pulled(sink: av.filter.context.FilterContext) -> int:
    got = 0
    while True:
        try:
            sink.pull()
        except (av.error.BlockingIOError, av.error.EOFError):
            return got
        got += 1
