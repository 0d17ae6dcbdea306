"""The cuts of a piece for an editing suite: OpenTimelineIO, and the CMX 3600 edit decision list."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

import opentimelineio as otio

from mortiser.core.common.errors import BadInput
from mortiser.core.common.time import SECOND

CutFormat = Literal["otio", "edl"]
ADAPTERS: dict[str, str] = {"otio": "otio_json", "edl": "cmx_3600"}
_OF_PICTURE = re.compile(r"^(\d{3,}\s+\S+\s+)V(?=\s)", re.MULTILINE)
"""An event of a list, up to its channel: V for pictures, A for sound."""
_NO_REEL = re.compile(r"[^a-zA-Z0-9]+")
LONGEST_REEL = 8
USUAL_RATE = 30.0
"""Frames a second where a recording has no constant rate."""


@dataclass(frozen=True)
class CutRecording:
    """A recording as a cut list names it: its file, its length (µs), frames a second (0 for none)."""

    name: str
    duration_us: int
    rate: float
    has_picture: bool


@dataclass(frozen=True)
class CutClip:
    """A stretch (µs) of a recording, in play order."""

    recording: CutRecording
    start_us: int
    end_us: int


def write(kind: str, name: str, clips: Sequence[CutClip]) -> str:
    """A cut list in one of ADAPTERS. Times are whole frames of the first recording.

    Sources: OpenTimelineIO 0.18; CMX 3600 as its adapter writes it. Raises BadInput for another format.
    """
    if kind not in ADAPTERS:
        raise BadInput(f"There is no cut list “{kind}”. Try {', '.join(ADAPTERS)}.")
    rate = _rate(clips[0].recording.rate)
    timeline = otio.schema.Timeline(name)
    picture = any(clip.recording.has_picture for clip in clips)
    # The adapter writes events of a track of pictures alone.
    kinds = [otio.schema.TrackKind.Video] if picture or kind == "edl" else []
    for track_kind in (*kinds, otio.schema.TrackKind.Audio):
        track = otio.schema.Track(name=str(track_kind), kind=track_kind)
        for clip in clips:
            track.append(_clip(clip, rate))
        timeline.tracks.append(track)
    text = str(otio.adapters.write_to_string(timeline, ADAPTERS[kind]))
    return text if picture or kind != "edl" else _OF_PICTURE.sub(r"\1A", text)


def _clip(clip: CutClip, rate: float) -> otio.schema.Clip:
    whole = _range(0, clip.recording.duration_us, rate)
    reference = otio.schema.ExternalReference(clip.recording.name, whole)
    made = otio.schema.Clip(
        clip.recording.name, reference, _range(clip.start_us, clip.end_us, rate)
    )
    # The adapter leaves spaces in names of reels, which readers take for the end of the field.
    reel = _NO_REEL.sub("", clip.recording.name.rpartition(".")[0] or clip.recording.name)
    made.metadata["cmx_3600"] = {"reel": reel[:LONGEST_REEL] or "AX"}
    return made


def _range(start_us: int, end_us: int, rate: float) -> otio.opentime.TimeRange:
    """Whole frames. What is kept next to one another stays so: both edges are rounded the same way."""
    first, last = (round(us * _exact(rate) / SECOND) for us in (start_us, end_us))
    time = otio.opentime.RationalTime
    return otio.opentime.TimeRange(time(first, rate), time(max(1, last - first), rate))


def _rate(rate: float) -> float:
    """A rate that timecode knows: measured ones are a little off."""
    return float(otio.opentime.RationalTime.nearest_smpte_timecode_rate(rate or USUAL_RATE))


def _exact(rate: float) -> Fraction:
    return Fraction(rate).limit_denominator(1001)
