"""Films without sound: brought into a project, seen over the talk, delivered."""

from pathlib import Path

import av
import pytest
from fastapi.testclient import TestClient

from tests.api.test_trim import client, context, edit, project, view  # noqa: F401
from tests.recordings import make_video


def sent(client: TestClient, project: int, file: Path) -> dict:  # noqa: F811
    answer = client.post(
        f"/api/projects/{project}/recordings", params={"name": file.name}, content=file.read_bytes()
    )
    assert answer.status_code == 201, answer.text
    return answer.json()


@pytest.fixture(params=["mp4", "webm", "mkv"])
def film(request: pytest.FixtureRequest, tmp_path: Path) -> Path:
    codec = "libvpx-vp9" if request.param == "webm" else "libx264"
    return make_video(tmp_path / f"kettle.{request.param}", seconds=2.0, codec=codec, tracks=0)


def test_a_film_without_sound_is_there_to_be_seen(
    client: TestClient,  # noqa: F811
    project: int,  # noqa: F811
    film: Path,
) -> None:
    pieces = len(view(client, project)["pieces"])
    made = sent(client, project, film)
    assert made["piece_id"] is None
    now = view(client, project)
    assert len(now["pieces"]) == pieces
    (source,) = [one for one in now["sources"] if one["id"] == made["source_id"]]
    assert (source["width"], source["height"]) == (160, 120)
    assert source["duration_us"] == pytest.approx(2_000_000, abs=60_000)
    jobs = client.get(f"/api/projects/{project}/status").json()["jobs"]
    assert not [one for one in jobs if one["status"] == "failed"]
    assert [one["kind"] for one in jobs].count("transcribe") == 1, "the talk's own"
    piece = now["pieces"][0]
    word = now["cues"][0]["words"][0]
    seen = {"kind": "recording", "source_id": made["source_id"], "from_us": 0}
    edit(client, project, kind="add_cutaway", piece_id=piece["id"], from_word=word["id"], seen=seen)
    at = (word["start_us"] + word["end_us"]) // 2
    still = client.get(f"/api/pieces/{piece['id']}/still.png", params={"at_us": at})
    assert still.status_code == 200
    parts = client.get(f"/api/pieces/{piece['id']}/stream").json()["parts"]
    assert client.get(parts[0]["url"]).status_code == 200


def test_its_picture_is_as_it_was_and_nothing_is_heard(
    client: TestClient,  # noqa: F811
    project: int,  # noqa: F811
    context,  # noqa: F811
    film: Path,
) -> None:
    packets = []
    source = sent(client, project, film)["source_id"]
    row = context.database.connection.execute("SELECT path FROM source WHERE id = ?", (source,))
    for path in (film, context.workspace.path(row.fetchone()["path"])):
        with av.open(str(path)) as reading:
            packets.append([bytes(one) for one in reading.demux(video=0) if one.pts is not None])
    assert packets[0] == packets[1]
    with av.open(str(path)) as reading:
        sound = [frame.to_ndarray() for frame in reading.decode(audio=0)]
    assert sum(one.shape[1] for one in sound) >= 2 * 48_000 - 1_024
    assert max(abs(one).max() for one in sound) < 1e-3


def test_by_itself_it_is_nothing_to_caption(client: TestClient, tmp_path: Path) -> None:  # noqa: F811
    film = make_video(tmp_path / "kettle.mp4", tracks=0)
    answer = client.post("/api/projects", params={"name": "k.mp4"}, content=film.read_bytes())
    assert answer.status_code in (400, 422)
    assert "films without sound can be seen over it" in answer.json()["message"]


def test_where_it_is_named_it_is_offered(
    client: TestClient,  # noqa: F811
    project: int,  # noqa: F811
    film: Path,
) -> None:
    (piece, *_) = view(client, project)["pieces"]
    ideas = f"/api/pieces/{piece['id']}/cutaway-ideas"
    assert [one for one in client.get(ideas).json() if one["seen"]] == []
    source = sent(client, project, film)["source_id"]
    found = [one for one in client.get(ideas).json() if one["seen"]]
    assert [(one["seen"]["source_id"], one["reason"]) for one in found] == [
        (source, "“kettle” is said")
    ]
    edit(
        client, project, kind="add_cutaway", piece_id=piece["id"], cue_ids=[found[0]["cue_id"]],
        seen=found[0]["seen"],
    )  # fmt: skip
    assert [one for one in client.get(ideas).json() if one["seen"]] == []


def test_cut_lists_carry_transitions_and_cutaways(client: TestClient, project: int) -> None:  # noqa: F811
    (piece, *_) = view(client, project)["pieces"]
    words = [word for cue in view(client, project)["cues"] for word in cue["words"]]
    talk = client.get(f"/api/pieces/{piece['id']}/talk").json()
    passage = {
        "strand_id": talk["rows"][0]["strand_id"],
        "first_word": words[3]["id"],
        "last_word": words[4]["id"],
    }
    edit(client, project, kind="strike_words", piece_id=piece["id"], passages=[passage])
    edit(client, project, kind="set_joins", piece_id=piece["id"], where="everywhere")
    seen = {"kind": "recording", "source_id": piece["source_id"], "from_us": 1_000_000}
    edit(
        client, project, kind="add_cutaway", piece_id=piece["id"], from_word=words[0]["id"],
        seen=seen,
    )  # fmt: skip
    text = client.get(f"/api/pieces/{piece['id']}/cuts.otio").text
    assert "SMPTE_Dissolve" in text
    assert '"Cutaways"' in text
    edl = client.get(f"/api/pieces/{piece['id']}/cuts.edl").text
    assert "SEEN OVER IT FROM" in edl
    (cut, *_) = client.get(f"/api/pieces/{piece['id']}/cuts").json()
    assert cut["transition"]["kind"] == "dissolve"
    for name in ("transitions", "grades"):
        sheet = client.get(f"/api/pieces/{piece['id']}/{name}.jpg", params={"at_us": cut["at_us"]})
        assert sheet.headers["content-type"] == "image/jpeg"
        assert sheet.content.startswith(b"\xff\xd8\xff")
