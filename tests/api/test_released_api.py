"""Whoever was written against a released version of the API is still answered: what it described is still there."""

import gzip
import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

RELEASED = sorted((Path(__file__).parent / "released").glob("*.json.gz"))
NOW = json.loads(Path("web/openapi.json").read_text())


class Compared:
    """Two descriptions, and what of the older one the newer one does not keep."""

    def __init__(self, before: dict[str, Any], now: dict[str, Any]) -> None:
        self._before = before
        self._now = now
        self._seen: set[tuple[str, bool]] = set()

    def lost(self) -> Iterator[str]:
        for path, methods in self._before["paths"].items():
            for method, was in methods.items():
                name = f"{method.upper()} {path}"
                now = self._now["paths"].get(path, {}).get(method)
                if now is None:
                    yield f"{name} is gone"
                    continue
                yield from self._parameters(name, was, now)
                for one, other in zip(_bodies(was), _bodies(now), strict=False):
                    yield from self._schema(f"{name}, asked", one, other, asked=True)
                for code in was["responses"].keys() & now["responses"].keys():
                    pair = zip(
                        _contents(was["responses"][code]),
                        _contents(now["responses"][code]),
                        strict=False,
                    )
                    for one, other in pair:
                        yield from self._schema(f"{name}, answered", one, other, asked=False)

    def _parameters(self, name: str, was: dict[str, Any], now: dict[str, Any]) -> Iterator[str]:
        known = {one["name"] for one in was.get("parameters", ())}
        there = {one["name"]: one for one in now.get("parameters", ())}
        yield from (f"{name}: no parameter {one}" for one in sorted(known - there.keys()))
        for one in sorted(there.keys() - known):
            if there[one].get("required"):
                yield f"{name}: needs {one}"

    def _schema(
        self, name: str, was: dict[str, Any], now: dict[str, Any], *, asked: bool
    ) -> Iterator[str]:
        reference = was.get("$ref")
        if reference:
            if (reference, asked) in self._seen:
                return
            self._seen.add((reference, asked))
        was, now = _meant(self._before, was, asked), _meant(self._now, now, asked)
        fields, there = was.get("properties", {}), now.get("properties", {})
        yield from (f"{name}: no field {one}" for one in sorted(fields.keys() - there.keys()))
        if asked:
            fresh = set(now.get("required", ())) - set(was.get("required", ()))
            yield from (f"{name}: needs {one}" for one in sorted(fresh))
        else:
            never = set(was.get("required", ())) - set(now.get("required", ()))
            yield from (f"{name}: may come without {one}" for one in sorted(never & there.keys()))
        for field in fields.keys() & there.keys():
            yield from self._schema(f"{name}.{field}", fields[field], there[field], asked=asked)
        if "items" in was and "items" in now:
            yield from self._schema(f"{name}[]", was["items"], now["items"], asked=asked)
        if asked and "enum" in was:
            missing = set(was["enum"]) - set(now.get("enum", was["enum"]))
            yield from (f"{name}: no {one}" for one in sorted(map(str, missing)))


def _bodies(route: dict[str, Any]) -> list[dict[str, Any]]:
    return _contents(route.get("requestBody", {}))


def _contents(part: dict[str, Any]) -> list[dict[str, Any]]:
    return [one["schema"] for one in part.get("content", {}).values() if "schema" in one]


def _meant(document: dict[str, Any], schema: dict[str, Any], asked: bool = False) -> dict[str, Any]:
    while "$ref" in schema:
        schema = document["components"]["schemas"][schema["$ref"].rpartition("/")[2]]
    if "discriminator" in schema:
        # Values parted by kind: whoever looks at the kind first finds the fields that the kind has.
        kinds = [_meant(document, one) for one in schema["oneOf"]]
        fields = {name: field for kind in kinds for name, field in kind["properties"].items()}
        needed = set(fields)
        if asked:
            needed = set.intersection(*(set(kind.get("required", ())) for kind in kinds))
        return {"properties": fields, "required": list(needed)}
    return schema


@pytest.mark.parametrize("released", RELEASED, ids=lambda file: file.name)
def test_what_a_release_described_is_still_there(released: Path) -> None:
    before = json.loads(gzip.decompress(released.read_bytes()))
    assert list(Compared(before, NOW).lost()) == []


def test_what_is_lost_is_found() -> None:
    before = json.loads(gzip.decompress(RELEASED[-1].read_bytes()))
    now = json.loads(json.dumps(NOW))
    del now["paths"]["/api/paces"]["get"]
    del now["components"]["schemas"]["JobView"]["properties"]["progress"]
    now["components"]["schemas"]["PaceBody"]["required"].append("colour")
    lost = " ".join(Compared(before, now).lost())
    for said in ("GET /api/paces is gone", "no field progress", "needs colour"):
        assert said in lost
