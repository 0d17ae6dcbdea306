"""The one gate to a recording: only local file data, only formats that cannot refer elsewhere.

FFmpeg reads playlists, references and scripts that name other files or addresses. Here a file is
handed over as an open file object, the demuxers are limited to ones that hold their data
themselves, and the one protocol left is the pipe of that object.
"""

from __future__ import annotations

import errno
import logging
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import av
from av.container import InputContainer

from mortiser.core.common.errors import BadMedia, MortiserError, NoSpace

FORMATS = "mov,mp4,m4a,3gp,3g2,mj2,matroska,webm,wav,w64,mp3,ogg,flac,aac,aiff,caf"
OPTIONS = {"format_whitelist": FORMATS, "protocol_whitelist": "pipe"}
TAKES = "MP4, MOV, WebM or MKV video, or WAV, MP3, M4A, OGG or FLAC sound"

LEAST_SIDE, MOST_SIDE = 16, 8_192
"""Of a picture, in pixels: smaller ones hold no caption, larger ones no player plays."""

MOST_RATIO = 256
"""Of the sides of a picture."""

_most_pixels = 36_000_000

logging.getLogger("libav").setLevel(logging.CRITICAL)


def limit_pixels(most: int) -> None:
    """Take pictures of so many pixels at most, from now on in this process."""
    global _most_pixels
    _most_pixels = most


@contextmanager
def open_media(path: Path) -> Iterator[InputContainer]:
    """Open a recording to read it; FFmpeg's errors become BadMedia with its own words kept.

    One that a full disk causes, where something is written meanwhile, becomes NoSpace.
    """
    with path.open("rb") as data:
        try:
            container = av.open(data, "r", options=dict(OPTIONS), metadata_errors="replace")
        except (av.error.FFmpegError, ValueError) as error:
            raise BadMedia(
                f"This file is no recording that can be read. Bring in {TAKES}.{reason(error)}"
            ) from error
        with container:
            _check_size(container)
            try:
                yield container
            except av.error.FFmpegError as error:
                raise unfinished(error, "try") from error


def _check_size(container: InputContainer) -> None:
    """Refuse, before anything is decoded, a picture that would take much memory or holds nothing.

    One that says less than it has is stopped by the decoder.
    """
    picture = moving_picture(container)
    if picture is None or picture.codec_context is None:
        return
    held, height = picture.codec_context.width, picture.codec_context.height
    said = f"The picture of this recording is {held} × {height} pixels"
    # What counts is how it is shown: pixels need not be square.
    width = round(held * (picture.sample_aspect_ratio or 1))
    if width != held:
        said += f", shown as {width} × {height}"
    if width * height > _most_pixels:
        raise BadMedia(
            f"{said}: more than {_most_pixels / 1e6:.0f} million. Bring in a smaller copy, or set "
            "MORTISER_MOST_PIXELS to take more."
        )
    if width and height and not LEAST_SIDE <= min(width, height) <= max(width, height) <= MOST_SIDE:
        raise BadMedia(
            f"{said}. Captions need sides from {LEAST_SIDE} to {MOST_SIDE} pixels: "
            "bring in a copy of such a size."
        )
    if width and height and max(width, height) > MOST_RATIO * min(width, height):
        raise BadMedia(
            f"{said}: more than {MOST_RATIO} times as long as it is wide. Bring in a copy that captions fit on."
        )
    picture.codec_context.options = {"max_pixels": str(_most_pixels)}


def reason(error: Exception) -> str:
    """FFmpeg's own words in brackets, short: the log's last line where there is one; nothing where there are
    only those of the system (errno), which say nothing of recordings."""
    log = getattr(error, "log", None)
    if log:
        return f" ({log[2]})"
    if getattr(error, "errno", None) in errno.errorcode:
        return ""
    return f" ({getattr(error, 'strerror', None) or error})"


def unfinished(error: av.error.FFmpegError, again: str) -> MortiserError:
    """What to raise when a file made from a recording did not get done: NoSpace or BadMedia.

    ``again`` is what to do once there is space.
    """
    if getattr(error, "errno", None) == errno.ENOSPC:
        return NoSpace(
            f"The disk is full. Nothing half done was kept; free some space and {again} again."
        )
    return BadMedia(f"The recording could not be read to its end.{reason(error)}")


def codec_name(stream: av.VideoStream | av.AudioStream) -> str:
    """The codec's own name, whichever decoder was chosen for it."""
    return stream.codec_context.codec.canonical_name


def origin_s(container: InputContainer) -> float:
    """The stated time, in seconds, at which a recording begins for players, browsers among them.

    They leave out the delay of an encoder that an MP3 file says it has; other files begin at 0.
    """
    delayed = container.format.name == "mp3" and (container.start_time or 0) > 0
    return container.start_time / av.time_base if delayed else 0.0


def moving_picture(container: InputContainer) -> av.VideoStream | None:
    """The moving picture; a cover image in a sound file is none."""
    for stream in container.streams.video:
        if not stream.disposition & av.stream.Disposition.attached_pic:
            return stream
    return None
