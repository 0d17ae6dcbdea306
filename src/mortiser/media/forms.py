"""Forms of encoded video: container, codecs and their settings, as FFmpeg names them."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass, field

from mortiser.core.project.output import Quality, VideoForm

AAC_RATES = (8_000, 11_025, 12_000, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000)
"""Sample rates (Hz) that AAC has and players take."""
OPUS_RATES = (48_000,)
KEPT = frozenset({"aac", "ac3", "alac"})
"""Sound an MP4 holds as it is. MP3 is not among them: its decoders come late by a delay the MP4
says nothing of."""


@dataclass(frozen=True)
class SoundForm:
    """A codec of sound: the samples it takes, its rates (Hz; any where none are named), its bit rate, and what
    codecs need not be encoded anew."""

    codec: str
    samples: str = "fltp"
    rates: tuple[int, ...] = ()
    bit_rate: int | None = None
    kept: Collection[str] = frozenset()

    def rate_for(self, rate: int) -> int:
        """The rate it has that loses nothing of a sound of another, or the highest there is."""
        return next((one for one in self.rates if one >= rate), max(self.rates, default=rate))


AAC = SoundForm("aac", "fltp", AAC_RATES, 192_000, KEPT)
AAC_ANEW = SoundForm("aac", "fltp", AAC_RATES, 192_000)
OPUS = SoundForm("libopus", "flt", OPUS_RATES, 128_000, frozenset({"opus"}))
FLAC = SoundForm("flac", "s16")
PCM = SoundForm("pcm_s16le", "s16")


@dataclass(frozen=True)
class Form:
    """How a video is written: container and its options, codec of the picture with its options, planes, sound,
    and the codec of captions that can be switched on."""

    container: str
    codec: str
    options: Mapping[str, str]
    layout: Mapping[str, str] = field(default_factory=dict)
    planes: str = "yuv420p"
    sound: SoundForm | None = AAC
    text: str | None = None
    tag: str | None = None
    whole_rate: bool = False
    """Whether frames are counted instead of timed."""


FAST_START = {"movflags": "+faststart"}


def h264(crf: int = 19, preset: str = "veryfast", key_every: int = 0) -> Form:
    """H.264 in an MP4 that begins to play at once; a key frame every so many frames at least (0: as x264 has
    it)."""
    keys = {"g": str(key_every)} if key_every else {}
    options = {"crf": str(crf), "preset": preset, **keys}
    return Form("mp4", "libx264", options, FAST_START, text="mov_text")


STREAMED = Form(
    "mp4",
    "libx264",
    {"crf": "26", "preset": "ultrafast", "profile": "baseline", "tune": "zerolatency", "bf": "0"},
    {"movflags": "frag_keyframe+empty_moov+default_base_moof"},
    sound=FLAC,
)
"""Pieces of a stream that a browser puts together."""


def form_of(form: VideoForm, quality: Quality) -> Form:
    """The form of a delivered video."""
    step = ("small", "good", "fine").index(quality)
    if form in ("h264", "mkv"):
        crf, preset = ((25, "medium"), (19, "veryfast"), (15, "medium"))[step]
        made = h264(crf, preset)
        if form == "h264":
            return made
        kept = SoundForm("aac", "fltp", AAC_RATES, 192_000, KEPT | {"opus", "vorbis", "flac"})
        return Form("matroska", made.codec, made.options, sound=kept, text="webvtt")
    if form == "h265":
        crf, preset = ((28, "fast"), (23, "fast"), (19, "medium"))[step]
        options = {"crf": str(crf), "preset": preset, "x265-params": "log-level=error"}
        return Form("mp4", "libx265", options, FAST_START, text="mov_text", tag="hvc1")
    if form == "vp9":
        options = {"crf": ("38", "31", "22")[step], "b": "0", "deadline": "good", "cpu-used": "4"}
        options |= {"row-mt": "1", "tile-columns": "2"}
        return Form("webm", "libvpx-vp9", options, sound=OPUS, text="webvtt")
    if form == "av1":
        options = {"crf": ("42", "34", "25")[step], "preset": ("8", "8", "7")[step]}
        return Form("webm", "libsvtav1", options, sound=OPUS, text="webvtt")
    if form == "prores":
        options = {"profile": ("1", "2", "3")[step], "vendor": "apl0"}
        return Form("mov", "prores_aw", options, planes="yuv422p10le", sound=PCM)
    if form == "overlay":
        options = {"profile": ("4", "4", "5")[step], "vendor": "apl0"}
        return Form("mov", "prores_aw", options, planes="yuva444p10le", sound=None)
    if form == "gif":
        return Form("gif", "gif", {}, {"loop": "0"}, "pal8", sound=None, whole_rate=True)
    options = {"quality": ("55", "75", "92")[step], "compression_level": "4", "loop": "0"}
    return Form("webp", "libwebp_anim", options, {"loop": "0"}, sound=None, whole_rate=True)
