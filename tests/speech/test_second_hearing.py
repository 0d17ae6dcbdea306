import json

import numpy as np
import pytest

from mortiser.core.checks import doubtful
from mortiser.core.words import Word
from mortiser.media.sound import stream_sound
from mortiser.speech.seams import RATE
from mortiser.speech.second_hearing import (
    LONGEST_US,
    PAUSE_US,
    SecondHearing,
    _alternatives,
    compare,
    settled,
    stretches,
)
from tests.recordings import KETTLE, MEDIA


def test_hearings_are_compared_word_by_word() -> None:
    found = compare(["where", "we", "meant", "things."], ["Where", "we", "mend", "things"])
    assert [o.agrees for o in found] == [True, True, False, True]
    assert found[2].text == "mend"


def test_numbers_and_split_words_are_compared_as_they_are_said() -> None:
    assert all(o.agrees for o in compare(["13", "amp"], ["thirteen", "amp"]))
    assert all(o.agrees for o in compare(["a", "way"], ["away"]))
    (found,) = compare(["away"], ["a", "weigh"])
    assert (found.agrees, found.text) == (False, "a weigh")


def test_alternatives_are_written_as_the_word_is() -> None:
    assert _alternatives("Meant,", ["mend", "Mend.", None, "meant"]) == ("Mend,",)
    assert _alternatives("grate", ["Great", "grey"]) == ("great", "grey")


def test_a_wrong_word_is_doubted_more_than_the_right_ones() -> None:
    truth = [Word(**w) for w in json.loads((MEDIA / "kettle.words.json").read_text())["words"]][:9]
    sound = np.concatenate(list(stream_sound(KETTLE)))[: int((truth[-1].end_us / 1e6 + 0.2) * RATE)]
    heard = [Word(w.text, w.start_us, w.end_us, 0.9, id=i + 1) for i, w in enumerate(truth)]
    wrong = 3
    heard[wrong] = Word("cardboard", truth[wrong].start_us, truth[wrong].end_us, 0.9, id=wrong + 1)
    verdict = SecondHearing().judge(heard, sound)
    assert verdict.changes == ()
    judged = settled(verdict)
    assert [(w.id, w.text, w.start_us) for w in judged] == [
        (w.id, w.text, w.start_us) for w in heard
    ]
    assert min(judged, key=lambda w: w.confidence).text == "cardboard"
    assert doubtful(judged[wrong])
    assert "Lantern" in " ".join(judged[wrong].alternatives).title()
    assert sum(map(doubtful, judged)) <= 4


@pytest.mark.parametrize("gap", [50_000, PAUSE_US + 1])
def test_stretches_keep_every_word_and_end_in_pauses(gap: int) -> None:
    words = [Word("so", i * (300_000 + gap), i * (300_000 + gap) + 300_000) for i in range(80)]
    runs = list(stretches(words))
    assert [w for run in runs for w in run] == words
    assert all(run[-1].end_us - run[0].start_us <= LONGEST_US for run in runs)
    assert all(len(run) == 1 for run in runs) is (gap > PAUSE_US)
