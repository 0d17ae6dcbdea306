"""The embedded English engine: moonshine (tiny), whose model comes inside its wheel."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator

from moonshine_voice import ModelArch, get_assets_path
from moonshine_voice.transcriber import Transcriber

from mortiser.speech.chunks import chunks
from mortiser.speech.seams import RATE, HeardLine, Samples

MARGIN_S = 0.15
LONGEST_REPEAT = 4


class MoonshineRecogniser:
    """Recogniser on the engine's own voice activity detection, chunk by chunk."""

    name = "moonshine-tiny"
    languages: tuple[str, ...] = ("en",)

    def __init__(self) -> None:
        self._engine = Transcriber(f"{get_assets_path()}/tiny-en", ModelArch.TINY)

    def hear(self, sound: Iterable[Samples]) -> Iterator[HeardLine | float]:
        """See Recogniser."""
        for start_s, samples in chunks(sound):
            yield from self._lines(start_s, samples)
            yield start_s + len(samples) / RATE

    def _lines(self, start_s: float, samples: Samples) -> Iterator[HeardLine]:
        found = self._engine.transcribe_without_streaming(samples.tolist())
        for line in found.lines:
            text = tidy(line.text)
            if not text:
                continue
            first = max(0, int((line.start_time - MARGIN_S) * RATE))
            last = int((line.start_time + line.duration + MARGIN_S) * RATE)
            yield HeardLine(
                text,
                start_s + line.start_time,
                start_s + line.start_time + line.duration,
                samples[first:last],
                start_s + first / RATE,
            )


def tidy(text: str) -> str:
    """The text without what engines invent: endless repeats, hyphens inside a stammer, odd spaces."""
    words = text.split()
    kept: list[str] = []
    for word in words:
        if kept[-LONGEST_REPEAT:] == [word] * LONGEST_REPEAT:
            continue
        kept.append(word)
    return re.sub(r"\s+([,.!?;:])", r"\1", " ".join(kept))
