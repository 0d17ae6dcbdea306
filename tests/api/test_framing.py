"""Shapes and framings over HTTP: streams, stills, faces, deliveries, copies."""

from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest
from fastapi.testclient import TestClient

from mortiser.api.app import create_app
from mortiser.core.framing.subject import Face, Track
from mortiser.jobs.ingest import bring_in
from mortiser.settings import Settings
from mortiser.store import subjects, transcript
from mortiser.wiring import AppContext, open_context
from tests.api.routes import made as edit
from tests.api.routes import read as view
from tests.recordings import cut_demo, make_video
from tests.store.fixtures import spoken


@pytest.fixture
def context(tmp_path: Path) -> AppContext:
    return open_context(Settings(workspace=tmp_path / "w"), inline_jobs=True)


@pytest.fixture
def client(context: AppContext) -> TestClient:
    return TestClient(create_app(context, with_worker=False), base_url="http://127.0.0.1")


@pytest.fixture
def project(context: AppContext, tmp_path: Path) -> int:
    return brought_in(context, make_video(tmp_path / "a.mp4", seconds=5.0, size=(320, 180)))


def brought_in(context: AppContext, file: Path) -> int:
    made = bring_in(context.database, context.workspace, file, file.name)
    context.run(made.jobs[1])
    transcript.append_line(context.database, made.source_id, spoken("We mend kettles and chairs."))
    return made.project_id


def with_square(client: TestClient, project: int) -> tuple[int, Any]:
    piece = view(client, project)["pieces"][0]["id"]
    edit(client, project, kind="add_shape", piece_id=piece, width=240, height=240)
    return piece, view(client, project)["pieces"][0]["shapes"][1]


def picture(data: bytes, tmp_path: Path) -> np.ndarray:
    file = tmp_path / "picture"
    file.write_bytes(data)
    with av.open(str(file)) as reading:
        return next(reading.decode(video=0)).to_ndarray(format="rgb24").astype(int)


def test_each_shape_has_its_own_stream_and_stills(
    client: TestClient, project: int, tmp_path: Path
) -> None:
    piece, square = with_square(client, project)
    first = view(client, project)["pieces"][0]["shapes"][0]
    assert first["as_recorded"]
    assert not square["as_recorded"]
    stream = client.get(f"/api/pieces/{piece}/stream", params={"shape_id": square["id"]}).json()
    assert sum(part["duration_us"] for part in stream["parts"]) == pytest.approx(5e6, abs=5e4)
    seen = picture(client.get(stream["parts"][0]["url"]).content, tmp_path)
    assert seen.shape == (240, 240, 3)
    still = client.get(
        f"/api/pieces/{piece}/still.png", params={"at_us": 0, "shape_id": square["id"]}
    )
    assert picture(still.content, tmp_path).shape == (240, 240, 3)
    scene = client.get(
        f"/api/pieces/{piece}/scene",
        params={"from_us": 0, "to_us": 5_000_000, "shape_id": square["id"]},
    ).json()
    assert (scene["width"], scene["height"]) == (240, 240)
    assert client.get(f"/api/pieces/{piece}/stream", params={"shape_id": 9}).status_code == 404


def test_a_part_that_is_framed_otherwise_by_now_is_not_given_in_its_place(
    client: TestClient, project: int, tmp_path: Path
) -> None:
    piece, square = with_square(client, project)
    ids = {"piece_id": piece, "shape_id": square["id"]}

    def parts() -> list[str]:
        query = {"shape_id": square["id"]}
        found = client.get(f"/api/pieces/{piece}/stream", params=query).json()["parts"]
        return [part["url"] for part in found]

    before = parts()
    cue = view(client, project)["cues"][0]
    edit(client, project, kind="add_move", **ids, cue_ids=[cue["id"]], way="in", zoom=1.3)
    after = parts()
    assert before[0] != after[0]
    assert before[2] == after[2], "what does not move is what it was"
    assert client.get(before[0]).status_code == 404
    assert client.get(after[0]).status_code == 200
    left = picture(client.get(after[2]).content, tmp_path).mean(axis=(0, 1))
    edit(client, project, kind="pan_clips", **ids, cue_ids=[], by_x=0.3, by_y=0)
    moved = picture(client.get(parts()[2]).content, tmp_path).mean(axis=(0, 1))
    assert abs(moved - left).max() > 5, "another part of the picture shows"
    moves = client.get(f"/api/pieces/{piece}/framing", params={"shape_id": square["id"]}).json()
    assert [move["way"] for move in moves["moves"]] == ["in"]
    assert [clip["own"] for clip in moves["clips"]] == [False]


def test_every_shape_is_delivered(
    context: AppContext, client: TestClient, project: int, tmp_path: Path
) -> None:
    piece, square = with_square(client, project)
    made = client.post(f"/api/pieces/{piece}/deliveries").json()
    (delivery,) = view(client, project)["deliveries"]
    assert delivery["status"] == "done", delivery["error"]
    names = [file["name"] for file in delivery["files"]]
    assert names == ["a-wide.mp4", "a-square.mp4", "a.srt", "a.vtt"]
    shapes = []
    for name in names[:2]:
        data = client.get(f"/api/deliveries/{made['id']}/files/{name}").content
        shapes.append(picture(data, tmp_path).shape[:2])
    assert shapes == [(180, 320), (240, 240)]
    only = client.post(f"/api/pieces/{piece}/deliveries", json={"shape_ids": [square["id"]]}).json()
    found = next(one for one in view(client, project)["deliveries"] if one["id"] == only["id"])
    assert [file["name"] for file in found["files"]] == ["a.mp4", "a.srt", "a.vtt"]
    nowhere = client.post(f"/api/pieces/{piece}/deliveries", json={"shape_ids": [9]})
    assert nowhere.status_code == 404
    other = client.get(f"/api/deliveries/{made['id']}/files/mortiser.db")
    assert other.status_code == 404


def test_faces_are_looked_for_once_and_followed(
    context: AppContext, client: TestClient, tmp_path: Path
) -> None:
    project = brought_in(context, cut_demo(tmp_path / "kettle.mp4", 3.0))
    piece = view(client, project)["pieces"][0]["id"]
    edit(client, project, kind="add_shape", piece_id=piece, width=1080, height=1080)
    jobs = client.post(f"/api/pieces/{piece}/faces").json()
    assert [job["kind"] for job in jobs] == ["faces"]
    assert client.post(f"/api/pieces/{piece}/faces").json() == []
    found = client.get(f"/api/pieces/{piece}/framing", params={"shape_id": 2}).json()
    assert found["faces"]
    digests = []
    for py in (0.3, 0.6):
        changes = {"py": py}
        ids = {"piece_id": piece, "shape_id": 2, "cue_ids": []}
        edit(client, project, kind="frame_clips", **ids, changes=changes)
        digests.append(view(client, project)["pieces"][0]["shapes"][1]["digest"])
    assert len(set(digests)) == 2
    # The presenter's eyes are dark in a face: where it is put, there it is.
    still = client.get(f"/api/pieces/{piece}/still.png", params={"at_us": 100_000, "shape_id": 2})
    skin = picture(still.content, tmp_path)
    warm = (skin[..., 0] > 200) & (skin[..., 2] < 140) & (skin[..., 1] < 175)
    rows = np.nonzero(warm[:, 400:680].any(axis=1))[0]
    assert rows.size
    assert np.median(np.nonzero(warm[:, 400:680])[0]) / 1080 == pytest.approx(0.6, abs=0.1)


def test_a_copy_of_a_project_keeps_its_shapes_and_faces(
    context: AppContext, client: TestClient, project: int
) -> None:
    piece, _ = with_square(client, project)
    face = Face(x=0.4, y=0.4, width=0.1, height=0.2, score=0.9)
    track = Track(looks=tuple(range(25)), faces=(face,) * 25)
    subjects.keep(context.database, view(client, project)["sources"][0]["id"], (track,))
    for job in view(client, project)["jobs"]:
        # What is not done goes on in the copy: this is not about that.
        client.post(f"/api/jobs/{job['id']}/cancel")
    cue = view(client, project)["cues"][0]["id"]
    ids = {"piece_id": piece, "shape_id": 2, "cue_ids": [cue]}
    edit(client, project, kind="frame_clips", **ids, changes={"zoom": 1.5})
    edit(client, project, kind="add_move", **ids)
    copy = client.post(f"/api/projects/{project}/duplicate").json()["project_id"]
    other = view(client, copy)["pieces"][0]
    assert len(other["shapes"]) == 2
    found = client.get(f"/api/pieces/{other['id']}/framing", params={"shape_id": 2}).json()
    assert [clip["own"] for clip in found["clips"]] == [True]
    assert len(found["moves"]) == 1
    assert found["faces"]
    assert found["moves"][0]["source_id"] == view(client, copy)["sources"][0]["id"]


def test_a_jig_is_kept_and_makes_another_piece(client: TestClient, project: int) -> None:
    piece, _ = with_square(client, project)
    edit(client, project, kind="add_layer", piece_id=piece, layer="headline", text="Mend it")
    kept = client.post(f"/api/pieces/{piece}/jig", json={"name": "Mine"}).json()
    assert client.get("/api/jigs").json()[0]["jig"]["name"] == "Mine"
    file = client.get(f"/api/jigs/{kept['id']}/file")
    assert file.headers["content-disposition"].endswith('Mine.jig.json"')
    assert client.delete(f"/api/jigs/{kept['id']}").status_code == 204
    assert all(one["id"] is None for one in client.get("/api/jigs").json())
    again = client.post("/api/jigs/file", content=file.content).json()
    assert again["jig"] == kept["jig"]
    edit(client, project, kind="new_piece", piece_id=piece, passages=[], name="Other")
    other = view(client, project)["pieces"][1]["id"]
    edit(
        client,
        project,
        kind="apply_jig",
        piece_id=other,
        jig=next(one["jig"] for one in client.get("/api/jigs").json() if one["id"] is None),
    )
    assert len(view(client, project)["pieces"][1]["shapes"]) == 1
    edit(client, project, kind="apply_jig", piece_id=other, jig=again["jig"])
    shapes = view(client, project)["pieces"][1]["shapes"]
    assert [(one["width"], one["height"]) for one in shapes] == [(320, 180), (240, 240)]
    taken = client.post(f"/api/pieces/{piece}/jig", json={"name": "talk, TALL"})
    assert taken.status_code == 400
    assert client.post("/api/jigs/file", content=b"{}").status_code == 400


def face_track(x: float, *, drawn: bool = False) -> Track:
    face = Face(x=x, y=0.5, width=0.1, height=0.2, score=0.9)
    return Track(looks=tuple(range(26)), faces=(face,) * 26, drawn=drawn)


def test_a_face_is_chosen_where_it_is_seen(
    context: AppContext, client: TestClient, project: int
) -> None:
    piece, square = with_square(client, project)
    subjects.keep(context.database, 1, (face_track(0.4), face_track(0.6)))
    ids = {"piece_id": piece, "shape_id": square["id"]}
    where = {"at_us": 1_000_000, "shape_id": square["id"]}

    def seen() -> list[Any]:
        return client.get(f"/api/pieces/{piece}/faces", params=where).json()

    assert [one["followed"] for one in seen()] == [True, False]
    other = seen()[1]
    edit(client, project, kind="frame_clips", **ids, changes={"chosen": other["point"]})
    assert [one["followed"] for one in seen()] == [False, True]
    right = seen()[1]
    assert right["left"] + right["width"] / 2 == pytest.approx(0.5, abs=0.02), "at its point"
    edit(client, project, kind="frame_clips", **ids, changes={"chosen": "largest"})
    assert [one["followed"] for one in seen()] == [True, False]
    seat = {**other["point"], "speaker": "Ada"}
    edit(client, project, kind="frame_clips", **ids, changes={"seat": seat})
    assert [one["speaker"] for one in seen()] == ["", "Ada"]


def test_a_point_of_the_frame_is_one_of_the_picture_and_holds_the_face(
    context: AppContext, client: TestClient, project: int
) -> None:
    piece, square = with_square(client, project)
    subjects.keep(context.database, 1, (face_track(0.4),))
    where = {"at_us": 1_000_000, "shape_id": square["id"]}
    point = client.get(
        f"/api/pieces/{piece}/picture-point", params={**where, "x": 0.75, "y": 0.5}
    ).json()
    # A square of a picture of 16 : 9 is 9 / 16 of its width; the face lies in its middle.
    assert point["x"] == pytest.approx(0.4 + 0.25 * 9 / 16, abs=0.02)
    ids = {"piece_id": piece, "shape_id": square["id"]}
    edit(client, project, kind="hold_face", **ids, point=point)
    framing = client.get(f"/api/pieces/{piece}/framing", params=where).json()
    assert [one["at_us"] for one in framing["holds"]] == [1_000_000]
    near = min(framing["path"], key=lambda one: abs(one["at_us"] - 1_000_000))
    assert near["x"] > 0.45
    edit(client, project, kind="let_face_go", **ids, source_id=1, at_us=1_000_000)
    assert client.get(f"/api/pieces/{piece}/framing", params=where).json()["holds"] == []


def test_a_box_is_followed_and_stays_when_faces_are_looked_for(
    context: AppContext, client: TestClient, project: int
) -> None:
    piece, square = with_square(client, project)
    box = {"at_us": 500_000, "left": 0.3, "top": 0.3, "width": 0.4, "height": 0.4}
    made = client.post(f"/api/pieces/{piece}/box", json={**box, "shape_id": square["id"]}).json()
    (job,) = (one for one in view(client, project)["jobs"] if one["kind"] == "follow")
    assert job["status"] == "done"
    ids = {"piece_id": piece, "shape_id": square["id"]}
    edit(client, project, kind="frame_clips", **ids, changes={"chosen": made["point"]})
    (mine,) = client.get(
        f"/api/pieces/{piece}/faces", params={"at_us": 500_000, "shape_id": square["id"]}
    ).json()
    assert mine["followed"]
    assert mine["width"] == pytest.approx(0.4, abs=0.05)
    client.post(f"/api/pieces/{piece}/faces")
    (kept,) = subjects.of_sources(context.database.connection, [1])[1]
    assert kept.drawn
    small = {**box, "width": 0.001, "height": 0.001}
    client.post(f"/api/pieces/{piece}/box", json=small)
    failed = view(client, project)["jobs"][-1]
    assert (failed["status"], "larger" in failed["error"]) == ("failed", True)


def test_a_picture_is_dragged_to_its_edge_and_no_farther(client: TestClient, project: int) -> None:
    piece, square = with_square(client, project)
    ids = {"piece_id": piece, "shape_id": square["id"]}
    edit(client, project, kind="frame_clips", **ids, cue_ids=[], changes={"fit": "whole"})
    edit(client, project, kind="pan_clips", **ids, cue_ids=[], by_x=0, by_y=-4)
    before = view(client, project)
    framing = next(
        one["framing"] for one in before["pieces"][0]["shapes"] if one["id"] == square["id"]
    )
    assert 0.5 < framing["y"] <= 1
    edit(client, project, kind="pan_clips", **ids, cue_ids=[], by_x=0, by_y=-1)
    after = view(client, project)
    assert after["history"] == before["history"]
    undone = client.post(
        f"/api/projects/{project}/undo", json={"base_revision": after["revision"]}
    ).json()
    assert undone["label"] == before["history"]["undo"]
    found = undone["settings"]["pieces"][0]["shapes"]
    assert next(one["framing"]["y"] for one in found if one["id"] == square["id"]) == 0.5
