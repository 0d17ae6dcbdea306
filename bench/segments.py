"""Segments of the preview of a cut piece, against how long they play."""

from __future__ import annotations

import tempfile
import time
from pathlib import Path

import numpy as np

from bench.report import at_least, at_most
from mortiser.core.common.time import SECOND
from mortiser.media.probe import probe
from mortiser.render.plan import Recording
from mortiser.render.segments import PART_US, preview_size, write_segment
from mortiser.render.source_readers import SourceReaders, usual_rate

CLIP = Path("src/mortiser/demo/media/kettle.mp4")
MANY = 12


def run() -> None:
    """Print how fast segments are made, one behind another and anywhere."""
    facts = probe(CLIP)
    recording = Recording(CLIP, facts.duration_us, 0)
    size = preview_size((facts.width, facts.height))
    against = f"what it plays, from {facts.width} × {facts.height}"
    with tempfile.TemporaryDirectory() as folder:
        readers = SourceReaders(2)
        behind = [_made(recording, n * PART_US, size, Path(folder), readers) for n in range(MANY)]
        readers.close()
        places = np.random.default_rng(4).integers(0, facts.duration_us // PART_US, MANY)
        anywhere = [
            _made(recording, int(n) * PART_US, size, Path(folder), SourceReaders()) for n in places
        ]
    seconds = PART_US / SECOND
    at_least("one behind another", MANY * seconds / sum(behind), "×", 2.5, against, 1)
    at_least("the slowest of them", seconds / max(behind), "×", 2, against, 1)
    at_most("anywhere, 95 %", float(np.percentile(anywhere, 95)) * 1e3, "ms", 1_500, "the clock")


def _made(
    recording: Recording, start_us: int, size: tuple[int, int], folder: Path, readers: SourceReaders
) -> float:
    started = time.perf_counter()
    stretch = start_us, min(start_us + PART_US, recording.duration_us)
    write_segment(recording, stretch, size, folder / "part.mp4", usual_rate(recording), readers)
    return time.perf_counter() - started
