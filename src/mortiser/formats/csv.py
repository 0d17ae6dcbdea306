"""A table of words, for spreadsheets: RFC 4180, times in seconds."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence

from mortiser.core.common.time import SECOND
from mortiser.formats.base import Caption, CaptionDocument

HEAD = ("caption", "word", "start", "end", "speaker", "confidence")
ACTIVE = ("=", "+", "-", "@", "\t")
"""What a spreadsheet would work out begins with one of these; a blank in front keeps it text."""


def write(captions: Sequence[Caption], document: CaptionDocument) -> str:
    """The file's text: a line a word, with the number of its caption."""
    out = io.StringIO()
    table = csv.writer(out)
    table.writerow(HEAD)
    for number, caption in enumerate(captions, start=1):
        for word in caption.words:
            table.writerow(
                (
                    number,
                    _safe(word.text),
                    f"{word.start_us / SECOND:.3f}",
                    f"{word.end_us / SECOND:.3f}",
                    _safe(word.speaker or ""),
                    "" if word.confidence is None else f"{word.confidence:.2f}",
                )
            )
    return out.getvalue()


def _safe(text: str) -> str:
    return f" {text}" if text.startswith(ACTIVE) else text
