"""Which engine hears which language, and where the multilingual one's model comes from."""

import json
from dataclasses import replace
from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest

from mortiser.core.common.errors import BadInput
from mortiser.media.sound import stream_sound
from mortiser.settings import Settings
from mortiser.speech import engines as speech_engines
from mortiser.speech import models
from mortiser.speech.engines import QUICK, WIDE, chosen, engines, ensemble_for, recogniser_for
from mortiser.speech.models import ENGLISH, MANY_LANGUAGES, WORDING, ModelPlace, join, languages_of
from mortiser.speech.moonshine import MoonshineRecogniser
from mortiser.speech.protocols import Ensemble
from mortiser.speech.transcribe import TimedLine, transcribe
from mortiser.speech.whisper import WhisperRecogniser
from mortiser.wiring import model_place
from tests.contracts.test_speech import EvenAligner

MEDIA = Path("bench/media")


@pytest.fixture(scope="module")
def place() -> ModelPlace:
    return model_place(Settings())


def make_folder(folder: Path) -> Path:
    """A folder that has the files of a model, none of them whole."""
    folder.mkdir(parents=True, exist_ok=True)
    (folder / "model.bin").write_bytes(b"something else")
    (folder / "config.json").write_text("{}")
    tokens = [{"content": f"<|{text}|>"} for text in ("en", "de", "yue", "transcribe", "0.00")]
    (folder / "tokenizer.json").write_text(json.dumps({"added_tokens": tokens}))
    return folder


def test_the_quick_engine_hears_english_and_the_other_votes_on_it(place: ModelPlace) -> None:
    assert [engine.name for engine in engines(place)] == [QUICK, WIDE]
    assert isinstance(recogniser_for("en", place), MoonshineRecogniser)
    assert isinstance(recogniser_for("de", place), WhisperRecogniser)
    assert isinstance(ensemble_for("en", ["Marlo"], place).second, WhisperRecogniser)
    assert ensemble_for("de", [], place) == Ensemble()
    assert chosen("en", place, QUICK, []).ensemble is None
    assert isinstance(chosen("en", place, WIDE, []).first, WhisperRecogniser)
    with pytest.raises(BadInput, match="No engine here knows"):
        recogniser_for("xx", place)


def test_a_folder_of_ones_own_goes_before_everything(tmp_path: Path) -> None:
    own = ModelPlace(tmp_path, make_folder(tmp_path / "model"))
    assert own.folder() == tmp_path / "model"
    assert languages_of(own.folder()) == ("de", "en", "yue")
    assert engines(own)[1].languages == ("de", "en", "yue", "mul")
    with pytest.raises(BadInput, match="cannot be loaded"):
        WhisperRecogniser(own.folder(), "de")
    with pytest.raises(BadInput, match="does not know"):
        WhisperRecogniser(own.folder(), "xx")


def test_a_folder_that_is_no_model_says_what_is_missing(tmp_path: Path) -> None:
    folder = make_folder(tmp_path / "model")
    own = ModelPlace(tmp_path, folder)
    (folder / "tokenizer.json").write_text("[]")
    assert "cannot be read" in (engines(own)[1].trouble or "")
    (folder / "model.bin").unlink()
    assert "model.bin is missing" in (engines(own)[1].trouble or "")
    ensemble = ensemble_for("en", [], own)
    assert ensemble.second is None
    assert ensemble.third is not None
    with pytest.raises(BadInput, match=r"Only English .* missing"):
        recogniser_for("de", own)
    with pytest.raises(BadInput, match=r"model\.bin is missing"):
        recogniser_for("en", own, WIDE)


def test_the_installed_parts_are_joined_once(tmp_path: Path) -> None:
    there = ModelPlace(tmp_path).folder()
    assert there == tmp_path / "whisper-base"
    assert sorted(f.name for f in there.iterdir()) == sorted(MANY_LANGUAGES.parts)
    before = (there / "model.bin").stat().st_mtime_ns
    assert ModelPlace(tmp_path).folder() == there
    assert (there / "model.bin").stat().st_mtime_ns == before


def test_damaged_parts_never_become_a_model(tmp_path: Path) -> None:
    part = tmp_path / "part"
    part.write_bytes(b"not the model")
    with pytest.raises(BadInput, match="damaged"):
        join(MANY_LANGUAGES, {"model.bin": [part]}, tmp_path / "cache")
    assert list((tmp_path / "cache").iterdir()) == []


def test_a_cache_that_cannot_be_written_is_told(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("")
    with pytest.raises(BadInput, match="cannot be put into"):
        ModelPlace(tmp_path / "file").folder()


def test_a_larger_model_is_not_fetched_unless_that_is_set(tmp_path: Path) -> None:
    with pytest.raises(BadInput, match=r"“small” is not on this machine.*MORTISER_FETCH_MODEL"):
        ModelPlace(tmp_path, name="small").folder()


def test_without_the_packages_it_says_so(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    for name in ("MANY_LANGUAGES", "ENGLISH", "WORDING"):
        gone = replace(getattr(models, name), packages=("no_such_package",))
        monkeypatch.setattr(models, name, gone)
        monkeypatch.setattr(speech_engines, name, gone, raising=False)
    with pytest.raises(BadInput, match="“base” is not on this machine"):
        ModelPlace(tmp_path).folder()
    assert ensemble_for("en", [], ModelPlace(tmp_path)) == Ensemble()


def test_the_models_beside_are_checked_and_kept(tmp_path: Path) -> None:
    place = ModelPlace(tmp_path)
    for model in (ENGLISH, WORDING):
        there = place.packaged(model)
        assert there == tmp_path / model.name
        assert sorted(file.name for file in there.iterdir()) == sorted(model.parts)


def test_its_own_word_times_are_used_where_no_aligner_knows_the_language(
    place: ModelPlace,
) -> None:
    sound = list(stream_sound(MEDIA / "language-de.ogg"))
    truth = json.loads((MEDIA / "language-de.words.json").read_text())["words"]
    items = transcribe(sound, recogniser_for("de", place), EvenAligner())
    words = [w for item in items if isinstance(item, TimedLine) for w in item.words]
    assert all(a.end_us <= b.start_us for a, b in pairwise(words))
    starts = {w["text"].strip(".,").lower(): w["start_us"] for w in truth}
    off = [
        abs(w.start_us - starts[key])
        for w in words
        if (key := w.text.strip(".,").lower()) in starts and key not in ("der", "wir", "und")
    ]
    assert len(off) > 15
    assert np.median(off) < 100_000
