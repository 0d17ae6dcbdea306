"""What is said in a recording of the demo, and captions of it."""

from __future__ import annotations

import json
from collections.abc import Sequence
from pathlib import Path

from mortiser.core.captions.cue_timing import retime, untimed_cue
from mortiser.core.captions.grouping import group
from mortiser.core.captions.pace import Pace
from mortiser.core.editing.timeline import Timeline
from mortiser.core.transcript.words import Cue, Shown


def words_of(path: Path, speaker: str | None = None) -> list[Shown]:
    """The words that belong to a recording, as its only clip shows them."""
    words = json.loads(path.with_suffix(".words.json").read_text())["words"]
    return [
        Shown(word["text"], word["start_us"], word["end_us"], speaker=speaker, clip_id=1)
        for word in words
    ]


def captions_of(words: Sequence[Shown], line: Timeline, pace: Pace) -> list[Cue]:
    """Words grouped and timed."""
    return retime([untimed_cue(1, words[a:b]) for a, b in group(words, pace)], line, pace)
