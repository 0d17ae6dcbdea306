import sqlite3
from pathlib import Path

import pytest

from mortiser.core.errors import Conflict, NoSpace
from mortiser.store import jobs
from mortiser.store.database import Database, _statements
from mortiser.store.jobs import Lease
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


def taken(database: Database, job: int) -> Lease:
    row = jobs.take(database, job)
    assert row is not None
    return jobs.lease_of(row)


def test_progress_never_goes_back_and_cancel_reaches_the_worker(
    opened: tuple[Database, int],
) -> None:
    database, job = opened
    lease = taken(database, job)
    assert jobs.report(database, lease, 0.4)
    assert jobs.report(database, lease, 0.2)
    assert jobs.get(database.connection, job)["progress"] == 0.4
    jobs.ask_cancel(database, job)
    assert not jobs.report(database, lease, 0.5)
    assert not jobs.renew(database, lease)
    jobs.finish(database, lease, "cancelled")
    with pytest.raises(Conflict, match="already ended"):
        jobs.ask_cancel(database, job)


def test_what_a_worker_thought_dead_says_does_not_count(opened: tuple[Database, int]) -> None:
    database, job = opened
    first = taken(database, job)
    let_lease_run_out(database)
    second = taken(database, job)
    assert not jobs.report(database, first, 0.9)
    assert jobs.finish(database, first, "failed", "late", following=[("doubt", {})]) == []
    jobs.release(database, [first])
    assert status(database, job) == "running"
    assert jobs.get(database.connection, job)["progress"] == 0
    (next_one,) = jobs.finish(database, second, "done", following=[("doubt", {"source_id": 1})])
    assert status(database, job) == "done"
    assert jobs.get(database.connection, next_one)["kind"] == "doubt"


def test_stops_in_order_do_not_count_as_attempts(opened: tuple[Database, int]) -> None:
    database, job = opened
    for _ in range(2 * jobs.MOST_ATTEMPTS):
        jobs.release(database, [taken(database, job)])
    assert status(database, job) == "queued"
    assert jobs.take(database, job)["attempts"] == 1


def test_getting_farther_makes_attempts_count_anew(opened: tuple[Database, int]) -> None:
    database, job = opened
    for step in range(1, 3 * jobs.MOST_ATTEMPTS):
        assert jobs.orphans(database) == [job]
        jobs.report(database, taken(database, job), step / 10)
        let_lease_run_out(database)
    # From here on no attempt gets any farther.
    for _ in range(jobs.MOST_ATTEMPTS - 1):
        assert jobs.orphans(database) == [job]
        jobs.report(database, taken(database, job), 0.5)
        let_lease_run_out(database)
    assert jobs.orphans(database) == []
    assert status(database, job) == "failed"


def test_work_that_goes_on_is_no_orphan_whatever_its_lease(opened: tuple[Database, int]) -> None:
    database, job = opened
    lease = taken(database, job)
    let_lease_run_out(database)
    assert jobs.orphans(database, [lease]) == []
    assert jobs.renew(database, lease)
    let_lease_run_out(database)
    assert jobs.orphans(database) == [job]


def test_a_job_nobody_works_on_is_cancelled_at_once(opened: tuple[Database, int]) -> None:
    database, job = opened
    taken(database, job)
    let_lease_run_out(database)
    assert jobs.ask_cancel(database, job)["status"] == "cancelled"


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
    assert jobs.ask_cancel(database, job)["status"] == "cancelled"
    assert jobs.take(database, job) is None
    with pytest.raises(Conflict):
        jobs.requeue(database, jobs.add(database, 1, "deliver", {}))


def test_a_cancelled_job_of_a_dead_worker_ends(opened: tuple[Database, int]) -> None:
    database, job = opened
    taken(database, job)
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
        db.execute(
            "INSERT INTO shown_word (cue_id, word_id, clip_id, position) VALUES (999, 999, 999, 0)"
        )


def test_what_is_told_of_jobs_does_not_grow_with_what_was_done(tmp_path: Path) -> None:
    database, project, _ = open_project(tmp_path)
    for number in range(40):
        job = jobs.add(database, project, "deliver", {"n": number})
        row = jobs.take(database, job)
        assert row is not None
        jobs.finish(database, jobs.lease_of(row), "done")
    waiting = [jobs.add(database, project, "thumbnails", {}) for _ in range(2)]
    told = [row["id"] for row in jobs.recent(database.connection, project)]
    assert told == [job, *waiting]


def test_so_many_of_a_kind_run_at_once_whoever_takes_them(tmp_path: Path) -> None:
    database, project, _ = open_project(tmp_path)
    elsewhere = Database(tmp_path / "m.db")
    first, second = (jobs.add(database, project, "doubt", {}) for _ in range(2))
    other = jobs.add(database, project, "speakers", {})
    row = jobs.take(database, first)
    assert row is not None
    assert jobs.take(elsewhere, second) is None
    assert jobs.get(database.connection, second)["status"] == "queued"
    assert jobs.take(elsewhere, other) is not None
    jobs.finish(database, jobs.lease_of(row), "done")
    assert jobs.take(elsewhere, second) is not None
    third = jobs.add(database, project, "doubt", {})
    assert jobs.take(database, third) is None
    # A worker that died holds nobody up once its lease has run out.
    with database.transaction() as db:
        db.execute("UPDATE job SET lease_until_us = 0 WHERE id = ?", (second,))
    assert jobs.take(database, third) is not None
    elsewhere.close()
