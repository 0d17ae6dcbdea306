"""A workspace with one project, and its routes in process; jobs run inline."""

from collections.abc import Iterator

import pytest
from fastapi.testclient import TestClient

from mortiser.api.app import create_app
from mortiser.wiring import AppContext
from tests.api.routes import context_in
from tests.recordings import COUNTER


@pytest.fixture(scope="module")
def context(tmp_path_factory: pytest.TempPathFactory) -> AppContext:
    return context_in(tmp_path_factory.mktemp("w"))


@pytest.fixture(scope="module")
def client(context: AppContext) -> Iterator[TestClient]:
    with TestClient(create_app(context, with_worker=False), base_url="http://127.0.0.1") as made:
        yield made


@pytest.fixture(scope="module")
def project(client: TestClient) -> int:
    answer = client.post(
        "/api/projects", params={"name": "At_the counter.m4a"}, content=COUNTER.read_bytes()
    )
    assert answer.status_code == 201
    return int(answer.json()["project_id"])
