"""What every library does: the workspace's own, a folder, and a service over HTTP."""

import shutil
from pathlib import Path

import pytest

from mortiser.core.common.errors import Cancelled, NotFound
from mortiser.core.library.found import Found
from mortiser.library.base import Library
from mortiser.library.folder import FolderLibrary
from mortiser.library.own import OwnLibrary, OwnThing
from mortiser.library.service import ServiceLibrary
from mortiser.standins.shelf import MEDIA, ShelfServer


@pytest.fixture(params=["own", "folder", "service"])
def library(request: pytest.FixtureRequest, tmp_path: Path, shelf: ShelfServer) -> Library:
    """One with the same kettle, chair and bell as the others."""
    if request.param == "service":
        return ServiceLibrary(shelf.address)
    folder = tmp_path / "clips" / "kitchen"
    folder.mkdir(parents=True)
    for name, called in (
        ("kettle-steam.mp4", "Kettle_with_steam.mp4"),
        ("kitchen-chair.png", "Kitchen chair.png"),
        ("shop-bell.m4a", "Shop bell.m4a"),
    ):
        shutil.copy(MEDIA / name, folder / called)
    if request.param == "folder":
        return FolderLibrary(folder.parent)
    kettle = Found(
        ref="film-1", name="Kettle with steam", kind="film", width=540, height=960, length_us=5_000_000
    )  # fmt: skip
    chair = Found(ref="chair", name="Kitchen chair", kind="picture", width=720, height=960)
    bell = Found(ref="bell", name="Shop bell", kind="sound")
    files = sorted(folder.iterdir())
    return OwnLibrary(lambda: list(map(OwnThing, (kettle, chair, bell), files)))


def names(library: Library, text: str, *kinds: str) -> list[str]:
    return [one.name for one in library.search(text, kinds, 0).found]


def test_a_thing_is_found_by_a_word_of_its_name(library: Library) -> None:
    assert names(library, "kettle")[0] == "Kettle with steam"
    assert names(library, "Before you throw your kettles away,")[0] == "Kettle with steam"
    assert names(library, "") != []
    assert names(library, "xylophones") == []


def test_kinds_can_be_chosen(library: Library) -> None:
    assert names(library, "", "sound").count("Shop bell") == 1
    assert "Shop bell" not in names(library, "", "film", "picture")


def test_what_is_found_is_described(library: Library) -> None:
    kettle = library.search("kettle", ("film",), 0).found[0]
    assert (kettle.kind, kettle.width, kettle.height, kettle.length_us) == (
        "film", 540, 960, 5_000_000
    )  # fmt: skip


def test_pages_beyond_the_last_are_empty(library: Library) -> None:
    assert library.search("", (), 0).next_page is None
    assert library.search("", (), 7).found == ()


def test_a_file_is_fetched_whole_with_progress(library: Library, tmp_path: Path) -> None:
    told: list[float] = []
    ref = library.search("kettle", ("film",), 0).found[0].ref
    found = library.fetch(ref, tmp_path / "came", told.append)
    assert (tmp_path / "came").read_bytes() == (MEDIA / "kettle-steam.mp4").read_bytes()
    assert found.name == "Kettle with steam"
    assert told == sorted(told)
    assert told[-1] == 1


def test_fetching_can_be_stopped(library: Library, tmp_path: Path) -> None:
    ref = library.search("kettle", ("film",), 0).found[0].ref

    def stop(_: float) -> None:
        raise Cancelled("Stopped on request.")

    with pytest.raises(Cancelled):
        library.fetch(ref, tmp_path / "came", stop)


def test_small_pictures_are_pictures(library: Library) -> None:
    for text in ("kettle", "chair"):
        data = library.small(library.search(text, (), 0).found[0].ref)
        assert data.startswith((b"\xff\xd8", b"\x89PNG"))
        assert len(data) < 100_000
    assert library.small(library.search("bell", ("sound",), 0).found[0].ref) == b""


@pytest.mark.parametrize(
    "ref", ["nothing", "../../etc/passwd", "kitchen/../../secret.png", "%2e%2e"]
)
def test_what_is_not_there_is_told(library: Library, ref: str, tmp_path: Path) -> None:
    (tmp_path / "secret.png").write_bytes(b"secret")
    with pytest.raises(NotFound):
        library.fetch(ref, tmp_path / "came", lambda _: None)
