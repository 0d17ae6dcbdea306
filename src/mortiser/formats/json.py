"""JSON for people who automate: every word with its times, every caption with its lines."""

from __future__ import annotations

import json
from collections.abc import Sequence

from mortiser.formats.base import Caption, CaptionDocument


def write(captions: Sequence[Caption], document: CaptionDocument) -> str:
    """The file's text; times in integer microseconds."""
    words = [
        {
            "text": word.text,
            "start_us": word.start_us,
            "end_us": word.end_us,
            "confidence": word.confidence,
            "speaker": word.speaker,
        }
        for caption in captions
        for word in caption.words
    ]
    cues = [{"start_us": c.start_us, "end_us": c.end_us, "lines": list(c.lines)} for c in captions]
    whole = {"duration_us": document.duration_us, "words": words, "cues": cues}
    return json.dumps(whole, ensure_ascii=False, indent=2) + "\n"
