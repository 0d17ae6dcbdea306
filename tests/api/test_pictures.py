"""Pictures over HTTP, as layers and behind; a song beside its cover."""

import io
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from mortiser.api.app import create_app
from mortiser.jobs.ingest import bring_in
from mortiser.settings import Settings
from mortiser.store import transcript
from mortiser.wiring import AppContext, open_context
from tests.api.routes import made as edit
from tests.api.routes import read as view
from tests.recordings import make_video
from tests.store.fixtures import spoken

DEMO = Path("src/mortiser/demo/media")


@pytest.fixture
def context(tmp_path: Path) -> AppContext:
    return open_context(Settings(workspace=tmp_path / "w"), inline_jobs=True)


@pytest.fixture
def client(context: AppContext) -> TestClient:
    return TestClient(create_app(context, with_worker=False), base_url="http://127.0.0.1")


def brought_in(context: AppContext, file: Path) -> int:
    made = bring_in(context.database, context.workspace, file, file.name)
    context.run(made.jobs[1])
    transcript.append_line(context.database, made.source_id, spoken("We mend kettles and chairs."))
    return made.project_id


def red(client: TestClient, name: str = "red.png") -> Any:
    out = io.BytesIO()
    Image.new("RGB", (80, 40), (220, 20, 20)).save(out, "PNG")
    answer = client.post("/api/pictures", params={"name": name}, content=out.getvalue())
    assert answer.status_code == 201
    return answer.json()


def still(client: TestClient, piece: int, at_us: int, **more: Any) -> np.ndarray:
    answer = client.get(f"/api/pieces/{piece}/still.png", params={"at_us": at_us, **more})
    with av.open(io.BytesIO(answer.content)) as reading:
        return next(reading.decode(video=0)).to_ndarray(format="rgb24").astype(int)


def is_red(pixel: np.ndarray) -> bool:
    return bool(np.abs(pixel - (220, 20, 20)).max() < 12)


def test_a_picture_is_brought_in_once_and_chosen_again(client: TestClient) -> None:
    first, again = red(client), red(client, "the same.png")
    assert first["digest"] == again["digest"]
    assert [one["name"] for one in client.get("/api/pictures").json()] == ["the same.png"]
    sized = client.get(f"/api/pictures/{first['digest']}/33x17.png")
    with Image.open(io.BytesIO(sized.content)) as image:
        assert image.size == (33, 17)
    assert client.get(f"/api/pictures/{'0' * 32}/3x3.png").status_code == 404
    assert client.get("/api/pictures/nothing/3x3.png").status_code == 400
    assert client.post("/api/pictures", content=b"words").status_code == 400
    assert client.post("/api/pictures", content=b"").status_code == 400


def test_a_picture_lies_over_a_piece_and_is_copied_to_another(
    context: AppContext, client: TestClient, tmp_path: Path
) -> None:
    project = brought_in(context, make_video(tmp_path / "a.mp4", seconds=3.0, size=(320, 180)))
    piece = view(client, project)["pieces"][0]["id"]
    edit(client, project, kind="add_layer", piece_id=piece, layer="picture", picture=red(client))
    place = {"x": 0.25, "y": 0.25, "width": 0.3}
    ids = {"piece_id": piece, "layer_id": 1}
    edit(client, project, kind="place_layer", **ids, shape_id=1, changes=place)
    assert is_red(still(client, piece, 1_000_000)[45, 80])
    assert not is_red(still(client, piece, 1_000_000)[135, 240])
    edit(client, project, kind="new_piece", piece_id=piece, passages=[], name="Other")
    other = view(client, project)["pieces"][1]["id"]
    edit(client, project, kind="add_layer", piece_id=other, layer="bar")
    edit(client, project, kind="copy_layer", **ids, to_piece_id=other)
    copied = view(client, project)["pieces"][1]
    assert [one["kind"] for one in copied["layers"]][-1] == "picture"
    number = str(copied["layers"][-1]["id"])
    assert copied["shapes"][0]["places"][number]["x"] == 0.25
    assert is_red(still(client, other, 1_000_000)[45, 80])


def test_a_picture_lies_behind_in_stills_and_segments(
    context: AppContext, client: TestClient, tmp_path: Path
) -> None:
    project = brought_in(context, make_video(tmp_path / "a.mp4", seconds=3.0, size=(320, 180)))
    piece = view(client, project)["pieces"][0]["id"]
    edit(client, project, kind="add_shape", piece_id=piece, width=240, height=426)
    ids = {"piece_id": piece, "shape_id": 2}
    edit(client, project, kind="frame_clips", **ids, changes={"fit": "whole", "follow": "off"})
    behind = {"kind": "picture", "picture": red(client), "dark": 0, "soft": 0.5}
    edit(client, project, kind="set_backdrop", **ids, backdrop=behind)
    assert is_red(still(client, piece, 1_000_000, shape_id=2)[40, 120])
    parts = client.get(f"/api/pieces/{piece}/stream", params={"shape_id": 2}).json()["parts"]
    segment = client.get(parts[0]["url"])
    with av.open(io.BytesIO(segment.content)) as reading:
        frame = next(reading.decode(video=0)).to_ndarray(format="rgb24").astype(int)
    assert is_red(frame[frame.shape[0] // 10, frame.shape[1] // 2])
    edit(
        client, project, kind="set_backdrop", **ids,
        backdrop={**behind, "picture": {**behind["picture"], "digest": "0" * 32}, "first": [0, 200, 0, 255]},
    )  # fmt: skip
    gone = still(client, piece, 1_000_000, shape_id=2)[40, 120]
    assert gone[1] > 150, "its colour, where the picture is not in this workspace"


def test_a_song_is_shown_beside_its_cover(
    context: AppContext, client: TestClient, tmp_path: Path
) -> None:
    song = tmp_path / "song.m4a"
    with av.open(str(DEMO / "lyric.m4a")) as old, av.open(str(song), "w", format="mp4") as new:
        stream = new.add_stream_from_template(old.streams.audio[0])
        new.metadata.update(title="Lantern Lane", artist="The Mending Room")
        for packet in old.demux(old.streams.audio[0]):
            if packet.dts is not None:
                packet.stream = stream
                new.mux(packet)
    project = brought_in(context, song)
    piece = view(client, project)["pieces"][0]["id"]
    answer = client.post(f"/api/projects/{project}/cover", json=red(client))
    assert answer.status_code == 204
    found = view(client, project)["pieces"][0]
    assert [one["text"] for one in found["layers"] if one["kind"] == "headline"] == [
        "Lantern Lane",
        "The Mending Room",
    ]
    assert [(one["word"], one["as_recorded"]) for one in found["shapes"]] == [
        ("wide", False),
        ("tall", False),
    ]
    wide = still(client, piece, 1_000_000, shape_id=1)
    assert is_red(wide[540, 480])
    assert wide[40, 40, 0] > 60 > wide[40, 40, 2], "soft and dark behind"
    loud, quiet = (
        still(client, piece, at, shape_id=1)[760:1060, 1370:1400] for at in (1_000_000, 13_300_000)
    )
    light = [int((part.min(axis=2) > 180).sum()) for part in (loud, quiet)]
    assert light[0] > 2 * light[1], "the waveform in its middle"
    edits = view(client, project)["history"]
    assert edits["undo"] == "jig Lyrics beside a cover"
