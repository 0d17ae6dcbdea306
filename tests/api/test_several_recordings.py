"""Several recordings in a project: each read, cut and put together with the others, over HTTP."""

from pathlib import Path

import av
from fastapi.testclient import TestClient

from mortiser.store import transcript
from mortiser.wiring import AppContext
from tests.api.test_trim import SAID, client, context, edit, project, view
from tests.recordings import make_video
from tests.store.fixtures import OTHER, spoken

__all__ = ["client", "context", "project"]


def added(client: TestClient, project: int, file: Path, **params: object) -> dict[str, int]:
    answer = client.post(
        f"/api/projects/{project}/recordings",
        params={"name": file.name, "transcribe": False, **params},
        content=file.read_bytes(),
    )
    assert answer.status_code == 201, answer.text
    made: dict[str, int] = answer.json()
    return made


def test_another_recording_has_a_piece_of_its_own(
    client: TestClient, project: int, context: AppContext, tmp_path: Path
) -> None:
    first = view(client, project)["pieces"][0]
    edit(client, project, kind="set_finish", piece_id=first["id"], finish="Chalk")
    made = added(client, project, make_video(tmp_path / "Take_two.mp4", seconds=4.0))
    now = view(client, project)
    assert [source["name"] for source in now["sources"]] == ["a.mp4", "Take_two.mp4"]
    piece = now["pieces"][1]
    assert (piece["id"], piece["source_id"]) == (made["piece_id"], made["source_id"])
    assert (piece["name"], piece["finish"]["name"]) == ("Take two", "Chalk")
    assert piece["untouched"]
    jobs = {(job["kind"], job["source_id"]) for job in now["jobs"]}
    assert ("prepare", made["source_id"]) in jobs
    status = client.get(f"/api/projects/{project}/status").json()
    assert [source["id"] for source in status["sources"]] == [1, made["source_id"]]
    # What was done before it came can still be undone.
    undone = client.post(
        f"/api/projects/{project}/undo", json={"base_revision": now["revision"]}
    ).json()
    assert undone["history"]["undo"] is None
    assert len(view(client, project)["pieces"]) == 2


def test_the_captions_of_one_piece_are_read_alone(
    client: TestClient, project: int, context: AppContext, tmp_path: Path
) -> None:
    made = added(client, project, make_video(tmp_path / "b.mp4", seconds=5.0, size=(320, 180)))
    transcript.append_line(context.database, made["source_id"], spoken(OTHER))
    first, second = (piece["id"] for piece in view(client, project)["pieces"])
    whole = view(client, project)["cues"]
    assert {cue["piece_id"] for cue in whole} == {first, second}
    for asked, given in ((first, first), (second, second), (0, first), (second + 90, first)):
        answer = client.get(f"/api/projects/{project}", params={"shown": asked}).json()
        assert answer["cues"] == [cue for cue in whole if cue["piece_id"] == given]
        assert len(answer["pieces"]) == 2


def test_a_piece_is_put_together_from_two_recordings_and_delivered(
    client: TestClient, project: int, context: AppContext, tmp_path: Path
) -> None:
    made = added(client, project, make_video(tmp_path / "b.mp4", seconds=5.0, size=(320, 180)))
    transcript.append_line(context.database, made["source_id"], spoken(OTHER))
    first = view(client, project)["pieces"][0]["id"]

    def words(piece_id: int) -> list[dict[str, object]]:
        rows = client.get(f"/api/pieces/{piece_id}/talk").json()["rows"]
        return [
            item | {"strand_id": row["strand_id"]}
            for row in rows
            for item in row["items"]
            if item["id"]
        ]

    mine, theirs = words(first), words(made["piece_id"])
    passage = {"strand_id": theirs[0]["strand_id"]}
    passage |= {"first_word": theirs[0]["id"], "last_word": theirs[2]["id"]}
    edit(
        client,
        project,
        kind="put_passages",
        piece_id=first,
        from_piece_id=made["piece_id"],
        passages=[passage],
        behind={"strand_id": mine[1]["strand_id"], "word_id": mine[1]["id"]},
    )
    said = " ".join(str(word["text"]) for word in words(first))
    assert said == SAID.replace("So um", "So um Bring your radio")
    stream = client.get(f"/api/pieces/{first}/stream").json()
    sources = {part["url"].split("/")[3] for part in stream["parts"]}
    assert sources == {"1", str(made["source_id"])}
    part = client.get(stream["parts"][-1]["url"])
    assert part.status_code == 200
    made = client.post(f"/api/pieces/{first}/deliveries").json()
    (delivery,) = view(client, project)["deliveries"]
    video = next(one for one in delivery["files"] if one["name"].endswith(".mp4"))
    got = client.get(f"/api/deliveries/{made['id']}/files/{video['name']}")
    file = tmp_path / "made.mp4"
    file.write_bytes(got.content)
    with av.open(str(file)) as reading:
        length = float(reading.duration / av.time_base)
    duration = view(client, project)["pieces"][0]["duration_us"] / 1e6
    assert abs(length - duration) < 0.1


def test_only_a_project_that_is_there_takes_a_recording(
    client: TestClient, project: int, tmp_path: Path
) -> None:
    gone = client.post("/api/projects/99/recordings", params={"name": "a.mp4"}, content=b"x")
    assert gone.status_code == 404
    bad = client.post(
        f"/api/projects/{project}/recordings", params={"name": "a.mp4"}, content=b"no video"
    )
    assert bad.status_code == 422
    assert len(view(client, project)["sources"]) == 1


def test_all_recordings_are_searched_and_a_sentence_of_any_is_put_in(
    client: TestClient, project: int, context: AppContext, tmp_path: Path
) -> None:
    made = added(client, project, make_video(tmp_path / "b.mp4", seconds=6.0))
    transcript.append_line(context.database, made["source_id"], spoken(OTHER))
    first = view(client, project)["pieces"][0]["id"]
    found = client.get(f"/api/pieces/{first}/said", params={"text": "we"}).json()
    assert [one["recording"] for one in found] == ["a.mp4", "b.mp4"]
    here, there = found
    assert (here["at_us"] is None, there["at_us"]) == (False, None)
    assert [word["text"] for word in there["words"] if word["noticed"]] == ["we"]
    said = {key: there[key] for key in ("first_word", "last_word")}
    edit(client, project, kind="put_recorded", piece_id=first, said=said)
    (again,) = client.get(f"/api/pieces/{first}/said", params={"text": "radio"}).json()
    assert again["at_us"] < 1_000_000
    assert client.get(f"/api/pieces/{first}/said", params={"text": "toaster"}).json() == []
    (all_of_it,) = client.get(
        f"/api/pieces/{first}/said", params={"source_id": made["source_id"]}
    ).json()
    assert " ".join(word["text"] for word in all_of_it["words"]) == OTHER


def test_takes_of_the_same_words_are_told_and_one_is_used_for_the_other(
    client: TestClient, project: int, context: AppContext, tmp_path: Path
) -> None:
    made = added(client, project, make_video(tmp_path / "b.mp4", seconds=8.0))
    again = "So we mend kettles and old chairs. Now for something else."
    transcript.append_line(context.database, made["source_id"], spoken(again))
    first = view(client, project)["pieces"][0]["id"]
    (group,) = client.get(f"/api/pieces/{first}/takes").json()
    one, other = group["takes"]
    assert [take["recording"] for take in (one, other)] == ["a.mp4", "b.mp4"]
    noticed = [[w["text"] for w in take["words"] if w["noticed"]] for take in (one, other)]
    assert noticed == [["um", "we", "mend"], ["old"]]
    assert one["at_us"] is not None
    assert other["at_us"] is None

    def words_of(take: dict) -> dict:
        return {key: take[key] for key in ("first_word", "last_word")}

    edit(
        client,
        project,
        kind="use_take",
        piece_id=first,
        instead={"strand_id": one["strand_id"], **words_of(one)},
        take=words_of(other),
    )
    (group,) = client.get(f"/api/pieces/{first}/takes").json()
    assert [take["at_us"] is None for take in group["takes"]] == [True, False]


def test_what_a_recording_says_beyond_a_passage_is_told_and_brought_in(
    client: TestClient, project: int, context: AppContext
) -> None:
    first = view(client, project)["pieces"][0]["id"]
    talk = client.get(f"/api/pieces/{first}/talk").json()
    assert talk["beyond"] == [], "all of the recording was put in"
    words = [item for row in talk["rows"] for item in row["items"] if item["id"]]
    middle = words[len(words) // 2]["id"]
    passage = {"strand_id": talk["rows"][0]["strand_id"], "first_word": middle, "last_word": middle}
    edit(client, project, kind="new_piece", piece_id=first, passages=[passage])
    piece = view(client, project)["pieces"][1]["id"]
    told = client.get(f"/api/pieces/{piece}/talk").json()["beyond"]
    assert [one["side"] for one in told] == ["before", "behind"]
    strand = told[0]["strand_id"]
    edit(client, project, kind="bring_in", piece_id=piece, strand_id=strand, side="behind")
    after = client.get(f"/api/pieces/{piece}/talk").json()
    kept = [item["text"] for row in after["rows"] for item in row["items"] if item["id"]]
    assert " ".join(kept).endswith(told[1]["text"])


def test_a_recording_is_removed_with_what_plays_of_it_and_comes_back(
    client: TestClient, project: int, context: AppContext, tmp_path: Path
) -> None:
    made = added(client, project, make_video(tmp_path / "b.mp4", seconds=5.0, size=(320, 180)))
    transcript.append_line(context.database, made["source_id"], spoken(OTHER))
    first = view(client, project)["pieces"][0]
    said = [cue for cue in view(client, project)["cues"] if cue["piece_id"] == made["piece_id"]]
    words = [word["id"] for cue in said for word in cue["words"]]
    put = {"first_word": words[0], "last_word": words[2]}
    edit(client, project, kind="put_recorded", piece_id=first["id"], said=put)
    before = view(client, project)
    path = f"/api/projects/{project}/recordings/{made['source_id']}/losses"
    losses = client.get(path).json()
    assert [(one["name"], one["whole"]) for one in losses] == [("a", False), ("b", True)]
    assert 0 < losses[0]["lost_us"] < 3_000_000

    edit(client, project, kind="remove_recording", source_id=made["source_id"])
    now = view(client, project)
    assert [source["name"] for source in now["sources"]] == ["a.mp4"]
    assert [piece["name"] for piece in now["pieces"]] == ["a"]
    assert now["pieces"][0]["duration_us"] == first["duration_us"]
    assert now["pieces"][0]["whole_us"] == first["whole_us"]
    texts = " ".join(word["text"] for cue in now["cues"] for word in cue["words"])
    assert texts == SAID
    assert now["history"]["undo"] == "remove b.mp4"
    assert client.get(path).status_code == 404
    assert client.get(f"/api/projects/{project}/status").json()["sources"] == now["sources"]

    client.post(f"/api/projects/{project}/undo", json={"base_revision": now["revision"]})
    again = view(client, project)
    for part in ("sources", "pieces", "cues"):
        assert again[part] == before[part], part
    refused = client.post(
        f"/api/projects/{project}/edits",
        json={
            "base_revision": again["revision"],
            "edit": {"kind": "remove_recording", "source_id": 1},
        },
    )
    assert refused.status_code == 200, "something else is left"
    now = view(client, project)
    refused = client.post(
        f"/api/projects/{project}/edits",
        json={
            "base_revision": now["revision"],
            "edit": {"kind": "remove_recording", "source_id": made["source_id"]},
        },
    )
    assert refused.status_code == 400
    assert "Delete the project instead" in refused.json()["message"]
