"""Short stretches of a recording for the preview of cut pieces: they play one behind another.

A piece is parted at its cuts and at every PART_US of its sources, so that after an edit all parts but
those at the new cut are the ones there were, at another place.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from contextlib import closing
from dataclasses import dataclass
from fractions import Fraction
from itertools import chain
from pathlib import Path

import av
import numpy as np
import numpy.typing as npt

from mortiser.core.assembly.assembled import AS_RECORDED, PartLook
from mortiser.core.common.time import SECOND
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.frame import BACKDROP_FPS, even_size
from mortiser.media.encode import Encoder
from mortiser.media.forms import STREAMED
from mortiser.media.opening import unfinished
from mortiser.render import picture, sound
from mortiser.render.ahead import ahead
from mortiser.render.plan import Recording, RenderPlan
from mortiser.render.source_readers import SourceReaders

PART_US = 2 * SECOND
SHORT_SIDE = 540
RATE = 48_000
NONE_SEEN: Mapping[int, Recording] = {}
LAYOUT = "stereo"
KIND = 'video/mp4; codecs="avc1.42C01F,flac"'
"""Constrained baseline H.264 without B frames; FLAC, since it has no priming to be cut off."""


@dataclass(frozen=True)
class SegmentPart:
    """A stretch of a source (µs of it), and the moment of the piece it plays at."""

    source_id: int
    start_us: int
    end_us: int
    at_us: int
    clip: int
    """Which of the piece's clips it is of, from 0."""


def parts_of(timeline: Timeline) -> Iterator[SegmentPart]:
    """The parts of a piece, in order."""
    for index, placed in enumerate(timeline.placed):
        clip = placed.clip
        start = clip.start_us
        while start < clip.end_us:
            end = min(clip.end_us, (start // PART_US + 1) * PART_US)
            yield SegmentPart(clip.source_id, start, end, placed.to_piece(start), index)
            start = end


def frame_times(timeline: Timeline, rates: Mapping[int, float]) -> npt.NDArray[np.float64]:
    """When the frames of a piece's segments show (µs of the piece, in order), from how many frames a
    second its sources have."""
    found = []
    for part in parts_of(timeline):
        step = SECOND / (rates[part.source_id] or BACKDROP_FPS)
        found.append(part.at_us + np.arange(0, part.end_us - part.start_us - 1, step))
    return np.concatenate(found)


def preview_size(size: tuple[int, int]) -> tuple[int, int]:
    """The size of the preview's picture for a frame of a piece."""
    share = min(1.0, SHORT_SIDE / min(size))
    return even_size(round(size[0] * share), round(size[1] * share))


def write_segment(
    recording: Recording,
    stretch: tuple[int, int],
    size: tuple[int, int],
    out: Path,
    rate: Fraction,
    readers: SourceReaders | None = None,
    look: PartLook = AS_RECORDED,
    *,
    source_id: int = 0,
    seen: Mapping[int, Recording] = NONE_SEEN,
) -> None:
    """Write a stretch (µs) of a recording as fragmented MP4 that begins at zero: its picture framed and what else
    is seen there (``seen`` are the recordings of that, by source; the source of the stretch itself is
    ``source_id``), in ``size`` pixels at ``rate`` frames a second. Raises BadMedia, and NoSpace on a full disk."""
    plan = RenderPlan(
        Timeline([Clip(source_id, *stretch)]),
        {**seen, source_id: recording},
        size,
        rate=rate,
        own_times=False,
        framings=[look.framing],
        assembled=look.assembled,
        first_lane=look.lane,
    )
    try:
        _write(plan, out, rate, readers)
    except av.error.FFmpegError as error:
        raise unfinished(error, "play it") from error


def _write(plan: RenderPlan, out: Path, rate: Fraction, readers: SourceReaders | None) -> None:
    encoder = Encoder(out, plan.size, rate, 1 / rate, STREAMED)
    try:
        encoder.hears(RATE, LAYOUT)
        with closing(ahead(picture.frames(plan, readers))) as frames:
            first = next(frames)
            encoder.sees(first)
            for heard in sound.frames(plan, RATE, LAYOUT):
                encoder.add_sound(heard)
            for frame in chain([first], frames):
                encoder.add_picture(frame)
        encoder.finish()
    except BaseException:
        encoder.drop()
        raise
