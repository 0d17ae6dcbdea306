"""Edits made from the schema, nearly right: none is a fault of the server, and what they leave can be read."""

import json
import random
from collections.abc import Iterator

import pytest
from fastapi.testclient import TestClient

from tests.api.routes import read
from tests.api.test_hostile import DOCUMENT, EXAMPLES, attackable, call, nearly, resolved

EDIT = resolved(DOCUMENT["components"]["schemas"]["EditRequest"]["properties"]["edit"])
KINDS = {
    resolved(one)["properties"]["kind"]["const"]: one
    for one in EDIT.get("oneOf", EDIT.get("anyOf"))
}


def odd_edit(kind: str, chance: random.Random) -> object:
    """An edit of a kind as the document describes it, nearly."""
    made = nearly(KINDS[kind], chance)
    if isinstance(made, dict):
        made["kind"] = kind
        # What is there is meant more often than not.
        for name in made:
            if name.endswith("_id") and chance.random() < 0.8:
                made[name] = 1
            elif name.endswith("_ids") and chance.random() < 0.8:
                made[name] = [1]
    return made


@pytest.fixture(scope="module")
def attacked(tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    with attackable(tmp_path_factory.mktemp("attacked")) as client:
        yield client


@pytest.mark.parametrize("kind", sorted(KINDS))
def test_no_edit_that_the_document_describes_is_a_fault(attacked: TestClient, kind: str) -> None:
    chance = random.Random(kind)
    revision = read(attacked, 1)["revision"]
    for _ in range(4 * EXAMPLES):
        body = {"base_revision": revision, "edit": odd_edit(kind, chance)}
        answer = call(attacked, "POST", "/api/projects/1/edits", content=json.dumps(body).encode(),
             headers={"content-type": "application/json"})  # fmt: skip
        if answer.is_success:
            revision = answer.json()["revision"]
    assert read(attacked, 1)["pieces"][0]["unreadable"] == []
