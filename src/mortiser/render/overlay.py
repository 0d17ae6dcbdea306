"""Captions and layers alone, on nothing: frames with an alpha plane, for another editor to lay over."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from av.video.reformatter import ColorRange, Colorspace, VideoReformatter

from mortiser.core.common.time import SECOND
from mortiser.media.encode import Encoder
from mortiser.media.forms import Form
from mortiser.media.opening import unfinished
from mortiser.paint.inks import Pixels
from mortiser.paint.painter import paint
from mortiser.paint.state import State, state_at
from mortiser.render.picture import frame_count
from mortiser.render.plan import RenderPlan


def write_overlay(
    plan: RenderPlan, out: Path, progress: Callable[[float], None], form: Form
) -> None:
    """Write what is painted over a plan's picture, at its rate, with straight alpha.

    ``progress`` gets 0..1 and may raise to stop. Raises NoSpace on a full disk.
    """
    try:
        _write(plan, out, progress, form)
    except av.error.FFmpegError as error:
        raise unfinished(error, "deliver") from error


def _write(plan: RenderPlan, out: Path, progress: Callable[[float], None], form: Form) -> None:
    rate = plan.rate
    encoder = Encoder(out, plan.size, rate, 1 / rate, form)
    reformatter = VideoReformatter()
    try:
        before: tuple[State, ...] | None = None
        frame: av.VideoFrame | None = None
        count = frame_count(plan)
        for number in range(count):
            at_us = plan.shown_from_us + round(number * SECOND / rate)
            states = tuple(state_at(shows, at_us) for shows in plan.shows)
            if frame is None or states != before:
                frame = _planes(straight(painted(states, plan.size)), reformatter, form.planes)
                before = states
            frame.pts, frame.time_base = number, Fraction(1) / rate
            if not number:
                encoder.sees(frame)
            encoder.add_picture(frame)
            progress(number / count)
        encoder.finish()
    except BaseException:
        encoder.drop()
        raise


def painted(states: tuple[State, ...], size: tuple[int, int]) -> Pixels:
    """Premultiplied BGRA of shape (h, w, 4) of all that shows, the first the lowest."""
    area = (0, 0, *size)
    return paint(tuple(cue for state in states for cue in state), area)


def straight(pixels: Pixels) -> Pixels:
    """Colours as they are where nothing is behind them, of colours multiplied by their opacity."""
    opacity = pixels[..., 3:].astype(np.uint16)
    shown = opacity[..., 0] > 0
    colours = pixels[..., :3][shown].astype(np.uint16)
    share = opacity[shown]
    found = pixels.copy()
    found[shown, :3] = np.minimum(255, (colours * 255 + share // 2) // share)
    return found


def _planes(pixels: Pixels, reformatter: VideoReformatter, planes: str) -> av.VideoFrame:
    seen = av.VideoFrame.from_ndarray(np.ascontiguousarray(pixels), format="bgra")
    made = reformatter.reformat(seen, format=planes, dst_colorspace=Colorspace.ITU709, threads=1)
    made.colorspace, made.color_range = Colorspace.ITU709, ColorRange.MPEG
    return made
