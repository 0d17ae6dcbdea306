"""Films without sound: written anew with a sound track in which nothing is heard, their picture as it is."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from av.audio.stream import AudioStream
from av.container import OutputContainer

from mortiser.media.opening import moving_picture, open_media, unfinished
from mortiser.media.rebase import form_beside

RATE = 48_000
"""Samples a second."""
BLOCK = 1_024


def is_silent(path: Path) -> bool:
    """Whether a file is a film that has no sound track. Raises BadMedia."""
    with open_media(path) as reading:
        return moving_picture(reading) is not None and not reading.streams.audio


def with_silence(path: Path, out: Path) -> None:
    """Write a film's picture to ``out``, with silence for as long as it lasts.

    Raises BadMedia, and NoSpace on a full disk.
    """
    try:
        with open_media(path) as reading:
            picture = reading.streams.video[0]
            with av.open(str(out), "w", format=form_beside(reading)) as writing:
                copy = writing.add_stream_from_template(picture)
                quiet = _Quiet(writing)
                ends_s = 0.0
                for packet in reading.demux(picture):
                    if packet.pts is None or packet.time_base is None:
                        continue
                    lasts = float((packet.pts + (packet.duration or 0)) * packet.time_base)
                    ends_s = max(ends_s, lasts)
                    quiet.up_to(float((packet.dts or packet.pts) * packet.time_base))
                    packet.stream = copy
                    writing.mux(packet)
                quiet.up_to(ends_s)
                quiet.end()
    except av.error.FFmpegError as error:
        raise unfinished(error, "bring the recording in") from error


class _Quiet:
    """A sound track of zeros."""

    def __init__(self, writing: OutputContainer) -> None:
        self._writing = writing
        self._track: AudioStream = writing.add_stream("aac", rate=RATE, layout="mono")
        self._at = 0

    def up_to(self, moment_s: float) -> None:
        """Write on until a moment."""
        while self._at < moment_s * RATE:
            block = np.zeros((1, BLOCK), np.float32)
            frame = av.AudioFrame.from_ndarray(block, format="fltp", layout="mono")
            frame.sample_rate, frame.pts, frame.time_base = RATE, self._at, Fraction(1, RATE)
            self._writing.mux(self._track.encode(frame))
            self._at += BLOCK

    def end(self) -> None:
        """Write what the encoder has held back."""
        self._writing.mux(self._track.encode(None))
