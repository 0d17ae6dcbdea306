"""Small real recordings made on the spot, with the oddities that phones and cameras produce."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import av
import numpy as np

RATE = 48_000
MEDIA = Path("src/mortiser/demo/media")
KETTLE, COUNTER = MEDIA / "kettle.mp4", MEDIA / "counter.m4a"


def make_video(
    path: Path,
    *,
    seconds: float = 2.0,
    size: tuple[int, int] = (160, 120),
    frame_times: list[float] | None = None,
    tracks: int = 1,
    codec: str = "libx264",
    audio_codec: str = "aac",
    rotation: int = 0,
    sound_delay: float = 0.0,
    click_at: float | None = None,
    pixels: str = "yuv420p",
    shape: Fraction | None = None,
) -> Path:
    """A picture that brightens with time and changes colour left to right, with tones."""
    times = frame_times or [i / 25 for i in range(int(seconds * 25))]
    with av.open(str(path), "w") as out:
        picture = out.add_stream(codec, rate=25)
        picture.width, picture.height, picture.pix_fmt = *size, pixels
        picture.codec_context.time_base = Fraction(1, 90_000)
        if shape:
            picture.codec_context.sample_aspect_ratio = shape
        if rotation:
            picture.set_display_rotation(rotation)
        sounds = [out.add_stream(audio_codec, rate=RATE, layout="mono") for _ in range(tracks)]
        for at in times:
            frame = av.VideoFrame.from_ndarray(
                _pattern(size, max(0.0, at) / seconds), format="rgb24"
            )
            frame.pts, frame.time_base = round(at * 90_000), Fraction(1, 90_000)
            out.mux(picture.encode(frame))
        out.mux(picture.encode(None))
        for number, sound in enumerate(sounds):
            _add_sound(out, sound, _tone(seconds, 300 + 200 * number, click_at), sound_delay)
    return path


def cut_demo(out: Path, seconds: float) -> Path:
    """The first seconds of the demo clip, cut without encoding."""
    with av.open(str(KETTLE)) as reading, av.open(str(out), "w") as writing:
        streams = {s: writing.add_stream_from_template(s) for s in reading.streams}
        for packet in reading.demux():
            if packet.dts is None or packet.dts * packet.time_base > seconds:
                continue
            packet.stream = streams[packet.stream]
            writing.mux(packet)
    return out


def small_demo(out: Path, seconds: float, size: tuple[int, int] = (360, 640)) -> Path:
    """The first seconds of the demo clip with a small picture: quick to burn in."""
    with av.open(str(KETTLE)) as reading, av.open(str(out), "w") as writing:
        picture, sound = reading.streams.video[0], reading.streams.audio[0]
        small = writing.add_stream(
            "libx264", rate=picture.average_rate, options={"preset": "ultrafast"}
        )
        small.width, small.height = size
        small.codec_context.time_base = picture.time_base
        copied = writing.add_stream_from_template(sound)
        for packet in reading.demux(picture, sound):
            if packet.dts is None or packet.dts * packet.time_base > seconds:
                continue
            if packet.stream is sound:
                packet.stream = copied
                writing.mux(packet)
                continue
            for frame in packet.decode():
                scaled = frame.reformat(*size)
                scaled.pts, scaled.time_base = frame.pts, frame.time_base
                writing.mux(small.encode(scaled))
        writing.mux(small.encode(None))
    return out


def make_sound(path: Path, codec: str, seconds: float = 1.5) -> Path:
    """A tone alone."""
    with av.open(str(path), "w") as out:
        stream = out.add_stream(codec, rate=RATE, layout="mono")
        _add_sound(out, stream, _tone(seconds, 440, None), 0.0)
    return path


def _pattern(size: tuple[int, int], part: float) -> np.ndarray:
    width, height = size
    picture = np.zeros((height, width, 3), np.uint8)
    picture[..., 0] = np.linspace(0, 255, width, dtype=np.uint8)[None, :]
    picture[..., 1] = np.linspace(0, 255, height, dtype=np.uint8)[:, None]
    picture[..., 2] = int(255 * min(1.0, part))
    return picture


def _tone(seconds: float, pitch: float, click_at: float | None) -> np.ndarray:
    at = np.arange(int(seconds * RATE)) / RATE
    if click_at is None:
        return (0.4 * np.sin(2 * np.pi * pitch * at)).astype(np.float32)
    return np.where((at >= click_at) & (at < click_at + 0.02), 0.9, 0.0).astype(np.float32)


def _add_sound(out, stream, samples: np.ndarray, delay: float) -> None:
    resampler = av.AudioResampler(
        format=stream.codec_context.format or "fltp", layout="mono", rate=RATE
    )
    for start in range(0, len(samples), 1024):
        frame = av.AudioFrame.from_ndarray(
            samples[None, start : start + 1024], format="fltp", layout="mono"
        )
        frame.sample_rate, frame.time_base = RATE, Fraction(1, RATE)
        frame.pts = start + round(delay * RATE)
        for piece in resampler.resample(frame):
            out.mux(stream.encode(piece))
    out.mux(stream.encode(None))


def first_loud(path: Path) -> float:
    """When the sound of a file first gets loud, in seconds of its own time."""
    with av.open(str(path)) as reading:
        for frame in reading.decode(audio=0):
            loud = np.abs(frame.to_ndarray().astype(np.float32)).max(axis=0)
            scale = 1.0 if frame.format.name.startswith("flt") else 32_768.0
            over = np.nonzero(loud / scale > 0.3)[0]
            if len(over):
                return float(frame.pts * frame.time_base) + over[0] / frame.sample_rate
    raise AssertionError("never loud")


def frame_pts(path: Path) -> list[float]:
    """Presentation times of all frames, decoded, in seconds."""
    with av.open(str(path)) as reading:
        return [float(f.pts * f.time_base) for f in reading.decode(video=0)]
