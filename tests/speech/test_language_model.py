"""The small language model: what it expects, and what is said where it cannot be had."""

from pathlib import Path

import pytest

from mortiser.core.common.errors import BadInput
from mortiser.settings import Settings
from mortiser.speech import conversion
from mortiser.speech.conversion import converted
from mortiser.speech.language_model import SmallLanguageModel
from mortiser.speech.models import WORDING
from mortiser.speech.protocols import LanguageModel
from mortiser.wiring import model_place
from tests.contracts.test_speech import small_model


@pytest.fixture(scope="module")
def reader() -> LanguageModel:
    return small_model()


@pytest.mark.parametrize(
    ("likely", "unlikely"),
    [
        ("Boil the kettle and make some tea.", "Boil the kettle and make some tee."),
        ("The cat sat on the mat.", "The cat sat on the mad."),
        (
            "Somebody slammed the door of the lamp shop.",
            "Somebody slams the deaf of the lamp ship.",
        ),
    ],
)
def test_the_usual_wording_is_likelier(reader: LanguageModel, likely: str, unlikely: str) -> None:
    one, other = reader.likelihoods([likely, unlikely])
    assert one > other


def test_a_word_that_does_not_belong_is_a_surprise(reader: LanguageModel) -> None:
    sentence = "She poured the boiling water over the tea leaves in the shovel and waited."
    text = sentence.split(" ")
    found = reader.read([], text).surprises
    odd = text.index("shovel")
    assert found[odd] == max(found[2:])
    again = reader.read(text[:odd], text[odd:]).surprises
    assert again[0] == pytest.approx(found[odd], abs=0.3)


def test_a_word_that_belongs_is_likelier_than_the_one_there(reader: LanguageModel) -> None:
    words = ["Boil", "the", "kettle", "and", "make", "some", "tee"]
    tea, stone = reader.read([], words).instead(6, ["tea", "stone"])
    assert tea > 3
    assert tea > stone


def test_signs_beside_a_word_do_not_count_for_it(reader: LanguageModel) -> None:
    plain = reader.read([], ["Mend", "the", "kettle"]).instead(2, ["kettle"])
    signed = reader.read([], ["Mend", "the", "kettle,”"]).instead(2, ["kettle"])
    assert signed == plain == [pytest.approx(0, abs=0.01)]


def test_a_long_text_is_read_in_parts(reader: LanguageModel) -> None:
    words = ["mend", "the", "kettle"] * 200
    reading = reader.read([], words)
    assert len(reading.surprises) == 600
    assert reading.instead(599, ["kettle"]) == [pytest.approx(0, abs=0.01)]


def test_the_model_is_converted_once(monkeypatch: pytest.MonkeyPatch) -> None:
    there = model_place(Settings()).packaged(WORDING)
    assert there is not None
    ready = converted(there)
    monkeypatch.setattr(conversion.subprocess, "run", lambda *a, **k: pytest.fail("again"))
    assert converted(there) == ready
    assert sorted(file.name for file in ready.iterdir()) == sorted(conversion.FILES)


def test_a_damaged_file_is_told_and_nothing_half_is_left(tmp_path: Path) -> None:
    (tmp_path / conversion.GGUF).write_bytes(b"not a model")
    with pytest.raises(BadInput, match="cannot be read"):
        converted(tmp_path)
    assert [file.name for file in tmp_path.iterdir()] == [conversion.GGUF]
    with pytest.raises(BadInput, match="cannot be loaded"):
        SmallLanguageModel(tmp_path)


def test_a_folder_that_cannot_be_written_is_told(tmp_path: Path) -> None:
    with pytest.raises(BadInput, match="cannot be put into"):
        converted(tmp_path / "gone")
