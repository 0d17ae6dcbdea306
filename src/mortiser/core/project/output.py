"""What a piece is delivered as: one value for each file, and how such values are stored."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from math import ceil
from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, Field, model_validator

from mortiser.core.common.errors import BadInput
from mortiser.core.common.stored import Stored
from mortiser.core.common.time import SECOND
from mortiser.core.framing.frame import even_size
from mortiser.core.project.text_forms import TextForm
from mortiser.core.style.finish.parts import Value

VideoForm = Literal["h264", "h265", "mkv", "vp9", "av1", "prores", "overlay", "gif", "webp"]
StillForm = Literal["jpeg", "png"]
Quality = Literal["small", "good", "fine"]
MOST_OUTPUTS = 24
LEAST_LINES, MOST_LINES = 120, 2160
MOST_RATE = 60
MB = 1_000_000
MOST_MB = 100_000
LEAST_BITS = 220_000
"""A second of picture and sound: with fewer nothing can be made out."""
LOOP_LINES, LOOP_RATE = 480, 12
"""Of pictures that move by themselves in a page, where nothing else is asked."""


@dataclass(frozen=True)
class FormFacts:
    """What a form of video is: the ending of its files, and what they can hold."""

    ending: str
    name: str
    about: str
    sound: bool = True
    switchable: bool = False
    longest_us: int | None = None
    loops: bool = False
    sized: bool = False
    """Whether it can be kept to a size."""


VIDEO_FORMS: Mapping[VideoForm, FormFacts] = {
    "h264": FormFacts("mp4", "MP4, H.264", "Plays everywhere.", switchable=True, sized=True),
    "h265": FormFacts(
        "mp4", "MP4, H.265", "About half the size, newer players.", switchable=True, sized=True
    ),
    "mkv": FormFacts(
        "mkv", "MKV, H.264", "Keeps more kinds of sound and text.", switchable=True, sized=True
    ),
    "vp9": FormFacts("webm", "WebM, VP9", "For web pages.", switchable=True),
    "av1": FormFacts("webm", "WebM, AV1", "Smallest, newer players.", switchable=True),
    "prores": FormFacts("mov", "MOV, ProRes 422", "For editing suites, large."),
    "overlay": FormFacts(
        "mov",
        "Overlay, ProRes 4444",
        "Captions and layers alone on nothing, for another editor.",
        sound=False,
    ),
    "gif": FormFacts(
        "gif", "GIF", "For short stretches, no sound.", False, False, 60 * SECOND, True
    ),
    "webp": FormFacts(
        "webp", "Animated WebP", "For short stretches, no sound.", False, False, 60 * SECOND, True
    ),
}


class VideoFile(Value):
    """A video. ``lines`` is its shorter side in pixels (0: as the shape says), ``rate`` frames a second (0: as
    the recording has), ``loudness`` what its sound is brought to (LUFS, EBU R 128; None: left as it is),
    ``most_mb`` how many megabytes (10⁶ bytes) it has at most (0: as many as its quality makes)."""

    kind: Literal["video"] = "video"
    form: VideoForm = "h264"
    lines: int = Field(default=0, ge=0, le=MOST_LINES)
    rate: int = Field(default=0, ge=0, le=MOST_RATE)
    quality: Quality = "good"
    captions: Literal["burned", "switchable", "both", "none"] = "burned"
    loudness: float | None = Field(default=None, ge=-40, le=-9)
    most_mb: float = Field(default=0, ge=0, le=MOST_MB)

    @model_validator(mode="after")
    def _fits(self) -> VideoFile:
        if 0 < self.lines < LEAST_LINES:
            raise ValueError(f"A video has at least {LEAST_LINES} lines.")
        facts = self.facts
        if self.captions in ("switchable", "both") and not facts.switchable:
            raise ValueError(f"{facts.name} cannot hold captions to be switched on.")
        if self.loudness is not None and not facts.sound:
            raise ValueError(f"{facts.name} has no sound.")
        if self.most_mb and not facts.sized:
            raise ValueError(f"{facts.name} cannot be kept to a size.")
        if self.form == "overlay" and self.captions != "burned":
            raise ValueError("An overlay is the captions: they cannot be left out.")
        return self

    @property
    def facts(self) -> FormFacts:
        """What its form is."""
        return VIDEO_FORMS[self.form]

    @property
    def ending(self) -> str:
        """Of the file's name."""
        return self.facts.ending

    @property
    def most_bytes(self) -> int:
        """How large it is at most; 0 where nothing is said of it."""
        return round(self.most_mb * MB)

    def too_small_for(self, length_us: int) -> float | None:
        """How many megabytes a length needs at least, where that is more than is allowed."""
        least = LEAST_BITS / 8 * length_us / SECOND
        return ceil(least / MB * 10) / 10 if 0 < self.most_bytes < least else None

    @property
    def burns(self) -> bool:
        """Whether captions are in the picture."""
        return self.captions in ("burned", "both")

    @property
    def switches(self) -> bool:
        """Whether captions can be switched on."""
        return self.captions in ("switchable", "both")

    def size_of(self, shape: tuple[int, int]) -> tuple[int, int]:
        """Its size in pixels, for a shape's."""
        lines = self.lines or (min(LOOP_LINES, *shape) if self.facts.loops else min(shape))
        share = lines / min(shape)
        return even_size(round(shape[0] * share), round(shape[1] * share))

    def rate_of(self, own: float) -> float:
        """Frames a second, where the recording has so many."""
        return float(self.rate) or (min(LOOP_RATE, own) if self.facts.loops else own)


class TextFile(Value):
    """Captions as a file: grouped as on the picture, or at the pace of files where the piece has one.

    ``timed``: each word's own time is in it (WebVTT, ASS), each caption's (plain text). ``styled``: where captions
    stand and how they look (WebVTT; ASS always has it). ``mark`` begins it with a byte order mark, ``crlf`` ends
    its lines as older players need it.
    """

    kind: Literal["text"] = "text"
    form: TextForm = "srt"
    as_picture: bool = False
    timed: bool = False
    styled: bool = False
    mark: bool = False
    crlf: bool = False

    @property
    def ending(self) -> str:
        """Of the file's name."""
        return self.form


class StillFile(Value):
    """A cover frame: the picture at a moment of the piece, with its caption and its layers or without."""

    kind: Literal["still"] = "still"
    form: StillForm = "jpeg"
    at_us: int = Field(default=0, ge=0, le=10**12)
    captions: bool = True
    layers: bool = True

    @property
    def ending(self) -> str:
        """Of the file's name."""
        return "jpg" if self.form == "jpeg" else "png"


def _named(value: Any) -> Any:
    """What an output of an earlier version was called by."""
    if value == "mp4":
        return VideoFile()
    return TextFile.model_validate({"form": value}) if isinstance(value, str) else value


Output = Annotated[
    VideoFile | TextFile | StillFile,
    Field(discriminator="kind"),
]
StoredOutput = Annotated[Output, BeforeValidator(_named)]
Outputs = tuple[StoredOutput, ...]
USUAL_OUTPUTS: Outputs = (VideoFile(), TextFile(form="srt"), TextFile(form="vtt"))
"""What a piece is delivered as until somebody chooses otherwise."""


def _first(text: str) -> Any:
    return json.loads(text) if text else [one.model_dump(mode="json") for one in USUAL_OUTPUTS]


STORED: Stored[Outputs] = Stored(Outputs, first=_first)
"""Texts of before versions are empty for the usual ones."""


def each_once(wanted: Iterable[Output]) -> Outputs:
    """Outputs, each once, in their order."""
    return tuple(dict.fromkeys(wanted))


@dataclass(frozen=True)
class OutputSet:
    """Outputs under a name."""

    name: str
    about: str
    outputs: Outputs


OUTPUT_SETS: tuple[OutputSet, ...] = (
    OutputSet("Feed", "One video and its captions as files.", USUAL_OUTPUTS),
    OutputSet(
        "Course player",
        "A clean video whose captions are switched on in the player, and files at their own pace.",
        (
            VideoFile(captions="switchable", loudness=-16),
            TextFile(form="vtt"),
            TextFile(form="ttml"),
            TextFile(form="txt"),
        ),
    ),
    OutputSet(
        "Client's edit",
        "The captions alone over nothing, and as files with their words' times.",
        (VideoFile(form="overlay"), TextFile(form="ass", timed=True), TextFile(form="srt")),
    ),
    OutputSet(
        "Message",
        "A small video, and a picture to go with it.",
        (VideoFile(quality="small", lines=720), StillFile()),
    ),
)
"""Those that there are from the beginning."""


def built_in(name: str) -> Outputs:
    """The outputs of a built-in set. Raises BadInput."""
    found = next((one for one in OUTPUT_SETS if one.name.casefold() == name.casefold()), None)
    if found is None:
        names = ", ".join(one.name for one in OUTPUT_SETS)
        raise BadInput(f"There are no outputs under the name “{name}”. There are: {names}.")
    return found.outputs
