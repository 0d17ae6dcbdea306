"""What a sudden end leaves behind, and what must not be touched at a start."""

import shutil
from datetime import date
from pathlib import Path

import pytest

from mortiser.core.common.errors import NotFound
from mortiser.core.transcript.words import Word
from mortiser.jobs import ingest
from mortiser.jobs.cleaning import clean, remove_delivery
from mortiser.jobs.ingest import bring_in, copy_project
from mortiser.jobs.workspace import UNKEPT
from mortiser.settings import Settings
from mortiser.store import deliveries, jobs, projects, retention, transcript
from mortiser.wiring import AppContext, open_context
from tests.recordings import COUNTER
from tests.store.fixtures import payload


@pytest.fixture
def context(tmp_path: Path) -> AppContext:
    return open_context(Settings(workspace=tmp_path / "w"), inline_jobs=True)


def brought_in(context: AppContext):
    copy = context.workspace.new_upload()
    shutil.copyfile(COUNTER, copy)
    return bring_in(context.database, context.workspace, copy, "counter.m4a")


def recording(context: AppContext, project: int) -> Path:
    (row,) = projects.read_sources(context.database.connection, project)
    return context.workspace.path(row.path)


def test_foreign_things_and_links_in_uploads_are_left_alone(
    context: AppContext, tmp_path: Path
) -> None:
    elsewhere = tmp_path / "elsewhere"
    elsewhere.mkdir()
    (elsewhere / ("cd" * 16)).write_text("not ours to delete")
    uploads = context.workspace.root / "uploads"
    (uploads / "a folder").mkdir()
    (uploads / "a note.txt").write_text("kept")
    (uploads / ("ef" * 16)).symlink_to(elsewhere)
    half = context.workspace.new_upload()
    half.write_bytes(b"half")
    clean(context.database, context.workspace)
    assert not half.exists()
    assert sorted(entry.name for entry in uploads.iterdir()) == [
        "a folder",
        "a note.txt",
        "ef" * 16,
    ]
    shutil.rmtree(uploads)
    uploads.symlink_to(elsewhere)
    clean(context.database, context.workspace)
    assert len(list(elsewhere.iterdir())) == 1


@pytest.mark.parametrize("copy", [False, True], ids=["brought in", "copied"])
def test_a_recording_whose_project_was_never_made_is_removed(
    context: AppContext, monkeypatch: pytest.MonkeyPatch, copy: bool
) -> None:
    kept = brought_in(context).project_id

    class Killed(BaseException):
        pass

    def killed(*_: object, **__: object) -> None:
        raise Killed

    # A kill comes between: nothing that tidies up runs any more.
    monkeypatch.setattr(ingest.projects, "create_project", killed)
    monkeypatch.setattr(ingest.copying, "duplicate_project", killed)
    monkeypatch.setattr(ingest.shutil, "rmtree", lambda *_, **__: None)
    with pytest.raises(Killed):
        copy_project(context.database, context.workspace, kept) if copy else brought_in(context)
    monkeypatch.undo()
    sources = context.workspace.root / "sources"
    assert len(list(sources.iterdir())) == 2
    clean(context.database, context.workspace)
    assert list(sources.iterdir()) == [recording(context, kept).parent]


def test_folders_are_kept_while_the_database_knows_them(context: AppContext) -> None:
    made = brought_in(context)
    folder = recording(context, made.project_id).parent
    assert not (folder / UNKEPT).exists()
    context.workspace.let_go(folder)  # A kill came before the project was removed.
    clean(context.database, context.workspace)
    assert (folder / "recording").exists()
    assert not (folder / UNKEPT).exists()
    context.workspace.let_go(folder)
    projects.delete_project(context.database, made.project_id)  # And here right after it.
    clean(context.database, context.workspace)
    assert not folder.exists()


def test_a_folder_no_project_has_and_nobody_marked_is_left(context: AppContext) -> None:
    """It may belong to a newer database than the one that was put back."""
    folder = recording(context, brought_in(context).project_id).parent
    stranger = folder.with_name("ab" * 16)
    shutil.copytree(folder, stranger)
    clean(context.database, context.workspace)
    assert (stranger / "recording").exists()


def test_half_made_files_and_caption_files_taken_in_are_removed(context: AppContext) -> None:
    made = brought_in(context)
    folder = recording(context, made.project_id).parent
    half, taken, wanted = (
        folder / name
        for name in ("proxy-1.partial", f"captions-{'a' * 32}", f"captions-{'b' * 32}")
    )
    for file in (half, taken, wanted):
        file.write_text("1\n")
    about = payload("import", file=context.workspace.relative(wanted))
    jobs.add(context.database, made.project_id, "import", about)
    making = context.workspace.delivery(7) / "files-1.partial"
    making.mkdir()
    clean(context.database, context.workspace)
    assert not half.exists()
    assert not taken.exists()
    assert not making.exists()
    assert wanted.exists()
    assert (folder / "recording").exists()
    known = jobs.of_project(context.database.connection, made.project_id)
    assert about in [job.payload for job in known]


def test_deliveries_go_when_the_rule_keeps_them_no_longer(context: AppContext) -> None:
    made = brought_in(context)
    transcript.append_line(context.database, made.source_id, [Word("mend", 200_000, 900_000)])
    old, done = deliveries.order(context.database, made.piece_id, date(2026, 1, 2))
    for job in done:
        context.run(job)
    new, _ = deliveries.order(context.database, made.piece_id, date(2026, 1, 2))
    db = context.database.connection
    # Both are old by their row, but of one something waits.
    db.execute("UPDATE delivery SET created_us = created_us - ?", (31 * retention.DAY_US,))
    folder = context.workspace.delivery(old)
    clean(context.database, context.workspace)
    assert len(list(folder.glob("*.srt"))) == 1, "kept until somebody says otherwise"
    retention.set_keep_days(context.database, 40)
    clean(context.database, context.workspace)
    assert deliveries.ids(db, made.project_id) == [old, new]
    retention.set_keep_days(context.database, 30)
    clean(context.database, context.workspace)
    assert deliveries.ids(db, made.project_id) == [new]
    assert not folder.exists()
    with pytest.raises(NotFound):
        remove_delivery(context.database, context.workspace, old)
