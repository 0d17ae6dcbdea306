"""Write a video: H.264 picture and sound in an MP4 that begins to play at once."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from fractions import Fraction
from pathlib import Path
from typing import Union

import av

from mortiser.core.errors import MortiserError
from mortiser.media.frames import Resampler

AAC_RATES = (8_000, 11_025, 12_000, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000)
"""Sample rates (Hz) that AAC has and players take."""
BIT_RATE = 192_000
Sound = Union["av.Packet[av.AudioStream]", av.AudioFrame]
"""To be written as it is, or to be encoded."""


@dataclass(frozen=True)
class Quality:
    """x264's settings."""

    crf: int = 19
    preset: str = "veryfast"
    key_every: int = 0
    """Frames from one key frame to the next at most; x264's own choice where 0."""

    @property
    def options(self) -> dict[str, str]:
        """As FFmpeg takes them."""
        keys = {"g": str(self.key_every)} if self.key_every else {}
        return {"crf": str(self.crf), "preset": self.preset, **keys}


@dataclass(frozen=True)
class Form:
    """How an MP4 is laid out, x264's further settings, and the codec of sound that is encoded."""

    flags: str
    picture: Mapping[str, str] = field(default_factory=dict)
    sound: str = "aac"
    samples: str = "fltp"


DELIVERED = Form("+faststart")
STREAMED = Form(
    "frag_keyframe+empty_moov+default_base_moof",
    {"profile": "baseline", "tune": "zerolatency", "bf": "0"},
    "flac",
    "s16",
)
"""Pieces of a stream that a browser puts together."""


class Encoder:
    """Takes frames and sound in time order, each with its own time; closed by ``finish``.

    Errors of FFmpeg are raised as they are.
    """

    def __init__(
        self,
        out: Path,
        size: tuple[int, int],
        rate: Fraction,
        time_base: Fraction,
        quality: Quality,
        form: Form = DELIVERED,
    ) -> None:
        self._form = form
        self._file = av.open(str(out), "w", format="mp4", options={"movflags": form.flags})
        options = {**quality.options, **form.picture}
        self._picture = self._file.add_stream("libx264", rate=rate, options=options)
        self._picture.width, self._picture.height = size
        self._picture.pix_fmt = "yuv420p"
        # Each frame's own time is kept: phone video has a variable rate.
        self._picture.codec_context.time_base = time_base
        self._sound: av.AudioStream | None = None
        self._heard: int | None = None

    def copies(self, sound: av.AudioStream) -> None:
        """The sound comes as packets of a stream, to be written as they are."""
        self._sound = self._file.add_stream_from_template(sound)

    def hears(self, rate: int, layout: str) -> None:
        """The sound comes as frames, to be encoded."""
        stream = self._file.add_stream(self._form.sound, rate=rate, layout=layout)
        assert isinstance(stream, av.AudioStream)
        if self._form.sound == "aac":
            stream.bit_rate = BIT_RATE
        stream.codec_context.format = av.AudioFormat(self._form.samples)
        self._sound = stream
        self._resampler = Resampler(self._form.samples, layout, rate)

    def sees(self, frame: av.VideoFrame) -> None:
        """What the frames' planes hold, to be stated in the file: told before anything is written."""
        context = self._picture.codec_context
        context.color_range = frame.color_range
        context.colorspace = frame.colorspace

    def add_picture(self, frame: av.VideoFrame) -> None:
        """One frame more."""
        if frame.pts is None:
            raise MortiserError("A frame of the recording has no time.")
        frame.pict_type = 0
        self._file.mux(self._picture.encode(frame))

    def add_sound(self, part: Sound) -> None:
        """Sound more. What damage has put back in time cannot be written."""
        if self._sound is None:
            return
        if isinstance(part, av.Packet):
            if part.dts is not None:
                part.stream = self._sound
                self._file.mux(part)
        elif part.pts is not None and (self._heard is None or part.pts > self._heard):
            self._heard = part.pts
            for frame in self._resampler.told(part):
                self._file.mux(self._sound.encode(frame))

    def finish(self) -> None:
        """No more comes."""
        if self._heard is not None and self._sound is not None:
            self._file.mux(self._sound.encode(None))
        self._file.mux(self._picture.encode(None))
        self._file.close()

    def drop(self) -> None:
        """Let go of the file, whatever state it is in."""
        self._file.close()


def aac_rate(rate: int) -> int:
    """The rate AAC has that loses nothing of a sound of another."""
    return next((one for one in AAC_RATES if one >= rate), AAC_RATES[-1])
