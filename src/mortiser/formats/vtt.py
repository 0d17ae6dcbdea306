"""WebVTT (W3C Candidate Recommendation, 2019)."""

from __future__ import annotations

import re
from collections.abc import Sequence

from mortiser.core.time import timecode
from mortiser.formats.base import Caption
from mortiser.formats.timed import Reading, blocks, plain

_VOICE = re.compile(r"<v(?:\.[^\s>]*)?\s+([^>]+)>")
_ESCAPES = str.maketrans({"&": "&amp;", "<": "&lt;", ">": "&gt;"})


def write(captions: Sequence[Caption], duration_us: int) -> str:
    """The file's text, signs that mean something escaped."""
    blocks = ["WEBVTT\n"]
    for caption in captions:
        times = f"{timecode(caption.start_us)} --> {timecode(caption.end_us)}"
        text = "\n".join(line.translate(_ESCAPES) for line in caption.lines)
        voice = f"<v {_plain(caption.speaker)}>" if caption.speaker else ""
        blocks.append(f"{times}\n{voice}{text}\n")
    return "\n".join(blocks)


def _plain(name: str) -> str:
    """A name as an annotation: no signs that would end it."""
    return name.translate(_ESCAPES)


def read(text: str) -> Reading:
    """The file's captions with their voices; notes, styles and regions are passed over."""
    reading = Reading()
    lines = text.split("\n")
    if not lines[0].startswith("WEBVTT"):
        reading.note(1, "“WEBVTT” was missing at the start; read all the same.")
    for line, start, end, inside in blocks(lines, reading):
        voice = _VOICE.search(" ".join(inside))
        speaker = plain(voice.group(1)).strip() if voice else None
        reading.add(line, start, end, map(plain, inside), speaker or None)
    return reading.ended()
