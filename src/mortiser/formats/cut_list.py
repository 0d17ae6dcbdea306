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
DISSOLVE = "dissolve"
"""The kind of transition that every format has."""
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


@dataclass(frozen=True)
class CutTransition:
    """What happens between a clip and the next: a kind, and how long it lasts to each side (µs)."""

    kind: str
    half_us: int


@dataclass(frozen=True)
class CutOver:
    """What is seen over the clips in a stretch of the piece (µs): a recording or a picture, from a moment of it on,
    so many times as fast as it was recorded."""

    recording: CutRecording
    start_us: int
    end_us: int
    seen_us: int = 0
    speed: float = 1.0


def write(
    kind: str,
    name: str,
    clips: Sequence[CutClip],
    transitions: Sequence[CutTransition | None] = (),
    over: Sequence[CutOver] = (),
) -> str:
    """A cut list in one of ADAPTERS. Times are whole frames of the first recording. ``transitions`` lie behind each
    clip but the last, ``over`` is in order and none over another.

    OpenTimelineIO has both: kinds that it has no word for are named, what is seen over the clips is a track of its
    own. An edit decision list has dissolves; the rest is said in comments beside the clips it begins in.
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
        seen = track_kind == otio.schema.TrackKind.Video
        for index, clip in enumerate(clips):
            made = _clip(clip, rate)
            track.append(made)
            how = transitions[index] if seen and index < len(transitions) else None
            if how is not None and (kind == "otio" or how.kind == DISSOLVE):
                track.append(_transition(how, rate))
            elif how is not None:
                _comment(made, f"GOES OVER INTO THE NEXT: {how.kind}")
            if seen and kind == "edl":
                _tell(made, clips, index, over)
        timeline.tracks.append(track)
    if over and kind == "otio":
        timeline.tracks.insert(len(kinds), _track_over(over, rate))
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


def _transition(how: CutTransition, rate: float) -> otio.schema.Transition:
    types = otio.schema.TransitionTypes
    half = _range(0, how.half_us, rate).duration
    return otio.schema.Transition(
        name=how.kind,
        transition_type=types.SMPTE_Dissolve if how.kind == DISSOLVE else types.Custom,
        in_offset=half,
        out_offset=half,
    )


def _track_over(over: Sequence[CutOver], rate: float) -> otio.schema.Track:
    """What is seen over the clips, where it is."""
    track = otio.schema.Track(name="Cutaways", kind=otio.schema.TrackKind.Video)
    reached = 0
    for one in over:
        if one.start_us > reached:
            gap = _range(reached, one.start_us, rate).duration
            track.append(otio.schema.Gap(source_range=otio.opentime.TimeRange(duration=gap)))
        length = round((one.end_us - one.start_us) * one.speed)
        made = _clip(CutClip(one.recording, one.seen_us, one.seen_us + length), rate)
        shown = _range(one.start_us, one.end_us, rate).duration
        start = made.source_range.start_time
        made.source_range = otio.opentime.TimeRange(start, shown)
        if one.speed != 1:
            made.effects.append(otio.schema.LinearTimeWarp(time_scalar=one.speed))
        track.append(made)
        reached = one.end_us
    return track


def _tell(
    made: otio.schema.Clip, clips: Sequence[CutClip], index: int, over: Sequence[CutOver]
) -> None:
    """Say beside a clip what is seen over it from a moment in it on."""
    begins = sum(clip.end_us - clip.start_us for clip in clips[:index])
    ends = begins + clips[index].end_us - clips[index].start_us
    for one in over:
        if begins <= one.start_us < ends:
            lasts = f"{one.start_us / SECOND:.2f} S TO {one.end_us / SECOND:.2f} S"
            _comment(made, f"SEEN OVER IT FROM {lasts}: {one.recording.name}")


def _comment(made: otio.schema.Clip, text: str) -> None:
    said = [*made.metadata["cmx_3600"].get("comments", []), text]
    made.metadata["cmx_3600"]["comments"] = said


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
