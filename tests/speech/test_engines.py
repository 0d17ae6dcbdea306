"""Which engine hears which language, and a model folder of the user's own."""

import sys
from collections.abc import Iterator
from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest

from mortiser.core.errors import BadInput
from mortiser.speech.engines import engines, recogniser_for
from mortiser.speech.folder_model import FolderRecogniser, languages_of
from mortiser.speech.moonshine import MoonshineRecogniser
from mortiser.speech.seams import RATE, HeardLine
from mortiser.speech.transcribe import TimedLine, transcribe
from tests.contracts.test_speech import EvenAligner
from tests.speech import standin_model


@pytest.fixture
def folder(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[Path]:
    monkeypatch.setitem(sys.modules, "faster_whisper", standin_model.library())
    return standin_model.make_folder(tmp_path / "model")


def test_the_embedded_engine_goes_before_the_folder(folder: Path) -> None:
    assert isinstance(recogniser_for("en", folder), MoonshineRecogniser)
    assert isinstance(recogniser_for("de", folder), FolderRecogniser)
    assert [e.name for e in engines(None)] == ["moonshine-tiny"]
    assert engines(folder)[1].languages == ("de", "en", "yue")
    for where in (None, folder):
        with pytest.raises(BadInput, match="MORTISER_MODEL_FOLDER"):
            recogniser_for("xx", where)


def test_a_folder_that_is_no_model_says_what_is_missing(folder: Path) -> None:
    (folder / "model.bin").write_bytes(b"something else")
    with pytest.raises(BadInput, match="cannot be loaded: Unsupported"):
        FolderRecogniser(folder, "de")
    (folder / "tokenizer.json").write_text("[]")
    assert "cannot be read" in (engines(folder)[1].trouble or "")
    (folder / "model.bin").unlink()
    assert "model.bin is missing" in (engines(folder)[1].trouble or "")
    assert engines(folder)[1].languages == ()
    with pytest.raises(BadInput, match="missing"):
        languages_of(folder / "nowhere")


def test_without_its_library_it_says_how_to_get_it(
    folder: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setitem(sys.modules, "faster_whisper", None)
    with pytest.raises(BadInput, match=r"mortiser\[multilingual\]"):
        FolderRecogniser(folder, "de")
    with pytest.raises(BadInput, match="does not know"):
        FolderRecogniser(folder, "xx")


def test_its_own_word_times_are_used(folder: Path) -> None:
    sound = np.zeros(4 * RATE, np.float32)
    sound[RATE : 2 * RATE] = 0.5
    engine = FolderRecogniser(folder, "de")
    (line,) = [i for i in engine.hear([sound]) if isinstance(i, HeardLine)]
    assert (line.text, len(line.times)) == ("Ton Ton.", 2)
    (timed,) = [i for i in transcribe([sound], engine, EvenAligner()) if isinstance(i, TimedLine)]
    assert [(w.text, w.start_us, w.end_us, w.confidence) for w in timed.words] == [
        ("Ton", 1_000_000, 1_500_000, 0.9),
        ("Ton.", 1_500_000, 2_000_000, 0.5),
    ]
    assert all(a.end_us <= b.start_us for a, b in pairwise(timed.words))
