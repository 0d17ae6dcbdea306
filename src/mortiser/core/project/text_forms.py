"""The forms of caption files and other texts: what they are called, what they hold."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import AfterValidator, WithJsonSchema

Held = Literal["places", "names of speakers", "when words are said", "marks"]
"""What a form may hold beside captions and their times."""


@dataclass(frozen=True)
class TextFacts:
    """What a form of text is."""

    name: str
    media_type: str
    holds: tuple[Held, ...] = ()


TEXT_FORMS: dict[str, TextFacts] = {
    "srt": TextFacts("SubRip captions", "text/plain", ("names of speakers",)),
    "vtt": TextFacts(
        "WebVTT captions", "text/vtt", ("places", "names of speakers", "when words are said")
    ),
    "ass": TextFacts("ASS captions", "text/plain", ("places", "when words are said", "marks")),
    "ttml": TextFacts("TTML captions", "application/ttml+xml", ("places", "names of speakers")),
    "txt": TextFacts("Text", "text/plain", ("names of speakers",)),
    "csv": TextFacts("Table of words", "text/csv", ("when words are said",)),
    "json": TextFacts(
        "Words and captions, JSON", "application/json", ("names of speakers", "when words are said")
    ),
}
"""By the ending of their files, which is the name of the module in ``formats`` that writes them."""


def _known(form: str) -> str:
    if form not in TEXT_FORMS:
        raise ValueError(f"there is no form of text “{form}”; there are {', '.join(TEXT_FORMS)}")
    return form


TextForm = Annotated[
    str,
    AfterValidator(_known),
    WithJsonSchema({"type": "string", "enum": list(TEXT_FORMS)}),
]
