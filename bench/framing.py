"""Deliveries in another shape, against FFmpeg doing the same geometry with its own filters."""

from __future__ import annotations

import sys
import tempfile
import time
from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction
from functools import partial
from pathlib import Path
from statistics import median
from typing import Any

import av
import cv2
import numpy as np
import numpy.typing as npt
from tests.pieces import piece_of

from bench.burning import Filter, reader, reencode
from bench.report import alone, at_least, at_most, measured
from mortiser.core.assembly.assembled import PartLook
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.clip_framing import ClipFraming
from mortiser.core.framing.layer import Headline, ProgressBar, Wave, Waveform
from mortiser.core.framing.placing import snapped
from mortiser.core.framing.shape import Backdrop, Framing, Move, Shape
from mortiser.core.scene.layered import LayerReader, layer_readers
from mortiser.fonts import font_book
from mortiser.jobs.draft import FORM as DRAFTED
from mortiser.media.peaks import compute_peaks, piece_sound, save_peaks
from mortiser.media.picture import plane_of
from mortiser.media.probe import probe
from mortiser.media.sound import stream_sound
from mortiser.render import picture
from mortiser.render.burn import burn
from mortiser.render.plan import Recording, RenderPlan, of_one
from mortiser.render.segments import PART_US, preview_size, write_segment

CLIP = Path("src/mortiser/demo/media/kettle.mp4")
SECONDS = 12
WIDE, TALL = (1920, 1080), (1080, 1920)
ROUNDS = 3
SOFT = 3.0
Filters = list[tuple[str, str]]
CUT = ("crop", "608:1080:656:0")
FILLED: Filters = [CUT, ("scale", "1080:1920:flags=bicubic")]
BACKDROP: Filters = [
    CUT,
    ("scale", "68:120:flags=area"),
    ("gblur", "sigma=2.2"),
    ("lutyuv", "y=(val-16)*0.55+16:u=(val-128)*0.55+128:v=(val-128)*0.55+128"),
    ("scale", "1080:1920:flags=bilinear"),
]
INSIDE: Filters = [("scale", "1080:608:flags=bicubic")]
MOVING: Filters = [
    CUT,
    (
        "zoompan",
        "z='min(1+0.3*on/360,1.3)':x='iw/2-iw/zoom/2':y='ih/2-ih/zoom/2':d=1:s=1080x1920:fps=30",
    ),
]
FILLING = "filled tall from wide"
WAYS = {
    FILLING: 1.15,
    "whole on a blurred backdrop": 1.25,
    "slow move": 1.25,
}
"""How pictures are framed, and how much of FFmpeg's CPU that may take."""


def run() -> None:
    """Print the CPU of each way of framing, as a share of FFmpeg's for the same."""
    with tempfile.TemporaryDirectory() as folder:
        wide = Path(folder) / "wide.mp4"
        _make_wide(wide)
        for way, most in WAYS.items():
            ratios, walls = [], []
            before = alone("bench.framing", "filters", way, str(wide))
            for _ in range(ROUNDS):
                made = alone("bench.framing", "ours", way, str(wide))
                after = alone("bench.framing", "filters", way, str(wide))
                ratios.append(2 * made["work_cpu_s"] / (before["work_cpu_s"] + after["work_cpu_s"]))
                walls.append(
                    2 * made["work_wall_s"] / (before["work_wall_s"] + after["work_wall_s"])
                )
                before = after
            at_most(f"{way}: CPU", median(ratios), "×", most, "FFmpeg's own filters", 2)
            at_most(f"{way}: clock", median(walls), "×", most, "the same", 2)
        _layers(wide)
        _segments(wide)
        _geometry(wide)


def _segments(wide: Path) -> None:
    """How long segments of a framed piece take: straight from the recording, and from its draft."""
    draft = wide.with_name("draft.mp4")
    whole = Recording(wide, probe(wide).duration_us)
    burn(of_one(whole, preview_size(WIDE)), draft, lambda _: None, DRAFTED)
    small = replace(whole, path=draft, picture=WIDE)
    size = preview_size(TALL)
    move = Move(source_id=0, start_us=0, end_us=SECONDS * 1_000_000, zoom=1.3, way="in")
    for name, recording, moves in (
        ("at rest, recording", whole, ()),
        ("moving, recording", whole, (move,)),
        ("moving, draft", small, (move,)),
    ):
        clip = ClipFraming(snapped(Framing(fit="fill"), WIDE, TALL), Backdrop(), moves)
        took = []
        for start in range(0, (SECONDS - 2) * 1_000_000, PART_US):
            began = time.perf_counter()
            stretch = (start, start + PART_US)
            out = wide.with_name("part.mp4")
            write_segment(recording, stretch, size, out, Fraction(30), None, PartLook(clip))
            took.append(time.perf_counter() - began)
        slow = sorted(took)[int(0.95 * (len(took) - 1))]
        at_most(f"first segment, {name}", slow, "s", 0.8, "95 % of them, 2 s long", 2)
        speed = PART_US / 1e6 / median(took)
        at_least(f"segments, {name}", speed, "×", 2, "as fast as they play", 1)


def _geometry(wide: Path) -> None:
    """How far pictures of the preview, from the draft, lie beside those of the delivery."""
    draft = wide.with_name("draft.mp4")
    duration = probe(wide).duration_us
    whole = Recording(wide, duration)
    small = replace(whole, path=draft, picture=WIDE)
    line = Timeline([Clip(0, 0, duration)])
    slow = Move(source_id=0, start_us=0, end_us=duration, zoom=1.3, way="in")
    ways: list[tuple[str, Framing, tuple[Move, ...]]] = [
        ("filled", snapped(Framing(fit="fill", x=0.43), WIDE, TALL), ()),
        ("whole", snapped(Framing(fit="whole"), WIDE, TALL), ()),
        ("nearer and level", Framing(fit="fill", zoom=1.31, turn=2.5), ()),
        ("moving", Framing(fit="fill"), (slow,)),
    ]
    for name, framing, moves in ways:
        clip = ClipFraming(framing, Backdrop(kind="colour"), moves)
        apart = []
        for at_us in range(500_000, duration, 1_900_000):
            one, other = (
                _light(
                    RenderPlan(line, {0: recording}, size, own_times=False, framings=[clip]), at_us
                )
                for recording, size in ((whole, TALL), (small, preview_size(TALL)))
            )
            apart.append(_apart(one, np.asarray(cv2.resize(other, TALL), np.float32)))
        at_most(f"preview beside delivery, {name}", max(apart), "pixels", 0.5, "the delivery", 2)


def _apart(one: npt.NDArray[np.float32], other: npt.NDArray[np.float32]) -> float:
    """How far a picture is shifted against another one: least squares on its slopes (B. D. Lucas and
    T. Kanade, 1981), both a little blurred, as what was encoded twice has lost its finest marks."""
    first, last = (cv2.GaussianBlur(light, (0, 0), SOFT) for light in (one, other))
    down, across = np.gradient(last.astype(np.float64))
    off = (first.astype(np.float64) - last) - float(np.mean(first - last))
    slopes = np.stack([across.ravel(), down.ravel()], axis=1)
    (x, y), *_ = np.linalg.lstsq(slopes, off.ravel(), rcond=None)
    return float(np.hypot(x, y))


def _light(plan: RenderPlan, at_us: int) -> npt.NDArray[np.float32]:
    frame = picture.at(plan, at_us)
    return plane_of(frame, 0).astype(np.float32)


def _layers(wide: Path) -> None:
    """What captions, a headline, a waveform and a progress bar add to a filled frame."""
    ratios = []
    before = alone("bench.framing", "ours", FILLING, str(wide))
    for _ in range(ROUNDS):
        made = alone("bench.framing", "layers", FILLING, str(wide))
        after = alone("bench.framing", "ours", FILLING, str(wide))
        ratios.append(2 * made["work_cpu_s"] / (before["work_cpu_s"] + after["work_cpu_s"]))
        before = after
    at_most("captions and layers add", median(ratios) - 1, "×", 0.2, "the same without", 2)


def _make_wide(out: Path) -> None:
    """The demo clip filling a wide frame: a source with something moving in it."""
    recording = Recording(CLIP, probe(CLIP).duration_us)
    framing = ClipFraming(snapped(Framing(fit="fill", y=0.45), TALL, WIDE))
    clips = Timeline([Clip(0, 0, SECONDS * 1_000_000)])
    burn(RenderPlan(clips, {0: recording}, WIDE, framings=[framing]), out, lambda _: None)


def _work(kind: str, way: str, wide: Path) -> dict[str, Any]:
    with tempfile.TemporaryDirectory() as folder:
        out = Path(folder) / "out.mp4"
        if kind == "filters":
            reencode(wide, out, TALL, partial(_filters, way=way))
        else:
            _ours(wide, out, way, over=kind == "layers")
    return {}


def _ours(wide: Path, out: Path, way: str, *, over: bool) -> None:
    duration = probe(wide).duration_us
    framing = Framing(fit="whole" if way.startswith("whole") else "fill")
    moves = ()
    if way == "slow move":
        moves = (Move(source_id=0, start_us=0, end_us=duration, zoom=1.3, way="in"),)
    else:
        framing = snapped(framing, WIDE, TALL)
    clip = ClipFraming(framing, Backdrop(), moves)
    clips = Timeline([Clip(0, 0, duration)])
    recording = Recording(wide, duration)
    plan = RenderPlan(clips, {0: recording}, TALL, framings=[clip])
    if over:
        plan = replace(plan, captions=reader("Lacquer", duration), layers=_over(duration))
    burn(plan, out, lambda _: None)


def _over(duration_us: int) -> list[LayerReader]:
    layers = (
        Headline(id=1, text="Before you throw\nyour kettle away"),
        ProgressBar(id=2),
        Waveform(id=3, wave=Wave(count=48)),
    )
    shape = Shape(id=1, width=TALL[0], height=TALL[1])
    line = Timeline([Clip(0, 0, duration_us)])
    piece = piece_of(line, shape, finish="Lacquer", layers=layers).in_shape()
    with tempfile.TemporaryDirectory() as folder:
        peaks = Path(folder) / "peaks.npz"
        save_peaks(peaks, compute_peaks(stream_sound(CLIP, 0)))
        heard = piece_sound({0: peaks}, line, 0, duration_us)
    return layer_readers(piece, [], TALL, font_book(), heard)


def _filters(picture: av.VideoStream, way: str) -> Filter:
    """FFmpeg's own filters for a way of framing."""
    graph = _graph(picture, way)

    def filtered(frame: av.VideoFrame) -> Iterator[av.VideoFrame]:
        graph.push(frame)
        while True:
            try:
                yield graph.pull()
            except (av.error.BlockingIOError, av.error.EOFError):
                return

    return filtered


def _graph(picture: av.VideoStream, way: str) -> av.filter.Graph:
    graph = av.filter.Graph()
    end: Any = graph.add_buffer(template=picture)
    if way.startswith("whole"):
        parted = graph.add("split", "2")
        end.link_to(parted)
        behind, before = _chained(graph, parted, BACKDROP), _chained(graph, parted, INSIDE, 1)
        end = graph.add("overlay", "0:656")
        behind.link_to(end, 0, 0)
        before.link_to(end, 0, 1)
    else:
        end = _chained(graph, end, FILLED if way.startswith("filled") else MOVING)
    end.link_to(graph.add("buffersink"))
    graph.configure()
    return graph


def _chained(graph: av.filter.Graph, end: Any, filters: Filters, pad: int = 0) -> Any:
    for name, options in filters:
        made = graph.add(name, options)
        end.link_to(made, pad, 0)
        end, pad = made, 0
    return end


if __name__ == "__main__":
    measured(lambda: _work(sys.argv[1], sys.argv[2], Path(sys.argv[3])))
