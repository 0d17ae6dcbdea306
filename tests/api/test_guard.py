"""Who may ask for what, and what answers allow browsers."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from mortiser.api.app import create_app
from mortiser.api.pairing import MOST_TRIES
from tests.api.routes import shop_in


@pytest.fixture
def beyond(tmp_path: Path) -> Iterator[TestClient]:
    """A server that is open beyond its machine, reached by its address."""
    app = create_app(shop_in(tmp_path, host="0.0.0.0", names="studio.example"), with_worker=False)
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
    again = create_app(shop_in(tmp_path, host="0.0.0.0"), with_worker=False)
    with TestClient(again, base_url="http://testserver", cookies=dict(beyond.cookies)) as later:
        assert later.get("/api/projects").status_code == 200
    phrased = create_app(
        shop_in(tmp_path, host="0.0.0.0", pass_phrase="beeswax and linen"), with_worker=False
    )
    with TestClient(phrased, base_url="http://testserver", cookies=dict(beyond.cookies)) as other:
        assert other.get("/api/projects").status_code == 401
        other.post("/pair", data={"code": "beeswax and linen"})
        assert other.get("/api/projects").status_code == 200
    assert (tmp_path / "pairing.json").stat().st_mode & 0o777 == 0o600


def test_codes_cannot_be_tried_one_after_the_other(beyond: TestClient) -> None:
    for _ in range(MOST_TRIES):
        assert beyond.post("/pair", data={"code": "AAAA-AAAA"}).status_code == 401
    answer = beyond.post("/pair", data={"code": beyond.app.state.pairing.code})
    assert answer.status_code == 429
    assert "Wait" in answer.text


def test_this_machine_alone_needs_no_code(client: TestClient) -> None:
    assert client.get("/api/projects").status_code == 200
    assert client.app.state.pairing is None
