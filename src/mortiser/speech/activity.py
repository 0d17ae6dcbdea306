"""Where somebody speaks: the silero model for voice activity, which comes with faster_whisper (MIT).

Engines make words up over silence, noise and music; what lies over no speech is not kept.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from mortiser.speech.protocols import RATE, HeardLine, Samples

OPTIONS = {"threshold": 0.35, "min_silence_duration_ms": 300, "speech_pad_ms": 100}
"""Rather too much than too little: a word that is really spoken must not be lost."""
LEAST_SHARE = 0.2
TURN_S = 0.4
LEAST_PASSAGE_S = 1.5
AROUND_S = 0.15
"""What is left around a voice where everything else is muted."""
LEAST_VOICE_S = 0.4
"""A shorter stretch that stands alone (what the model pads it with included) is a chord or a drum."""
ALONE_S = 0.3
AUDIBLE = 0.1
"""Of the voice's level: music below it leads no aligner astray."""


def speech_in(samples: Samples) -> list[tuple[float, float]]:
    """Stretches (start s, end s) in which somebody speaks."""
    if not len(samples):
        return []
    # Loading the library takes a second that only those who hear should spend.
    from faster_whisper.vad import VadOptions, get_speech_timestamps

    found = get_speech_timestamps(samples, VadOptions(**OPTIONS), RATE)
    return [(part["start"] / RATE, part["end"] / RATE) for part in found]


def passages(samples: Samples) -> list[tuple[float, float]]:
    """Speech in passages (start s, end s) between pauses that somebody may change language at; short
    ones go with the one before."""
    found: list[tuple[float, float]] = []
    for start, end in speech_in(samples):
        if found and (
            start - found[-1][1] < TURN_S or found[-1][1] - found[-1][0] < LEAST_PASSAGE_S
        ):
            found[-1] = (found[-1][0], end)
        else:
            found.append((start, end))
    return found


def voices_alone(samples: Samples) -> Samples:
    """A stretch of sound with what is no voice muted, where that is loud enough to be taken for one.

    An aligner without a model of music puts the first word of a sung line on the chord before it.
    """
    stretches = _standing(speech_in(samples))
    voiced = np.zeros(len(samples), dtype=bool)
    for start, end in stretches:
        voiced[max(0, round((start - AROUND_S) * RATE)) : round((end + AROUND_S) * RATE)] = True
    if not stretches or voiced.all():
        return samples
    if _level(samples[~voiced]) < AUDIBLE * _level(samples[voiced]):
        return samples
    return np.where(voiced, samples, np.float32(0))


def _standing(stretches: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
    """Those that are long enough for a word, or near another one."""
    edges = [-np.inf, *(edge for stretch in stretches for edge in stretch), np.inf]
    return [
        (start, end)
        for index, (start, end) in enumerate(stretches)
        if end - start >= LEAST_VOICE_S
        or min(start - edges[2 * index], edges[2 * index + 3] - end) < ALONE_S
    ]


def _level(samples: Samples) -> float:
    return float(np.sqrt(np.mean(np.square(samples, dtype=np.float64))))


def over_speech(lines: Sequence[HeardLine], samples: Samples) -> list[HeardLine]:
    """The lines of a stretch of sound that speech lies under for some part."""
    if not lines:
        return []
    speech = speech_in(samples)
    return [
        line
        for line in lines
        if _shared(line.start_s, line.end_s, speech) > LEAST_SHARE * (line.end_s - line.start_s)
    ]


def _shared(start_s: float, end_s: float, speech: Sequence[tuple[float, float]]) -> float:
    return sum(max(0.0, min(end_s, b) - max(start_s, a)) for a, b in speech)
