"""The formats by the ending of their files: each form of text (core.project.text_forms) has a module here of its
name, with ``write``. One that is read too has ``read``, ``is_mine`` and MARKS."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from importlib import import_module
from typing import Any

from mortiser.core.common.errors import BadInput
from mortiser.core.project.text_forms import TEXT_FORMS
from mortiser.formats.base import Caption, CaptionDocument
from mortiser.formats.timed import CaptionReading

_MODULES: dict[str, Any] = {form: import_module(f"{__package__}.{form}") for form in TEXT_FORMS}
FORMATS: dict[str, Callable[[Sequence[Caption], CaptionDocument], str]] = {
    form: module.write for form, module in _MODULES.items()
}
READERS: dict[str, Callable[[str], CaptionReading]] = {
    form: module.read for form, module in _MODULES.items() if hasattr(module, "read")
}
MOST_CAPTIONS = 20_000
"""Of a file: more than in ten hours of talk."""
MOST_TIMED_WORDS = 200_000


def reader_of(text: str) -> str | None:
    """Which format a text is in, by what it says itself; None for words without times."""
    # An arrow between times is in other formats too: SubRip, which has nothing else, is asked last.
    asked = sorted(READERS, key=lambda form: form == "srt")
    return next((form for form in asked if _MODULES[form].is_mine(text)), None)


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
    for mark, most, what in zip(
        _MODULES[kind].MARKS,
        (MOST_CAPTIONS, MOST_TIMED_WORDS),
        ("captions", "words with times of their own"),
        strict=True,
    ):
        count = text.count(mark) if mark else 0
        if count > most:
            raise BadInput(
                f"That file has some {count:,} {what}; {most:,} can be taken in at once. "
                "Cut it down to what belongs to the recording."
            )
