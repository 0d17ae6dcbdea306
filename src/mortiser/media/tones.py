"""Pictures of a high dynamic range (HLG and PQ, ITU-R BT.2100) as BT.709 shows them.

What each colour becomes is FFmpeg's own tone mapping (swscale, perceptual intent), taken once into a table by
``scripts/tone_tables.py``: looking it up takes a fifth of the time.
"""

from __future__ import annotations

import atexit
import shutil
from contextlib import suppress
from fractions import Fraction
from functools import lru_cache
from pathlib import Path
from threading import local

import av
import numpy as np
from av.filter import Graph
from av.video.reformatter import ColorPrimaries, ColorRange, Colorspace, ColorTrc

from mortiser.disk.passing import new_folder

TABLES = Path(__file__).with_name("tones.npz")
HIGH = {ColorTrc.ARIB_STD_B67: "hlg", ColorTrc.SMPTE2084: "pq"}
UNIT = Fraction(1, 90_000)
_kept = local()
Key = tuple[int, int, str, str]


def high_range(frame: av.VideoFrame) -> str | None:
    """Which curve a frame of a high dynamic range has: hlg or pq."""
    with suppress(ValueError):
        return HIGH.get(ColorTrc(frame.color_trc))
    return None


def in_bt709(frame: av.VideoFrame) -> av.VideoFrame:
    """A frame in yuv420p and BT.709, limited range; any other than one of a high range as it is."""
    curve = high_range(frame)
    if curve is None:
        return frame
    key = (frame.width, frame.height, frame.format.name, curve)
    if getattr(_kept, "key", None) != key:
        _kept.graph, _kept.key = _graph(key), key
    pts, base = frame.pts, frame.time_base
    _kept.graph.push(frame)
    made = _kept.graph.pull()
    assert isinstance(made, av.VideoFrame)
    made.pts, made.time_base = pts, base or UNIT
    made.colorspace, made.color_range = Colorspace.ITU709, ColorRange.MPEG
    made.color_trc, made.color_primaries = ColorTrc.BT709, ColorPrimaries.BT709
    return made


def _graph(key: Key) -> Graph:
    width, height, planes, curve = key
    graph = Graph()
    last = graph.add_buffer(
        width=width, height=height, format=av.VideoFormat(planes), time_base=UNIT
    )
    # In several threads swscale writes wrong colours where their parts of the picture meet.
    for name, options in (
        ("scale", "in_color_matrix=bt2020nc:in_range=tv:threads=1"),
        ("format", "gbrp10le"),
        ("lut3d", f"file={_cube(curve)}:interp=tetrahedral"),
        ("setparams", "color_primaries=bt709:color_trc=bt709:colorspace=gbr:range=pc"),
        ("scale", "out_color_matrix=bt709:out_range=tv:threads=1"),
        ("format", "yuv420p"),
        ("buffersink", ""),
    ):
        step = graph.add(name, options) if options else graph.add(name)
        last.link_to(step)
        last = step
    graph.configure()
    return graph


@lru_cache(maxsize=2)
def _cube(curve: str) -> Path:
    """A curve's table as a .cube file, which is what FFmpeg reads; gone with the process."""
    with np.load(TABLES) as tables:
        table = tables[curve].astype(np.float64) / 65_535
    side = table.shape[0]
    file = _folder() / f"{curve}.cube"
    # Red changes fastest.
    rows = table.transpose(2, 1, 0, 3).reshape(-1, 3)
    with file.open("w") as out:
        out.write(f"LUT_3D_SIZE {side}\n")
        np.savetxt(out, rows, fmt="%.5f")
    return file


@lru_cache(maxsize=1)
def _folder() -> Path:
    folder = new_folder()
    atexit.register(shutil.rmtree, folder, ignore_errors=True)
    return folder
