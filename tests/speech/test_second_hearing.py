import json
from dataclasses import replace
from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest

from mortiser.core.transcript.doubt import doubtful
from mortiser.core.transcript.words import Word
from mortiser.media.sound import stream_sound
from mortiser.settings import Settings
from mortiser.speech.activity import over_speech, passages, speech_in
from mortiser.speech.beside import alternatives, compare
from mortiser.speech.engines import ensemble_for, language_finder
from mortiser.speech.languages import LOOKS, language_spoken
from mortiser.speech.models import ModelPlace
from mortiser.speech.protocols import RATE, HeardLine, Samples, Verdict
from mortiser.speech.second_hearing import (
    SecondHearing,
    settled,
)
from mortiser.wiring import model_place
from tests.recordings import KETTLE, MEDIA


def judged_by(judge: SecondHearing, words: list[Word], sound: Samples) -> Verdict:
    return judge.judge(words, judge.listen(sound))


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
    assert alternatives("Meant,", ["mend", "Mend.", None, "meant"]) == ("Mend,",)
    assert alternatives("grate", ["Great", "grey"]) == ("great", "grey")


def test_a_wrong_word_is_doubted_more_than_the_right_ones(place: ModelPlace) -> None:
    truth = [Word(**w) for w in json.loads((MEDIA / "kettle.words.json").read_text())["words"]][:9]
    sound = np.concatenate(list(stream_sound(KETTLE)))[: int((truth[-1].end_us / 1e6 + 0.2) * RATE)]
    heard = [Word(w.text, w.start_us, w.end_us, 0.9, id=i + 1) for i, w in enumerate(truth)]
    wrong = 3
    heard[wrong] = Word("cardboard", truth[wrong].start_us, truth[wrong].end_us, 0.9, id=wrong + 1)
    ensemble = replace(ensemble_for("en", [], place), second=None)
    verdict = judged_by(SecondHearing(ensemble), heard, sound)
    assert verdict.changes == ()
    judged = settled(verdict)
    assert [(w.id, w.text, w.start_us) for w in judged] == [
        (w.id, w.text, w.start_us) for w in heard
    ]
    assert doubtful(judged[wrong])
    assert "Lantern" in " ".join(judged[wrong].alternatives).title()
    assert sum(map(doubtful, judged)) <= 4


@pytest.fixture(scope="module")
def place() -> ModelPlace:
    return model_place(Settings())


def demo_start() -> tuple[list[Word], np.ndarray]:
    """The demo's first sentence, rightly heard, and its sound."""
    truth = json.loads((MEDIA / "kettle.words.json").read_text())["words"][:9]
    heard = [
        Word(w["text"], w["start_us"], w["end_us"], 0.9, id=i + 1) for i, w in enumerate(truth)
    ]
    sound = np.concatenate(list(stream_sound(KETTLE)))
    return heard, sound[: int((heard[-1].end_us / 1e6 + 0.3) * RATE)]


def test_the_second_engine_puts_right_what_the_first_misheard(place: ModelPlace) -> None:
    right, sound = demo_start()
    heard = list(right)
    heard[3] = replace(heard[3], text="Cardboard")
    # A word too many, and one that somebody typed, wrong as it is.
    extra = replace(heard[5], text="banana", start_us=heard[5].start_us - 60_000, id=90)
    heard.insert(5, replace(extra, end_us=heard[5].start_us))
    heard[1] = replace(heard[1], text="mourning", origin="typed")
    verdict = judged_by(SecondHearing(ensemble_for("en", [], place)), heard, sound)
    final = settled(verdict)
    assert [w.text.lower().strip(".,") for w in final] == [
        "good", "mourning", "from", "lantern", "lane", "where", "we", "mend", "things",
    ]  # fmt: skip
    assert all(a.end_us <= b.start_us for a, b in pairwise(final))
    lantern = final[3]
    assert abs(lantern.start_us - right[3].start_us) < 60_000
    assert "Cardboard" in lantern.alternatives
    assert [w.text for w in verdict.words] == [w.text for w in heard]


def test_a_filler_the_second_engine_leaves_out_stays(place: ModelPlace) -> None:
    heard, sound = demo_start()
    at = heard[5].start_us
    heard.insert(5, Word("um,", at - 50_000, at, 0.9, id=90))
    final = settled(judged_by(SecondHearing(ensemble_for("en", [], place)), heard, sound))
    assert [w.text for w in final if not doubtful(w)].count("um,") == 1


def test_names_are_written_before_the_vote(place: ModelPlace) -> None:
    heard, sound = demo_start()

    def write(words):
        named = {"Lantern": "Lanternby"}
        return [
            replace(w, text=named[w.text], heard_as=w.text) if w.text in named else w for w in words
        ]

    judge = SecondHearing(ensemble_for("en", ["Lanternby"], place), write)
    verdict = judged_by(judge, heard, sound)
    assert "Lanternby" in [w.text for w in settled(verdict)]


def test_words_over_silence_are_not_kept() -> None:
    _, sound = demo_start()
    quiet = np.zeros(RATE * 3, np.float32)
    line = HeardLine("You", 0.5, 0.7, quiet, 0.5)
    spoken = replace(line, start_s=3.5, end_s=5.0)
    assert over_speech([line, spoken], np.concatenate([quiet, sound])) == [spoken]
    assert speech_in(quiet) == []
    ((start, end),) = passages(np.concatenate([quiet, sound]))
    assert 2.5 < start < 3.6
    assert end > 5


class Finder:
    """Takes loud speech for German."""

    def __init__(self) -> None:
        self.asked = 0

    def language_of(self, samples: np.ndarray) -> tuple[str, float]:
        self.asked += 1
        return ("de", 0.6) if self.asked > 1 else ("en", 0.5)


def test_the_language_is_looked_for_where_somebody_speaks() -> None:
    _, sound = demo_start()
    finder = Finder()
    assert language_spoken([np.zeros(RATE * 30, np.float32)], finder) is None
    assert finder.asked == 0
    blocks = [sound] * 40
    assert language_spoken(blocks, finder) == "de"
    assert finder.asked == LOOKS


def test_german_and_english_are_told_apart(place: ModelPlace) -> None:
    finder = language_finder(place)
    assert language_spoken(stream_sound(KETTLE), finder) == "en"
    german = stream_sound(Path("bench/media/language-de.ogg"))
    assert language_spoken(german, finder) == "de"
