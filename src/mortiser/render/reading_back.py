"""A made video read back: what it is, and whether its captions are where the scene has them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

import av
import numpy as np
import numpy.typing as npt

from mortiser.core.common.errors import BadMedia
from mortiser.core.common.time import SECOND
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.frame import even_size
from mortiser.media.frames import EXACT
from mortiser.media.opening import moving_picture, open_media
from mortiser.media.picture import plane_of
from mortiser.paint.painter import NOWHERE, Area, area_of
from mortiser.paint.state import state_at
from mortiser.pictures.moving import light_at, read_moving
from mortiser.render import picture, sound
from mortiser.render.burn import Veils
from mortiser.render.loudness import Measured, measure
from mortiser.render.plan import Recording, RenderPlan
from mortiser.render.source_readers import SourceReader

LOOPS = {".gif", ".webp"}
PLAIN = 24
"""Levels (of 255) by which a caption changes what is behind it where that can be told."""
ENOUGH = 40
"""Samples."""
Light = npt.NDArray[np.int16]


@dataclass(frozen=True)
class Facts:
    """A video's picture (pixels), length (µs), frames and streams."""

    size: tuple[int, int]
    duration_us: int
    frames: int
    sound: bool = False
    text: bool = False


def facts_of(made: Path) -> Facts:
    """What a made video is. Raises BadMedia."""
    if made.suffix in LOOPS:
        found = read_moving(made)
        return Facts(found.size, sum(found.shows_us), len(found.shows_us))
    with open_media(made) as reading:
        stream = moving_picture(reading)
        if stream is None:
            raise BadMedia("The file has no picture.")
        frames, end = 0, 0.0
        for packet in reading.demux():
            if packet.pts is None or packet.time_base is None:
                continue
            if packet.stream.type in ("video", "audio"):
                ends = packet.pts + (packet.duration or 0)
                end = max(end, float(ends * packet.time_base))
                frames += packet.stream is stream
        size = stream.codec_context.width, stream.codec_context.height
        text = bool(reading.streams.subtitles)
        return Facts(size, round(end * SECOND), frames, bool(reading.streams.audio), text)


def loudness_of(made: Path, duration_us: int) -> Measured:
    """How loud a made video is."""
    whole = Recording(made, duration_us)
    plan = RenderPlan(Timeline([Clip(0, 0, duration_us)]), {0: whole}, (16, 16))
    rate, layout = sound.heard_in(whole)
    return measure(sound.frames(plan, rate, layout))


def captions_missing(plan: RenderPlan, made: Path, moments: Sequence[int]) -> int | None:
    """The first of some moments of the piece (µs) at which a made video does not show the captions that the
    scene has; None where it shows all of them."""
    for at_us in moments:
        state = state_at(plan.captions, at_us)
        area = area_of(state, *even_size(*plan.size))
        if area == NOWHERE:
            continue
        with_them, without = _composed(plan, at_us, area)
        plain = np.abs(with_them - without) > PLAIN
        if plain.sum() < ENOUGH:
            continue  # Too faint to be told from what encoding changes.
        seen = _made(made, at_us - plan.shown_from_us, area)
        far, bare = (float(np.abs(seen - one)[plain].mean()) for one in (with_them, without))
        if far > bare:
            return at_us
    return None


def overlay_missing(plan: RenderPlan, made: Path, moments: Sequence[int]) -> int | None:
    """The same for a video of captions alone: whether anything shows."""
    reader = SourceReader(Recording(made, plan.timeline.duration_us))
    try:
        for at_us in moments:
            if area_of(state_at(plan.captions, at_us), *plan.size) == NOWHERE:
                continue
            frame = reader.at(at_us - plan.shown_from_us)
            if frame is None or not _opaque(frame):
                return at_us
        return None
    finally:
        reader.close()


def _composed(plan: RenderPlan, at_us: int, area: Area) -> tuple[Light, Light]:
    """A moment with its captions and without them."""
    frame = picture.at(plan, at_us - plan.shown_from_us)
    for layer in plan.layers:
        Veils(layer).put_on(frame, at_us)
    without = _light(frame, area)
    Veils(plan.captions).put_on(frame, at_us)
    return _light(frame, area), without


def _made(made: Path, at_us: int, area: Area) -> Light:
    left, top, right, bottom = area
    if made.suffix in LOOPS:
        # Grey of a picture's colours goes from 0 to 255, luma from 16 to 235.
        light = light_at(made, at_us)[top:bottom, left:right]
        return (light.astype(np.float32) * (219 / 255) + 16).astype(np.int16)
    reader = SourceReader(Recording(made, at_us + 1))
    try:
        frame = reader.at(at_us)
        if frame is None:
            return np.zeros((bottom - top, right - left), np.int16)
        return _light(frame, area)
    finally:
        reader.close()


def _light(frame: av.VideoFrame, area: Area) -> Light:
    left, top, right, bottom = area
    plain = frame if "yuv" in frame.format.name and "p10" not in frame.format.name else None
    if plain is None:
        plain = frame.reformat(format="yuv420p", threads=1)
    return plane_of(plain, 0)[top:bottom, left:right].astype(np.int16)


def _opaque(frame: av.VideoFrame) -> bool:
    """Whether anything of a frame with alpha shows."""
    plain = frame.reformat(format="rgba", interpolation=EXACT, threads=1)
    return bool(plain.to_ndarray()[..., 3].any())
