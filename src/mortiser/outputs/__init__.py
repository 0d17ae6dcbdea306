"""Kinds of delivered files, one a module. To add one: a class as in ``base``, named here."""

from __future__ import annotations

from collections.abc import Mapping

from mortiser.core.output_kinds import OutputKind
from mortiser.outputs.base import Output
from mortiser.outputs.captions import CaptionFile
from mortiser.outputs.video import BurnedIn

OUTPUTS: Mapping[OutputKind, Output] = {
    "mp4": BurnedIn(),
    "srt": CaptionFile("srt"),
    "vtt": CaptionFile("vtt"),
    "ttml": CaptionFile("ttml"),
    "txt": CaptionFile("txt"),
    "csv": CaptionFile("csv"),
    "json": CaptionFile("json"),
}
