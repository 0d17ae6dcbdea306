"""A row that cannot be read costs its own setting and nothing else."""

import pytest
from fastapi.testclient import TestClient

from mortiser.api.app import create_app
from mortiser.jobs.ingest import bring_in
from mortiser.store import transcript
from mortiser.store.piece_settings import COLUMNS
from mortiser.wiring import AppContext
from tests.api.routes import context_in, made, read
from tests.recordings import make_video
from tests.store.fixtures import spoken


@pytest.fixture
def context(tmp_path) -> AppContext:
    context = context_in(tmp_path / "w")
    film = make_video(tmp_path / "a.mp4")
    ids = bring_in(context.database, context.workspace, film, "A.mp4")
    transcript.append_line(context.database, ids.source_id, spoken("We mend kettles and chairs."))
    return context


@pytest.fixture
def client(context: AppContext) -> TestClient:
    return TestClient(create_app(context, with_worker=False), base_url="http://127.0.0.1")


@pytest.mark.parametrize("text", ['{"no', "7", '{"kind":"other"}', "[]x"])
@pytest.mark.parametrize("column", COLUMNS)
def test_what_cannot_be_read_is_named_and_the_rest_works(
    context: AppContext, client: TestClient, tmp_path, column: str, text: str
) -> None:
    project, piece = 1, 1
    context.database.connection.execute(f"UPDATE piece SET {column} = ?", (text,))
    view = read(client, project)
    assert view["pieces"][0]["unreadable"] == [COLUMNS[column]]
    assert [word["text"] for word in view["cues"][0]["words"]][:2] == ["We", "mend"]
    made(client, project, kind="rename_project", name="Kettle")
    made(client, project, kind="name_piece", piece_id=piece, name="Lost")
    other = bring_in(
        context.database,
        context.workspace,
        make_video(tmp_path / "b.mp4"),
        "B.mp4",
        project_id=project,
    )
    made(client, project, kind="delete_piece", piece_id=piece)
    assert [one["id"] for one in read(client, project)["pieces"]] == [other.piece_id]
    assert client.get("/api/projects").json()[0]["name"] == "Kettle"


def test_a_frame_that_is_too_wide_is_drawn_in(context: AppContext, client: TestClient) -> None:
    context.database.connection.execute("UPDATE piece SET width = 36000, height = 36")
    (piece,) = read(client, 1)["pieces"]
    assert piece["unreadable"] == ["shapes"]
    assert (piece["shapes"][0]["width"], piece["shapes"][0]["height"]) == (16_384, 36)
    made(client, 1, kind="add_shape", piece_id=1, width=1080, height=1080)
    assert client.get("/api/pieces/1/scene", params={"from_us": 0, "to_us": 10**6}).is_success
