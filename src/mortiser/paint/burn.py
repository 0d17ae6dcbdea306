"""Burn captions into a recording: decode, paint, blend, encode, in one pass and one process."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import cast

import av
import numpy as np
from av.container import InputContainer, OutputContainer
from av.video.reformatter import VideoReformatter

from mortiser.core.errors import MortiserError
from mortiser.core.frame import BACKDROP, BACKDROP_FPS
from mortiser.core.scene import Shows
from mortiser.media.frames import Resampler, decoded_picture, decoded_sound, of_size
from mortiser.media.opening import codec_name, moving_picture, open_media, unfinished
from mortiser.media.picture import plane_of, turned
from mortiser.paint.blend import Veil, inks_of, lay, veil
from mortiser.paint.painter import Area, area_of, paint
from mortiser.paint.state import State, state_at

COPIED_SOUND = {"aac", "mp3", "ac3", "alac"}
"""Sound an MP4 can hold as it is."""


@dataclass(frozen=True)
class Quality:
    """x264's settings."""

    crf: int = 19
    preset: str = "veryfast"

    @property
    def options(self) -> dict[str, str]:
        """As FFmpeg takes them."""
        return {"crf": str(self.crf), "preset": self.preset}


class Veils:
    """The veil for each moment; worked out anew only when something moved."""

    def __init__(self, reel: Shows) -> None:
        self._reel = reel
        self._state: State = ()
        self._veil: Veil | None = None
        self._reformatter = VideoReformatter()

    def put_on(self, frame: av.VideoFrame, at_us: int) -> None:
        """Blend the captions of a moment into a yuv420p frame; what others still read is copied."""
        state = state_at(self._reel, at_us)
        if state != self._state:
            area = area_of(state, frame.width & ~1, frame.height & ~1)
            shows = area[2] > area[0]
            self._veil = self._made(state, area, frame) if shows else None
            self._state = state
        if self._veil is not None:
            frame.make_writable()
            lay(frame, self._veil)

    def _made(self, state: State, area: Area, frame: av.VideoFrame) -> Veil:
        return veil(paint(state, area, inks_of(frame)), area, self._reformatter)


def burn(
    source: Path,
    out: Path,
    reel: Shows,
    size: tuple[int, int],
    duration_us: int,
    progress: Callable[[float], None],
    quality: Quality = Quality(),
) -> None:
    """Write an MP4 (H.264, fast start) of ``source`` with the reel's captions in the picture.

    Every frame keeps its time, sound is copied where an MP4 can hold it and becomes AAC where
    not. ``progress`` gets 0..1 and may raise to stop. Frames are ``size`` pixels, rotation
    applied. Raises BadMedia when the recording cannot be read to its end, NoSpace on a full disk;
    ``out`` is then incomplete and to be thrown away by the caller.
    """
    try:
        with (
            open_media(source) as reading,
            av.open(str(out), "w", format="mp4", options={"movflags": "+faststart"}) as writing,
        ):
            _burn(reading, writing, Veils(reel), size, duration_us, progress, quality)
    except av.error.FFmpegError as error:
        raise unfinished(error, "deliver") from error


def _burn(
    reading: InputContainer,
    writing: OutputContainer,
    veils: Veils,
    size: tuple[int, int],
    duration_us: int,
    progress: Callable[[float], None],
    quality: Quality,
) -> None:
    picture = moving_picture(reading)
    sound = reading.streams.audio[0]
    rate = Fraction(BACKDROP_FPS) if picture is None else picture.average_rate or Fraction(30)
    encoder = writing.add_stream("libx264", rate=rate, options=quality.options)
    encoder.width, encoder.height, encoder.pix_fmt = *size, "yuv420p"
    # Each frame's own time is kept: phone video has a variable rate.
    time_base = (
        Fraction(1, 90_000) if picture is None or picture.time_base is None else picture.time_base
    )
    encoder.codec_context.time_base = time_base
    track = _SoundTrack(writing, sound)
    if picture is None:
        for heard in reading.demux(sound):
            track.pass_on(heard)
        track.finish()
        for plain in backdrop(size, duration_us):
            _encode(writing, encoder, plain, veils, duration_us, progress)
    else:
        picture.thread_type = "AUTO"
        newest = -1  # Frames that damage has put back in time cannot be written.
        for packet in reading.demux(picture, sound):
            if packet.stream is sound:
                track.pass_on(cast("av.Packet[av.AudioStream]", packet))
                continue
            for frame in decoded_picture(cast("av.Packet[av.VideoStream]", packet)):
                if frame.pts is not None and frame.pts > newest:
                    newest = frame.pts
                    shown = of_size(turned(frame), size)
                    _encode(writing, encoder, shown, veils, duration_us, progress)
        track.finish()
    writing.mux(encoder.encode(None))


def _encode(
    writing: OutputContainer,
    encoder: av.VideoStream,
    frame: av.VideoFrame,
    veils: Veils,
    duration_us: int,
    progress: Callable[[float], None],
) -> None:
    if frame.pts is None or frame.time_base is None:
        raise MortiserError("A frame of the recording has no time.")
    at_us = round(frame.pts * frame.time_base * 1_000_000)
    veils.put_on(frame, at_us)
    frame.pict_type = 0
    if encoder.codec_context.color_range != frame.color_range and not encoder.codec_context.is_open:
        encoder.codec_context.color_range = frame.color_range
        encoder.codec_context.colorspace = frame.colorspace
    writing.mux(encoder.encode(frame))
    progress(min(1.0, at_us / duration_us))


def backdrop(size: tuple[int, int], duration_us: int) -> Iterator[av.VideoFrame]:
    """Plain frames of ``size`` pixels for a recording without a picture, for ``duration_us``."""
    red, green, blue, _ = BACKDROP
    width, height = size
    plain = av.VideoFrame.from_ndarray(
        np.full((height, width, 3), (red, green, blue), np.uint8), format="rgb24"
    ).reformat(format="yuv420p", dst_colorspace="ITU709")
    planes = [plane_of(plain, i).copy() for i in range(3)]
    for index in range(-(-duration_us * BACKDROP_FPS // 1_000_000)):
        frame = av.VideoFrame(width, height, "yuv420p")
        for number, plane in enumerate(planes):
            plane_of(frame, number)[...] = plane
        frame.pts, frame.time_base = index * 3_000, Fraction(1, 90_000)
        yield frame


class _SoundTrack:
    """Passes sound packets on untouched, or encodes them anew as AAC."""

    def __init__(self, writing: OutputContainer, sound: av.AudioStream) -> None:
        self._writing = writing
        self._sound = sound
        self._copies = codec_name(sound) in COPIED_SOUND
        self._resampler: Resampler | None = None
        self._newest: int | None = None
        if self._copies:
            self._stream: av.AudioStream = writing.add_stream_from_template(sound)
        else:
            rate = min(48_000, sound.codec_context.sample_rate or 48_000)
            layout = "mono" if sound.codec_context.channels == 1 else "stereo"
            self._stream = writing.add_stream("aac", rate=rate, layout=layout, bit_rate=192_000)
            self._resampler = Resampler("fltp", layout, rate)

    def pass_on(self, packet: av.Packet[av.AudioStream]) -> None:
        """Take one packet of the recording's sound."""
        if self._resampler is None:
            if packet.dts is not None:
                packet.stream = self._stream
                self._writing.mux(packet)
            return
        for frame in decoded_sound(packet):
            for piece in self._resampler.told(frame):
                self._add(piece)

    def finish(self) -> None:
        """No more sound comes."""
        if self._resampler is None:
            return
        for piece in self._resampler.rest():
            self._add(piece)
        self._writing.mux(self._stream.encode(None))

    def _add(self, piece: av.AudioFrame) -> None:
        if piece.pts is not None:
            if self._newest is not None and piece.pts <= self._newest:
                return  # Damage has put its time back, which cannot be written.
            self._newest = piece.pts
        self._writing.mux(self._stream.encode(piece))
