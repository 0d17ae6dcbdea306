"""Caption files turned into others."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

from mortiser.core.common.errors import BadInput
from mortiser.core.project.text_forms import TEXT_FORMS
from mortiser.core.transcript.words import Shown, tokens
from mortiser.formats import registry
from mortiser.formats.base import Caption, CaptionDocument
from mortiser.formats.decoding import decode
from mortiser.formats.registry import FORMATS


def convert(data: bytes, to: str, *, timed: bool = False) -> tuple[str, list[str]]:
    """A caption file's bytes in another format, with what was repaired or cannot be kept, a line each.

    Raises BadInput for what is no caption file, and for a format that there is not.
    """
    if to not in FORMATS:
        raise BadInput(f"There is no caption format “{to}”. Try {', '.join(FORMATS)}.")
    text, _ = decode(data)
    reading = registry.read(text)
    notes = [note.text for note in reading.notes]
    notes += [f"Not kept: {what}." for what in reading.lost]
    notes += [f"Not kept in {to}: {what}." for what in _lost(reading.captions, to, timed=timed)]
    captions = [replace(one, words=_words(one)) for one in reading.captions]
    captions = _turns(captions)
    end = max(one.end_us for one in captions)
    return FORMATS[to](captions, CaptionDocument(end, timed=timed)), notes


def _lost(captions: list[Caption], to: str, *, timed: bool) -> list[str]:
    has = {
        "italics": any(one.italic for one in captions),
        "places": any(one.place for one in captions),
        "names of speakers": any(one.speaker for one in captions),
        "when words are said": any(one.starts for one in captions),
    }
    kept: set[str] = set(TEXT_FORMS[to].holds)
    if to in ("vtt", "ass") and not timed:
        kept.discard("when words are said")
    return [what for what, there in has.items() if there and what not in kept]


def _turns(captions: list[Caption]) -> list[Caption]:
    """Captions with where somebody else begins to speak."""
    before = [None, *(one.speaker for one in captions)]
    return [
        replace(one, turn=one.speaker is not None and one.speaker != last)
        for one, last in zip(captions, before, strict=False)
    ]


def _words(caption: Caption) -> tuple[Shown, ...]:
    """Its words at their own times where the file says them, else each in its share of the letters."""
    texts = tokens(" ".join(caption.lines))
    starts = list(caption.starts)
    if len(starts) != len(texts):
        letters = sum(map(len, texts)) or 1
        length = caption.end_us - caption.start_us
        before = 0
        starts = []
        for text in texts:
            starts.append(caption.start_us + length * before // letters)
            before += len(text)
    edges = [min(one, caption.end_us) for one in starts] + [caption.end_us]
    return tuple(
        Shown(text, a, max(a, b), None, caption.speaker, "imported")
        for text, (a, b) in zip(texts, pairwise(edges), strict=True)
    )
