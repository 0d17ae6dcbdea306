"""The routes for finishes, fonts and emoji, in process."""

import json
from pathlib import Path

import pytest
import skia
from fastapi.testclient import TestClient

from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.style.finish.stored import STORED, read_finishes, write_finishes
from mortiser.store import finishes
from mortiser.wiring import AppContext
from tests.api.routes import edit, read
from tests.fonts.test_own import font_file
from tests.recordings import small_demo


def own(client: TestClient) -> list[dict]:
    return [one for one in client.get("/api/finishes").json() if one["id"]]


@pytest.fixture
def mine(client: TestClient) -> dict:
    finish = FINISHES["Pine"].model_dump(mode="json") | {"size": 0.12}
    answer = client.post("/api/finishes", json={"name": "  Lane   big ", "finish": finish})
    assert answer.status_code == 201
    yield answer.json()
    client.put("/api/default-finish", json={"finish": None})
    for one in own(client):
        client.delete(f"/api/finishes/{one['id']}")


def test_a_finish_is_saved_renamed_updated_and_forgotten(client: TestClient, mine: dict) -> None:
    assert mine["finish"]["name"] == "Lane big"
    path = f"/api/finishes/{mine['id']}"
    assert client.put(path, json={"name": "Lane"}).json()["finish"]["name"] == "Lane"
    changed = mine["finish"] | {"size": 0.2, "name": "anything"}
    assert client.put(path, json={"finish": changed}).json()["finish"]["name"] == "Lane"
    assert [one["finish"]["size"] for one in own(client)] == [0.2]
    assert client.delete(path).status_code == 204
    assert client.delete(path).status_code == 404
    assert own(client) == []


@pytest.mark.parametrize("name", ["", "  ", "Pine", "pine", "lane BIG", "x" * 41])
def test_names_that_are_none_or_taken_are_refused(
    client: TestClient, mine: dict, name: str
) -> None:
    answer = client.post("/api/finishes", json={"name": name, "finish": mine["finish"]})
    assert answer.status_code == 400
    assert "name" in answer.json()["message"]
    assert len(own(client)) == 1


def test_finishes_go_out_as_a_file_and_come_back(client: TestClient, mine: dict) -> None:
    file = client.get("/api/finishes/file")
    assert "attachment" in file.headers["content-disposition"]
    back = client.post("/api/finishes/file", content=file.content).json()
    assert back[0]["finish"] == mine["finish"] | {"name": "Lane big 2"}
    one = client.get("/api/finishes/file", params={"name": "Ember"})
    assert [f["name"] for f in one.json()["finishes"]] == ["Ember"]
    assert client.post("/api/finishes/file", content=one.content).status_code == 201
    assert {f["finish"]["name"] for f in own(client)} == {"Lane big", "Lane big 2", "Ember 2"}


@pytest.mark.parametrize(
    ("content", "says"),
    [
        (b"", "empty"),
        (b"\xff\xfe", "no JSON"),
        (b"[1]", "Finish 1"),
        (b'{"format": "mortiser-finishes", "version": 9, "finishes": []}', "newer"),
        (b'{"format": "mortiser-finishes", "version": 1, "finishes": []}', "no finishes"),
        (
            json.dumps(FINISHES["Pine"].model_dump(mode="json") | {"size": -1}).encode(),
            "“size”",
        ),
        (b"[" * 100_000, "no JSON"),
    ],
)
def test_files_that_cannot_be_are_refused_in_words(
    client: TestClient, content: bytes, says: str
) -> None:
    before = len(own(client))
    answer = client.post("/api/finishes/file", content=content)
    assert answer.status_code == 400
    assert says in answer.json()["message"]
    assert len(own(client)) == before


def test_every_built_in_finish_survives_a_file() -> None:
    text = write_finishes(list(FINISHES.values()))
    assert read_finishes(text.encode()) == list(FINISHES.values())
    for name, finish in FINISHES.items():
        assert STORED.read(name) == finish, "as before versions had it"
        other = finish.model_copy(update={"size": 0.051})
        assert STORED.read(STORED.write(other)) == other


def test_new_pieces_begin_with_the_default_else_the_last_used(
    client: TestClient, context: AppContext, project: int, mine: dict
) -> None:
    view = read(client, project)
    piece = view["pieces"][0]["id"]
    done = edit(client, project, view["revision"], kind="set_finish", piece_id=piece, finish="Tide")
    assert done.status_code == 200

    def begins_with() -> str:
        return finishes.for_new_piece(context.database.connection).name

    assert begins_with() == "Tide"
    assert client.put("/api/default-finish", json={"finish": mine["finish"]}).status_code == 204
    marked = [one["finish"]["name"] for one in client.get("/api/finishes").json() if one["default"]]
    assert marked == ["Lane big"]
    assert begins_with() == "Lane big"
    client.put("/api/default-finish", json={"finish": None})
    assert begins_with() == "Tide"
    client.post(f"/api/projects/{project}/undo", json={"base_revision": view["revision"] + 1})


def test_a_scene_can_try_a_saved_finish(client: TestClient, project: int, mine: dict) -> None:
    piece = read(client, project)["pieces"][0]["id"]
    window = {"from_us": 0, "to_us": 5_000_000}
    path = f"/api/pieces/{piece}/scene"
    plain = client.get(path, params=window).json()
    tried = client.get(path, params=window | {"finish": "Lane big"}).json()
    assert tried["outlines"] != plain["outlines"]
    missing = client.get(path, params=window | {"finish": "Nothing"})
    assert (missing.status_code, "no finish" in missing.json()["message"]) == (404, True)


def test_emoji_are_found_by_name_and_shown(client: TestClient) -> None:
    found = client.get("/api/emoji", params={"find": "thread"}).json()
    assert found[0]["text"] == "🧵"
    picture = client.get(f"/api/emoji/{found[0]['code']}/64.png")
    assert picture.headers["content-type"] == "image/png"
    assert "immutable" in picture.headers["cache-control"]
    assert client.get("/api/emoji/zz/64.png").status_code == 400
    assert client.get("/api/emoji/41/64.png").status_code == 404
    assert len(client.get("/api/emoji").json()) > 100
    assert client.get("/api/emoji", params={"find": "zzqx"}).json() == []


def test_fonts_are_listed_with_their_weights(client: TestClient) -> None:
    families = {one["name"]: one["weights"] for one in client.get("/api/fonts").json()}
    assert families["Rubik"] == [500, 800]
    assert len(families) >= 10


def test_words_worth_an_accent_are_suggested_and_taken(client: TestClient, project: int) -> None:
    view = read(client, project)
    piece = view["pieces"][0]["id"]
    path = f"/api/pieces/{piece}/suggestions"
    few, many = (client.get(path, params={"density": d}).json() for d in (0.05, 0.3))
    assert 0 < len(few) < len(many)
    assert all(one["reason"] for one in many)
    marked = edit(
        client, project, view["revision"], kind="mark_words", accent=2,
        cue_ids=sorted({one["cue_id"] for one in few}), word_ids=[one["word_id"] for one in few],
    )  # fmt: skip
    assert marked.status_code == 200
    assert client.get(path, params={"density": 0.05}).json() == []
    left = {one["word_id"] for one in client.get(path, params={"density": 0.3}).json()}
    assert not left & {one["word_id"] for one in few}
    client.post(f"/api/projects/{project}/undo", json={"base_revision": view["revision"] + 1})


def test_a_still_has_the_captions_of_its_moment(client: TestClient, project: int) -> None:
    view = read(client, project)
    piece, cue = view["pieces"][0]["id"], view["cues"][0]
    path = f"/api/pieces/{piece}/still.png"
    empty, full = (
        skia.Image.MakeFromEncoded(client.get(path, params={"at_us": at}).content).toarray()
        for at in (0, (cue["start_us"] + cue["end_us"]) // 2)
    )
    assert empty.shape == (1920, 1080, 4)
    assert empty.std(axis=(0, 1)).max() < 1
    assert full.std(axis=(0, 1)).max() > 5


def test_a_font_of_ones_own_is_added_used_and_removed(client: TestClient) -> None:
    made = client.post("/api/fonts", content=font_file(family="Lane Hand"))
    assert (made.status_code, made.json()["name"], made.json()["own"]) == (201, "Lane Hand", True)
    assert any(one["name"] == "Lane Hand" for one in client.get("/api/fonts").json())
    assert client.delete("/api/fonts", params={"family": "Lane Hand"}).status_code == 204
    assert client.delete("/api/fonts", params={"family": "Rubik"}).status_code == 404
    refused = client.post("/api/fonts", content=b"hello")
    assert (refused.status_code, "TTF or OTF" in refused.json()["message"]) == (400, True)


def test_a_caption_outside_the_safe_area_is_found_and_brought_back(
    client: TestClient, project: int
) -> None:
    view = read(client, project)
    piece, cue = view["pieces"][0]["id"], view["cues"][0]["id"]
    path = f"/api/pieces/{piece}/checks"

    def outside() -> list[dict]:
        return [one for one in client.get(path).json() if one["kind"] == "off_frame"]

    assert outside() == []
    away = {"place.dx": 0.45, "place.turn": 10, "case": "upper"}
    moved = edit(
        client, project, view["revision"], kind="dress_cues", cue_ids=[cue], changes=away
    ).json()
    (found,) = outside()
    assert (found["cue_id"], "right edge" in found["about"]) == (cue, True)
    finding = {"kind": "off_frame", "cue_id": cue, "word_ids": []}
    edit(
        client, project, moved["revision"], kind="fix_checks", piece_id=piece, findings=[finding]
    )  # fmt: skip
    assert outside() == []
    assert read(client, project)["cues"][0]["look"] == {"case": "upper"}
    for revision in (moved["revision"] + 1, moved["revision"] + 2):
        client.post(f"/api/projects/{project}/undo", json={"base_revision": revision})


def test_what_is_dragged_is_one_undo(client: TestClient, project: int) -> None:
    view = read(client, project)
    piece, revision = view["pieces"][0], view["revision"]

    def drag(width: float, goes_on: bool, path: str = "letter_gap") -> dict:
        nonlocal revision
        change = {"kind": "change_finish", "piece_id": piece["id"], "changes": {path: width}}
        body = {"base_revision": revision, "edit": change, "goes_on": goes_on}
        answer = client.post(f"/api/projects/{project}/edits", json=body).json()
        revision = answer["revision"]
        return answer

    for width, goes_on in ((0.01, False), (0.02, True), (0.03, True)):
        answer = drag(width, goes_on)
    assert answer["settings"]["pieces"][0]["finish"]["letter_gap"] == 0.03
    # Another setting cannot go on from it, nor can anything once it has been undone.
    drag(0.3, True, "word_gap")
    for left in (0.03, piece["finish"]["letter_gap"]):
        undone = client.post(f"/api/projects/{project}/undo", json={"base_revision": revision})
        revision = undone.json()["revision"]
        assert read(client, project)["pieces"][0]["finish"]["letter_gap"] == left
    drag(0.05, True)
    assert read(client, project)["history"]["redo"] is None
    client.post(f"/api/projects/{project}/undo", json={"base_revision": revision})
    assert read(client, project)["pieces"] == view["pieces"]


def test_faint_captions_are_found_on_the_backdrop(client: TestClient, project: int) -> None:
    view = read(client, project)
    piece, first = view["pieces"][0]["id"], view["cues"][0]
    window = {"from_us": first["start_us"], "to_us": first["end_us"]}
    path = f"/api/pieces/{piece}/legibility"
    assert client.get(path, params=window).json() == {"seen": True, "faint": []}
    dim = {"live": [60, 70, 72, 255], "past": [60, 70, 72, 255], "outlines": [], "plank": None,
           "plate": None, "shadow": None}  # fmt: skip
    dressed = edit(
        client, project, view["revision"], kind="dress_cues", cue_ids=[first["id"]], changes=dim
    ).json()
    (found,) = client.get(path, params=window).json()["faint"]
    assert found["cue_id"] == first["id"]
    assert {one["way"] for one in found["remedies"]} >= {"outline", "plate"}
    looks = [{"cue_id": first["id"], "changes": found["remedies"][0]["changes"]}]
    helped = edit(client, project, dressed["revision"], kind="dress_each", looks=looks).json()
    assert client.get(path, params=window).json()["faint"] == []
    for revision in (helped["revision"], helped["revision"] + 1):
        client.post(f"/api/projects/{project}/undo", json={"base_revision": revision})


def test_a_recording_with_a_picture_is_looked_over_first(
    client: TestClient, tmp_path: Path
) -> None:
    clip = small_demo(tmp_path / "clip.mp4", 3.0)
    made = client.post("/api/projects", params={"name": "k.mp4"}, content=clip.read_bytes()).json()
    piece = read(client, made["project_id"])["pieces"][0]["id"]
    path = f"/api/pieces/{piece}/legibility"
    window = {"from_us": 0, "to_us": 3_000_000}
    assert client.get(path, params=window).json() == {"seen": False, "faint": []}
    answer = client.post(f"/api/pieces/{piece}/thumbnails")
    assert (answer.status_code, answer.json()["status"]) == (201, "done")
    assert client.get(path, params=window).json() == {"seen": True, "faint": []}
    client.delete(f"/api/projects/{made['project_id']}")


@pytest.mark.parametrize(
    "family",
    ["Lane/Hand", "../../Lane", "🧵" * 60, "x" * 3_000, "Lane_Hand 400", "..", "a\\b?c#d%2f"],
)
def test_fonts_of_any_name_come_and_go(client: TestClient, family: str) -> None:
    made = client.post("/api/fonts", content=font_file(family=family))
    assert made.status_code == 201, made.text
    name = made.json()["name"]
    assert name in {one["name"] for one in client.get("/api/fonts").json()}
    assert client.delete("/api/fonts", params={"family": name}).status_code == 204
    assert name not in {one["name"] for one in client.get("/api/fonts").json()}
