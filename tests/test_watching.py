"""A watched folder: half copied files wait, failed ones are set aside, nothing is done twice."""

import errno
import os
from collections.abc import Sequence
from pathlib import Path

import pytest

from mortiser.core.common.errors import BadInput, BadMedia, NoSpace
from mortiser.services.watching import Watch
from tests.recordings import small_demo
from tests.test_cli import run


class Folder:
    """A watched folder, a clock that is set by hand, and work that writes one file."""

    def __init__(self, root: Path) -> None:
        self.now = 0.0
        self.inside, self.out = root / "in", root / "out"
        self.inside.mkdir()
        self.out.mkdir()
        self.done: list[str] = []
        self.fails: dict[str, Exception] = {}
        self.watch = Watch(self.inside, self.out, self.make, clock=lambda: self.now)

    def make(self, recording: Path, folder: Path) -> Sequence[Path]:
        (folder / f"{recording.stem}.srt").write_text("half")
        if recording.name in self.fails:
            raise self.fails[recording.name]
        self.done.append(recording.name)
        (folder / f"{recording.stem}.srt").write_text(recording.read_text())
        return []

    def put(self, name: str, text: str = "tea") -> None:
        (self.inside / name).write_text(text)

    def later(self, seconds: float = 6.0) -> list[str]:
        self.now += seconds
        return [one.recording.name for one in self.watch.look()]


@pytest.fixture
def folder(tmp_path: Path) -> Folder:
    return Folder(tmp_path)


def test_what_is_whole_is_delivered_once(folder: Folder) -> None:
    folder.put("a.mp4")
    assert folder.later() == []
    assert folder.later() == ["a.mp4"]
    assert folder.later() == []
    assert (folder.out / "a" / "a.srt").read_text() == "tea"
    assert (folder.inside / "done" / "a.mp4").exists()
    assert sorted(one.name for one in folder.out.iterdir()) == ["a"]
    folder.put("a.mp4", "coffee")
    folder.later()
    assert folder.later() == ["a.mp4"]
    assert (folder.out / "a 2" / "a.srt").read_text() == "coffee"
    assert (folder.inside / "done" / "a 2.mp4").exists()


def test_what_is_still_being_copied_waits(folder: Folder) -> None:
    folder.put("a.mp4", "t")
    folder.later()
    for text in ("te", "tea", "tea "):
        folder.put("a.mp4", text)
        assert folder.later() == []
    folder.put("b.mp4.part")
    folder.put(".c.mp4")
    folder.put("empty.mp4", "")
    (folder.inside / "d").mkdir()
    os.symlink(folder.inside / "a.mp4", folder.inside / "e.mp4")
    folder.later(1.0)
    assert folder.later() == ["a.mp4"]
    assert folder.later() == []
    assert folder.done == ["a.mp4"]


def test_what_fails_is_set_aside_with_the_reason(folder: Folder) -> None:
    folder.fails = {"a.mp4": BadMedia("This recording is cut off."), "b.mp4": OSError("gone")}
    for name in ("a.mp4", "b.mp4", "c.mp4"):
        folder.put(name)
    folder.later()
    assert set(folder.later()) == {"a.mp4", "b.mp4", "c.mp4"}
    aside = folder.inside / "set aside"
    assert (aside / "a.mp4.txt").read_text() == "This recording is cut off.\n"
    assert (aside / "b.mp4.txt").read_text() == "gone\n"
    assert [one.name for one in folder.out.iterdir()] == ["c"], "nothing half done"
    assert folder.later() == []


@pytest.mark.parametrize("fault", [NoSpace("full"), OSError(errno.ENOSPC, "full")])
def test_on_a_full_disk_recordings_stay_where_they_are(folder: Folder, fault: Exception) -> None:
    folder.put("a.mp4")
    folder.later()
    folder.fails = {"a.mp4": fault}
    with pytest.raises(NoSpace):
        folder.later()
    assert (folder.inside / "a.mp4").exists()
    assert list(folder.out.iterdir()) == []
    folder.fails = {}
    assert folder.later() == ["a.mp4"]


def test_folders_must_be_there_and_be_two(tmp_path: Path) -> None:
    with pytest.raises(BadInput, match="does not exist"):
        Watch(tmp_path / "no", tmp_path, lambda *_: [])
    with pytest.raises(BadInput, match="another folder"):
        Watch(tmp_path, tmp_path, lambda *_: [])


def test_recordings_are_captioned_by_a_jig(tmp_path: Path) -> None:
    inside, out = tmp_path / "in", tmp_path / "out"
    inside.mkdir()
    out.mkdir()
    small_demo(inside / "kettle.mp4", 6.0)
    (inside / "notes.mp4").write_text("no recording")
    done = run(
        "watch", inside, out, "--jig", "Talk, tall", "--preset", "message", "--quiet", "--once",
        "--engine", "moonshine-tiny",
    )  # fmt: skip
    assert done.returncode == 0, done.stderr
    assert sorted(one.name for one in (out / "kettle").iterdir()) == ["kettle.jpg", "kettle.mp4"]
    assert "notes.mp4 was set aside: This file is no recording" in done.stdout
    assert (inside / "done" / "kettle.mp4").exists()
