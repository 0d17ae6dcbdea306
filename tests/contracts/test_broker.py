"""What every broker does for its workers; run on the one over the workspace's database, with one
worker, and with two that share nothing but the broker's place."""

from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import pytest

from mortiser.core.common.errors import Cancelled, Conflict, NotFound
from mortiser.core.project.job import JobKind
from mortiser.core.project.job_payloads import PiecePayload
from mortiser.jobs.broker import Broker, Ending, LeasedJob
from mortiser.jobs.glossary import GlossaryBench
from mortiser.jobs.kind import JobContext, Kind
from mortiser.jobs.sqlite_broker import SqliteBroker
from mortiser.jobs.workspace import Workspace
from mortiser.speech.sounds import DictionarySounds
from mortiser.store import jobs
from mortiser.store.database import Database
from mortiser.store.jobs import Lease
from tests.store.fixtures import open_project, payload

KINDS = ("faces", "doubt", "speakers")
DONE = Ending("done")


@dataclass
class Place:
    """A broker's place: what the server does there, and the brokers of two workers."""

    database: Database
    project: int
    one: Broker
    other: Broker
    kept: list[tuple[str, str]] = field(default_factory=list)

    def add(self, kind: JobKind = "faces", **about: int) -> int:
        return jobs.add(self.database, self.project, kind, payload(kind, **about))

    def row(self, job: int) -> Any:
        return jobs.get(self.database.connection, job)

    def status(self, job: int) -> str:
        return str(self.row(job).status)

    def cancel(self, job: int) -> None:
        jobs.ask_cancel(self.database, job)

    def end_leases(self) -> None:
        """Let so much time go by that every lease is over."""
        with self.database.transaction() as db:
            db.execute("UPDATE job SET lease_until_us = 1")


def sqlite_broker(folder: Path, database: Database, kept: list[tuple[str, str]]) -> SqliteBroker:
    def keep(context: JobContext, given: str, result: str) -> None:
        kept.append((given, result))

    def read(context: JobContext, taken: LeasedJob) -> str:
        return f"{taken.kind} of {taken.lease.job_id}"

    kind = Kind(read, lambda tools, task, given: (), keep)
    context = JobContext(database, GlossaryBench(database, DictionarySounds()), Workspace(folder))
    return SqliteBroker(context, dict.fromkeys(KINDS, kind))


@pytest.fixture(params=["one worker", "two workers"])
def place(request: pytest.FixtureRequest, tmp_path: Path) -> Iterator[Place]:
    database, project, _ = open_project(tmp_path)
    kept: list[tuple[str, str]] = []
    one = sqlite_broker(tmp_path, database, kept)
    if request.param == "one worker":
        yield Place(database, project, one, one, kept)
        return
    elsewhere = Database(database.path)
    yield Place(database, project, one, sqlite_broker(tmp_path, elsewhere, kept), kept)
    elsewhere.close()


def taken(broker: Broker, job: int) -> LeasedJob:
    found = broker.take(job)
    assert found is not None
    return found


def lease(broker: Broker, job: int) -> Lease:
    return taken(broker, job).lease


def test_a_job_is_taken_once(place: Place) -> None:
    job = place.add()
    assert place.one.orphans(()) == [job]
    assert taken(place.one, job).kind == "faces"
    assert place.other.take(job) is None
    assert place.other.orphans(()) == []


def test_a_job_that_is_not_there_is_nobodys(place: Place) -> None:
    assert place.one.kind_of(999) is None
    assert place.one.take(999) is None
    assert place.one.waiting_beside(999) == []
    assert place.one.kind_of(place.add("doubt")) == "doubt"


def test_a_job_has_what_it_was_queued_with_and_the_values_it_needs(place: Place) -> None:
    job = place.add("speakers", source_id=7, piece_id=8)
    found = taken(place.one, job)
    assert found.kind == "speakers"
    assert found.about(PiecePayload) == PiecePayload(source_id=7, piece_id=8)
    assert place.one.given(found) == f"speakers of {job}"


def test_results_are_kept_one_by_one_in_their_order(place: Place) -> None:
    found = taken(place.one, place.add())
    given = place.one.given(found)
    for result in ("first", "second"):
        place.one.keep(found, given, result)
    assert [result for _, result in place.kept] == ["first", "second"]


def test_results_of_a_job_that_was_stopped_or_is_anothers_are_not_kept(place: Place) -> None:
    job = place.add()
    first = taken(place.one, job)
    given = place.one.given(first)
    place.end_leases()
    second = taken(place.other, job)
    with pytest.raises(Cancelled):
        place.one.keep(first, given, "late")
    place.other.keep(second, given, "in time")
    place.cancel(job)
    with pytest.raises(Cancelled):
        place.other.keep(second, given, "stopped")
    assert [result for _, result in place.kept] == ["in time"]


def test_a_dead_workers_job_is_handed_out_again(place: Place) -> None:
    job = place.add()
    taken(place.one, job)
    place.end_leases()
    assert place.other.orphans(()) == [job]
    taken(place.other, job)
    assert place.row(job).attempts == 2


def test_a_worker_that_begins_alone_ends_every_lease(place: Place) -> None:
    job = place.add()
    before = lease(place.one, job)
    place.other.release_all()
    assert place.other.orphans(()) == [job]
    assert not place.one.renew(before)


def test_a_job_that_kills_every_worker_is_given_up(place: Place) -> None:
    job = place.add()
    for _ in range(jobs.MOST_ATTEMPTS):
        taken(place.one, job)
        place.end_leases()
    assert place.one.orphans(()) == []
    assert place.status(job) == "failed"
    assert jobs.requeue(place.database, job).status == "queued"
    taken(place.other, job)
    assert place.row(job).attempts == 1


def test_progress_never_goes_back_and_cancel_reaches_the_worker(place: Place) -> None:
    job = place.add()
    held = lease(place.one, job)
    assert place.one.report(held, 0.4)
    assert place.one.report(held, 0.2)
    assert place.row(job).progress == 0.4
    place.cancel(job)
    assert not place.one.report(held, 0.5)
    assert not place.one.renew(held)
    place.one.finish(held, Ending("cancelled"))
    with pytest.raises(Conflict, match="already ended"):
        place.cancel(job)


def test_what_a_worker_thought_dead_says_does_not_count(place: Place) -> None:
    job = place.add()
    first = lease(place.one, job)
    place.end_leases()
    second = lease(place.other, job)
    follow = [("doubt", payload("doubt"))]
    assert not place.one.report(first, 0.9)
    assert place.one.finish(first, Ending("failed", "late", following=follow)) == []
    place.one.release([first])
    assert place.status(job) == "running"
    assert place.row(job).progress == 0
    (next_one,) = place.other.finish(second, Ending("done", following=follow))
    assert place.status(job) == "done"
    assert place.one.kind_of(next_one) == "doubt"


def test_stops_in_order_do_not_count_as_attempts(place: Place) -> None:
    job = place.add()
    for _ in range(2 * jobs.MOST_ATTEMPTS):
        place.one.release([lease(place.one, job)])
    assert place.status(job) == "queued"
    taken(place.other, job)
    assert place.row(job).attempts == 1


def test_getting_farther_makes_attempts_count_anew(place: Place) -> None:
    job = place.add()
    for step in range(1, 3 * jobs.MOST_ATTEMPTS):
        assert place.one.orphans(()) == [job]
        place.one.report(lease(place.one, job), step / 10)
        place.end_leases()
    # From here on no attempt gets any farther.
    for _ in range(jobs.MOST_ATTEMPTS - 1):
        assert place.one.orphans(()) == [job]
        place.one.report(lease(place.one, job), 0.5)
        place.end_leases()
    assert place.one.orphans(()) == []
    assert place.status(job) == "failed"


def test_work_that_goes_on_is_no_orphan_whatever_its_lease(place: Place) -> None:
    job = place.add()
    held = lease(place.one, job)
    place.end_leases()
    assert place.one.orphans([held]) == []
    assert place.one.renew(held)
    place.end_leases()
    assert place.one.orphans(()) == [job]


def test_a_job_nobody_works_on_is_cancelled_at_once(place: Place) -> None:
    queued, left = place.add(), place.add()
    taken(place.one, left)
    place.end_leases()
    for job in (queued, left):
        place.cancel(job)
        assert place.status(job) == "cancelled"
        assert place.other.take(job) is None


def test_a_cancelled_job_of_a_dead_worker_ends(place: Place) -> None:
    job = place.add()
    taken(place.one, job)
    place.cancel(job)
    place.end_leases()
    assert place.other.orphans(()) == []
    assert place.status(job) == "cancelled"


def test_so_many_of_a_kind_run_at_once_whoever_takes_them(place: Place) -> None:
    first, second = place.add("doubt"), place.add("doubt")
    other = place.add("speakers")
    held = lease(place.one, first)
    assert place.other.take(second) is None
    assert place.status(second) == "queued"
    taken(place.other, other)
    assert place.one.waiting_beside(other) == []
    place.one.finish(held, DONE)
    assert place.one.waiting_beside(first) == [second]
    taken(place.other, second)
    third = place.add("doubt")
    assert place.one.take(third) is None
    # A worker that died holds nobody up once its lease has run out.
    place.end_leases()
    taken(place.one, third)


def test_errors_people_can_do_something_about_are_told(place: Place) -> None:
    said = place.one.explained(NotFound("That piece is not there any more."))
    assert str(said) == "That piece is not there any more."
    assert place.one.explained(ZeroDivisionError()) is None


def test_two_of_a_kind_never_work_on_one_recording(place: Place) -> None:
    first, second = (place.add("transcribe", source_id=1) for _ in range(2))
    other = place.add("transcribe", source_id=2)
    held = lease(place.one, first)
    assert place.other.take(second) is None
    assert place.status(second) == "queued"
    taken(place.other, other)
    taken(place.other, place.add("prepare", source_id=1))
    assert place.one.waiting_beside(other) == []
    place.one.finish(held, DONE)
    assert place.one.waiting_beside(first) == [second]
    taken(place.other, second)


def test_what_a_fresh_worker_fails_at_is_queued_anew_and_not_for_ever(place: Place) -> None:
    job = place.add()
    for _ in range(jobs.MOST_ATTEMPTS - 1):
        assert place.one.again(lease(place.one, job))
        assert place.status(job) == "queued"
    last = lease(place.one, job)
    assert not place.one.again(last)
    assert not place.one.again(Lease(job, "another"))
    place.one.finish(last, Ending("failed", "Why"))
    assert place.status(job) == "failed"
    stopped = place.add()
    mine = lease(place.one, stopped)
    place.cancel(stopped)
    assert not place.other.again(mine)
