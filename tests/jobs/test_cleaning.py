"""What a sudden end leaves behind, and what must not be touched at a start."""

import json
import shutil
from datetime import date
from pathlib import Path

import pytest

from mortiser.core.common.errors import NotFound
from mortiser.core.transcript.words import Word
from mortiser.jobs import bringing_in
from mortiser.jobs.bringing_in import bring_in, copy_project
from mortiser.jobs.cleaning import clean, remove_delivery
from mortiser.jobs.workspace import UNKEPT
from mortiser.settings import Settings
from mortiser.store import deliveries, jobs, keeping, projects, transcript
from mortiser.wiring import Shop, open_shop
from tests.recordings import COUNTER


@pytest.fixture
def shop(tmp_path: Path) -> Shop:
    return open_shop(Settings(workspace=tmp_path / "w"), inline_jobs=True)


def brought_in(shop: Shop):
    copy = shop.workspace.new_upload()
    shutil.copyfile(COUNTER, copy)
    return bring_in(shop.database, shop.workspace, copy, "counter.m4a")


def recording(shop: Shop, project: int) -> Path:
    (row,) = projects.source_rows(shop.database.connection, project)
    return shop.workspace.path(row["path"])


def test_foreign_things_and_links_in_uploads_are_left_alone(shop: Shop, tmp_path: Path) -> None:
    elsewhere = tmp_path / "elsewhere"
    elsewhere.mkdir()
    (elsewhere / ("cd" * 16)).write_text("not ours to delete")
    uploads = shop.workspace.root / "uploads"
    (uploads / "a folder").mkdir()
    (uploads / "a note.txt").write_text("kept")
    (uploads / ("ef" * 16)).symlink_to(elsewhere)
    half = shop.workspace.new_upload()
    half.write_bytes(b"half")
    clean(shop.database, shop.workspace)
    assert not half.exists()
    assert sorted(entry.name for entry in uploads.iterdir()) == [
        "a folder",
        "a note.txt",
        "ef" * 16,
    ]
    shutil.rmtree(uploads)
    uploads.symlink_to(elsewhere)
    clean(shop.database, shop.workspace)
    assert len(list(elsewhere.iterdir())) == 1


@pytest.mark.parametrize("copy", [False, True], ids=["brought in", "copied"])
def test_a_recording_whose_project_was_never_made_is_removed(
    shop: Shop, monkeypatch: pytest.MonkeyPatch, copy: bool
) -> None:
    kept = brought_in(shop).project_id

    class Killed(BaseException):
        pass

    def killed(*_: object, **__: object) -> None:
        raise Killed

    # A kill comes between: nothing that tidies up runs any more.
    monkeypatch.setattr(bringing_in.projects, "create_project", killed)
    monkeypatch.setattr(bringing_in.copying, "duplicate_project", killed)
    monkeypatch.setattr(bringing_in.shutil, "rmtree", lambda *_, **__: None)
    with pytest.raises(Killed):
        copy_project(shop.database, shop.workspace, kept) if copy else brought_in(shop)
    monkeypatch.undo()
    sources = shop.workspace.root / "sources"
    assert len(list(sources.iterdir())) == 2
    clean(shop.database, shop.workspace)
    assert list(sources.iterdir()) == [recording(shop, kept).parent]


def test_folders_are_kept_while_the_database_knows_them(shop: Shop) -> None:
    made = brought_in(shop)
    folder = recording(shop, made.project_id).parent
    assert not (folder / UNKEPT).exists()
    shop.workspace.let_go(folder)  # A kill came before the project was removed.
    clean(shop.database, shop.workspace)
    assert (folder / "recording").exists()
    assert not (folder / UNKEPT).exists()
    shop.workspace.let_go(folder)
    projects.delete_project(shop.database, made.project_id)  # And here right after it.
    clean(shop.database, shop.workspace)
    assert not folder.exists()


def test_a_folder_no_project_has_and_nobody_marked_is_left(shop: Shop) -> None:
    """It may belong to a newer database than the one that was put back."""
    folder = recording(shop, brought_in(shop).project_id).parent
    stranger = folder.with_name("ab" * 16)
    shutil.copytree(folder, stranger)
    clean(shop.database, shop.workspace)
    assert (stranger / "recording").exists()


def test_half_made_files_and_caption_files_taken_in_are_removed(shop: Shop) -> None:
    made = brought_in(shop)
    folder = recording(shop, made.project_id).parent
    half, taken, wanted = (
        folder / name
        for name in ("proxy-1.partial", f"captions-{'a' * 32}", f"captions-{'b' * 32}")
    )
    for file in (half, taken, wanted):
        file.write_text("1\n")
    payload = {"file": shop.workspace.relative(wanted)}
    jobs.add(shop.database, made.project_id, "import", payload)
    making = shop.workspace.delivery(7) / "files-1.partial"
    making.mkdir()
    clean(shop.database, shop.workspace)
    assert not half.exists()
    assert not taken.exists()
    assert not making.exists()
    assert wanted.exists()
    assert (folder / "recording").exists()
    assert json.dumps(payload) in {
        row["payload"] for row in jobs.of_project(shop.database.connection, made.project_id)
    }


def test_deliveries_go_when_the_rule_keeps_them_no_longer(shop: Shop) -> None:
    made = brought_in(shop)
    transcript.append_line(shop.database, made.source_id, [Word("mend", 200_000, 900_000)])
    old, done = deliveries.order(shop.database, made.piece_id, date(2026, 1, 2))
    for job in done:
        shop.run(job)
    new, _ = deliveries.order(shop.database, made.piece_id, date(2026, 1, 2))
    db = shop.database.connection
    # Both are old by their row, but of one something waits.
    db.execute("UPDATE delivery SET created_us = created_us - ?", (31 * keeping.DAY_US,))
    folder = shop.workspace.delivery(old)
    clean(shop.database, shop.workspace)
    assert len(list(folder.glob("*.srt"))) == 1, "kept until somebody says otherwise"
    keeping.set_keep_days(shop.database, 40)
    clean(shop.database, shop.workspace)
    assert deliveries.ids(db, made.project_id) == [old, new]
    keeping.set_keep_days(shop.database, 30)
    clean(shop.database, shop.workspace)
    assert deliveries.ids(db, made.project_id) == [new]
    assert not folder.exists()
    with pytest.raises(NotFound):
        remove_delivery(shop.database, shop.workspace, old)
