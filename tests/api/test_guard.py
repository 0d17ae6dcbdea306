"""Who may ask for what, and what answers allow browsers."""

import asyncio
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from mortiser.api import guard
from mortiser.api.app import create_app
from mortiser.api.pairing import FREE_TRIES, MOST_ADDRESSES, Tries
from mortiser.wiring import AppContext
from tests.api.routes import context_in


@pytest.fixture
def beyond(tmp_path: Path) -> Iterator[TestClient]:
    """A server that is open beyond its machine, reached by its address."""
    app = create_app(
        context_in(tmp_path, host="0.0.0.0", names="studio.example"), with_worker=False
    )
    with TestClient(app, base_url="http://testserver", follow_redirects=False) as made:
        yield made


def test_every_answer_says_what_a_browser_may_do(client: TestClient) -> None:
    for path in ("/", "/api/projects", "/api/nothing", "/api/projects/0"):
        headers = client.get(path).headers
        policy = headers["content-security-policy"]
        assert "default-src 'self'" in policy
        assert "frame-ancestors 'none'" in policy
        assert "script-src" not in policy
        assert headers["x-content-type-options"] == "nosniff"
        assert headers["referrer-policy"] == "same-origin"
        assert headers["x-frame-options"] == "DENY"


def test_documentation_loads_nothing_from_elsewhere(client: TestClient) -> None:
    page = client.get("/").text
    for path in ("/docs", "/redoc", "/openapi.json"):
        assert client.get(path).text == page


@pytest.mark.parametrize("site", ["cross-site", "same-site"])
@pytest.mark.parametrize(
    ("path", "to", "allowed"),
    [
        ("/", "document", True),
        ("/projects/1", "document", True),
        ("/", "iframe", False),
        ("/", "script", False),
        ("/api/projects", "document", False),
        ("/api/projects", "empty", False),
        ("/api/sources/1/media", "video", False),
        ("/assets/index.js", "script", False),
    ],
)
def test_other_sites_may_only_open_the_page(
    client: TestClient, site: str, path: str, to: str, allowed: bool
) -> None:
    answer = client.get(path, headers={"sec-fetch-site": site, "sec-fetch-dest": to})
    assert (answer.status_code != 403) == allowed
    own = client.get(path, headers={"sec-fetch-site": "same-origin", "sec-fetch-dest": to})
    assert own.status_code != 403


@pytest.mark.parametrize(
    "host",
    ["[", "evil.example", "127.0.0.1.evil.example", "", "[::1", "127.0.0.1:x:y", "\x00", "@"],
)
def test_forged_hosts_are_refused(client: TestClient, host: str) -> None:
    assert client.get("/api/projects", headers={"host": host}).status_code == 403


@pytest.mark.parametrize(
    "origin", ["null", "http://evil.example", "http://[", "http://127.0.0.1:1"]
)
def test_forged_origins_are_refused(client: TestClient, origin: str) -> None:
    assert client.get("/api/projects", headers={"origin": origin}).status_code == 403


def test_beyond_this_machine_strangers_get_no_further(beyond: TestClient) -> None:
    page = beyond.get("/")
    assert page.status_code == 401
    assert "Code or pass phrase" in page.text
    assert beyond.get("/api/projects").status_code == 401
    assert beyond.get("/assets/anything.js").status_code == 401
    assert beyond.post("/api/projects", params={"name": "a"}, content=b"x").status_code == 401
    assert beyond.get("/", headers={"host": "evil.example"}).status_code == 403
    for name in ("studio.example", "localhost", "STUDIO.example:8747"):
        assert beyond.get("/", headers={"host": name}).status_code == 401


def test_the_code_pairs_a_browser_for_good(beyond: TestClient, tmp_path: Path) -> None:
    code = beyond.app.state.pairing.code
    wrong = beyond.post("/pair", data={"code": "AAAA-AAAA"})
    assert (wrong.status_code, "That is not the code" in wrong.text) == (401, True)
    paired = beyond.post("/pair", data={"code": f" {code.lower().replace('-', ' ')} "})
    assert (paired.status_code, paired.headers["location"]) == (303, "/")
    cookie = paired.headers["set-cookie"].lower()
    assert "httponly" in cookie
    assert "samesite=lax" in cookie
    assert beyond.get("/api/projects").status_code == 200
    again = create_app(context_in(tmp_path, host="0.0.0.0"), with_worker=False)
    with TestClient(again, base_url="http://testserver", cookies=dict(beyond.cookies)) as later:
        assert later.get("/api/projects").status_code == 200
    phrased = create_app(
        context_in(tmp_path, host="0.0.0.0", pass_phrase="beeswax and linen"), with_worker=False
    )
    with TestClient(phrased, base_url="http://testserver", cookies=dict(beyond.cookies)) as other:
        assert other.get("/api/projects").status_code == 401
        other.post("/pair", data={"code": "beeswax and linen"})
        assert other.get("/api/projects").status_code == 200
    assert (tmp_path / "pairing.json").stat().st_mode & 0o777 == 0o600


def from_(app: Any, address: str) -> TestClient:
    return TestClient(
        app, base_url="http://testserver", client=(address, 4711), follow_redirects=False
    )


def test_wrong_codes_slow_down_the_address_they_come_from_alone(
    beyond: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    app, code = beyond.app, beyond.app.state.pairing.code
    assert beyond.post("/pair", data={"code": code}).status_code == 303
    stranger = from_(app, "198.51.100.9")
    for _ in range(FREE_TRIES):
        assert stranger.post("/pair", data={"code": "AAAA-AAAA"}).status_code == 401
    waits = stranger.post("/pair", data={"code": code})
    assert (waits.status_code, "Wait" in waits.text) == (429, True)
    assert 0 <= int(waits.headers["retry-after"]) <= 1
    assert beyond.get("/api/projects").status_code == 200, "who is paired stays so"
    assert from_(app, "203.0.113.5").post("/pair", data={"code": code}).status_code == 303
    now = time.monotonic()
    for waited in (1.1, 2.1, 4.1):
        now += waited
        monkeypatch.setattr(time, "monotonic", lambda now=now: now)
        assert stranger.post("/pair", data={"code": "AAAA-AAAA"}).status_code == 401
    assert stranger.post("/pair", data={"code": code}).status_code == 429
    monkeypatch.setattr(time, "monotonic", lambda: now + 9)
    assert stranger.post("/pair", data={"code": code}).status_code == 303
    assert stranger.get("/api/projects").status_code == 200


def test_one_network_counts_as_one_address_and_memory_is_bounded() -> None:
    tries = Tries()
    for last in range(FREE_TRIES):
        tries.wrong(f"2001:db8::{last:x}")
    assert tries.wait_s("2001:db8::ffff") > 0
    assert tries.wait_s("2001:db8:0:1::1") == 0
    for number in range(MOST_ADDRESSES):
        tries.wrong(f"10.{number >> 16}.{number >> 8 & 255}.{number & 255}")
    assert tries.wait_s("2001:db8::1") == 0


def test_each_browser_has_a_mark_of_its_own_and_can_be_sent_away(beyond: TestClient) -> None:
    app, code = beyond.app, beyond.app.state.pairing.code
    phone = from_(app, "203.0.113.5")
    agent = "Mozilla/5.0 (iPhone; CPU iPhone OS 18_0) AppleWebKit/605 Version/18 Safari/604"
    phone.post("/pair", data={"code": code}, headers={"user-agent": agent})
    beyond.post("/pair", data={"code": code}, headers={"user-agent": "X11; Linux Firefox/140"})
    assert phone.cookies["mortiser-paired"] != beyond.cookies["mortiser-paired"]
    found = beyond.get("/api/browsers").json()
    assert found["open"]
    told = [(one["name"], one["here"]) for one in found["browsers"]]
    assert told == [("Firefox on Linux", True), ("Safari on iPhone", False)]
    away = found["browsers"][1]["id"]
    assert beyond.delete(f"/api/browsers/{away}").status_code == 204
    assert phone.get("/api/projects").status_code == 401
    assert beyond.get("/api/projects").status_code == 200
    assert beyond.delete(f"/api/browsers/{away}").status_code == 404


def test_a_body_that_stops_half_way_is_given_up(
    context: AppContext, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(guard, "SILENT_S", 0.2)
    app = create_app(context, with_worker=False)
    for path in ("/api/projects?name=a.mp4", "/api/pictures", "/api/tapping/delay"):
        assert asyncio.run(half_sent(app, path)) == 400
    assert list((context.workspace.root / "uploads").iterdir()) == []


async def half_sent(app: Any, address: str) -> int:
    """The status of an answer to a request whose body begins and does not go on."""
    path, _, query = address.partition("?")
    scope = {
        "type": "http", "asgi": {"version": "3.0"}, "http_version": "1.1", "method": "POST",
        "scheme": "http", "path": path, "raw_path": path.encode(), "root_path": "",
        "query_string": query.encode(), "client": ("127.0.0.1", 9), "server": ("127.0.0.1", 80),
        "headers": [(b"host", b"127.0.0.1"), (b"content-type", b"application/json")],
    }  # fmt: skip
    parts = [{"type": "http.request", "body": b"{", "more_body": True}]
    found: list[int] = []

    async def receive() -> dict[str, Any]:
        if parts:
            return parts.pop()
        await asyncio.Event().wait()
        return {}

    async def send(message: dict[str, Any]) -> None:
        if "status" in message:
            found.append(message["status"])

    await asyncio.wait_for(app(scope, receive, send), 10)
    return found[0]


@pytest.mark.parametrize("asked", ["items=0-5", "bytes=x", "bytes", "bytes=5-2,", "bytes=--1"])
def test_a_range_that_is_none_is_passed_over(client: TestClient, project: int, asked: str) -> None:
    whole = client.get("/api/sources/1/media")
    answer = client.get("/api/sources/1/media", headers={"range": asked})
    assert (answer.status_code, len(answer.content)) == (200, len(whole.content))
    part = client.get("/api/sources/1/media", headers={"range": "bytes=0-5"})
    assert (part.status_code, len(part.content)) == (206, 6)


def test_this_machine_alone_needs_no_code(client: TestClient) -> None:
    assert client.get("/api/projects").status_code == 200
    assert client.app.state.pairing is None
    assert client.get("/api/browsers").json() == {"open": False, "browsers": []}
    assert client.delete("/api/browsers/1").status_code == 404
