"""The talk, what can go of it, lists of fillers, and cut pieces delivered, over HTTP."""

from pathlib import Path

import av
import pytest
from fastapi.testclient import TestClient

from mortiser.api.app import create_app
from mortiser.jobs.ingest import bring_in
from mortiser.settings import Settings
from mortiser.store import transcript
from mortiser.wiring import AppContext, open_context
from tests.api.routes import made as edit
from tests.api.routes import read as view
from tests.core.test_highlights import LONG
from tests.recordings import make_video
from tests.store.fixtures import spoken

SAID = "So um we mend we mend kettles and chairs."


@pytest.fixture
def context(tmp_path: Path) -> AppContext:
    return open_context(Settings(workspace=tmp_path / "w"), inline_jobs=True)


@pytest.fixture
def client(context: AppContext) -> TestClient:
    return TestClient(create_app(context, with_worker=False), base_url="http://127.0.0.1")


@pytest.fixture
def project(context: AppContext, tmp_path: Path) -> int:
    file = make_video(tmp_path / "a.mp4", seconds=5.0)
    made = bring_in(context.database, context.workspace, file, "a.mp4")
    context.run(made.jobs[1])
    transcript.append_line(context.database, made.source_id, spoken(SAID))
    return made.project_id


def test_the_talk_and_what_can_go_of_it(client: TestClient, project: int) -> None:
    piece = view(client, project)["pieces"][0]
    talk = client.get(f"/api/pieces/{piece['id']}/talk").json()
    assert talk["digest"] == piece["digest"]
    words = [item for row in talk["rows"] for item in row["items"] if item["id"]]
    assert " ".join(word["text"] for word in words) == SAID
    found = client.get(f"/api/pieces/{piece['id']}/removals").json()
    assert [(one["kind"], one["text"]) for one in found] == [
        ("ends", ""),
        ("fillers", "um"),
        ("repeats", "we mend"),
        ("ends", ""),
    ]
    longest = client.get(f"/api/pieces/{piece['id']}/removals", params={"order": "saved"}).json()
    assert [one["saves_us"] for one in longest] == sorted(
        (one["saves_us"] for one in found), reverse=True
    )
    stretches = [{k: one[k] for k in ("strand_id", "from_us", "to_us")} for one in found]
    answer = edit(
        client, project, kind="cut_stretches", piece_id=piece["id"], stretches=stretches,
        found="suggestions",
    )  # fmt: skip
    assert answer["label"] == "take out 4 suggestions"
    now = answer["settings"]["pieces"][0]
    assert now["digest"] != piece["digest"]
    saved = sum(one["saves_us"] for one in found)
    assert piece["duration_us"] - now["duration_us"] == pytest.approx(saved, abs=4 * 20_000)
    assert client.get(f"/api/pieces/{piece['id']}/removals").json() == []
    text = client.get(f"/api/pieces/{piece['id']}/captions.txt").text
    assert " ".join(text.split()) == "So we mend kettles and chairs."


def test_fillers_are_listed_anew_and_come_back(client: TestClient, project: int) -> None:
    piece = view(client, project)["pieces"][0]["id"]
    usual = client.get(f"/api/pieces/{piece}/fillers").json()
    assert usual["language"] == "en"
    assert "um" in usual["fillers"]
    put = client.put("/api/fillers/en", json={"fillers": ["So", "  so ", "", "you  know"]})
    assert put.json()["fillers"] == ["So", "so", "you know"]
    found = client.get(f"/api/pieces/{piece}/removals").json()
    assert [one["text"] for one in found if one["kind"] == "fillers"] == ["So"]
    assert client.put("/api/fillers/en", json={"fillers": []}).json() == usual
    refused = client.put("/api/fillers/en", json={"fillers": ["x" * 100]})
    assert "Shorten the list" in refused.json()["message"]


def test_a_cut_piece_is_delivered_at_its_length(
    client: TestClient, context: AppContext, project: int
) -> None:
    piece = view(client, project)["pieces"][0]["id"]
    words = [
        item
        for row in client.get(f"/api/pieces/{piece}/talk").json()["rows"]
        for item in row["items"]
        if item["id"]
    ]
    strand = client.get(f"/api/pieces/{piece}/talk").json()["rows"][0]["strand_id"]
    passage = {"strand_id": strand, "first_word": words[2]["id"], "last_word": words[3]["id"]}
    edit(client, project, kind="strike_words", piece_id=piece, passages=[passage])
    length = view(client, project)["pieces"][0]["duration_us"]
    assert length < 4_500_000
    for ending, part in (("otio", '"OTIO_SCHEMA"'), ("edl", "TITLE: a")):
        listed = client.get(f"/api/pieces/{piece}/cuts.{ending}")
        assert part in listed.text
        assert f'filename="a.{ending}"' in listed.headers["content-disposition"]
    refused = client.get(f"/api/pieces/{piece}/cuts.aaf")
    assert "Try otio, edl" in refused.json()["message"]
    made = client.post(f"/api/pieces/{piece}/deliveries").json()
    shown = next(d for d in view(client, project)["deliveries"] if d["id"] == made["id"])
    assert shown["status"] == "done", shown["error"]
    video = next(file for file in shown["files"] if file["kind"] == "mp4")
    with av.open(str(context.workspace.delivery(made["id"]) / video["name"])) as reading:
        assert reading.duration == pytest.approx(length, abs=50_000)
    # What was delivered stays when its piece goes.
    edit(client, project, kind="new_piece", piece_id=piece, passages=[], name="Another")
    edit(client, project, kind="delete_piece", piece_id=piece)
    assert [d["id"] for d in view(client, project)["deliveries"]] == [made["id"]]
    got = client.get(f"/api/deliveries/{made['id']}/files/{video['name']}")
    assert got.status_code == 200


def test_what_is_asked_of_a_project_is_asked_of_the_piece_that_is_open(
    client: TestClient, project: int
) -> None:
    first = view(client, project)["pieces"][0]["id"]
    edit(client, project, kind="new_piece", piece_id=first, passages=[], name="Another")
    other = view(client, project)["pieces"][1]["id"]
    answer = client.post(
        f"/api/projects/{project}/script",
        params={"piece_id": other},
        json={"text": "We mend lamps."},
    )
    assert answer.status_code == 201, answer.text
    refused = client.post(
        f"/api/projects/{project}/script", params={"piece_id": 999}, json={"text": "We mend."}
    )
    assert refused.status_code == 404


def test_an_edit_over_the_captions_before_a_cut_is_late(client: TestClient, project: int) -> None:
    before = view(client, project)
    piece, cue = before["pieces"][0]["id"], before["cues"][-1]
    edit(client, project, kind="new_piece", piece_id=piece, passages=[], name="Another")
    strand = client.get(f"/api/pieces/{piece}/talk").json()["rows"][0]["strand_id"]
    stretch = {"strand_id": strand, "from_us": 0, "to_us": 300_000}
    edit(client, project, kind="cut_stretches", piece_id=piece, stretches=[stretch], found="ends")
    late = client.post(
        f"/api/projects/{project}/edits",
        json={
            "base_revision": before["revision"],
            "edit": {"kind": "set_cue_times", "cue_id": cue["id"], "end_us": cue["end_us"] + 1},
        },
    )
    assert (late.status_code, late.json()["code"]) == (409, "stale")
    missed = client.get(f"/api/projects/{project}/changes", params={"since": before["revision"]})
    assert missed.status_code in (404, 409), "it reads everything anew"


def test_passages_of_a_long_talk_become_pieces(context: AppContext, tmp_path: Path) -> None:
    client = TestClient(create_app(context, with_worker=False), base_url="http://127.0.0.1")
    seconds = LONG[-1].end_us / 1e6 + 1
    file = make_video(tmp_path / "long.mp4", seconds=seconds, size=(64, 48))
    made = bring_in(context.database, context.workspace, file, "long.mp4")
    transcript.append_line(context.database, made.source_id, LONG)
    first = view(client, made.project_id)["pieces"][0]["id"]
    best = client.get(f"/api/pieces/{first}/thoughts").json()[0]
    assert best["text"].startswith("Why does a kettle fuse blow?")
    assert "a question and its answer" in best["reasons"]
    passage = {key: best[key] for key in ("strand_id", "first_word", "last_word")}
    edit(client, made.project_id, kind="new_piece", piece_id=first, passages=[passage], name="")
    piece = view(client, made.project_id)["pieces"][1]
    assert piece["name"].startswith("Why does a kettle")
    assert piece["duration_us"] == pytest.approx(best["length_us"], abs=300_000)
