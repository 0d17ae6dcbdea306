"""The routes for paces and checks, in process."""

from fastapi.testclient import TestClient

from tests.api.routes import edit, read


def test_paces_are_kept_replaced_and_forgotten(client: TestClient) -> None:
    built_in = client.get("/api/paces").json()
    assert [(p["id"], p["name"]) for p in built_in] == [(None, "quick"), (None, "sentence")]
    two = {**built_in[0]["pace"], "words": 2}
    kept = client.post("/api/paces", json={"name": "  Two  by two ", "pace": two})
    assert (kept.status_code, kept.json()["name"]) == (201, "Two by two")
    one = {**two, "words": 1}
    client.post("/api/paces", json={"name": "two by two", "pace": one})
    own = client.get("/api/paces").json()[2:]
    assert [(p["name"], p["pace"]["words"]) for p in own] == [("Two by two", 1)]
    assert client.delete(f"/api/paces/{own[0]['id']}").status_code == 204
    assert client.delete(f"/api/paces/{own[0]['id']}").status_code == 404
    assert client.get("/api/paces").json() == built_in


def test_paces_that_cannot_be_are_refused(client: TestClient) -> None:
    pace = client.get("/api/paces").json()[0]["pace"]
    taken = client.post("/api/paces", json={"name": "Quick", "pace": pace})
    assert (taken.status_code, "built in" in taken.json()["message"]) == (400, True)
    empty = client.post("/api/paces", json={"name": " ", "pace": pace})
    assert "needs a name" in empty.json()["message"]
    wild = client.post("/api/paces", json={"name": "x", "pace": {**pace, "words": 0}})
    assert wild.status_code == 400
    assert "words" in wild.json()["message"]


def test_what_is_found_is_put_right_and_undone(client: TestClient, project: int) -> None:
    view = read(client, project)
    piece, cue = view["pieces"][0], view["cues"][0]
    checks = f"/api/pieces/{piece['id']}/checks"
    before = client.get(checks).json()
    gone = edit(client, project, view["revision"], kind="delete_cues", cue_ids=[cue["id"]]).json()
    (hidden,) = [c for c in client.get(checks).json() if c["kind"] == "unshown"]
    assert hidden["word_ids"] == [word["id"] for word in cue["words"]]
    finding = {key: hidden[key] for key in ("kind", "cue_id", "word_ids")}
    answer = edit(client, project, gone["revision"], kind="fix_checks", piece_id=piece["id"],
                  findings=[finding])  # fmt: skip
    assert answer.json()["history"]["undo"] == "fix unshown"
    assert not [c for c in client.get(checks).json() if c["kind"] == "unshown"]
    revision = answer.json()["revision"]
    for _ in range(2):
        revision = client.post(
            f"/api/projects/{project}/undo", json={"base_revision": revision}
        ).json()["revision"]
    assert client.get(checks).json() == before


def test_the_pace_is_part_of_the_piece_and_undone_with_it(client: TestClient, project: int) -> None:
    view = read(client, project)
    piece = view["pieces"][0]
    pace = {**piece["pace"], "words": 1, "lead_us": 0}
    answer = edit(client, project, view["revision"], kind="set_pace", piece_id=piece["id"],
                  pace=pace).json()  # fmt: skip
    after = read(client, project)
    assert answer["settings"] == {"name": after["name"], "pieces": after["pieces"]}
    assert after["pieces"][0]["pace"] == pace
    assert all(len(cue["words"]) == 1 for cue in after["cues"])
    client.post(f"/api/projects/{project}/undo", json={"base_revision": answer["revision"]})
    assert read(client, project)["cues"] == view["cues"]
    assert read(client, project)["pieces"] == view["pieces"]
