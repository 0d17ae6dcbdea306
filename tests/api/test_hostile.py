"""Hostile values at every route of the OpenAPI document: no answer is a fault of the server."""

import importlib
import json
import os
import pkgutil
import random
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any
from urllib.parse import quote

import pytest
import schemathesis
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, seed, settings
from hypothesis import strategies as st
from hypothesis.errors import FlakyFailure
from pydantic import BaseModel
from schemathesis import GenerationMode

import mortiser
from mortiser.api.app import create_app
from mortiser.api.openapi import description
from mortiser.settings import Settings
from mortiser.wiring import open_context
from tests.api.routes import edit, read
from tests.recordings import COUNTER

EXAMPLES = int(os.environ.get("MORTISER_HOSTILE_EXAMPLES", "6"))
DOCUMENT = json.loads(description())
SCHEMA = schemathesis.openapi.from_dict(DOCUMENT)
OPERATIONS = [found.ok() for found in SCHEMA.get_all_operations()]
HOSTILE: list[Any] = [
    -1, 2**31, 2**53, 2**63, 2**64, 10**400, -(2**63) - 1, 0.5, 1e308, True, None, "", "0", "\0",
    "\ud800", "\udfff half", "%00", "../../etc/passwd", "a" * 70_000, "🧵" * 300, "\u202e\u0301",
    "=HYPERLINK(\"x\")", "'; DROP TABLE job; --", [], [[]], {}, {"": {}}, [None] * 1000,
]  # fmt: skip


@pytest.fixture(scope="module")
def attacked(tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    with attackable(tmp_path_factory.mktemp("attacked")) as client:
        yield client


@contextmanager
def attackable(folder: Path) -> Iterator[TestClient]:
    """A workspace with a transcribed project and an edit, whose routes are called; jobs only queue."""
    context = open_context(Settings(workspace=folder))
    with TestClient(create_app(context, with_worker=False), base_url="http://127.0.0.1") as client:
        answer = client.post(
            "/api/projects", params={"name": "c.m4a"}, content=COUNTER.read_bytes()
        )
        project = answer.json()["project_id"]
        for job in read(client, project)["jobs"]:
            context.run(job["id"])
        cue = read(client, project)["cues"][0]
        edit(client, project, 0, kind="retype_cue", cue_id=cue["id"], text="Good morning")
        yield client


def call(client: TestClient, method: str, path: str, **sent: Any) -> Any:
    if path.endswith("/events"):
        return None  # It never ends by itself; tests of its own follow it.
    answer = client.request(method, path, **sent)
    assert answer.status_code < 500, (answer.status_code, answer.text[:300])
    if answer.status_code >= 400 and path.startswith("/api"):
        problem = answer.json()
        assert problem["message"]
        assert "Traceback" not in problem["message"]
    return answer


@pytest.mark.parametrize("operation", OPERATIONS, ids=lambda one: one.label)
def test_no_request_the_document_describes_or_forbids_is_a_fault(
    attacked: TestClient, operation: Any
) -> None:
    @seed(13)
    @settings(max_examples=EXAMPLES, deadline=None, database=None,
              suppress_health_check=list(HealthCheck))  # fmt: skip
    @given(st.data())
    def attack(data: st.DataObject) -> None:
        modes = [GenerationMode.POSITIVE, GenerationMode.NEGATIVE]
        mode = data.draw(st.sampled_from(modes))
        case = data.draw(operation.as_strategy(generation_mode=mode))
        if data.draw(st.booleans()):  # Rows that are there are reached too.
            ids = {name: 1 for name in case.path_parameters or {} if name.endswith("_id")}
            if operation.method.upper() != "DELETE":
                case.path_parameters.update(ids)
        sent = case.as_transport_kwargs(base_url="http://127.0.0.1")
        sent.pop("cookies", None)
        if isinstance(sent.get("data"), bytes | str):
            sent["content"] = sent.pop("data")
        attacked.cookies.clear()
        call(attacked, sent.pop("method"), sent.pop("url").removeprefix("http://127.0.0.1"), **sent)

    try:
        attack()
    except FlakyFailure:
        # Parsing at the end of the stack fails in Python 3.11 now and then (cpython 106905). What is a fault
        # of the server fails again: the examples are the same.
        attack()


@pytest.mark.parametrize("path", sorted(DOCUMENT["paths"]))
def test_foolish_values_are_told_as_such(attacked: TestClient, path: str) -> None:
    chance = random.Random(path)
    for method, told in DOCUMENT["paths"][path].items():
        for value in HOSTILE:
            text = str(value)[:3000].encode("utf-8", "replace").decode()
            parts = {p["name"]: "1" for p in told.get("parameters", []) if p["in"] == "path"}
            query = {p["name"]: "1" for p in told.get("parameters", []) if p["in"] == "query"}
            for name in (*parts, *query):
                if method == "delete" and name in parts and text == "1":
                    continue
                odd_parts = parts | ({name: text} if name in parts else {})
                odd_query = query | ({name: text} if name in query else {})
                address = path
                for key, part in odd_parts.items():
                    address = address.replace(f"{{{key}}}", _quoted(part))
                call(attacked, method, address, params=odd_query)
        body = told.get("requestBody", {}).get("content", {}).get("application/json")
        if body is None:
            continue
        address = path
        for part in told.get("parameters", []):
            address = address.replace(f"{{{part['name']}}}", "1")
        for _ in range(8 * EXAMPLES):
            shape = nearly(body["schema"], chance)
            call(attacked, method, address, content=json.dumps(shape).encode(),
                 headers={"content-type": "application/json"})  # fmt: skip


def _quoted(text: str) -> str:
    return quote(text, safe="")


def resolved(schema: dict[str, Any]) -> dict[str, Any]:
    while "$ref" in schema:
        schema = DOCUMENT["components"]["schemas"][schema["$ref"].rsplit("/", 1)[1]]
    return schema


def nearly(schema: dict[str, Any], chance: random.Random, depth: int = 0) -> Any:
    """A value nearly of a schema: some of its parts are hostile."""
    if chance.random() < 0.1 or depth > 8:
        return chance.choice(HOSTILE)
    schema = resolved(schema)
    if "const" in schema:
        return schema["const"]
    if "enum" in schema:
        return chance.choice(schema["enum"])
    for union in ("anyOf", "oneOf"):
        if union in schema:
            return nearly(chance.choice(schema[union]), chance, depth + 1)
    match schema.get("type"):
        case "object":
            named = {
                key: nearly(value, chance, depth + 1)
                for key, value in schema.get("properties", {}).items()
                if key in schema.get("required", ()) or key == "kind" or chance.random() < 0.5
            }
            extra = schema.get("additionalProperties")
            if isinstance(extra, dict):
                paths = ["size", "place.dy", "motion.loop.kind", "fill", "a.b", "", "\ud800"]
                named |= {chance.choice(paths): nearly(extra, chance, depth + 1)}
            return named
        case "array":
            item = schema.get("items", {})
            return [nearly(item, chance, depth + 1) for _ in range(chance.randrange(4))]
        case "integer":
            return chance.choice([0, 1, 1, 2, 3, 1_000_000])
        case "number":
            return chance.choice([0, 0.5, 1])
        case "boolean":
            return chance.random() < 0.5
        case "string":
            return chance.choice(["Pine", "kettle", "1:00", "+0.5", "#ffffff", "Good"])
    return chance.choice(HOSTILE)


@pytest.mark.parametrize(
    "body",
    [b"", b"{", b"null", b"[" * 200_000, b'{"a":' * 50_000, b"1" * 10_000, b'"\\ud800"', b"NaN",
     b"\xff\xfe", b'{"base_revision": 1e400}', b'{"edit": {"kind": "\\udc00"}}'],
    ids=range(11),
)  # fmt: skip
def test_bodies_that_are_no_sense_are_told_as_such(attacked: TestClient, body: bytes) -> None:
    for kind in ("application/json", "text/plain", "multipart/form-data; boundary=x", "\xff/x"):
        headers = {"content-type": kind.encode("latin-1")}
        call(attacked, "POST", "/api/projects/1/edits", content=body, headers=headers)
        call(attacked, "POST", "/api/glossary", content=body, headers=headers)


def test_a_request_beyond_all_use_is_refused_unread(attacked: TestClient) -> None:
    body = b'{"text": "' + b"a" * (5 * 1024**2) + b'"}'
    headers = {"content-type": "application/json"}
    answer = attacked.post("/api/projects/1/script", content=body, headers=headers)
    assert answer.status_code == 413
    assert "Send it in parts" in answer.json()["message"]


def test_every_value_of_a_request_has_limits() -> None:
    """Numbers have a least and a most, texts a longest, lists a most: else computations have none."""
    open_ended: set[str] = set()
    seen: set[str] = set()

    def walk(schema: dict[str, Any], where: str) -> None:
        if "$ref" in schema:
            where = schema["$ref"].rsplit("/", 1)[1]
            if where in seen:
                return
            seen.add(where)
        schema = resolved(schema)
        for union in ("anyOf", "oneOf", "allOf"):
            for part in schema.get(union, ()):
                walk(part, where)
        if schema.keys() & {"enum", "const"}:
            return
        match schema.get("type"):
            case "integer" | "number":
                if not (
                    schema.keys() & {"minimum", "exclusiveMinimum"}
                    and schema.keys() & {"maximum", "exclusiveMaximum"}
                ):
                    open_ended.add(where)
            case "string":
                if not schema.keys() & {"maxLength", "pattern", "format"}:
                    open_ended.add(where)
            case "array":
                if not schema.keys() & {"maxItems", "prefixItems"}:
                    open_ended.add(where)
                for item in (schema.get("items", {}), *schema.get("prefixItems", ())):
                    walk(item, f"{where}[]")
            case "object":
                for name, part in schema.get("properties", {}).items():
                    walk(part, f"{where}.{name}")
                if isinstance(schema.get("additionalProperties"), dict):
                    if "maxProperties" not in schema:
                        open_ended.add(where)
                    walk(schema["additionalProperties"], f"{where}{{}}")

    for path, methods in DOCUMENT["paths"].items():
        for method, told in methods.items():
            for parameter in told.get("parameters", ()):
                walk(parameter["schema"], f"{method} {path} {parameter['name']}")
            for content in told.get("requestBody", {}).get("content", {}).values():
                walk(content.get("schema", {}), f"{method} {path}")
    assert open_ended == set()


def test_the_document_is_that_of_the_page() -> None:
    assert json.loads(Path("web/openapi.json").read_text()) == DOCUMENT


def test_no_field_has_two_limits_of_one_kind() -> None:
    """Of two the wider one would hold, whatever the description says."""
    for package in pkgutil.walk_packages(mortiser.__path__, "mortiser."):
        if not package.name.endswith("__main__"):
            importlib.import_module(package.name)
    twice = set()
    for model in _below(BaseModel):
        for name, field in model.model_fields.items() if model.__module__[:8] == "mortiser" else ():
            kinds = [type(one).__name__ for one in field.metadata]
            kinds = ["Le" if one == "Lt" else "Ge" if one == "Gt" else one for one in kinds]
            if any(kinds.count(one) > 1 for one in ("Le", "Ge", "MinLen", "MaxLen")):
                twice.add(f"{model.__name__}.{name}")
    assert twice == set()


def _below(kind: type) -> Iterator[type[BaseModel]]:
    for one in kind.__subclasses__():
        yield one
        yield from _below(one)
