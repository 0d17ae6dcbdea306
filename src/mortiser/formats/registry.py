"""The formats by the ending of their files."""

from collections.abc import Callable, Sequence

from mortiser.core.common.errors import BadInput
from mortiser.formats import ass, csv, json, srt, ttml, txt, vtt
from mortiser.formats.base import Caption, CaptionDocument
from mortiser.formats.timed import CaptionReading

FORMATS: dict[str, Callable[[Sequence[Caption], CaptionDocument], str]] = {
    "srt": srt.write,
    "vtt": vtt.write,
    "ass": ass.write,
    "ttml": ttml.write,
    "txt": txt.write,
    "csv": csv.write,
    "json": json.write,
}

READERS: dict[str, Callable[[str], CaptionReading]] = {
    "srt": srt.read,
    "vtt": vtt.read,
    "ass": ass.read,
    "ttml": ttml.read,
}


MOST_CAPTIONS = 20_000
"""Of a file: more than in ten hours of talk."""
MOST_TIMED_WORDS = 200_000
_CAPTION_MARK = {"srt": "-->", "vtt": "-->", "ass": "Dialogue:", "ttml": "<p"}
_WORD_MARK = {"vtt": "<0", "ass": "\\k", "ttml": "<span"}


def reader_of(text: str) -> str | None:
    """Which format a text is in, by what it says itself; None for words without times."""
    if text.lstrip("\ufeff").startswith("WEBVTT"):
        return "vtt"
    if "http://www.w3.org/ns/ttml" in text[:4_000]:
        return "ttml"
    if "[Events]" in text and "Dialogue:" in text:
        return "ass"
    return "srt" if "-->" in text else None


def read(text: str) -> CaptionReading:
    """The captions of a file in any of the formats. Raises BadInput when there are none."""
    kind = reader_of(text)
    if kind:
        _refuse_endless(text, kind)
    reading = READERS[kind](text) if kind else CaptionReading()
    if not reading.captions:
        why = f" {reading.notes[0].text}" if reading.notes else ""
        raise BadInput(f"No caption could be read in that file.{why}")
    return reading


def _refuse_endless(text: str, kind: str) -> None:
    """Raise BadInput for a file that would take very long to be read."""
    for marks, most, what in (
        (_CAPTION_MARK, MOST_CAPTIONS, "captions"),
        (_WORD_MARK, MOST_TIMED_WORDS, "words with times of their own"),
    ):
        count = text.count(marks[kind]) if kind in marks else 0
        if count > most:
            raise BadInput(
                f"That file has some {count:,} {what}; {most:,} can be taken in at once. "
                "Cut it down to what belongs to the recording."
            )
