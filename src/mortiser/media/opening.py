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

from mortiser.core.errors import BadMedia, MortiserError, NoSpace

FORMATS = "mov,mp4,m4a,3gp,3g2,mj2,matroska,webm,wav,w64,mp3,ogg,flac,aac,aiff,caf"
OPTIONS = {"format_whitelist": FORMATS, "protocol_whitelist": "pipe"}
TAKES = "MP4, MOV, WebM or MKV video, or WAV, MP3, M4A, OGG or FLAC sound"

logging.getLogger("libav").setLevel(logging.CRITICAL)


@contextmanager
def open_media(path: Path) -> Iterator[InputContainer]:
    """Open a recording to read it; FFmpeg's errors become BadMedia with its own words kept."""
    with path.open("rb") as data:
        try:
            container = av.open(data, "r", options=dict(OPTIONS), metadata_errors="replace")
        except (av.error.FFmpegError, ValueError) as error:
            raise BadMedia(
                f"This file is no recording that can be read. Bring in {TAKES}. ({reason(error)})"
            ) from error
        with container:
            yield container


def reason(error: Exception) -> str:
    """FFmpeg's own words, short: the log's last line where there is one."""
    log = getattr(error, "log", None)
    if log:
        return str(log[2])
    return str(getattr(error, "strerror", None) or error)


def unfinished(error: av.error.FFmpegError, again: str) -> MortiserError:
    """What to raise when a file made from a recording did not get done: NoSpace or BadMedia.

    ``again`` is what to do once there is space.
    """
    if getattr(error, "errno", None) == errno.ENOSPC:
        return NoSpace(
            f"The disk is full. Nothing half done was kept; free some space and {again} again."
        )
    return BadMedia(f"The recording could not be read to its end. ({reason(error)})")


def codec_name(stream: av.VideoStream | av.AudioStream) -> str:
    """The codec's own name, whichever decoder was chosen for it."""
    return stream.codec_context.codec.canonical_name


def moving_picture(container: InputContainer) -> av.VideoStream | None:
    """The moving picture; a cover image in a sound file is none."""
    for stream in container.streams.video:
        if not stream.disposition & av.stream.Disposition.attached_pic:
            return stream
    return None
