"""The blend against an exact composite in RGB, for both matrices and both ranges."""

from fractions import Fraction

import av
import numpy as np
import pytest
from av.video.reformatter import ColorRange, Colorspace, VideoReformatter

from mortiser.core.captions.cue_timing import retime
from mortiser.core.captions.pace import PACES
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.scene import SceneReader, build_scene
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.transcript.words import Cue, Shown
from mortiser.fonts import font_book
from mortiser.paint.painter import area_of, paint
from mortiser.paint.state import state_at
from mortiser.render.blend import inks_of, lay, veil
from mortiser.render.burn import Veils

WEIGHTS = {Colorspace.ITU709: (0.2126, 0.0722), Colorspace.ITU601: (0.299, 0.114)}


def plain_frame(colour: tuple[int, int, int], space: Colorspace, full: bool) -> av.VideoFrame:
    """A frame of one colour whose planes are set from the standard's own formulas."""
    kr, kb = WEIGHTS[space]
    red, green, blue = (c / 255 for c in colour)
    y = kr * red + (1 - kr - kb) * green + kb * blue
    cb, cr = (blue - y) / (2 - 2 * kb), (red - y) / (2 - 2 * kr)
    values = (
        (255 * y, 128 + 255 * cb, 128 + 255 * cr)
        if full
        else (16 + 219 * y, 128 + 224 * cb, 128 + 224 * cr)
    )
    frame = av.VideoFrame(400, 300, "yuv420p")
    for plane, value in zip(frame.planes, values, strict=True):
        plane.update(bytes([round(value)]) * plane.buffer_size)
    frame.colorspace = space
    frame.color_range = ColorRange.JPEG if full else ColorRange.MPEG
    frame.pts, frame.time_base = 0, Fraction(1, 25)
    return frame


def to_rgb(frame: av.VideoFrame, space: Colorspace, full: bool) -> np.ndarray:
    kr, kb = WEIGHTS[space]
    planes = frame.to_ndarray().astype(float)
    y = planes[:300]
    half = planes[300:].reshape(2, 150, 200).repeat(2, axis=1).repeat(2, axis=2)
    luma = y / 255 if full else (y - 16) / 219
    cb, cr = (half - 128) / (255 if full else 224)
    red, blue = luma + (2 - 2 * kr) * cr, luma + (2 - 2 * kb) * cb
    green = (luma - kr * red - kb * blue) / (1 - kr - kb)
    return np.clip(np.stack([red, green, blue], axis=2) * 255, 0, 255)


@pytest.mark.parametrize("space", WEIGHTS)
@pytest.mark.parametrize("full", [False, True], ids=["limited", "full"])
@pytest.mark.parametrize("name", FINISHES)
def test_a_blend_in_planes_is_a_blend_in_colours(space: Colorspace, full: bool, name: str) -> None:
    colour = (150, 170, 160)
    words = (Shown("mend", 0, 400_000), Shown("it🧵", 400_000, 900_000))
    spans = Timeline([Clip(1, 0, 10**7)])
    scene = build_scene(
        retime([Cue(1, words, 0, 1)], spans, PACES["quick"]),
        FINISHES[name],
        (400, 300),
        font_book(),
    )
    frame = plain_frame(colour, space, full)
    state = state_at(scene, 650_000)
    area = area_of(state, 400, 300)
    pixels = paint(state, area)
    lay(frame, veil(paint(state, area, inks_of(frame)), area, VideoReformatter()))
    left, top, right, bottom = area
    exact = np.tile(np.array(colour, float), (300, 400, 1))
    alpha = pixels[..., 3:].astype(float) / 255
    exact[top:bottom, left:right] = exact[top:bottom, left:right] * (1 - alpha) + pixels[..., 2::-1]
    difference = np.abs(to_rgb(frame, space, full) - exact)
    # Inside flat parts only rounding is left; at edges colour has half the resolution.
    assert np.median(difference[top:bottom, left:right]) <= 2
    luma = difference @ np.array([WEIGHTS[space][0], 1 - sum(WEIGHTS[space]), WEIGHTS[space][1]])
    assert np.percentile(luma, 99) < 12
    outside = np.ones((300, 400), bool)
    outside[top:bottom, left:right] = False
    assert difference[outside].max() <= 2


@pytest.mark.parametrize("at", range(0, 1_300_000, 45_000))
@pytest.mark.parametrize("name", FINISHES)
def test_nothing_is_painted_outside_its_area(at: int, name: str) -> None:
    words = (Shown("Lantern", 100_000, 400_000), Shown("Lane,", 400_000, 900_000))
    spans = Timeline([Clip(1, 0, 10**7)])
    scene = build_scene(
        retime([Cue(1, words, 0, 1)], spans, PACES["quick"]),
        FINISHES[name],
        (400, 700),
        font_book(),
    )
    state = state_at(scene, at)
    left, top, right, bottom = area_of(state, 400, 700)
    whole = paint(state, (0, 0, 400, 700))
    whole[top:bottom, left:right] = 0
    assert whole.max() <= 1


@pytest.mark.parametrize("name", FINISHES)
def test_what_is_painted_on_from_frame_to_frame_is_what_is_painted_at_once(name: str) -> None:
    """Only what moved is painted anew: over two captions, every frame as if it were the first."""
    lines = ("mend the kettle", "not the chair")
    cues = []
    for number, line in enumerate(lines):
        words = [
            Shown(text, at * 330_000, at * 330_000 + 280_000, id=at + 1)
            for at, text in enumerate(line.split(), start=number * 3)
        ]
        cues.append(Cue(1, tuple(words), words[0].start_us, words[-1].end_us))
    reader = SceneReader(
        retime(cues, Timeline([Clip(1, 0, 3_000_000)]), PACES["quick"]),
        FINISHES[name],
        (400, 300),
        font_book(),
    )
    going_on = Veils(reader)
    for at_us in range(0, 2_300_000, 33_333):
        frames = [plain_frame((150, 170, 160), Colorspace.ITU709, False) for _ in range(2)]
        going_on.put_on(frames[0], at_us)
        Veils(reader).put_on(frames[1], at_us)
        apart = np.abs(frames[0].to_ndarray().astype(int) - frames[1].to_ndarray().astype(int))
        # Skia rounds the cover of a pixel by two edges otherwise where the path is clipped.
        assert apart.max() <= 4, at_us
        assert (apart > 1).sum() <= 1, at_us
