"""Speakers' names in captions: at the start of each turn."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from mortiser.core.transcript.words import Cue, Shown


def speaker_of(cue: Cue) -> str | None:
    """Who speaks in a caption."""
    return cue.words[0].speaker


def turns(cues: Sequence[Cue], before: str | None = None) -> list[str | None]:
    """For each caption the name to show: where somebody else begins to speak than ``before``."""
    result: list[str | None] = []
    for cue in cues:
        name = speaker_of(cue)
        result.append(name if name != before else None)
        before = name
    return result


def with_names(cues: Sequence[Cue], before: str | None = None) -> list[Cue]:
    """The captions with the name put in front of the words at each turn.

    The name is a word of its own that has been spoken when the first real one begins.
    """
    return [
        cue.with_words((*_name_words(name, cue.words[0]), *cue.words)) if name else cue
        for cue, name in zip(cues, turns(cues, before), strict=True)
    ]


def _name_words(name: str, first: Shown) -> list[Shown]:
    at = max(0, first.start_us - 2)
    plain = replace(
        first, start_us=at, end_us=min(at + 1, first.start_us), id=0, seam="free", accent=0, own=""
    )
    return [replace(plain, text=text) for text in f"{name}:".split()]
