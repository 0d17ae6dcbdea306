"""What else a word may be, as the page asks for it."""

from fastapi.testclient import TestClient

from tests.api.routes import made, read


def test_any_word_has_others_and_what_is_begun_narrows_them(
    client: TestClient, project: int
) -> None:
    cue = read(client, project)["cues"][0]
    word = cue["words"][0]
    made(client, project, kind="replace_word", cue_id=cue["id"], word_id=word["id"], text="Pair")
    cue = read(client, project)["cues"][0]
    word = cue["words"][0]
    path = f"/api/cues/{cue['id']}/words/{word['id']}/others"
    found = client.get(path)
    assert found.status_code == 200, found.text
    assert "Pear" in found.json()
    assert "Pair" not in found.json()
    begun = client.get(path, params={"begun": "Pa"}).json()
    assert begun
    assert all(one.startswith("Pa") for one in begun)


def test_names_of_the_glossary_are_among_them(client: TestClient, project: int) -> None:
    client.post("/api/glossary", json={"written": "Pernwick"})
    cue = read(client, project)["cues"][0]
    path = f"/api/cues/{cue['id']}/words/{cue['words'][0]['id']}/others"
    assert client.get(path, params={"begun": "per"}).json()[0] == "Pernwick"


def test_names_that_were_typed_once_are_among_them(client: TestClient, project: int) -> None:
    cues = read(client, project)["cues"]
    other = cues[1]["words"][0]
    path = f"/api/cues/{cues[1]['id']}/words/{other['id']}/others"
    assert "Odalys" not in client.get(path, params={"begun": "o"}).json()
    for cue, text in ((cues[0], "Odalys,"), (cues[2], "Oboe")):
        word = cue["words"][0]["id"]
        made(client, project, kind="replace_word", cue_id=cue["id"], word_id=word, text=text)
    found = client.get(path, params={"begun": "o"}).json()
    assert found[0] == "Odalys"
    # What a dictionary knows is no name that keeps its capital.
    assert "Oboe" not in found


def test_what_is_not_there_and_too_much_is_said(client: TestClient, project: int) -> None:
    cue = read(client, project)["cues"][0]
    gone = client.get(f"/api/cues/{cue['id']}/words/999999/others")
    assert (gone.status_code, "not there any more" in gone.json()["message"]) == (404, True)
    assert client.get("/api/cues/999999/words/1/others").status_code == 404
    path = f"/api/cues/{cue['id']}/words/{cue['words'][0]['id']}/others"
    assert client.get(path, params={"begun": "x" * 61}).status_code == 400
