"""Voices told from the music under them."""

import json

import numpy as np

from mortiser.media.sound import stream_sound
from mortiser.speech.activity import speech_in, voices_alone
from mortiser.speech.placing import placed
from mortiser.speech.protocols import RATE
from mortiser.speech.sphinx import SphinxAligner
from tests.recordings import COUNTER, MEDIA

LEAD_S = 2.0
CHORDS = ((220, 277.2, 329.6), (174.6, 220, 261.6), (196, 246.9, 293.7))


def heard(name: str) -> np.ndarray:
    return np.concatenate(list(stream_sound(MEDIA / name)))


def over_chords(voice: np.ndarray) -> np.ndarray:
    """A voice that begins after two seconds of struck strings, which go on under it."""
    sound = np.concatenate([np.zeros(int(LEAD_S * RATE)), voice])
    for number, at in enumerate(range(int(0.3 * RATE), len(sound), 2 * RATE)):
        time = np.arange(min(2 * RATE, len(sound) - at)) / RATE
        for tone in CHORDS[number % 3]:
            for over in (1, 2, 3, 4):
                wave = np.sin(2 * np.pi * tone * over * time) / over
                sound[at : at + len(time)] += 0.06 * wave * np.exp(-0.75 * time)
    return sound.astype(np.float32)


def onsets(sound: np.ndarray, texts: list[str]) -> np.ndarray:
    end = round(len(sound) / RATE * 1e6)
    words = placed(texts, sound, 0, (0, end), SphinxAligner(), "imported")
    return np.array([word.start_us for word in words]) / 1e6


def test_a_sung_line_begins_with_its_voice_not_with_a_chord() -> None:
    truth = json.loads((MEDIA / "lyric.words.json").read_text())["words"]
    texts = [word["text"] for word in truth]
    begins = np.array([word["start_us"] for word in truth]) / 1e6 + LEAD_S
    sound = over_chords(heard("lyric.m4a"))
    apart = np.abs(onsets(voices_alone(sound), texts) - begins)
    assert np.median(apart) < 0.06
    assert apart.max() < 0.3
    assert apart.max() < np.abs(onsets(sound, texts) - begins).max()


def test_what_has_no_music_stays_as_it_is() -> None:
    for sound in (heard(COUNTER.name), heard("lyric.m4a"), np.zeros(RATE, dtype=np.float32)):
        assert voices_alone(sound) is sound


def test_music_alone_stays_as_it_is() -> None:
    sound = over_chords(np.zeros(4 * RATE))
    assert speech_in(sound) == []
    assert voices_alone(sound) is sound
