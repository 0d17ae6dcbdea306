"""The formats by the ending of their files."""

from collections.abc import Callable, Sequence

from mortiser.formats import json, srt, txt, vtt
from mortiser.formats.base import Caption

FORMATS: dict[str, Callable[[Sequence[Caption], int], str]] = {
    "srt": srt.write,
    "vtt": vtt.write,
    "txt": txt.write,
    "json": json.write,
}
