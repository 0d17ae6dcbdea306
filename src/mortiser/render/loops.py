"""Short pictures that move by themselves in a page: GIF, with a palette of its own."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import closing
from pathlib import Path

import av
from av.filter import Graph
from av.filter.context import FilterContext

from mortiser.media.encode import Encoder
from mortiser.media.forms import Form
from mortiser.media.opening import unfinished
from mortiser.render.ahead import ahead
from mortiser.render.burn import painted
from mortiser.render.plan import RenderPlan

EVERY = 3
"""Every third frame is looked at for the palette."""
FIRST_SHARE = 0.4


def write_gif(plan: RenderPlan, out: Path, progress: Callable[[float], None], form: Form) -> None:
    """Write a GIF of a plan with its captions in the picture, that begins again at its end.

    All frames are gone through twice, first for the palette. ``progress`` gets 0..1 and may raise to stop. Raises
    BadMedia, NoSpace.
    """
    try:
        palette = _palette(plan, progress)
        encoder = Encoder(out, plan.size, plan.rate, 1 / plan.rate, form)
        try:
            for frame in _reduced(plan, palette, progress):
                encoder.add_picture(frame)
            encoder.finish()
        except BaseException:
            encoder.drop()
            raise
    except av.error.FFmpegError as error:
        raise unfinished(error, "deliver") from error


def _frames(
    plan: RenderPlan, progress: Callable[[float], None], begin: float, share: float
) -> Iterator[av.VideoFrame]:
    whole = plan.timeline.duration_us
    with closing(ahead(painted(plan))) as frames:
        for frame in frames:
            at_us = round((frame.pts or 0) * (frame.time_base or 0) * 1_000_000)
            progress(begin + share * min(1.0, at_us / whole))
            yield frame


def _palette(plan: RenderPlan, progress: Callable[[float], None]) -> av.VideoFrame:
    graph = Graph()
    into = _buffer(graph, plan, "yuv420p", plan.size)
    made = graph.add("palettegen", "stats_mode=diff")
    sink = graph.add("buffersink")
    into.link_to(made)
    made.link_to(sink)
    graph.configure()
    for number, frame in enumerate(_frames(plan, progress, 0.0, FIRST_SHARE)):
        if number % EVERY == 0:
            into.push(frame)
    into.push(None)
    found = sink.pull()
    assert isinstance(found, av.VideoFrame)
    return found


def _reduced(
    plan: RenderPlan, palette: av.VideoFrame, progress: Callable[[float], None]
) -> Iterator[av.VideoFrame]:
    graph = Graph()
    into = _buffer(graph, plan, "yuv420p", plan.size)
    colours = _buffer(graph, plan, palette.format.name, (palette.width, palette.height))
    used = graph.add("paletteuse", "dither=bayer:bayer_scale=3:diff_mode=rectangle")
    sink = graph.add("buffersink")
    into.link_to(used)
    colours.link_to(used, 0, 1)
    used.link_to(sink)
    graph.configure()
    palette.pts = 0
    colours.push(palette)
    colours.push(None)
    for frame in _frames(plan, progress, FIRST_SHARE, 1 - FIRST_SHARE):
        into.push(frame)
        yield from _ready(sink)
    into.push(None)
    yield from _ready(sink)


def _buffer(graph: Graph, plan: RenderPlan, planes: str, size: tuple[int, int]) -> FilterContext:
    return graph.add_buffer(
        width=size[0],
        height=size[1],
        format=av.VideoFormat(planes),
        time_base=1 / plan.rate,
    )


def _ready(sink: FilterContext) -> Iterator[av.VideoFrame]:
    while True:
        try:
            frame = sink.pull()
        except (av.error.BlockingIOError, av.error.EOFError):
            return
        assert isinstance(frame, av.VideoFrame)
        yield frame
