"""The embedded English engine: moonshine (tiny), whose model comes inside its wheel."""

from __future__ import annotations

import re
import threading

from moonshine_voice import ModelArch, get_assets_path
from moonshine_voice.transcriber import Transcriber

from mortiser.speech.activity import over_speech
from mortiser.speech.chunks import USUAL_S
from mortiser.speech.protocols import RATE, HeardLine, Samples

MARGIN_S = 0.15
LONGEST_REPEAT = 4
_loading = threading.Lock()
"""The engine's library is not there yet for a thread that asks while another one loads it."""


class MoonshineRecogniser:
    """Recogniser on the engine's own voice activity detection."""

    name = "moonshine-tiny"
    languages: tuple[str, ...] = ("en",)
    stretch_s = USUAL_S

    def __init__(self) -> None:
        with _loading:
            self._engine = Transcriber(f"{get_assets_path()}/tiny-en", ModelArch.TINY)

    def hear(self, samples: Samples) -> list[HeardLine]:
        """See Recogniser."""
        found = self._engine.transcribe_without_streaming(samples.tolist())
        lines: list[HeardLine] = []
        for line in found.lines:
            text = tidy(line.text)
            if not text:
                continue
            first = max(0, int((line.start_time - MARGIN_S) * RATE))
            end_s = line.start_time + line.duration
            lines.append(
                HeardLine(
                    text,
                    line.start_time,
                    end_s,
                    samples[first : int((end_s + MARGIN_S) * RATE)],
                    first / RATE,
                )
            )
        return over_speech(lines, samples)


def tidy(text: str) -> str:
    """The text without what engines invent: endless repeats, hyphens inside a stammer, odd spaces."""
    words = text.split()
    kept: list[str] = []
    for word in words:
        if kept[-LONGEST_REPEAT:] == [word] * LONGEST_REPEAT:
            continue
        kept.append(word)
    return re.sub(r"\s+([,.!?;:])", r"\1", " ".join(kept))
