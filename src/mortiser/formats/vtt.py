"""WebVTT (W3C Candidate Recommendation, 2019)."""

from __future__ import annotations

from collections.abc import Sequence

from mortiser.core.time import timecode
from mortiser.formats.base import Caption

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
