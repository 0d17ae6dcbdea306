"""Pairing browsers with a server that is open beyond its machine, by a code or a pass phrase.

Each browser that is paired has a mark of its own, and can be sent away again. Wrong codes slow down the
address they come from, and nobody else.
"""

from __future__ import annotations

import hashlib
import hmac
import ipaddress
import json
import secrets
import threading
import time
from collections import OrderedDict
from functools import cache
from importlib.resources import files
from pathlib import Path
from typing import Annotated
from urllib.parse import parse_qs

from fastapi import APIRouter, Depends, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from pydantic import BaseModel, Field

from mortiser import disk
from mortiser.api.bodies import small_body
from mortiser.api.routing import routes
from mortiser.core.common.errors import Damaged, NotFound
from mortiser.core.common.limits import Id

PAIR_PATH = "/pair"
COOKIE = "mortiser-paired"
KEPT_S = 90 * 24 * 3600
LETTERS = "23456789ABCDEFGHJKMNPQRSTVWXYZ"
"""Without those that are mistaken for one another."""
FREE_TRIES = 5
"""Wrong codes that an address may send before it has to wait."""
LONGEST_WAIT_S = 60.0
FORGOTTEN_S = 3_600.0
"""After so long without a wrong code an address begins anew."""
MOST_ADDRESSES = 10_000
MOST_BROWSERS = 100
"""The one paired longest ago goes when there are more."""
LARGEST_FORM = 4_000
page_routes = APIRouter(include_in_schema=False)
router = routes("/api/browsers", "browsers")


class Browser(BaseModel):
    """A browser that is paired: the SHA-256 of its mark, and what it was paired by."""

    id: int
    name: str
    paired_us: int
    digest: str
    by: str


class Kept(BaseModel):
    """What stands in the file; it is the owner's alone."""

    code: str
    secret: str
    browsers: list[Browser] = Field(default_factory=list)


class Pairing:
    """The workspace's code (or the phrase that was set) and the browsers that know it."""

    def __init__(self, file: Path, phrase: str | None) -> None:
        self._file = file
        self._kept = _kept(file)
        self.code = phrase or self._kept.code
        self._by = hmac.new(
            self._kept.secret.encode(), self.code.encode(), hashlib.sha256
        ).hexdigest()
        self.tries = Tries()
        self._guard = threading.Lock()

    def browser(self, request: Request) -> Browser | None:
        """The paired browser that a request comes from; None for a stranger's."""
        digest = _digest(request.cookies.get(COOKIE, ""))
        found = [one for one in self.browsers() if hmac.compare_digest(one.digest, digest)]
        return found[0] if found else None

    def browsers(self) -> list[Browser]:
        """Those paired by the code that holds now, the newest first."""
        return [one for one in reversed(self._kept.browsers) if one.by == self._by]

    def right(self, code: str) -> bool:
        """Whether a code is the right one."""
        return hmac.compare_digest(_plain(code), _plain(self.code))

    def pair(self, answer: Response, name: str) -> None:
        """Let the browser that gets an answer be known from now on."""
        mark = secrets.token_urlsafe(32)
        with self._guard:
            known = self._kept.browsers
            fresh = Browser(
                id=max((one.id for one in known), default=0) + 1,
                name=name,
                paired_us=time.time_ns() // 1000,
                digest=_digest(mark),
                by=self._by,
            )
            self._keep([*known, fresh][-MOST_BROWSERS:])
        answer.set_cookie(COOKIE, mark, max_age=KEPT_S, httponly=True, samesite="lax")

    def remove(self, browser_id: int) -> None:
        """Send a browser away: it is asked for the code again. Raises NotFound."""
        with self._guard:
            left = [one for one in self._kept.browsers if one.id != browser_id]
            if len(left) == len(self._kept.browsers):
                raise NotFound("That browser is not paired any more.")
            self._keep(left)

    def _keep(self, browsers: list[Browser]) -> None:
        self._kept = self._kept.model_copy(update={"browsers": browsers})
        _write(self._file, self._kept)


class Tries:
    """Wrong codes by the address they came from (of IPv6 the network, which one machine has whole)."""

    def __init__(self) -> None:
        self._wrong: OrderedDict[str, tuple[int, float]] = OrderedDict()
        self._guard = threading.Lock()

    def wait_s(self, address: str) -> float:
        """How long an address has to wait before it may try again."""
        with self._guard:
            count, last = self._wrong.get(_network(address), (0, 0.0))
        if count < FREE_TRIES:
            return 0.0
        pause = min(LONGEST_WAIT_S, 2.0 ** (count - FREE_TRIES))
        return max(0.0, last + pause - time.monotonic())

    def wrong(self, address: str) -> None:
        """Count a wrong code."""
        key, now = _network(address), time.monotonic()
        with self._guard:
            count, last = self._wrong.pop(key, (0, now))
            self._wrong[key] = (count + 1 if now - last < FORGOTTEN_S else 1, now)
            while len(self._wrong) > MOST_ADDRESSES:
                self._wrong.popitem(last=False)

    def right(self, address: str) -> None:
        """Forget an address's wrong codes."""
        with self._guard:
            self._wrong.pop(_network(address), None)


def pairing_of(request: Request) -> Pairing | None:
    """The server's pairing; None where it answers its own machine alone."""
    found: Pairing | None = request.app.state.pairing
    return found


OpenPairing = Annotated[Pairing | None, Depends(pairing_of)]


@page_routes.post(PAIR_PATH)
async def pair(request: Request) -> Response:
    """Pair the browser and go on to the page; the body is a form's, as browsers send it."""
    pairing = pairing_of(request)
    if pairing is None:
        return RedirectResponse("/", status_code=303)
    address = request.client.host if request.client else ""
    wait = pairing.tries.wait_s(address)
    if wait:
        said = f"There were too many wrong codes from here. Wait {wait:.0f} s, then try again."
        headers = {"Retry-After": f"{wait:.0f}"}
        return HTMLResponse(pairing_page(said), status_code=429, headers=headers)
    form = parse_qs((await small_body(request, LARGEST_FORM)).decode("utf-8", "replace"))
    if not pairing.right(form.get("code", [""])[0]):
        pairing.tries.wrong(address)
        said = "That is not the code. It stands where Mortiser was started."
        return HTMLResponse(pairing_page(said), status_code=401)
    pairing.tries.right(address)
    answer = RedirectResponse("/", status_code=303)
    pairing.pair(answer, browser_name(request.headers.get("user-agent", "")))
    return answer


class BrowserView(BaseModel):
    id: int
    name: str
    paired_us: int
    here: bool = Field(description="Whether it is the one that asks.")


class BrowsersView(BaseModel):
    open: bool = Field(description="Whether others than this machine can reach the server.")
    browsers: list[BrowserView]


@router.get("")
def list_browsers(request: Request, pairing: OpenPairing) -> BrowsersView:
    """The browsers that are paired, the newest first."""
    if pairing is None:
        return BrowsersView(open=False, browsers=[])
    here = pairing.browser(request)
    return BrowsersView(
        open=True,
        browsers=[
            BrowserView(id=one.id, name=one.name, paired_us=one.paired_us, here=one == here)
            for one in pairing.browsers()
        ],
    )


@router.delete("/{browser_id}", status_code=204)
def remove_browser(browser_id: Id, pairing: OpenPairing) -> None:
    """Send a browser away: it is asked for the code again."""
    if pairing is None:
        raise NotFound("Browsers are paired only where others can reach this server.")
    pairing.remove(browser_id)


def browser_name(agent: str) -> str:
    """What a browser says it is, in two or three words."""
    kinds = ("Edg", "OPR", "Firefox", "Chrome", "Safari")
    names = {"Edg": "Edge", "OPR": "Opera"}
    machines = ("Android", "iPhone", "iPad", "Windows", "Mac OS", "Linux")
    kind = next((names.get(one, one) for one in kinds if one in agent), "Browser")
    machine = next((one for one in machines if one in agent), "")
    return f"{kind} on {machine}" if machine else kind


def pairing_page(said: str = "") -> str:
    """The page that asks for the code; ``said`` is plain text."""
    return _page().replace("{said}", said)


@cache
def _page() -> str:
    return (files("mortiser.api") / "pairing.html").read_text(encoding="utf-8")


def _plain(code: str) -> bytes:
    return "".join(code.upper().replace("-", " ").split()).encode()


def _digest(mark: str) -> str:
    return hashlib.sha256(mark.encode("utf-8", "replace")).hexdigest()


def _network(address: str) -> str:
    try:
        found = ipaddress.ip_address(address)
    except ValueError:
        return address
    if found.version == 4:
        return address
    return str(ipaddress.ip_network((int(found), 64), strict=False))


def _kept(file: Path) -> Kept:
    """The workspace's code and browsers, made when first asked for."""
    if file.exists():
        try:
            return Kept.model_validate(json.loads(file.read_text(encoding="utf-8")))
        except ValueError as error:
            raise Damaged(f"{file} is damaged. Remove it: a new code is made then.") from error
    letters = [secrets.choice(LETTERS) for _ in range(8)]
    code = f"{''.join(letters[:4])}-{''.join(letters[4:])}"
    kept = Kept(code=code, secret=secrets.token_hex(32))
    _write(file, kept)
    return kept


def _write(file: Path, kept: Kept) -> None:
    disk.write(file, kept.model_dump_json().encode(), mode=0o600)
