"""Several recordings in a project: each read, cut and put together with the others, over HTTP."""

from pathlib import Path

import av
from fastapi.testclient import TestClient

from mortiser.store import transcript
from mortiser.wiring import Shop
from tests.api.test_trim import SAID, client, edit, project, shop, view
from tests.recordings import make_video
from tests.store.fixtures import OTHER, spoken

__all__ = ["client", "project", "shop"]


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
    client: TestClient, project: int, shop: Shop, tmp_path: Path
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
    pulse = client.get(f"/api/projects/{project}/pulse").json()
    assert [source["id"] for source in pulse["sources"]] == [1, made["source_id"]]
    # What was done before it came can still be undone.
    undone = client.post(
        f"/api/projects/{project}/undo", json={"base_revision": now["revision"]}
    ).json()
    assert undone["history"]["undo"] is None
    assert len(view(client, project)["pieces"]) == 2


def test_a_piece_is_put_together_from_two_recordings_and_delivered(
    client: TestClient, project: int, shop: Shop, tmp_path: Path
) -> None:
    made = added(client, project, make_video(tmp_path / "b.mp4", seconds=5.0, size=(320, 180)))
    transcript.append_line(shop.database, made["source_id"], spoken(OTHER))
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
