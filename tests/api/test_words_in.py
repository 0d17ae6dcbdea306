"""The routes for words that come another way, the glossary and tapping, in process."""

import pytest
from fastapi.testclient import TestClient

from tests.api.routes import read

SRT = "1\n00:00:01,000 --> 00:00:02,000\nWelcome back\n"


def test_a_script_and_a_file_are_queued_and_done(client: TestClient, project: int) -> None:
    path = f"/api/projects/{project}"
    before = read(client, project)["cues"]
    job = client.post(f"{path}/script", json={"text": "Welcome back\nto the mending room."})
    assert (job.status_code, job.json()["kind"]) == (201, "script")
    view = read(client, project)
    assert view["history"]["undo"] == "follow the script"
    assert [" ".join(w["text"] for w in c["words"]) for c in view["cues"]][:1] == ["Welcome back"]
    report = next(j for j in view["jobs"] if j["kind"] == "script")["report"]
    assert any("Not in the script" in note["text"] for note in report)
    job = client.post(f"{path}/captions", params={"name": "a.srt"}, content=SRT.encode())
    assert (job.status_code, job.json()["kind"]) == (201, "import")
    assert len(read(client, project)["cues"]) == 1
    plain = client.post(f"{path}/captions", content=b"Welcome back\nto the mending room.")
    assert plain.json()["kind"] == "script"
    for _ in range(3):
        revision = read(client, project)["revision"]
        client.post(f"{path}/undo", json={"base_revision": revision})
    assert read(client, project)["cues"] == before


@pytest.mark.parametrize(
    ("route", "sent", "status", "why"),
    [
        ("captions", {"content": b""}, 400, "empty"),
        ("captions", {"content": b"\0\1\2" * 99}, 400, "no text"),
        ("captions", {"content": b"1\nsoon --> later\nx"}, 400, "No caption could be read"),
        ("captions", {"content": b"x" * (9 * 1024**2)}, 413, "8 MB"),
        ("script", {"json": {"text": " \n "}}, 400, "no words"),
        ("hear", {"json": {"language": "xx"}}, 400, "No engine here"),
        ("hear", {"json": {"audio_track": 4}}, 400, "no sound track 5"),
        ("hear", {"json": {"from_time": "soon"}}, 400, "is not a time"),
    ],
)
def test_what_cannot_be_used_is_refused(
    client: TestClient,
    project: int,
    route: str,
    sent: dict,
    status: int,
    why: str,
) -> None:
    before = read(client, project)
    answer = client.post(f"/api/projects/{project}/{route}", **sent)
    assert (answer.status_code, why in answer.json()["message"]) == (status, True), answer.text
    assert read(client, project)["cues"] == before["cues"]


def test_engines_and_the_hands_delay_are_told(client: TestClient) -> None:
    quick, wide = client.get("/api/engines").json()
    assert quick["languages"] == ["en"]
    assert {"en", "de", "ja", "mul"} <= set(wide["languages"])
    assert wide["trouble"] is None
    clicks = [i * 700_000 for i in range(8)]
    body = {"clicks_us": clicks, "taps_us": [click + 130_000 for click in clicks]}
    assert client.post("/api/tapping/delay", json=body).json() == {"delay_us": 130_000}
    body["taps_us"] = []
    assert "Too few" in client.post("/api/tapping/delay", json=body).json()["message"]


def test_the_glossary_is_kept_offered_and_applied(client: TestClient, project: int) -> None:
    made = client.post("/api/glossary", json={"written": "Mendingroom", "heard": ["mending room"]})
    assert made.status_code == 201
    revision = read(client, project)["revision"]
    path = f"/api/projects/{project}"
    applied = client.post(f"{path}/glossary", json={"base_revision": revision}).json()
    assert applied["changes"] >= 1
    assert applied["answer"]["label"].startswith("glossary")
    again = client.post(f"{path}/glossary", json={"base_revision": revision + 1}).json()
    assert again == {"changes": 0, "answer": None}
    client.post(f"{path}/undo", json={"base_revision": revision + 1})
    entry = made.json()["id"]
    assert client.put(f"/api/glossary/{entry}", json={"written": "…"}).status_code == 400
    assert client.delete(f"/api/glossary/{entry}").status_code == 204
    assert client.delete(f"/api/glossary/{entry}").status_code == 404
    file = client.post("/api/glossary.csv", content=b"written,heard\nWanda,one da\n,x\n")
    assert (file.json()["taken"], len(file.json()["refused"])) == (1, 1)
    assert "Wanda,one da" in client.get("/api/glossary.csv").text
    empty = client.post("/api/glossary.csv", content=b"written,heard\n")
    assert "no entries" in empty.json()["message"]
    book = client.get("/api/glossary").json()
    assert [e["written"] for e in book["entries"]] == ["Wanda"]
    client.delete(f"/api/glossary/{book['entries'][0]['id']}")


def test_a_file_is_seen_before_it_is_taken_in(client: TestClient) -> None:
    text = "1\n00:00:01,000 --> 00:00:02,000\nBuenos días, señor\n"
    seen = client.post("/api/projects/captions/preview", content=text.encode("cp1252")).json()
    assert (seen["encoding"], seen["guessed"], seen["count"]) == ("cp1252", True, 1)
    assert seen["first"] == [{"start_us": 1_000_000, "text": "Buenos días, señor"}]
    other = client.post(
        "/api/projects/captions/preview",
        params={"encoding": "cp1250"},
        content=text.encode("cp1252"),
    ).json()
    assert other["first"][0]["text"] == "Buenos días, seńor"
    plain = client.post("/api/projects/captions/preview", content=b"Good morning\nall").json()
    assert (plain["timed"], plain["count"]) == (False, 2)
    wrong = client.post(
        "/api/projects/captions/preview", params={"encoding": "klingon"}, content=b"x"
    )
    assert wrong.status_code == 400


def test_the_page_is_told_what_belongs_together(client: TestClient) -> None:
    names = ["talk.mp4", "talk.srt", "mic.wav", "still.png"]
    answer = client.post("/api/projects/file-groups", json={"names": names})
    assert answer.json() == {
        "recordings": [{"file": 0, "words": 1, "sounds": [2], "cover": None}],
        "lonely": [3],
    }
    assert (
        client.post("/api/projects/file-groups", json={"names": ["a"] * 1_001}).status_code == 400
    )
