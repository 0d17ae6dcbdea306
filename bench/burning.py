"""Burn-in against a plain re-encode of the same clip with the same x264 settings."""

from __future__ import annotations

import json
import sys
import tempfile
from collections.abc import Callable, Iterable
from dataclasses import replace
from pathlib import Path
from statistics import median
from typing import Any

import av

from bench.looped import looped
from bench.report import alone, at_least, at_most, measured
from mortiser.core.captions.cue_timing import retime, untimed_cue
from mortiser.core.captions.grouping import group
from mortiser.core.captions.pace import PACES, PaceName
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.scene import SceneReader
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.transcript.words import Shown
from mortiser.fonts import font_book
from mortiser.media.forms import h264
from mortiser.media.probe import probe
from mortiser.render.burn import burn
from mortiser.render.plan import Recording, of_one

Filter = Callable[[av.VideoFrame], Iterable[av.VideoFrame]]
"""What comes of a frame."""
CLIP = Path("src/mortiser/demo/media/kettle.mp4")
LONG_US = 60_000_000
"""What is burned in: the demo clip one and a half times."""
SIZE = (1080, 1920)
MEASURED = {
    "Linen": 1.1,
    "Lacquer": 1.2,
    "Pine": 1.2,
    "Tinplate": 1.25,
    "Tide": 1.25,
    "Bobbin": 1.25,
}
"""The plainest, the ones most used, and the richest: at most so much of a plain re-encode."""
GROUPED: dict[str, PaceName] = {"Lacquer": "quick", "Pine": "sentence"}


ROUNDS = 3
"""Runs of each. The speed of a shared machine drifts: each run is compared with the plain re-encodes right
before and right after it, and the middle one of the ratios counts."""


def run() -> None:
    """Print all burn-in measurements."""
    with tempfile.TemporaryDirectory() as folder:
        _measure(str(looped(CLIP, Path(folder) / "minute.mp4", LONG_US)))


def _measure(clip: str) -> None:
    ratios: dict[str, list[tuple[float, float]]] = {finish: [] for finish in MEASURED}
    best: dict[str, dict[str, Any]] = {}
    own: dict[str, float] = {}
    for number in range(ROUNDS):
        before = alone("bench.burning", "plain", clip)
        for finish in MEASURED:
            with tempfile.TemporaryDirectory() as folder:
                out = f"{folder}/out.mp4"
                made = alone("bench.burning", finish, clip, out)
                if number == ROUNDS - 1:
                    own[finish] = _wall(alone("bench.burning", "plain", out)) / _wall(before)
            after = alone("bench.burning", "plain", clip)
            ratios[finish].append(
                (
                    2 * made["work_cpu_s"] / (before["work_cpu_s"] + after["work_cpu_s"]),
                    2 * made["work_wall_s"] / (before["work_wall_s"] + after["work_wall_s"]),
                )
            )
            best[finish] = min(best.get(finish, made), made, key=_wall)
            before = after
    plain = before
    for finish, most in MEASURED.items():
        made = best[finish]
        print(f"  {finish}")
        ratio, wall = (median(some) for some in zip(*ratios[finish], strict=True))
        at_most("CPU", ratio, "×", most, "a plain re-encode with the same settings", 2)
        spread = " to ".join(f"{f([wall for _, wall in ratios[finish]]):.2f}" for f in (min, max))
        at_most("wall time", wall, "×", 1.15, f"the same re-encode, {spread}", 2)
        beside = f"a re-encode of what was made, which takes {own[finish]:.2f} × by itself"
        at_most("wall time, the encoder's own left out", wall / own[finish], "×", 1.15, beside, 2)
        at_most(
            "peak memory",
            made["peak_mb"],
            "MB",
            600,
            f"{plain['peak_mb']:.0f} MB for the re-encode",
        )
        lost = abs(made["frames"] - made["source_frames"])
        at_most(
            "frames lost or added", lost, "frames", 0, f"{made['source_frames']} in the recording"
        )
        moved = abs(made["duration_us"] - made["source_duration_us"]) / 1000
        at_most("duration changed", moved, "ms", 34, "the recording")
        late = abs(made["sound_start_us"] - made["source_sound_start_us"]) / 1000
        at_most("sound moved against the picture", late, "ms", 10, "the recording", 1)
        speed = made["source_duration_us"] / 1e6 / made["work_wall_s"]
        at_least("speed", speed, "×", 0.5, "real time, two cores", 2)


def _wall(run: dict[str, Any]) -> float:
    return float(run["work_wall_s"])


def _work(kind: str, clip: str, place: str | None = None) -> dict[str, Any]:
    """Burn a finish into a clip, or encode the clip plainly; into a place, where one is named."""
    with tempfile.TemporaryDirectory() as folder:
        source, out = Path(clip), Path(place or f"{folder}/out.mp4")
        if kind == "plain":
            reencode(source, out, SIZE)
            return {}
        facts = probe(source)
        whole = Recording(source, facts.duration_us)
        burn(of_one(whole, SIZE, reader(kind, facts.duration_us)), out, lambda _: None)
        made = probe(out)
        return {
            "frames": len(made.frame_pts_us),
            "source_frames": len(facts.frame_pts_us),
            "duration_us": made.duration_us,
            "source_duration_us": facts.duration_us,
            "sound_start_us": _sound_start(out),
            "source_sound_start_us": _sound_start(source),
        }


def reencode(
    clip: Path,
    out: Path,
    size: tuple[int, int],
    through: Callable[[av.VideoStream], Filter] | None = None,
) -> None:
    """Decode and encode the picture, through filters or not, and copy the sound: nothing else."""
    with (
        av.open(str(clip)) as reading,
        av.open(str(out), "w", options={"movflags": "+faststart"}) as writing,
    ):
        picture, sound = reading.streams.video[0], reading.streams.audio[0]
        picture.thread_type = "AUTO"
        encoder = writing.add_stream(
            "libx264", rate=picture.average_rate, options=dict(h264().options)
        )
        encoder.width, encoder.height, encoder.pix_fmt = *size, "yuv420p"
        copied = writing.add_stream_from_template(sound)
        filtered = through(picture) if through else _as_it_is
        for packet in reading.demux(picture, sound):
            if packet.stream is sound:
                if packet.dts is not None:
                    packet.stream = copied
                    writing.mux(packet)
                continue
            for decoded in packet.decode():
                for frame in filtered(decoded):
                    frame.pict_type = 0
                    writing.mux(encoder.encode(frame))
        writing.mux(encoder.encode(None))


def _as_it_is(frame: av.VideoFrame) -> Iterable[av.VideoFrame]:
    return [frame]


def reader(finish: str, duration_us: int) -> SceneReader:
    """The demo clip's captions in a finish, by its true words, as often as the clip is played."""
    truth = json.loads(CLIP.with_suffix(".words.json").read_text())["words"]
    once = [Shown(**word) for word in truth]
    words = [
        replace(word, start_us=word.start_us + shift, end_us=word.end_us + shift)
        for shift in range(0, duration_us, probe(CLIP).duration_us)
        for word in once
        if word.end_us + shift < duration_us
    ]
    spans = Timeline([Clip(1, 0, duration_us)])
    pace = PACES[GROUPED.get(finish, "quick")]
    ranges = group(words, pace)
    cues = retime([untimed_cue(1, words[a:b]) for a, b in ranges], spans, pace)
    return SceneReader(cues, FINISHES[finish], SIZE, font_book())


def _sound_start(path: Path) -> int:
    """When the first sound is heard relative to the first frame, in µs."""
    with av.open(str(path)) as reading:
        sound = next(reading.decode(audio=0)).time
    with av.open(str(path)) as reading:
        return round((sound - next(reading.decode(video=0)).time) * 1e6)


if __name__ == "__main__":
    measured(lambda: _work(*sys.argv[1:]))
