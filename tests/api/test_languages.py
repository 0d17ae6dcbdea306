"""Recordings in other languages: found out, aligned when typed, translated in a copy."""

from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from mortiser.api.app import create_app
from mortiser.wiring import AppContext
from tests.api.routes import context_in, edit, read

GERMAN = Path("bench/media/language-de.ogg")


@pytest.fixture(scope="module")
def german(client: TestClient) -> int:
    made = client.post(
        "/api/projects",
        params={"name": "Werkstatt.ogg", "language": "auto"},
        content=GERMAN.read_bytes(),
    )
    assert made.status_code == 201, made.text
    return int(made.json()["project_id"])


def test_the_language_is_found_out_and_told(client: TestClient, german: int) -> None:
    view = read(client, german)
    assert view["sources"][0]["language"] == "de"
    assert client.get(f"/api/projects/{german}/status").json()["sources"][0]["language"] == "de"
    text = " ".join(word["text"] for cue in view["cues"] for word in cue["words"])
    assert "Tee" in text
    # How sure the engine was is told by the same scale as in English.
    doubts = [word["doubt"] for cue in view["cues"] for word in cue["words"]]
    assert 0 < sum(doubts) < len(doubts)


def test_a_typed_word_is_put_on_its_sound(
    client: TestClient, german: int, context: AppContext
) -> None:
    view = read(client, german)
    cue = view["cues"][2]
    texts = [word["text"] for word in cue["words"]]
    edit(
        client,
        german,
        view["revision"],
        kind="retype_cue",
        cue_id=cue["id"],
        text=" ".join([*texts, "jawohl"]),
    )
    context.typed_words.settle()
    (now,) = [one for one in read(client, german)["cues"] if one["id"] == cue["id"]]
    starts = [word["start_us"] for word in now["words"]]
    assert starts == sorted(starts)


def test_english_captions_come_in_a_copy(client: TestClient, german: int) -> None:
    before = read(client, german)
    made = client.post(f"/api/projects/{german}/translation")
    assert made.status_code == 201
    copy = read(client, made.json()["project_id"])
    assert copy["name"] == "Werkstatt (English)"
    (job,) = [job for job in copy["jobs"] if job["kind"] == "translate"]
    assert job["status"] == "done", job
    assert copy["history"]["undo"] == "translate to English"
    text = " ".join(word["text"].lower() for cue in copy["cues"] for word in cue["words"])
    assert {"the", "and"} <= set(text.split())
    assert read(client, german)["cues"] == before["cues"]


def test_english_is_not_translated(client: TestClient, project: int) -> None:
    refused = client.post(f"/api/projects/{project}/translation")
    assert (refused.status_code, refused.json()["message"]) == (
        400,
        "English is spoken here: there is nothing to translate.",
    )


def test_without_the_second_engine_it_is_english_and_says_so(tmp_path: Path) -> None:
    (tmp_path / "model").mkdir()
    context = context_in(tmp_path / "w", model_folder=tmp_path / "model")
    with TestClient(create_app(context, with_worker=False), base_url="http://127.0.0.1") as client:
        quick, wide = client.get("/api/engines").json()
        assert quick["trouble"] is None
        assert "model.bin" in wide["trouble"]
        refused = client.post(
            "/api/projects", params={"name": "a.ogg", "language": "de"}, content=b"x"
        )
        assert "Only English" in refused.json()["message"]
        made = client.post(
            "/api/projects",
            params={"name": "a.ogg", "language": "auto"},
            content=GERMAN.read_bytes(),
        ).json()
        view = read(client, made["project_id"])
        assert view["sources"][0]["language"] == "en"
        assert view["cues"]
        # Heard once more with the language to be found out.
        again = client.post(f"/api/projects/{made['project_id']}/hear", json={"language": "auto"})
        assert again.status_code < 300, again.text
        view = read(client, made["project_id"])
        newest = [job for job in view["jobs"] if job["kind"] == "transcribe"][-1]
        assert (newest["status"], newest["error"]) == ("done", None)
        assert view["history"]["undo"].startswith("hear ")
