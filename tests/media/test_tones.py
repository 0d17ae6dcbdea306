"""Recordings of a high dynamic range come out as BT.709, as FFmpeg itself maps their tones."""

from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest
from av.filter import Graph
from av.video.reformatter import ColorPrimaries, ColorRange, Colorspace, ColorTrc

from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.media.picture import plane_of, turned
from mortiser.media.probe import probe
from mortiser.media.tones import high_range, in_bt709
from mortiser.render.burn import burn
from mortiser.render.plan import Recording, RenderPlan

SIZE = (192, 108)
BT2020 = 9
CURVES = {"hlg": ColorTrc.ARIB_STD_B67, "pq": ColorTrc.SMPTE2084}


def high_frame(curve: str) -> av.VideoFrame:
    """Ramps of grey and of colours, in 10 bits."""
    width, height = SIZE
    frame = av.VideoFrame(width, height, "yuv420p10le")
    light = np.linspace(64, 800, width).astype(np.uint16)
    across, down = np.meshgrid(np.linspace(0, 1, width // 2), np.linspace(0, 1, height // 2))
    colours = [512 + 90 * (across - 0.5) * down, 512 + 90 * (0.5 - down) * across]
    for index, values in enumerate([np.tile(light, (height, 1)), *colours]):
        plane = frame.planes[index]
        rows = np.frombuffer(memoryview(plane), np.uint16).reshape(plane.height, -1)
        rows[:, : plane.width] = values.astype(np.uint16)
    frame.colorspace, frame.color_range = BT2020, ColorRange.MPEG
    frame.color_trc, frame.color_primaries = CURVES[curve], ColorPrimaries.BT2020
    frame.pts, frame.time_base = 7, Fraction(1, 25)
    return frame


def ffmpegs_own(frame: av.VideoFrame) -> av.VideoFrame:
    graph = Graph()
    last = graph.add_buffer(
        width=frame.width, height=frame.height, format=frame.format, time_base=Fraction(1, 25)
    )
    own = "out_primaries=bt709:out_transfer=bt709:out_color_matrix=bt709:out_range=tv:intent=perceptual"
    for step in (
        graph.add("scale", own), graph.add("format", "yuv420p"), graph.add("buffersink"),
    ):  # fmt: skip
        last.link_to(step)
        last = step
    graph.configure()
    graph.push(frame)
    return graph.pull()


@pytest.mark.parametrize("curve", CURVES)
def test_tones_are_those_of_ffmpeg(curve: str) -> None:
    frame = high_frame(curve)
    assert high_range(frame) == curve
    made, own = turned(frame), ffmpegs_own(high_frame(curve))
    assert (made.pts, made.time_base) == (7, Fraction(1, 25))
    assert (made.colorspace, made.color_trc) == (Colorspace.ITU709, ColorTrc.BT709)
    for index in range(3):
        off = np.abs(plane_of(made, index).astype(int) - plane_of(own, index))
        assert off.mean() < 1.0
        assert np.percentile(off, 99) <= 4


def test_an_ordinary_frame_stays_as_it_is() -> None:
    frame = av.VideoFrame(16, 16, "yuv420p")
    assert high_range(frame) is None
    assert in_bt709(frame) is frame


@pytest.mark.parametrize("curve", CURVES)
def test_a_recording_of_a_high_range_is_delivered_in_bt709(tmp_path: Path, curve: str) -> None:
    source = tmp_path / "high.mp4"
    with av.open(str(source), "w") as out:
        picture = out.add_stream("libx265", rate=25, options={"x265-params": "log-level=error"})
        picture.width, picture.height, picture.pix_fmt = *SIZE, "yuv420p10le"
        context = picture.codec_context
        context.color_trc, context.color_primaries = CURVES[curve], ColorPrimaries.BT2020
        context.colorspace, context.color_range = BT2020, ColorRange.MPEG
        sound = out.add_stream("aac", rate=48_000, layout="mono")
        for number in range(25):
            frame = high_frame(curve)
            frame.pts, frame.time_base = number, Fraction(1, 25)
            out.mux(picture.encode(frame))
        out.mux(picture.encode(None))
        for number in range(47):
            tone = av.AudioFrame.from_ndarray(
                np.zeros((1, 1024), np.float32), format="fltp", layout="mono"
            )
            tone.sample_rate, tone.pts = 48_000, number * 1024
            out.mux(sound.encode(tone))
        out.mux(sound.encode(None))
    facts = probe(source)
    assert not facts.playable
    whole = RenderPlan(
        Timeline([Clip(0, 0, facts.duration_us)]), {0: Recording(source, facts.duration_us)}, SIZE
    )
    burn(whole, tmp_path / "out.mp4", lambda _: None)
    with av.open(str(tmp_path / "out.mp4")) as reading:
        frame = next(reading.decode(video=0))
        assert frame.format.name == "yuv420p"
        assert frame.colorspace == Colorspace.ITU709
        assert frame.color_trc == ColorTrc.BT709
        off = np.abs(plane_of(frame, 0).astype(int) - plane_of(ffmpegs_own(high_frame(curve)), 0))
        assert off.mean() < 4
