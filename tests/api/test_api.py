"""The routes in process, jobs run inline."""

import json
import os
import subprocess
from email.message import Message
from pathlib import Path

import pytest
import skia
from fastapi.testclient import TestClient

from mortiser.api import page_values
from mortiser.api.app import create_app
from mortiser.api.openapi import description
from mortiser.core.delivery.naming import file_stem
from mortiser.core.framing.layer import LAYER_NAMES
from mortiser.core.project.text_forms import TEXT_FORMS
from mortiser.wiring import AppContext
from tests.api.routes import context_in, edit, read
from tests.recordings import COUNTER, make_sound, make_video


def leftovers(context: AppContext) -> list[Path]:
    return [*(context.workspace.root / "uploads").iterdir()]


def test_a_dropped_recording_becomes_a_captioned_project(client: TestClient, project: int) -> None:
    view = read(client, project)
    assert view["name"] == "At the counter"
    assert {job["status"] for job in view["jobs"]} == {"done"}
    assert {job["kind"] for job in view["jobs"]} == {
        "transcribe",
        "prepare",
        "speakers",
        "doubt",
    }
    said = " ".join(w["text"] for cue in view["cues"] for w in cue["words"])
    assert said.startswith("Welcome back to the mending room.")
    assert view["sources"][0]["kind"] == "audio"
    assert [(one["width"], one["height"]) for one in view["pieces"][0]["shapes"]] == [(1080, 1920)]


def test_an_edit_is_answered_with_what_changed_and_undone(client: TestClient, project: int) -> None:
    view = read(client, project)
    cue = view["cues"][0]
    text = " ".join(w["text"] for w in cue["words"])
    answer = edit(
        client, project, view["revision"], kind="retype_cue", cue_id=cue["id"], text=f"Oh {text}"
    ).json()
    assert answer["history"] == {"undo": "retype “Oh”", "redo": None}
    assert next(c for c in answer["cues"] if c["id"] == cue["id"])["words"][0]["text"] == "Oh"
    back = client.post(
        f"/api/projects/{project}/undo", json={"base_revision": answer["revision"]}
    ).json()
    assert read(client, project)["cues"] == view["cues"]
    assert back["history"]["redo"] == "retype “Oh”"


def test_a_typed_word_is_put_on_its_sound_under_the_same_undo(
    client: TestClient, project: int, context: AppContext
) -> None:
    view = read(client, project)
    cue = next(
        c for c in view["cues"] if any(w["text"].startswith("capacitor") for w in c["words"])
    )
    index = next(i for i, w in enumerate(cue["words"]) if w["text"].startswith("capacitor"))
    known = cue["words"][index]
    texts = [w["text"] for w in cue["words"]]
    without = " ".join(texts[:index] + texts[index + 1 :])
    answer = edit(
        client, project, view["revision"], kind="retype_cue", cue_id=cue["id"], text=without
    ).json()
    again = edit(
        client,
        project,
        answer["revision"],
        kind="retype_cue",
        cue_id=cue["id"],
        text=" ".join(texts),
    ).json()
    typed = next(c for c in again["cues"] if c["id"] == cue["id"])["words"][index]
    assert not typed["aligned"]
    context.typed_words.settle()
    path = f"/api/projects/{project}"
    caught = client.get(f"{path}/changes", params={"since": again["revision"]}).json()
    assert caught["revision"] == again["revision"] + 1
    word = next(c for c in caught["cues"] if c["id"] == cue["id"])["words"][index]
    assert word["aligned"]
    assert abs(word["start_us"] - known["start_us"]) <= 60_000
    assert abs(word["end_us"] - known["end_us"]) <= 60_000
    # What followed by itself comes in nobody's way: not in that of an undo,
    undone = client.post(f"{path}/undo", json={"base_revision": again["revision"]})
    assert undone.status_code == 200
    # nor in that of an edit of another caption. One of the same words is refused.
    revision = undone.json()["revision"]
    about = {"kind": "retype_cue", "text": "tea"}
    assert edit(client, project, view["revision"], cue_id=cue["id"], **about).status_code == 409
    client.post(f"{path}/undo", json={"base_revision": revision})
    assert client.get(f"{path}/changes", params={"since": 10**6}).status_code == 409
    assert read(client, project)["cues"] == view["cues"]


def test_a_piece_can_be_streamed_in_segments(client: TestClient, project: int) -> None:
    (piece,) = read(client, project)["pieces"]
    assert piece["untouched"]
    stream = client.get(f"/api/pieces/{piece['id']}/stream").json()
    assert "avc1" in stream["kind"]
    assert sum(part["duration_us"] for part in stream["parts"]) == piece["duration_us"]
    answer = client.get(stream["parts"][0]["url"])
    assert answer.status_code == 200
    assert "immutable" in answer.headers["cache-control"]
    assert b"moof" in answer.content[:4_000]
    source = piece["source_id"]
    size = {"width": 160, "height": 120}
    refused = client.get(f"/api/sources/{source}/segments/0-9000000.mp4", params=size)
    assert refused.status_code == 400
    times = client.get(f"/api/pieces/{piece['id']}/frames").content
    assert len(times) % 8 == 0
    assert len(times) // 8 >= piece["duration_us"] // 40_000


def test_a_stale_edit_gets_409_and_says_so(client: TestClient, project: int) -> None:
    answer = edit(client, project, 999, kind="set_finish", piece_id=1, finish="Pine")
    assert answer.status_code == 409
    assert answer.json()["code"] == "stale"


@pytest.mark.parametrize(
    ("command", "status", "says"),
    [
        ({"kind": "polish"}, 400, "edit"),
        ({"kind": "retype_cue", "cue_id": 10**6, "text": "x"}, 404, "not there any more"),
        ({"kind": "set_cue_times", "cue_id": 1, "start_us": -5}, 400, "greater than or equal to 0"),
        ({"kind": "retype_cue", "cue_id": 1, "text": "x", "colour": "red"}, 400, "not permitted"),
        ({"kind": "set_finish", "piece_id": 1, "finish": "Varnish"}, 400, "no finish “Varnish”"),
    ],
)
def test_bad_edits_are_explained(
    client: TestClient, project: int, command: dict, status: int, says: str
) -> None:
    revision = read(client, project)["revision"]
    answer = edit(client, project, revision, **command)
    assert answer.status_code == status
    assert says in answer.json()["message"]
    assert read(client, project)["revision"] == revision


@pytest.mark.parametrize(
    ("path", "status"),
    [
        ("/api/projects/999", 404),
        ("/api/sources/999/media", 404),
        ("/api/pieces/999/scene?from_us=0&to_us=1", 404),
        ("/api/pieces/1/captions.doc", 404),
        ("/api/pieces/1/scene?from_us=0&to_us=1&finish=Varnish", 404),
        ("/api/deliveries/999/files/a.mp4", 404),
        ("/api/pieces/1/scene?from_us=-1&to_us=1", 400),
        ("/api/nothing", 404),
    ],
)
def test_what_is_not_there_is_said(
    client: TestClient, project: int, path: str, status: int
) -> None:
    answer = client.get(path)
    assert answer.status_code == status
    assert answer.json()["message"]


def test_scene_peaks_frames_and_files(client: TestClient, project: int) -> None:
    view = read(client, project)
    piece, source = view["pieces"][0]["id"], view["sources"][0]["id"]
    scene = client.get(
        f"/api/pieces/{piece}/scene", params={"from_us": 0, "to_us": 5_000_000}
    ).json()
    assert {c["id"] for c in scene["cues"]} == {
        c["id"] for c in view["cues"] if c["start_us"] < 5_000_000
    }
    peaks = client.get(
        f"/api/pieces/{piece}/peaks", params={"from_us": 0, "to_us": 2_000_000}
    ).json()
    assert len(peaks["peaks"]) == 400
    assert max(peaks["peaks"]) > 60
    part = client.get(f"/api/sources/{source}/media", headers={"Range": "bytes=4-7"})
    assert (part.status_code, part.content) == (206, b"ftyp")
    assert client.get(f"/api/sources/{source}/poster").status_code == 404
    caption_file = client.get(f"/api/pieces/{piece}/captions.vtt")
    assert caption_file.headers["content-type"].startswith("text/vtt")
    assert caption_file.text.startswith("WEBVTT\n\n00:00:0")
    assert json.loads(client.get(f"/api/pieces/{piece}/captions.json").text)["words"]
    later = client.get(f"/api/pieces/{piece}/cues", params={"from_us": 20_000_000}).json()
    assert later == [c for c in view["cues"] if c["end_us"] > 20_000_000]


def test_a_delivery_of_sound_alone_and_its_files(client: TestClient, tmp_path: Path) -> None:
    clip = speech_clip(tmp_path).read_bytes()
    short = client.post("/api/projects", params={"name": "a/b:c?.wav"}, content=clip).json()
    view = read(client, short["project_id"])
    made = client.post(f"/api/pieces/{view['pieces'][0]['id']}/deliveries").json()
    view = read(client, view["id"])
    delivery = view["deliveries"][0]
    assert delivery["id"] == made["id"]
    assert delivery["status"] == "done"
    assert [f["name"] for f in delivery["files"]] == ["bc.mp4", "bc.srt", "bc.vtt"]
    for file in delivery["files"]:
        answer = client.get(f"/api/deliveries/{made['id']}/files/{file['name']}")
        assert len(answer.content) == file["size"] > 0
    assert client.get(f"/api/deliveries/{made['id']}/files/bc.partial").status_code == 404
    client.delete(f"/api/projects/{view['id']}")


def speech_clip(folder: Path) -> Path:
    import av

    out = folder / "short.wav"
    with av.open(str(COUNTER)) as reading, av.open(str(out), "w") as writing:
        stream = writing.add_stream("pcm_s16le", rate=24_000, layout="mono")
        for frame in reading.decode(audio=0):
            if frame.time > 3:
                break
            frame.pts = None
            writing.mux(stream.encode(frame))
        writing.mux(stream.encode(None))
    return out


def test_a_speechless_recording_has_nothing_to_deliver(client: TestClient, tmp_path: Path) -> None:
    tone = make_sound(tmp_path / "tone.wav", "pcm_s16le")
    made = client.post(
        "/api/projects", params={"name": "tone.wav"}, content=tone.read_bytes()
    ).json()
    view = read(client, made["project_id"])
    if not view["cues"]:
        answer = client.post(f"/api/pieces/{view['pieces'][0]['id']}/deliveries")
        assert answer.status_code == 409
        assert "no captions" in answer.json()["message"]


def test_rename_duplicate_delete(client: TestClient, context: AppContext, tmp_path: Path) -> None:
    video = make_video(tmp_path / "a.mp4")
    made = client.post(
        "/api/projects", params={"name": "a.mp4"}, content=video.read_bytes()
    ).json()["project_id"]
    edit(client, made, 0, kind="rename_project", name="Stairs")
    copy = client.post(f"/api/projects/{made}/duplicate").json()["project_id"]
    names = {c["id"]: c["name"] for c in client.get("/api/projects").json()}
    assert (names[made], names[copy]) == ("Stairs", "Stairs (copy)")
    assert client.delete(f"/api/projects/{made}").status_code == 204
    assert client.get(f"/api/projects/{made}").status_code == 404
    source = read(client, copy)["sources"][0]["id"]
    assert client.get(f"/api/sources/{source}/media").content == video.read_bytes()
    assert client.get(f"/api/sources/{source}/poster").headers["content-type"] == "image/jpeg"
    folders = len(list((context.workspace.root / "sources").iterdir()))
    client.delete(f"/api/projects/{copy}")
    assert len(list((context.workspace.root / "sources").iterdir())) == folders - 1


@pytest.mark.parametrize(
    "data", [b"", b"not a recording", COUNTER.read_bytes()[:20_000]], ids=["empty", "text", "cut"]
)
def test_bad_files_leave_nothing_behind(
    client: TestClient, context: AppContext, project: int, data: bytes
) -> None:
    before = client.get("/api/projects").json()
    folders = set((context.workspace.root / "sources").iterdir())
    answer = client.post("/api/projects", params={"name": "x.mp4"}, content=data)
    assert answer.status_code in (400, 422)
    assert answer.json()["message"]
    assert client.get("/api/projects").json() == before
    assert set((context.workspace.root / "sources").iterdir()) == folders
    assert leftovers(context) == []


def test_limits_and_space_are_kept(tmp_path: Path) -> None:
    small = context_in(tmp_path / "small", largest_upload=1_000)
    with TestClient(create_app(small, with_worker=False), base_url="http://127.0.0.1") as client:
        stated = client.post("/api/projects", params={"name": "x"}, content=b"x" * 2_000)
        assert stated.status_code == 413
        assert "MORTISER_LARGEST_UPLOAD" in stated.json()["message"]
        streamed = client.post(
            "/api/projects", params={"name": "x"}, content=(b"x" * 300 for _ in range(9))
        )
        assert streamed.status_code == 413
    assert leftovers(small) == []
    full = context_in(tmp_path / "full", spare_disk=10**15)
    with TestClient(create_app(full, with_worker=False), base_url="http://127.0.0.1") as client:
        answer = client.post("/api/projects", params={"name": "x"}, content=COUNTER.read_bytes())
        assert answer.status_code == 507
        assert "free some space" in answer.json()["message"]
    assert leftovers(full) == []


@pytest.mark.parametrize(
    "headers",
    [{"Host": "mending.example"}, {"Origin": "http://elsewhere.example"}, {"Origin": "null"}],
)
def test_other_sites_cannot_reach_in(
    client: TestClient, project: int, headers: dict[str, str]
) -> None:
    answer = client.delete(f"/api/projects/{project}", headers=headers)
    assert answer.status_code == 403
    assert client.get(f"/api/projects/{project}").status_code == 200


def test_the_pages_types_are_those_of_the_server() -> None:
    assert Path("web/openapi.json").read_text() == description(), "run make types"
    fresh = subprocess.run(
        ["npx", "openapi-typescript", "openapi.json"], cwd="web", capture_output=True, text=True, check=True,
        env={**os.environ, "NO_COLOR": "1"},
    ).stdout  # fmt: skip
    kept = Path("web/src/api/schema.d.ts").read_text()
    assert [line.strip() for line in fresh.splitlines()] == [
        line.strip() for line in kept.splitlines()
    ]


def test_the_page_has_the_limits_and_names_of_the_core() -> None:
    assert Path("web/src/api/values.ts").read_text() == page_values.description(), "run make types"
    # Nothing of it stands in the page a second time.
    listed = [json.dumps(list(name)) for name in (TEXT_FORMS, LAYER_NAMES)]
    twice = [
        (str(file), literal)
        for file in Path("web/src").rglob("*.ts*")
        if file.name not in ("values.ts", "schema.d.ts") and ".test." not in file.name
        for literal in (
            "40_000)",
            "= 0.035",
            "1350",
            "Speech bubble",
            "SubRip",
            *listed,
        )
        if literal in file.read_text()
    ]
    assert twice == []


def test_paths_do_not_lead_out_of_the_pages(client: TestClient) -> None:
    for path in ("/../pyproject.toml", "/%2e%2e/pyproject.toml", "/assets/../../package.json"):
        answer = client.get(path)
        assert "hatchling" not in answer.text
        assert "mortiser-web" not in answer.text


@pytest.mark.parametrize(
    "name", ["Чайник — кипит", "やかん", 'Kettle "cold"; a=b', "🧵" * 80, "x" * 120]
)
@pytest.mark.parametrize("ending", ["srt", "vtt", "txt", "json"])
def test_files_are_named_after_projects_in_any_script(
    client: TestClient, project: int, name: str, ending: str
) -> None:
    view = read(client, project)
    assert edit(client, project, view["revision"], kind="rename_project", name=name).is_success
    answer = client.get(f"/api/pieces/{view['pieces'][0]['id']}/captions.{ending}")
    assert answer.status_code == 200
    told = Message()
    told["content-disposition"] = answer.headers["content-disposition"]
    found = told.get_filename()
    assert found == f"{file_stem(name)}.{ending}"
    assert len(found.encode()) <= 255
    client.post(
        f"/api/projects/{project}/undo", json={"base_revision": read(client, project)["revision"]}
    )


@pytest.mark.parametrize("size", [(854, 480), (426, 240), (638, 360), (18, 32)])
def test_stills_of_pictures_with_padded_rows(
    client: TestClient, tmp_path: Path, size: tuple[int, int]
) -> None:
    recording = make_video(tmp_path / "a.mp4", size=size, seconds=0.4)
    choices = {"name": "a.mp4", "transcribe": False}
    made = client.post("/api/projects", params=choices, content=recording.read_bytes()).json()
    piece = read(client, made["project_id"])["pieces"][0]["id"]
    answer = client.get(f"/api/pieces/{piece}/still.png", params={"at_us": 200_000})
    assert answer.status_code == 200
    picture = skia.Image.MakeFromEncoded(answer.content)
    assert (picture.width(), picture.height()) == size
    client.delete(f"/api/projects/{made['project_id']}")
