"""Who speaks, on real voices: the conversation, one person alone, and what is no speech."""

import json
from collections.abc import Iterator

import numpy as np
import pytest
from scripts.demo_media.story import COUNTER as COUNTER_LINES

from mortiser.core.transcript.words import Word
from mortiser.media.sound import stream_sound
from mortiser.speech.protocols import RATE, Samples, SpeakerFinder
from mortiser.speech.speakers import SpectralSpeakers
from tests.recordings import COUNTER, KETTLE, MEDIA


class EndOfSentence:
    """Takes turns at every sentence: enough to test what is built on the seam."""

    def find(self, sound, words) -> list[int]:
        turn = 0
        found = []
        for word in words:
            found.append(turn)
            turn = (turn + word.text.endswith((".", "?"))) % 2
        return found


@pytest.fixture(params=[EndOfSentence, SpectralSpeakers])
def finder(request: pytest.FixtureRequest) -> SpeakerFinder:
    return request.param()


def true_words(name: str) -> list[Word]:
    rows = json.loads((MEDIA / f"{name}.words.json").read_text())["words"]
    return [Word(r["text"], r["start_us"], r["end_us"]) for r in rows]


def sound(samples: int = 4) -> Iterator[Samples]:
    return iter([np.zeros(RATE, np.float32)] * samples)


def test_every_word_gets_a_number_in_order_of_speaking(finder: SpeakerFinder) -> None:
    words = true_words("counter")
    found = finder.find(stream_sound(COUNTER), words)
    assert len(found) == len(words)
    assert found[0] == 0
    assert list(dict.fromkeys(found)) == list(range(len(set(found))))


def test_nothing_to_tell_apart_is_no_fault(finder: SpeakerFinder) -> None:
    assert finder.find(sound(), []) == []
    assert finder.find(sound(), [Word("hm", 0, 30_000)]) == [0]
    assert len(finder.find(iter([]), true_words("lyric"))) == len(true_words("lyric"))


def test_two_voices_are_told_apart() -> None:
    words = true_words("counter")
    voices = [line.voice for line in COUNTER_LINES for _ in line.text.split()]
    truth = [int(voice != voices[0]) for voice in voices]
    found = SpectralSpeakers().find(stream_sound(COUNTER), words)
    right = sum(
        w.end_us - w.start_us for w, f, t in zip(words, found, truth, strict=True) if f == t
    )
    assert right / sum(w.end_us - w.start_us for w in words) >= 0.95


def test_one_voice_stays_one() -> None:
    assert set(SpectralSpeakers().find(stream_sound(KETTLE), true_words("kettle"))) == {0}
