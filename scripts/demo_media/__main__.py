"""Speak, draw and encode every demo clip into src/mortiser/demo/media, with its true word times."""

from __future__ import annotations

import heapq
import itertools
import json
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import skia

from . import corpus, presenter, story
from .voices import RATE, Samples, Spoken, speak

OUT = Path(__file__).resolve().parents[2] / "src" / "mortiser" / "demo" / "media"
BENCH = Path(__file__).resolve().parents[2] / "bench" / "media"
FPS = 30
MICROPHONE_EARLIER_S = 1.37


def _sound_packets(
    container: av.container.OutputContainer,
    samples: Samples,
    codec: str = "aac",
    bit_rate: int = 72_000,
) -> Iterator[av.Packet]:
    stream = container.add_stream(codec, rate=RATE, layout="mono", bit_rate=bit_rate)
    room = np.random.default_rng(7).normal(0, 0.0012, len(samples)).astype(np.float32)
    sound = np.clip(samples + room, -1, 1)
    for at in range(0, len(sound), 1024):
        frame = av.AudioFrame.from_ndarray(
            sound[None, at : at + 1024], format="fltp", layout="mono"
        )
        frame.sample_rate, frame.pts, frame.time_base = RATE, at, Fraction(1, RATE)
        yield from stream.encode(frame)
    yield from stream.encode(None)


def _picture_packets(
    container: av.container.OutputContainer, samples: Samples, thing: str
) -> Iterator[av.Packet]:
    stream = container.add_stream("libx264", rate=FPS, options={"crf": "25", "preset": "slow"})
    stream.width, stream.height, stream.pix_fmt = presenter.WIDTH, presenter.HEIGHT, "yuv420p"
    pixels = np.zeros((presenter.HEIGHT, presenter.WIDTH, 4), np.uint8)
    surface = skia.Surface.MakeRasterDirect(
        skia.ImageInfo.MakeN32Premul(presenter.WIDTH, presenter.HEIGHT), pixels
    )
    for index, mouth in enumerate(presenter.mouths(samples, RATE, FPS)):
        presenter.draw(surface.getCanvas(), index / FPS, float(mouth), thing)
        frame = av.VideoFrame.from_ndarray(pixels, format="bgra")
        frame.pts, frame.time_base = index, Fraction(1, FPS)
        yield from stream.encode(frame)
    yield from stream.encode(None)


def _write_truth(path: Path, spoken: Spoken) -> None:
    words = [
        {"text": w, "start_us": round(a * 1e6), "end_us": round(b * 1e6)}
        for w, a, b in spoken.words
    ]
    rows = ",\n  ".join(json.dumps(w, ensure_ascii=False) for w in words)
    path.write_text(f'{{"words": [\n  {rows}\n]}}\n', encoding="utf-8")


def make_corpus() -> None:
    """Speak both lists with each voice into bench/media, sound alone."""
    BENCH.mkdir(parents=True, exist_ok=True)
    for voice in ("joe", "heart"):
        for name, sentences in ((voice, corpus.SENTENCES), (f"names-{voice}", corpus.NAMED)):
            spoken = speak([story.Line(voice, text, corpus.PAUSE_S) for text in sentences])
            with av.open(str(BENCH / f"{name}.ogg"), "w") as container:
                for packet in _sound_packets(container, spoken.samples, "libopus", 32_000):
                    container.mux(packet)
            _write_truth((BENCH / name).with_suffix(".words.json"), spoken)


def _far(samples: Samples) -> Samples:
    """The same, as a camera across the room hears it: dull, with echoes, in noise."""
    far = np.convolve(samples, np.ones(5, np.float32) / 5, "same")
    for late_s, share in ((0.017, 0.5), (0.029, 0.4), (0.043, 0.3), (0.071, 0.2)):
        late = round(late_s * RATE)
        far[late:] += share * samples[:-late]
    noise = np.random.default_rng(3).normal(0, 0.014, len(far))
    return (0.3 * far + noise).astype(np.float32)


def _write(name: str, samples: Samples) -> None:
    with av.open(str(OUT / name), "w", options={"movflags": "+faststart"}) as container:
        streams = [_sound_packets(container, samples)]
        if name.endswith(".mp4"):
            streams.insert(0, _picture_packets(container, samples, name.removesuffix(".mp4")))
        firsts = [list(itertools.islice(s, 1)) for s in streams]
        rest = heapq.merge(
            *(itertools.chain(f, s) for f, s in zip(firsts, streams, strict=True)),
            key=lambda packet: float((packet.dts or 0) * packet.time_base),
        )
        for packet in rest:
            container.mux(packet)


def make_chair() -> None:
    """A recording, and the same talk by a microphone of its own that was switched on earlier."""
    spoken = speak(story.CHAIR)
    _write("chair.mp4", _far(spoken.samples))
    early = np.zeros(round(MICROPHONE_EARLIER_S * RATE), np.float32)
    _write("chair-microphone.m4a", np.concatenate([early, spoken.samples]))
    _write_truth(OUT / "chair.words.json", spoken)


def main() -> None:
    """Make all clips; each takes its words from the story and leaves its truth beside it."""
    OUT.mkdir(parents=True, exist_ok=True)
    clips = {"kettle.mp4": story.KETTLE, "counter.m4a": story.COUNTER, "lyric.m4a": story.LYRIC}
    for name, lines in clips.items():
        spoken = speak(lines)
        _write(name, spoken.samples)
        _write_truth((OUT / name).with_suffix(".words.json"), spoken)
        print(f"{name}: {len(spoken.samples) / RATE:.1f} s, {len(spoken.words)} words")
    lines = [line.text for line in story.LYRIC]
    (OUT / "lyric.txt").write_text("\n".join([*lines, ""]), encoding="utf-8")
    make_chair()
    make_corpus()


if __name__ == "__main__":
    main()
