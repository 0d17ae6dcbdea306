"""Pairing a browser with a server that is open beyond its machine, by a code or a pass phrase."""

from __future__ import annotations

import hashlib
import hmac
import json
import secrets
import time
from collections import deque
from functools import cache
from importlib.resources import files
from pathlib import Path
from urllib.parse import parse_qs

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from mortiser.api.bodies import small_body
from mortiser.core.errors import Damaged

PAIR_PATH = "/pair"
COOKIE = "mortiser-paired"
KEPT_S = 90 * 24 * 3600
LETTERS = "23456789ABCDEFGHJKMNPQRSTVWXYZ"
"""Without those that are mistaken for one another."""
MOST_TRIES = 10
WITHIN_S = 60.0
LARGEST_FORM = 4_000
router = APIRouter(include_in_schema=False)


class Pairing:
    """The workspace's code (or the phrase that was set) and the mark of browsers that know it."""

    def __init__(self, file: Path, phrase: str | None) -> None:
        code, secret = _kept(file)
        self.code = phrase or code
        self._mark = hmac.new(secret.encode(), self.code.encode(), hashlib.sha256).hexdigest()
        self._wrong: deque[float] = deque(maxlen=MOST_TRIES)

    def knows(self, request: Request) -> bool:
        """Whether a request comes from a paired browser."""
        return hmac.compare_digest(request.cookies.get(COOKIE, "").encode(), self._mark.encode())

    def wait_s(self) -> float:
        """How long nobody may try, after too many wrong tries."""
        if len(self._wrong) < MOST_TRIES:
            return 0.0
        return max(0.0, self._wrong[0] + WITHIN_S - time.monotonic())

    def tried(self, code: str) -> bool:
        """Whether a code is the right one; wrong ones are counted."""
        right = hmac.compare_digest(_plain(code), _plain(self.code))
        if not right:
            self._wrong.append(time.monotonic())
        return right

    def mark(self, answer: Response) -> None:
        """Let the browser that gets an answer be known from now on."""
        answer.set_cookie(COOKIE, self._mark, max_age=KEPT_S, httponly=True, samesite="lax")


@router.post(PAIR_PATH)
async def pair(request: Request) -> Response:
    """Pair the browser and go on to the page; the body is a form's, as browsers send it."""
    form = parse_qs((await small_body(request, LARGEST_FORM)).decode("utf-8", "replace"))
    code = form.get("code", [""])[0]
    pairing: Pairing | None = request.app.state.pairing
    if pairing is not None:
        wait = pairing.wait_s()
        if wait:
            said = f"There were too many wrong codes. Wait {wait:.0f} seconds, then try again."
            return HTMLResponse(pairing_page(said), status_code=429)
        if not pairing.tried(code):
            said = "That is not the code. It stands where Mortiser was started."
            return HTMLResponse(pairing_page(said), status_code=401)
    answer = RedirectResponse("/", status_code=303)
    if pairing is not None:
        pairing.mark(answer)
    return answer


def pairing_page(said: str = "") -> str:
    """The page that asks for the code; ``said`` is plain text."""
    return _page().replace("{said}", said)


@cache
def _page() -> str:
    return (files("mortiser.api") / "pairing.html").read_text(encoding="utf-8")


def _plain(code: str) -> bytes:
    return "".join(code.upper().replace("-", " ").split()).encode()


def _kept(file: Path) -> tuple[str, str]:
    """(code, secret) of the workspace, made when first asked for."""
    if file.exists():
        try:
            kept = json.loads(file.read_text(encoding="utf-8"))
            return str(kept["code"]), str(kept["secret"])
        except (ValueError, KeyError, TypeError) as error:
            raise Damaged(f"{file} is damaged. Remove it: a new code is made then.") from error
    letters = [secrets.choice(LETTERS) for _ in range(8)]
    code = f"{''.join(letters[:4])}-{''.join(letters[4:])}"
    secret = secrets.token_hex(32)
    file.write_text(json.dumps({"code": code, "secret": secret}), encoding="utf-8")
    file.chmod(0o600)
    return code, secret
