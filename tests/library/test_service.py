"""A library over HTTP that is slow, fails, breaks off, limits, lies: said, and gone on with where that helps."""

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import httpx
import pytest

from mortiser.core.common.errors import Busy, MortiserError, NotFound, OutOfReach, TooLarge
from mortiser.library import service
from mortiser.library.service import ServiceLibrary
from mortiser.standins.shelf import MEDIA, ShelfServer


@pytest.fixture
def library(shelf: ShelfServer, monkeypatch: pytest.MonkeyPatch) -> Iterator[ServiceLibrary]:
    monkeypatch.setattr(service, "USUAL_WAIT_S", 0.01)
    yield ServiceLibrary(shelf.address)
    told(shelf)


def told(shelf: ShelfServer, **faults: Any) -> None:
    httpx.put(f"{shelf.address}/faults", json=faults).raise_for_status()


def fetched(library: ServiceLibrary, into: Path, ref: str = "rain-window") -> bytes:
    library.fetch(ref, into / "came", lambda _: None)
    return (into / "came").read_bytes()


WHOLE = (MEDIA / "rain-window.mp4").read_bytes()


def test_a_file_that_breaks_off_is_gone_on_with(
    shelf: ShelfServer, library: ServiceLibrary, tmp_path: Path
) -> None:
    told(shelf, cut_off=40_000)
    assert fetched(library, tmp_path) == WHOLE


def test_one_that_never_goes_on_is_given_up(
    shelf: ShelfServer, library: ServiceLibrary, tmp_path: Path
) -> None:
    told(shelf, fail=100)
    with pytest.raises(OutOfReach, match="error"):
        fetched(library, tmp_path)


def test_a_library_that_asks_to_wait_for_long_is_not_waited_for(
    shelf: ShelfServer, library: ServiceLibrary, tmp_path: Path
) -> None:
    told(shelf, a_minute=1)
    assert library.search("rain", (), 0).found
    with pytest.raises(Busy, match="wait"):
        library.search("bell", (), 0)
    with pytest.raises(Busy, match="wait"):
        fetched(library, tmp_path)


def test_what_is_listed_but_gone_is_told(
    shelf: ShelfServer, library: ServiceLibrary, tmp_path: Path
) -> None:
    told(shelf, gone=["rain-window"])
    with pytest.raises(NotFound, match="any more"):
        fetched(library, tmp_path)


@pytest.mark.parametrize("lie", [0.01, 50])
def test_a_size_that_is_not_true_spoils_nothing(
    shelf: ShelfServer, library: ServiceLibrary, tmp_path: Path, lie: float
) -> None:
    told(shelf, lie=lie)
    assert fetched(library, tmp_path) == WHOLE


def test_more_than_can_be_used_is_refused(
    library: ServiceLibrary, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(service, "MOST_BYTES", 50_000)
    with pytest.raises(TooLarge):
        fetched(library, tmp_path)


def test_a_list_that_cannot_be_read_is_told(shelf: ShelfServer, library: ServiceLibrary) -> None:
    told(shelf, garbled=True)
    with pytest.raises(OutOfReach, match="cannot be read"):
        library.search("", (), 0)


def test_a_library_that_is_slow_is_waited_for_so_long(
    shelf: ShelfServer, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(service, "ANSWERS_S", 0.2)
    told(shelf, slow_s=1.0)
    try:
        with pytest.raises(OutOfReach, match="does not answer"):
            ServiceLibrary(shelf.address).search("", (), 0)
    finally:
        told(shelf)


def test_what_was_asked_lately_is_not_asked_again(
    shelf: ShelfServer, library: ServiceLibrary, monkeypatch: pytest.MonkeyPatch
) -> None:
    found = library.search("rain", (), 0)
    told(shelf, fail=1)
    assert library.search("rain", (), 0) == found
    monkeypatch.setattr(service, "LATELY_S", 0)
    with pytest.raises(OutOfReach):
        library.search("rain", (), 0)


def test_a_library_that_is_not_there_is_told() -> None:
    with pytest.raises(MortiserError, match="does not answer"):
        ServiceLibrary("http://127.0.0.1:9").search("", (), 0)
