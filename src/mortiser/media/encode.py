"""Write a video: picture, sound, and captions to be switched on."""

from __future__ import annotations

import os
from fractions import Fraction
from pathlib import Path
from typing import Union

import av
from av.subtitles.stream import SubtitleStream
from av.video.reformatter import ColorPrimaries, Colorspace, ColorTrc

from mortiser.core.common.errors import BadInput, MortiserError
from mortiser.core.common.time import SECOND
from mortiser.media.forms import Form, h264
from mortiser.media.frames import Resampler
from mortiser.media.scheduling import take_ordinary_place

Sound = Union["av.Packet[av.AudioStream]", av.AudioFrame]
"""To be written as it is, or to be encoded."""
MS = Fraction(1, 1_000)
LONGEST_TEXT = 65_535
os.environ.setdefault("SVT_LOG", "1")
"""The encoder of AV1 tells of errors alone; nothing else can be said to it through FFmpeg."""


def need_encoder(codec: str) -> None:
    """Raise BadInput where this machine has no encoder of a name."""
    try:
        av.codec.Codec(codec, "w")
    except av.codec.codec.UnknownCodecError:
        raise BadInput(
            f"The encoder {codec} is missing on this machine. Choose another kind of file, or install "
            "Mortiser anew."
        ) from None


UNKNOWN = "und"
"""The language that nobody told (ISO 639-2)."""


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
        form: Form | None = None,
    ) -> None:
        self._form = form = form or h264()
        need_encoder(form.codec)
        if form.sound is not None:
            need_encoder(form.sound.codec)
        self._file = av.open(str(out), "w", format=form.container, options=dict(form.layout))
        stream = self._file.add_stream(form.codec, rate=rate, options=dict(form.options))
        assert isinstance(stream, av.VideoStream)
        self._picture = stream
        self._picture.width, self._picture.height = size
        self._picture.pix_fmt = form.planes
        if form.tag:
            self._picture.codec_tag = form.tag
        # Each frame's own time is kept: phone video has a variable rate.
        self._picture.codec_context.time_base = 1 / rate if form.whole_rate else time_base
        self._sound: av.AudioStream | None = None
        self._text: SubtitleStream | None = None
        self._heard: int | None = None
        self._spoken = UNKNOWN

    def speaks(self, language: str) -> None:
        """The sound that comes is in a language (ISO 639-2)."""
        self._spoken = language

    def copies(self, sound: av.AudioStream) -> None:
        """The sound comes as packets of a stream, to be written as they are."""
        self._sound = self._file.add_stream_from_template(sound)
        self._sound.metadata["language"] = self._spoken

    def hears(self, rate: int, layout: str) -> None:
        """The sound comes as frames, to be encoded."""
        form = self._form.sound
        assert form is not None
        stream = self._file.add_stream(form.codec, rate=rate, layout=layout)
        assert isinstance(stream, av.AudioStream)
        if form.bit_rate:
            stream.bit_rate = form.bit_rate
        stream.codec_context.format = av.AudioFormat(form.samples)
        stream.metadata["language"] = self._spoken
        self._sound = stream
        self._resampler = Resampler(form.samples, layout, rate)

    def tells(self, language: str) -> None:
        """Captions to be switched on come too, in a language (ISO 639)."""
        assert self._form.text is not None
        stream = self._file.add_stream(self._form.text)
        assert isinstance(stream, SubtitleStream)
        stream.codec_context.time_base = MS
        stream.time_base = MS
        stream.codec_context.subtitle_header = _HEADER
        stream.metadata["language"] = language
        stream.codec_context.open(strict=False)
        self._text = stream

    def sees(self, frame: av.VideoFrame) -> None:
        """What the frames' planes hold, to be stated in the file: told before anything is written."""
        context = self._picture.codec_context
        context.color_range = frame.color_range
        context.colorspace = frame.colorspace
        if frame.colorspace == Colorspace.ITU709:
            # Of a high dynamic range nothing comes here any more (media.tones).
            context.color_trc, context.color_primaries = ColorTrc.BT709, ColorPrimaries.BT709

    def add_picture(self, frame: av.VideoFrame) -> None:
        """One frame more."""
        if frame.pts is None:
            raise MortiserError("A frame of the recording has no time.")
        if frame.format.name != self._form.planes:
            # In several threads swscale writes wrong colours where their parts meet.
            frame = frame.reformat(format=self._form.planes, threads=1)
        frame.pict_type = 0
        packets = self._picture.encode(frame)
        take_ordinary_place()
        self._file.mux(packets)

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

    def add_text(self, start_us: int, end_us: int, text: str) -> None:
        """One caption more."""
        if self._text is None:
            return
        start, end = round(start_us / 1_000), round(end_us / 1_000)
        packet = av.Packet(_payload(text, self._form.text))
        packet.stream = self._text
        packet.time_base = MS
        packet.pts = packet.dts = start
        packet.duration = end - start
        self._file.mux(packet)

    def finish(self, last_us: int | None = None) -> None:
        """No more comes; the last frame shows for ``last_us``, else for as long as the rate says."""
        if self._heard is not None and self._sound is not None:
            self._file.mux(self._sound.encode(None))
        packets = self._picture.encode(None)
        if packets and last_us is not None:
            # FFmpeg would guess by the average rate, which is far off where few frames have others between.
            packets[-1].duration = round(last_us / (SECOND * packets[-1].time_base))
        self._file.mux(packets)
        self._file.close()

    def drop(self) -> None:
        """Let go of the file, whatever state it is in."""
        self._file.close()


_HEADER = (
    b"[Script Info]\nScriptType: v4.00+\n\n[V4+ Styles]\n"
    b"Format: Name, Fontname, Fontsize, PrimaryColour, SecondaryColour, OutlineColour, BackColour, "
    b"Bold, Italic, Underline, StrikeOut, ScaleX, ScaleY, Spacing, Angle, BorderStyle, Outline, "
    b"Shadow, Alignment, MarginL, MarginR, MarginV, Encoding\n"
    b"Style: Default,Arial,16,&Hffffff,&Hffffff,&H0,&H0,0,0,0,0,100,100,0,0,1,1,0,2,10,10,10,1\n\n"
    b"[Events]\nFormat: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text\n"
)
"""What FFmpeg's encoders of text begin from."""


def _payload(text: str, codec: str | None) -> bytes:
    """A caption as its codec has it: 3GPP timed text (behind its length), or a WebVTT cue's payload.

    FFmpeg's encoders take events of another format, in which braces cannot be said.
    """
    if codec == "mov_text":
        data = text.encode()[:LONGEST_TEXT]
        return len(data).to_bytes(2, "big") + data
    escaped = text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")
    return escaped.encode()
