import sqlite3
from pathlib import Path

import pytest

from mortiser.core.common.errors import Conflict, NoSpace
from mortiser.store import jobs
from mortiser.store.database import Database, _statements
from mortiser.store.jobs import Lease
from tests.store.fixtures import open_project, payload


@pytest.fixture
def opened(tmp_path: Path) -> tuple[Database, int]:
    database, project, _ = open_project(tmp_path)
    return database, jobs.add(database, project, "deliver", payload("deliver"))


def status(database: Database, job: int) -> str:
    return str(jobs.get(database.connection, job).status)


def taken(database: Database, job: int) -> Lease:
    row = jobs.take(database, job)
    assert row is not None
    return jobs.lease_of(row)


def fill(database: Database) -> None:
    """Let the database have no more pages than now, as on a full disk."""
    db = database.connection
    pages = db.execute("PRAGMA page_count").fetchone()[0]
    db.execute(f"PRAGMA max_page_count = {pages}")


def test_ends_and_cancels_are_noted_on_a_full_disk(
    opened: tuple[Database, int], monkeypatch: pytest.MonkeyPatch
) -> None:
    database, job = opened
    database.reserve.keep()
    lease = taken(database, job)
    fill(database)
    with pytest.raises(NoSpace), database.transaction() as db:
        db.execute("UPDATE job SET payload = printf('%.*c', 900000, 'x')")
    freed = database.reserve.give_up

    def give_up() -> bool:
        database.connection.execute("PRAGMA max_page_count = 4294967294")
        return freed()

    monkeypatch.setattr(database.reserve, "give_up", give_up)
    jobs.finish(database, lease, "failed", "The disk is full." * 10_000)
    assert status(database, job) == "failed"
    fill(database)
    monkeypatch.setattr(database.reserve, "give_up", freed)
    with pytest.raises(NoSpace):  # All room was given up, and nothing is pretended.
        database.without_fail(
            lambda db: db.execute("UPDATE job SET error = printf('%.*c', 900000, 'x')")
        )


def test_a_queued_job_is_cancelled_at_once(opened: tuple[Database, int]) -> None:
    database, job = opened
    assert jobs.ask_cancel(database, job).status == "cancelled"
    assert jobs.take(database, job) is None
    with pytest.raises(Conflict):
        jobs.requeue(database, jobs.add(database, 1, "deliver", payload("deliver")))


def test_migrations_run_once_and_are_all_or_nothing(tmp_path: Path) -> None:
    first = Database(tmp_path / "a.db")
    names = [row["name"] for row in first.connection.execute("SELECT name FROM migration")]
    folder = Path("src/mortiser/store/migrations")
    assert names == sorted(file.name for file in folder.glob("*.sql"))
    first.close()
    assert Database(tmp_path / "a.db").connection.execute(
        "SELECT count(*) FROM migration"
    ).fetchone()[0] == len(names)
    with pytest.raises(ValueError, match="unfinished"):
        list(_statements("CREATE TABLE x (a INTEGER)"))


def test_tables_are_strict_and_foreign_keys_hold(opened: tuple[Database, int]) -> None:
    database, _ = opened
    with pytest.raises(sqlite3.IntegrityError), database.transaction() as db:
        db.execute("UPDATE cue SET start_us = 'soon'")
    with pytest.raises(sqlite3.IntegrityError), database.transaction() as db:
        db.execute(
            "INSERT INTO shown_word (cue_id, word_id, strand_id, position) VALUES (999, 999, 999, 0)"
        )


def test_what_is_told_of_jobs_does_not_grow_with_what_was_done(tmp_path: Path) -> None:
    database, project, _ = open_project(tmp_path)
    for _ in range(40):
        job = jobs.add(database, project, "deliver", payload("deliver"))
        row = jobs.take(database, job)
        assert row is not None
        jobs.finish(database, jobs.lease_of(row), "done")
    waiting = [jobs.add(database, project, "thumbnails", payload("thumbnails")) for _ in range(2)]
    told = [one.id for one in jobs.recent(database.connection, project)]
    assert told == [job, *waiting]


def deliver(database: Database, project: int, rank: float = 0) -> int:
    with database.transaction() as db:
        return jobs.add_in(db, project, "deliver", payload("deliver"), rank)


def took(database: Database, job: int) -> int | None:
    row = jobs.take(database, job)
    return row.id if row else None


def test_of_deliveries_the_first_one_is_taken_whichever_is_asked_for(
    opened: tuple[Database, int],
) -> None:
    database, first = opened
    project = jobs.get(database.connection, first).project_id
    second, soon = deliver(database, project), deliver(database, project, -1)
    jobs.put_first(database, second)
    assert took(database, soon) == second
    jobs.finish(database, jobs.lease_of(jobs.get(database.connection, second)), "done")
    # One that has ended is asked for in vain, and another is made in its turn.
    assert took(database, second) == soon
    assert took(database, first) == first
    assert took(database, first) is None


def test_what_is_paused_waits_and_its_worker_is_told(opened: tuple[Database, int]) -> None:
    database, job = opened
    lease = jobs.lease_of(jobs.take(database, job))
    assert jobs.report(database, lease, 0.4)
    assert jobs.pause(database, job).status == "queued"
    assert not jobs.report(database, lease, 0.5)
    jobs.finish(database, lease, "cancelled")
    paused = jobs.get(database.connection, job)
    assert (paused.status, paused.paused, paused.progress) == ("queued", True, 0)
    assert took(database, job) is None
    assert job not in jobs.orphans(database)
    with pytest.raises(Conflict):
        jobs.put_first(database, took_and_done(database, job))
    with pytest.raises(Conflict):
        jobs.pause(database, job)


def took_and_done(database: Database, job: int) -> int:
    jobs.resume(database, job)
    assert job in jobs.orphans(database)
    assert took(database, job) == job
    jobs.finish(database, jobs.lease_of(jobs.get(database.connection, job)), "done")
    return job
