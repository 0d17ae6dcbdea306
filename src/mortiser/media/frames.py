"""Frames of recordings that are damaged, or change their form on the way."""

from __future__ import annotations

from collections.abc import Callable, Iterator

import av
from av.video.reformatter import Interpolation

from mortiser.core.common.time import SECOND

EXACT = (
    Interpolation.BICUBIC
    | Interpolation.ACCURATE_RND
    | Interpolation.FULL_CHR_H_INT
    | Interpolation.FULL_CHR_H_INP
)
"""How planes are made into packed RGB: otherwise swscale takes eight pixels of a row at a time, and leaves what is
over at its end as it finds it. Without a colour for each pixel the blue would be two of 255 too dark."""


def decoded_picture(
    packet: av.Packet[av.VideoStream], damaged: Callable[[int], None] = lambda _: None
) -> list[av.VideoFrame]:
    """A packet's frames; none where it is damaged, which decoders call by many names: when what cannot be read
    would show (µs) is told."""
    try:
        frames = packet.decode()
    except av.error.FFmpegError:
        damaged(round((packet.pts or 0) * (packet.time_base or 0) * SECOND))
        return []
    for frame in frames:
        if frame.is_corrupt:
            damaged(round((frame.pts or 0) * (frame.time_base or 0) * SECOND))
    return frames


def decoded_sound(packet: av.Packet[av.AudioStream]) -> list[av.AudioFrame]:
    """The same for sound."""
    try:
        return packet.decode()
    except av.error.FFmpegError:
        return []


class Resampler:
    """Sound of one form out of frames of any, whose own form may change on the way."""

    def __init__(self, form: str, layout: str, rate: int) -> None:
        self._wanted = form, layout, rate
        self._comes: tuple[str, str, int] | None = None
        self._resampler: av.AudioResampler | None = None

    def told(self, frame: av.AudioFrame) -> Iterator[av.AudioFrame]:
        """What can be told by now, after one more frame."""
        comes = frame.format.name, frame.layout.name, frame.sample_rate
        if comes != self._comes:
            yield from self.rest()
            form, layout, rate = self._wanted
            self._comes = comes
            self._resampler = av.AudioResampler(format=form, layout=layout, rate=rate)
        if self._resampler is not None:
            yield from self._resampler.resample(frame)

    def rest(self) -> Iterator[av.AudioFrame]:
        """What is left when no more frames of this form come."""
        if self._resampler is not None:
            yield from self._resampler.resample(None)
