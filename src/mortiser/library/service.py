"""A clip library that is asked over HTTP.

It answers in JSON: ``GET /items?text=&kinds=&page=`` with ``{"items": [...], "next": number or null}``, and gives
``/items/{id}/small`` and ``/items/{id}/file``, the file in parts where a ``Range`` is asked for (RFC 9110, 14.2).
Nothing it says is believed before it is checked, and no other address is followed.
"""

from __future__ import annotations

import json
import time
from collections.abc import Collection, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any
from urllib.parse import quote, urlencode

import urllib3
from urllib3.exceptions import HTTPError

from mortiser.core.common.errors import Busy, NotFound, OutOfReach, TooLarge
from mortiser.core.library.found import MOST_BYTES, PAGE, Found, FoundKind, FoundPage
from mortiser.library.base import Progress

ANSWERS_S = 10.0
"""It has so long to begin with an answer, and to go on with one."""
LARGEST_LIST = 1024**2
LARGEST_SMALL = 2 * 1024**2
TRIES = 5
"""So often a file that broke off is gone on with, if nothing more came."""
LONGEST_WAIT_S = 20.0
"""A library that asks for a longer pause is not waited for."""
USUAL_WAIT_S = 1.0
BLOCK = 256 * 1024
LATELY_S = 60.0
MOST_KEPT = 64
"""Answers that are kept for so long."""


class ServiceLibrary:
    """See Library."""

    def __init__(self, address: str, title: str = "The clip service") -> None:
        self.title = title
        self._address = address.rstrip("/")
        self._lately: dict[tuple[str, tuple[FoundKind, ...], int], tuple[float, FoundPage]] = {}
        self._pool = urllib3.PoolManager(
            timeout=urllib3.Timeout(connect=ANSWERS_S, read=ANSWERS_S), retries=False, maxsize=8
        )

    def search(self, text: str, kinds: Collection[FoundKind], page: int) -> FoundPage:
        """See Library. What was asked lately is not asked again."""
        asked = text, tuple(kinds), page
        at, known = self._lately.get(asked, (0.0, None))
        if known is not None and time.monotonic() - at < LATELY_S:
            return known
        found = self._searched(text, kinds, page)
        if len(self._lately) >= MOST_KEPT:
            self._lately.clear()
        self._lately[asked] = time.monotonic(), found
        return found

    def _searched(self, text: str, kinds: Collection[FoundKind], page: int) -> FoundPage:
        query = urlencode({"text": text, "kinds": ",".join(kinds), "page": page, "size": PAGE})
        with self._asked(f"items?{query}") as answer:
            data = _limited(answer, LARGEST_LIST)
        with _understood():
            told = json.loads(data)
            found = [_found(one) for one in told["items"]][:PAGE]
            return FoundPage(found=tuple(found), next_page=told.get("next"))

    def small(self, ref: str) -> bytes:
        """See Library."""
        try:
            with self._asked(f"items/{quote(ref, safe='')}/small") as answer:
                return _limited(answer, LARGEST_SMALL)
        except NotFound:
            return b""

    def fetch(self, ref: str, into: Path, progress: Progress) -> Found:
        """See Library. Where the library breaks off, it is gone on with; pauses it asks for are kept.

        Raises TooLarge too, where more comes than it said.
        """
        with self._asked(f"items/{quote(ref, safe='')}") as answer:
            data = _limited(answer, LARGEST_LIST)
        with _understood():
            found = _found(json.loads(data))
        left = TRIES
        with into.open("wb") as file:
            while True:
                had = file.tell()
                try:
                    self._go_on(found, file, progress)
                except OutOfReach:
                    left = TRIES if file.tell() > had else left - 1
                    if left == 0:
                        raise
                    # Sleeps in pieces that can be stopped.
                    _wait(USUAL_WAIT_S, progress, file.tell(), found)
                else:
                    return found.model_copy(update={"size_bytes": file.tell()})

    def _go_on(self, found: Found, file: Any, progress: Progress) -> None:
        """Write what is missing of a file."""
        had = file.tell()
        path = f"items/{quote(found.ref, safe='')}/file"
        with self._asked(path, {"Range": f"bytes={had}-"} if had else {}, progress) as answer:
            if had and answer.status != 206:
                # It gives the file from its beginning alone.
                file.seek(0)
                file.truncate()
            whole = file.tell() + int(answer.headers.get("Content-Length") or 0)
            try:
                # As it comes: what came before it breaks off is kept.
                while block := answer.read1(BLOCK):
                    file.write(block)
                    if file.tell() > min(MOST_BYTES, max(whole, found.size_bytes) or MOST_BYTES):
                        raise TooLarge("The library sent more than it said. Choose something else.")
                    progress(_part(file.tell(), found))
            except HTTPError as error:
                raise OutOfReach(BROKEN_OFF) from error
            if file.tell() < whole:
                raise OutOfReach(BROKEN_OFF)

    @contextmanager
    def _asked(
        self, path: str, headers: dict[str, str] | None = None, progress: Progress | None = None
    ) -> Iterator[urllib3.BaseHTTPResponse]:
        """An answer whose contents are still to be read. A pause it asks for is kept where there is a
        ``progress`` that can stop it."""
        for _ in range(TRIES):
            try:
                answer = self._pool.request(
                    "GET", f"{self._address}/{path}", headers=headers, redirect=False,
                    preload_content=False,
                )  # fmt: skip
            except HTTPError as error:
                raise OutOfReach(
                    f"The library at {self._address} does not answer. Check the connection, and try again."
                ) from error
            pause_s = _pause_s(answer)
            if pause_s is None:
                break
            answer.close()
            if progress is None or pause_s > LONGEST_WAIT_S:
                raise Busy(f"The library asks to wait {pause_s:.0f} s. Try again then.")
            _wait(pause_s, progress, 0, None)
        else:
            raise Busy("The library still asks to wait. Try again later.")
        try:
            if answer.status in (404, 410):
                raise NotFound("The library does not have that any more. Search again.")
            if answer.status not in (200, 206):
                raise OutOfReach(
                    f"The library answered with an error ({answer.status}). Try again later."
                )
            yield answer
        finally:
            # What was not read is not waited for.
            answer.close()


BROKEN_OFF = "The library broke off in the middle of the file. Try again later."


@contextmanager
def _understood() -> Iterator[None]:
    """Say it where an answer is not what it should be."""
    try:
        yield
    except (ValueError, KeyError, TypeError, AttributeError) as error:
        raise OutOfReach(
            "The library answered with something that cannot be read. Try again later."
        ) from error


def _found(told: dict[str, Any]) -> Found:
    """What a library tells of a thing. Raises ValueError and its like."""
    return Found(
        ref=str(told["id"]),
        name=str(told["title"])[:120],
        kind=told["kind"],
        length_us=1_000 * int(told.get("length_ms") or 0),
        width=int(told.get("width") or 0),
        height=int(told.get("height") or 0),
        size_bytes=int(told.get("bytes") or 0),
        maker=str(told.get("maker") or "")[:120],
        licence=str(told.get("licence") or "")[:120],
        tags=tuple(str(tag)[:60] for tag in told.get("tags") or ())[:40],
    )


def _pause_s(answer: urllib3.BaseHTTPResponse) -> float | None:
    """How long it asks to be left alone (RFC 6585, 4); None where it does not."""
    if answer.status not in (429, 503):
        return None
    try:
        return max(0.0, float(answer.headers.get("Retry-After", USUAL_WAIT_S)))
    except ValueError:
        return USUAL_WAIT_S


def _wait(seconds: float, progress: Progress, done: int, found: Found | None) -> None:
    until = time.monotonic() + seconds
    while (left := until - time.monotonic()) > 0:
        progress(_part(done, found) if found else 0.0)
        time.sleep(min(0.2, left))


def _part(done: int, found: Found) -> float:
    return min(1.0, done / found.size_bytes) if found.size_bytes else 0.0


def _limited(answer: urllib3.BaseHTTPResponse, most: int) -> bytes:
    try:
        data = answer.read(most + 1)
    except HTTPError as error:
        raise OutOfReach(
            "The library broke off in the middle of its answer. Try again later."
        ) from error
    if len(data) > most:
        raise OutOfReach("The library answers with more than can be used. Try another one.")
    return bytes(data)
