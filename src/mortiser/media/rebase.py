"""Recordings whose times begin late: written anew so that they begin at zero, nothing encoded."""

from __future__ import annotations

from pathlib import Path

import av
from av.container import InputContainer

from mortiser.media.opening import open_media, unfinished

LATE_S = 1.0
"""Tracks that begin a little apart are meant to; a camera's clock starts anywhere."""


def begins_late(path: Path) -> bool:
    """Whether nothing of a recording is before LATE_S. Raises BadMedia."""
    with open_media(path) as reading:
        return _start_s(reading) >= LATE_S


def from_zero(path: Path, out: Path) -> None:
    """Write a recording's picture and sound to ``out``, all of it earlier by what it begins late.

    Raises BadMedia, and NoSpace on a full disk.
    """
    try:
        with (
            open_media(path) as reading,
            av.open(str(out), "w", format=form_beside(reading)) as writing,
        ):
            _copy(reading, writing, _start_s(reading))
    except av.error.FFmpegError as error:
        raise unfinished(error, "bring the recording in") from error


def form_beside(reading: InputContainer) -> str:
    """The form of a file that holds what another one holds."""
    names = set(reading.format.name.split(","))
    return "mp4" if names & {"mp4", "mov"} else "matroska"


def _copy(reading: InputContainer, writing: av.container.OutputContainer, start_s: float) -> None:
    streams = {
        stream.index: writing.add_stream_from_template(stream)
        for stream in (*reading.streams.video, *reading.streams.audio)
    }
    for packet in reading.demux([reading.streams[index] for index in streams]):
        if packet.pts is None or packet.time_base is None:
            continue
        shift = round(start_s / packet.time_base)
        packet.pts -= shift
        if packet.dts is not None:  # Some files do not say, of their first frames.
            packet.dts -= shift
        packet.stream = streams[packet.stream.index]
        writing.mux(packet)


def _start_s(reading: InputContainer) -> float:
    starts = [
        float(stream.start_time * stream.time_base)
        for stream in (*reading.streams.video, *reading.streams.audio)
        if stream.start_time is not None and stream.time_base is not None
    ]
    return min(starts, default=0.0)
