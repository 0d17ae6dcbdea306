"""The formats by the ending of their files."""

from collections.abc import Callable, Sequence

from mortiser.core.errors import BadInput
from mortiser.formats import ass, csv, json, srt, ttml, txt, vtt
from mortiser.formats.base import Caption, Sheet
from mortiser.formats.timed import Reading

FORMATS: dict[str, Callable[[Sequence[Caption], Sheet], str]] = {
    "srt": srt.write,
    "vtt": vtt.write,
    "ass": ass.write,
    "ttml": ttml.write,
    "txt": txt.write,
    "csv": csv.write,
    "json": json.write,
}

READERS: dict[str, Callable[[str], Reading]] = {
    "srt": srt.read,
    "vtt": vtt.read,
    "ass": ass.read,
    "ttml": ttml.read,
}


def reader_of(text: str) -> str | None:
    """Which format a text is in, by what it says itself; None for words without times."""
    if text.lstrip("\ufeff").startswith("WEBVTT"):
        return "vtt"
    if "http://www.w3.org/ns/ttml" in text[:4_000]:
        return "ttml"
    if "[Events]" in text and "Dialogue:" in text:
        return "ass"
    return "srt" if "-->" in text else None


def read(text: str) -> Reading:
    """The captions of a file in any of the formats. Raises BadInput when there are none."""
    kind = reader_of(text)
    reading = READERS[kind](text) if kind else Reading()
    if not reading.captions:
        why = f" {reading.notes[0].text}" if reading.notes else ""
        raise BadInput(f"No caption could be read in that file.{why}")
    return reading
