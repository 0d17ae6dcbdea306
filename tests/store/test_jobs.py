import sqlite3
from pathlib import Path

import pytest

from mortiser.core.errors import Conflict
from mortiser.store import jobs
from mortiser.store.database import Database, _statements
from tests.store.fixtures import open_project


@pytest.fixture
def opened(tmp_path: Path) -> tuple[Database, int]:
    database, project, _ = open_project(tmp_path)
    return database, jobs.add(database, project, "deliver", {"piece_id": 1})


def let_lease_run_out(database: Database) -> None:
    with database.transaction() as db:
        db.execute("UPDATE job SET lease_until_us = 1")


def status(database: Database, job: int) -> str:
    return str(jobs.get(database.connection, job)["status"])


def test_a_job_is_taken_once(opened: tuple[Database, int]) -> None:
    database, job = opened
    assert jobs.orphans(database) == [job]
    assert jobs.take(database, job) is not None
    assert jobs.take(database, job) is None
    assert jobs.orphans(database) == []


def test_a_dead_workers_job_is_handed_out_again(opened: tuple[Database, int]) -> None:
    database, job = opened
    jobs.take(database, job)
    let_lease_run_out(database)
    assert jobs.orphans(database) == [job]
    assert jobs.take(database, job)["attempts"] == 2


def test_a_job_that_kills_every_worker_is_given_up(opened: tuple[Database, int]) -> None:
    database, job = opened
    for _ in range(jobs.MOST_ATTEMPTS):
        assert jobs.take(database, job) is not None
        let_lease_run_out(database)
    assert jobs.orphans(database) == []
    assert status(database, job) == "failed"
    assert jobs.requeue(database, job)["status"] == "queued"
    assert jobs.take(database, job)["attempts"] == 1


def test_progress_never_goes_back_and_cancel_reaches_the_worker(
    opened: tuple[Database, int],
) -> None:
    database, job = opened
    jobs.take(database, job)
    assert jobs.report(database, job, 0.4)
    assert jobs.report(database, job, 0.2)
    assert jobs.get(database.connection, job)["progress"] == 0.4
    jobs.ask_cancel(database, job)
    assert not jobs.report(database, job, 0.5)
    jobs.finish(database, job, "cancelled")
    with pytest.raises(Conflict, match="already ended"):
        jobs.ask_cancel(database, job)


def test_a_queued_job_is_cancelled_at_once(opened: tuple[Database, int]) -> None:
    database, job = opened
    assert jobs.ask_cancel(database, job)["status"] == "cancelled"
    assert jobs.take(database, job) is None
    with pytest.raises(Conflict):
        jobs.requeue(database, jobs.add(database, 1, "deliver", {}))


def test_a_cancelled_job_of_a_dead_worker_ends(opened: tuple[Database, int]) -> None:
    database, job = opened
    jobs.take(database, job)
    jobs.ask_cancel(database, job)
    let_lease_run_out(database)
    assert jobs.orphans(database) == []
    assert status(database, job) == "cancelled"


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
        db.execute("INSERT INTO cue_word (cue_id, word_id, position) VALUES (999, 999, 0)")
