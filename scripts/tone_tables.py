"""Take FFmpeg's own tone mapping of HLG and PQ (BT.2020) to BT.709 into tables: python -m scripts.tone_tables."""

from fractions import Fraction

import av
import numpy as np
from av.filter import Graph
from av.video.reformatter import ColorPrimaries, ColorRange, ColorTrc

from mortiser.media.tones import TABLES

SIDE = 33
OWN = "out_primaries=bt709:out_transfer=bt709:intent=perceptual"


def table(curve: ColorTrc) -> np.ndarray:
    """What each colour becomes: of shape (red, green, blue, 3), 16 bits."""
    axis = np.linspace(0, 65_535, SIDE).round().astype(np.uint16)
    colours = np.stack(np.meshgrid(axis, axis, axis, indexing="ij"), axis=-1).reshape(-1, SIDE, 3)
    frame = av.VideoFrame(SIDE, SIDE * SIDE, "gbrp16le")
    for plane, channel in zip(frame.planes, (1, 2, 0), strict=True):
        rows = np.frombuffer(memoryview(plane), np.uint16).reshape(SIDE * SIDE, -1)
        rows[:, :SIDE] = colours[..., channel]
    frame.colorspace, frame.color_range = 0, ColorRange.JPEG
    frame.color_trc, frame.color_primaries = curve, ColorPrimaries.BT2020
    frame.pts, frame.time_base = 0, Fraction(1, 25)
    graph = Graph()
    last = graph.add_buffer(
        width=frame.width, height=frame.height, format=frame.format, time_base=Fraction(1, 25)
    )
    for step in (
        graph.add("scale", OWN), graph.add("format", "gbrp16le"), graph.add("buffersink"),
    ):  # fmt: skip
        last.link_to(step)
        last = step
    graph.configure()
    graph.push(frame)
    made = graph.pull()
    planes = [
        np.frombuffer(memoryview(plane), np.uint16).reshape(SIDE * SIDE, -1)[:, :SIDE]
        for plane in made.planes
    ]
    green, blue, red = (plane.reshape(SIDE, SIDE, SIDE) for plane in planes)
    return np.stack([red, green, blue], axis=-1)


if __name__ == "__main__":
    np.savez_compressed(TABLES, hlg=table(ColorTrc.ARIB_STD_B67), pq=table(ColorTrc.SMPTE2084))
