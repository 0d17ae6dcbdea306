"""SubRip: numbered blocks, comma before the milliseconds, a blank line between."""

from __future__ import annotations

from collections.abc import Sequence

from mortiser.core.common.time import timecode
from mortiser.formats.base import Caption, CaptionDocument
from mortiser.formats.markup import marked
from mortiser.formats.timed import CaptionReading, blocks


def write(captions: Sequence[Caption], document: CaptionDocument) -> str:
    """The file's text. An arrow inside a line is spelt out, since it would end the block."""
    blocks = []
    for number, caption in enumerate(captions, start=1):
        times = f"{timecode(caption.start_us, ',')} --> {timecode(caption.end_us, ',')}"
        text = "\n".join(line.replace("-->", "→") for line in caption.named_lines)
        blocks.append(f"{number}\n{times}\n{text}\n")
    return "\n".join(blocks)


MARKS = ("-->", "")
"""What each caption, and each word with a time of its own, has in a text."""


def is_mine(text: str) -> bool:
    """Whether a text says itself that it is in this format."""
    return "-->" in text


def read(text: str) -> CaptionReading:
    """The file's captions, as far as they can be read."""
    reading = CaptionReading()
    for line, start, end, lines in blocks(text.split("\n"), reading):
        found = [marked(one, angles=True, braces=True, start_us=start) for one in lines[1:]]
        reading.add(line, start, end, found)
    return reading.ended()
