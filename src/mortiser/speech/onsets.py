"""Word times drawn to the onsets in the sound, where no aligner knows the language."""

from __future__ import annotations

from collections.abc import Sequence

from mortiser.speech.seams import Samples, WordTime


def pulled(times: Sequence[WordTime], samples: Samples) -> list[WordTime]:
    """The times in order."""
    return list(times)
