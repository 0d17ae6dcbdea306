"""Hostile requests to every route, foreign ones, and lines that are hardly HTTP at all."""

from __future__ import annotations

import json
import random
import socket
import tempfile
from pathlib import Path
from urllib.parse import quote

import httpx

from tests.api.test_hostile import DOCUMENT, HOSTILE, nearly
from tests.api.test_hostile_edits import KINDS, odd_edit
from tests.recordings import COUNTER
from tests.serving import Server, bring_in, wait_for_job
from tests.torture.state import whole
from tests.torture.tally import Tally

FOREIGN = [
    {"host": "evil.example"}, {"host": "["}, {"host": ""}, {"origin": "http://evil.example"},
    {"origin": "null"}, {"sec-fetch-site": "cross-site"}, {"sec-fetch-site": "same-site"},
    {"host": "127.0.0.1.evil.example"},
]  # fmt: skip
LINES = [
    b"GET / HTTP/9.9\r\n\r\n", b"\0" * 500, b"GET " + b"/a" * 40_000 + b" HTTP/1.1\r\n\r\n",
    b"POST /api/glossary HTTP/1.1\r\nHost: localhost\r\nContent-Length: -5\r\n\r\n",
    b"POST /api/projects?name=a HTTP/1.1\r\nHost: localhost\r\nContent-Length: 99999999999999\r\n\r\n",
    b"GET / HTTP/1.1\r\nHost: localhost\r\nHost: evil\r\n\r\n",
    b"GET / HTTP/1.1\r\n" + b"a: b\r\n" * 5_000 + b"\r\n",
    b"POST /api/glossary HTTP/1.1\r\nHost: localhost\r\nTransfer-Encoding: chunked\r\n\r\nzz\r\n",
    b"GET /%00/%ff/..%2f..%2fetc/passwd HTTP/1.1\r\nHost: localhost\r\n\r\n",
]  # fmt: skip


def attack(count: int, seed: int = 13) -> Tally:
    """So many hostile requests, every second one an edit, a tenth as many foreign ones, and all odd lines."""
    tally = Tally("hostile requests")
    chance = random.Random(seed)
    routes = [(m, path, told) for path, ms in DOCUMENT["paths"].items() for m, told in ms.items()]
    with tempfile.TemporaryDirectory() as folder:
        server = Server(Path(folder) / "w")
        try:
            with server.client() as client:
                project = bring_in(client, COUNTER)["id"]
                wait_for_job(client, project, "transcribe")
                before = client.get(f"/api/projects/{project}").json()
                kinds = sorted(KINDS)
                for number in range(count // 2):
                    method, path, told = routes[number % len(routes)]
                    with tally.trying(f"{number} {method} {path}"):
                        _ask(client, method, path, told, chance)
                    kind = kinds[number % len(kinds)]
                    with tally.trying(f"{number} edit {kind}"):
                        _edit(client, project, odd_edit(kind, chance))
                for number in range(count // 10):
                    method, path, _ = routes[chance.randrange(len(routes))]
                    headers = FOREIGN[number % len(FOREIGN)]
                    with tally.trying(f"foreign {method} {path} {headers}"):
                        answer = client.request(method, path.replace("{", "").replace("}", ""),
                                                headers=headers)  # fmt: skip
                        assert answer.status_code == 403, answer.status_code
                for line in LINES:
                    with tally.trying(f"line {line[:40]!r}"):
                        _line(server, line)
                with tally.trying("the project is there, and its words"):
                    after = client.get(f"/api/projects/{project}").json()
                    assert after["sources"][0]["id"] == before["sources"][0]["id"]
                    assert after["pieces"]
            whole(server.workspace)
        finally:
            server.stop()
    return tally


def _ask(client: httpx.Client, method: str, path: str, told: dict, chance: random.Random) -> None:
    if path.endswith("/events") or (method == "delete" and path == "/api/projects/{project_id}"):
        return  # The one never ends, the other is meant.
    address, query = path, {}
    for part in told.get("parameters", ()):
        odd = chance.random() < 0.4
        value = str(chance.choice(HOSTILE) if odd else 1)[:3_000]
        value = value.encode("utf-8", "replace").decode()
        if part["in"] == "path":
            address = address.replace(f"{{{part['name']}}}", quote(value, safe="") or "1")
        else:
            query[part["name"]] = value
    sent: dict = {}
    content = told.get("requestBody", {}).get("content", {})
    if "application/json" in content:
        body = json.dumps(nearly(content["application/json"]["schema"], chance)).encode()
        sent = {"content": body, "headers": {"content-type": "application/json"}}
    elif content:
        sent = {"content": chance.randbytes(chance.choice([0, 1, 100, 5_000]))}
    answer = client.request(method, address, params=query, **sent)
    assert answer.status_code < 500, (answer.status_code, answer.text[:300])
    if answer.status_code >= 400:
        assert answer.json()["message"]


def _edit(client: httpx.Client, project: int, edit: object) -> None:
    revision = client.get(f"/api/projects/{project}/status").json()["revision"]
    body = json.dumps({"base_revision": revision, "edit": edit}).encode()
    headers = {"content-type": "application/json"}
    answer = client.post(f"/api/projects/{project}/edits", content=body, headers=headers)
    assert answer.status_code < 500, (answer.status_code, answer.text[:300])
    if answer.status_code >= 400:
        assert answer.json()["message"]


def _line(server: Server, line: bytes) -> None:
    host, port = server.address.removeprefix("http://").split(":")
    with socket.create_connection((host, int(port)), timeout=10) as connection:
        connection.sendall(line)
        connection.shutdown(socket.SHUT_WR)
        answer = b""
        while part := connection.recv(65_536):
            answer += part
    assert b" 500 " not in answer.split(b"\r\n", 1)[0], answer[:200]
    assert httpx.get(f"{server.address}/api/projects", timeout=5).status_code == 200
