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


def test_caption_files_keep_to_a_pace_of_their_own(client: TestClient, project: int) -> None:
    view = read(client, project)
    piece = view["pieces"][0]
    assert piece["file_pace"] is None
    pace = {**client.get("/api/paces").json()[1]["pace"], "lines": 2, "line_chars": 32}
    made = edit(
        client, project, view["revision"], kind="set_file_pace", piece_id=piece["id"], pace=pace
    )
    assert made.json()["settings"]["pieces"][0]["file_pace"] == pace
    srt = client.get(f"/api/pieces/{piece['id']}/captions.srt").text
    vtt = client.get(f"/api/pieces/{piece['id']}/captions.vtt").text
    for text in (srt, vtt):
        blocks = [b.split("\n") for b in text.strip().split("\n\n") if "-->" in b]
        lines = [[x for x in b if "-->" not in x and not x.isdigit()] for b in blocks]
        assert len(blocks) < len(view["cues"])
        assert max(len(one) for one in lines) <= 2
        assert max(len(line) for one in lines for line in one) <= 32
    client.post(
        f"/api/projects/{project}/undo", json={"base_revision": made.json()["revision"]}
    ).raise_for_status()


def test_past_edits_are_listed_and_gone_back_to(client: TestClient, project: int) -> None:
    for name in ("One", "Two"):
        revision = read(client, project)["revision"]
        edit(client, project, revision, kind="rename_project", name=name)
    past = client.get(f"/api/projects/{project}/history").json()
    assert past["done"][:2] == ["rename project", "rename project"]
    revision = read(client, project)["revision"]
    client.post(f"/api/projects/{project}/undo", json={"base_revision": revision})
    again = client.get(f"/api/projects/{project}/history").json()
    assert again == {"undone": ["rename project"], "done": past["done"][1:]}
    assert client.get("/api/projects/999/history").status_code == 404


def test_the_palette_keeps_colours_once(client: TestClient) -> None:
    for colour in ("#1E90FF", "#1e90ff", "#000000"):
        assert client.post("/api/palette", json={"colour": colour}).status_code == 204
    assert client.get("/api/palette").json() == ["#1e90ff", "#000000"]
    assert client.post("/api/palette", json={"colour": "blue"}).status_code == 400
    for code in ("1e90ff", "000000"):
        assert client.delete(f"/api/palette/{code}").status_code == 204
    assert client.get("/api/palette").json() == []


def test_a_caption_says_when_all_of_it_stands(client: TestClient, project: int) -> None:
    cue = read(client, project)["cues"][1]
    at = client.get(f"/api/cues/{cue['id']}/whole").json()["at_us"]
    assert cue["start_us"] <= at < cue["end_us"]
    assert client.get("/api/cues/999999/whole").status_code == 404
