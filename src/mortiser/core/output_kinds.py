"""The kinds of files a piece is delivered as, by name."""

from __future__ import annotations

import json
from collections.abc import Collection
from typing import Literal, get_args

OutputKind = Literal["mp4", "srt", "vtt", "ttml", "txt", "csv", "json"]
Outputs = tuple[OutputKind, ...]
ALL_OUTPUTS: Outputs = get_args(OutputKind)
USUAL_OUTPUTS: Outputs = ("mp4", "srt", "vtt")
"""What a piece is delivered as until somebody chooses otherwise."""
PICTURED: frozenset[OutputKind] = frozenset({"mp4"})
"""Outputs that are others in each shape."""


def in_order(wanted: Collection[OutputKind]) -> Outputs:
    """Kinds, each once, in the order they are made."""
    return tuple(kind for kind in ALL_OUTPUTS if kind in wanted)


def outputs_text(outputs: Outputs) -> str:
    """The text that is stored; "" for the usual ones."""
    return "" if outputs == USUAL_OUTPUTS else json.dumps(outputs)


def outputs_of(text: str) -> Outputs:
    """What a stored text stands for."""
    return in_order(json.loads(text)) if text else USUAL_OUTPUTS
