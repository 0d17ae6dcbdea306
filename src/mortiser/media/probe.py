"""What a file is, found by reading it, not by its name."""

from __future__ import annotations

import itertools
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Literal

import av

from mortiser.core.common.errors import BadMedia
from mortiser.media.opening import TAKES, codec_name, moving_picture, open_media, origin_s, reason

BROWSER_VIDEO = {"h264", "vp8", "vp9", "av1"}
BROWSER_AUDIO = {"aac", "mp3", "opus", "vorbis", "flac", "pcm_s16le", "pcm_f32le", "pcm_u8"}
BROWSER_PIXELS = {"yuv420p", "yuvj420p"}
SLACK_S = 0.5
"""A file whose data ends this much before its stated end is called cut off."""
SHORTEST_S = 0.2
RATES = (4_000, 768_000)
"""Samples a second of sound."""
LONGEST_TAG = 120


@dataclass(frozen=True)
class Probe:
    """A recording's facts. Width and height are as shown, in square pixels, rotation applied; 0 without
    a picture."""

    kind: Literal["video", "audio"]
    duration_us: int
    width: int
    height: int
    rotation: int
    frame_pts_us: tuple[int, ...]
    frame_rate: float
    variable_rate: bool
    audio_tracks: int
    track_names: tuple[str, ...]
    """What the file calls its sound tracks; "" for one without a name."""
    video_codec: str | None
    audio_codec: str | None
    playable: bool

    @property
    def first_frame_us(self) -> int:
        """When the first frame shows; 0 without a picture."""
        return self.frame_pts_us[0] if self.frame_pts_us else 0


def probe(path: Path) -> Probe:
    """Read a recording's facts; its packets are walked, nothing but one frame is decoded.

    Raises BadMedia for what is no recording, has no sound, is cut off or cannot be decoded.
    """
    with open_media(path) as container:
        try:
            return _facts(container, path)
        except av.error.FFmpegError as error:
            raise BadMedia(
                f"This recording is damaged and cannot be read.{reason(error)}"
            ) from error


def _facts(container: av.container.InputContainer, path: Path) -> Probe:
    picture = moving_picture(container)
    if not container.streams.audio and not container.streams.video:
        raise BadMedia(f"This file is no recording that can be read. Bring in {TAKES}.")
    if not container.streams.audio:
        raise BadMedia(
            "This recording has no sound, so there is nothing to caption. Bring in the talk first; "
            "films without sound can be seen over it then."
        )
    sound = container.streams.audio[0]
    if sound.codec_context is None:
        raise BadMedia("The sound of this recording is in a form that cannot be read.")
    _check_rate(sound.codec_context.sample_rate)
    rotation, shape = _first_frame(path) if picture else (0, (0, 0, ""))
    aspect = (picture.sample_aspect_ratio if picture else None) or Fraction(1)
    frames, end_s, sound_s, data_s = _walk(container, picture)
    end_s -= origin_s(container)
    stated = container.duration / av.time_base if container.duration else end_s
    if not end_s or (not sound_s and not frames):
        raise BadMedia("This recording is empty.")
    if stated - max(end_s, data_s) > max(SLACK_S, 0.02 * stated) and not path.suffix == ".mp3":
        raise BadMedia(
            f"This recording is cut off: it should last {stated:.1f} s but ends at {end_s:.1f} s. "
            "Copy it again from the camera or phone."
        )
    if end_s < SHORTEST_S:
        raise BadMedia(
            f"This recording lasts {end_s:.2f} s: too short for a caption. Bring in {SHORTEST_S} s at least."
        )
    if not sound_s:
        raise BadMedia("This recording has a sound track with nothing in it.")
    _try_sound(path)
    gaps = Counter(round((b - a) / 1000) for a, b in itertools.pairwise(frames))
    span = frames[-1] - frames[0] if len(frames) > 1 else 0
    width, height, pixels = shape
    width = round(width * aspect / 2) * 2 if aspect != 1 else width
    return Probe(
        kind="video" if picture else "audio",
        duration_us=round(end_s * 1_000_000),
        width=height if rotation % 180 else width,
        height=width if rotation % 180 else height,
        rotation=rotation,
        frame_pts_us=tuple(frames),
        frame_rate=(len(frames) - 1) / span * 1e6 if span else 0.0,
        variable_rate=bool(gaps) and max(gaps) - min(gaps) > 2,
        audio_tracks=len(container.streams.audio),
        track_names=tuple(map(_name_of, container.streams.audio)),
        video_codec=codec_name(picture) if picture else None,
        audio_codec=codec_name(sound),
        playable=_playable(container, picture, pixels),
    )


def _check_rate(rate: int) -> None:
    low, high = RATES
    if not low <= rate <= high:
        raise BadMedia(
            f"The sound of this recording says that it has {rate:,} samples a second; {low:,} to {high:,} can "
            "be read. Save it anew with 48,000."
        )


def _first_frame(path: Path) -> tuple[int, tuple[int, int, str]]:
    """Read apart: not every file can be gone back in to its beginning."""
    with open_media(path) as container:
        picture = moving_picture(container)
        for frame in container.decode(picture) if picture is not None else ():
            return round(frame.rotation) % 360, (frame.width, frame.height, frame.format.name)
    raise BadMedia("The picture of this recording cannot be decoded.")


def _walk(
    container: av.container.InputContainer, picture: av.VideoStream | None
) -> tuple[list[int], float, float, float]:
    """Frame times in µs (sorted), and where picture and sound end, the sound, and all data there is
    (subtitles among it), in seconds."""
    frames: list[int] = []
    ends: dict[str, float] = {"video": 0.0, "audio": 0.0}
    everything = 0.0
    for packet in container.demux():
        if packet.pts is None or packet.time_base is None:
            continue
        start = float(packet.pts * packet.time_base)
        end = start + float((packet.duration or 0) * packet.time_base)
        everything = max(everything, end)
        if packet.stream.type != "audio" and packet.stream is not picture:
            continue
        ends[packet.stream.type] = max(ends[packet.stream.type], end)
        if packet.stream is picture and start >= 0:
            frames.append(round(packet.pts * packet.time_base * 1_000_000))
    return sorted(frames), max(ends.values()), ends["audio"], everything


def _try_sound(path: Path) -> None:
    with open_media(path) as container:
        for _ in container.decode(container.streams.audio[0]):
            return
    raise BadMedia("The sound of this recording cannot be decoded.")


def _playable(
    container: av.container.InputContainer, picture: av.VideoStream | None, pixels: str
) -> bool:
    """Whether Chromium and its kin can play the file as it is."""
    names = set(container.format.name.split(","))
    codec = codec_name(container.streams.audio[0])
    if picture is None:
        return bool(names & {"mp4", "mp3", "ogg", "flac", "wav", "webm"}) and codec in BROWSER_AUDIO
    fits = bool(names & {"mp4", "webm"}) and codec in BROWSER_AUDIO
    return fits and codec_name(picture) in BROWSER_VIDEO and pixels in BROWSER_PIXELS


def _name_of(sound: av.AudioStream) -> str:
    """A sound track's title. (MP4 keeps it as the name of a handler, which writers fill in by themselves.)"""
    said = _told(sound.metadata)
    handler = said.get("handler_name", "")
    own = handler if handler and "handler" not in handler.lower().replace(" ", "") else ""
    return (said.get("title") or own)[:LONGEST_TAG]


def _told(metadata: Mapping[str, str]) -> dict[str, str]:
    return {name.lower(): text.strip() for name, text in metadata.items()}


def tags(path: Path) -> tuple[str, str]:
    """The title of a recording and who performs it, as far as its file says."""
    with open_media(path) as reading:
        said = _told(reading.metadata)
        for stream in reading.streams.audio:
            said |= _told(stream.metadata)
    return said.get("title", "")[:LONGEST_TAG], said.get("artist", "")[:LONGEST_TAG]
