import itertools
import shutil
import threading
import time
from dataclasses import replace
from datetime import date
from pathlib import Path
from typing import get_args

import av
import numpy as np
import pytest

from mortiser.core.common.errors import BadMedia, Cancelled, NoSpace
from mortiser.core.delivery.naming import file_stem
from mortiser.core.edits.text.words import RetypeCue
from mortiser.core.project.job import JOB_SPECS, JobKind
from mortiser.core.project.job_payloads import DoubtPayload
from mortiser.core.transcript.words import Word
from mortiser.jobs import runner, task
from mortiser.jobs.delivering import DELIVER, Ordered
from mortiser.jobs.ingest import copy_project, title
from mortiser.jobs.queue import Queue
from mortiser.jobs.task import Task
from mortiser.jobs.tools import Tools
from mortiser.media.sound import clip
from mortiser.outputs import video
from mortiser.render.plan import RenderPlan
from mortiser.speech.protocols import RATE
from mortiser.store import deliveries, editing, jobs, projects, transcript
from mortiser.wiring import KINDS, AppContext
from tests.jobs.inline import broker, row, run, take_in, working
from tests.recordings import COUNTER, make_video


def ordered(context: AppContext, piece_id: int) -> tuple[int, list[int]]:
    """A delivery of the usual files: the video's job comes first, though it is made last."""
    return deliveries.order(context.database, piece_id, date(2026, 11, 27))


def test_a_job_runs_to_its_end(context: AppContext) -> None:
    made = take_in(context, COUNTER)
    for job in made.jobs:
        following = run(context, job)
        assert [row(context, j).kind for j in following] == (
            ["doubt"] if job == made.jobs[0] else []
        )
        assert row(context, job).status == "done"
        assert row(context, job).progress == 1
    assert transcript.source_words(context.database.connection, made.source_id)


def test_faults_are_written_down(context: AppContext) -> None:
    def known(task: Task) -> None:
        raise BadMedia("The picture ends early.")

    def unforeseen(task: Task) -> None:
        raise ZeroDivisionError

    hear, prepare = take_in(context, COUNTER).jobs
    run(context, hear, transcribe=known)
    run(context, prepare, prepare=unforeseen)
    assert (row(context, hear).status, row(context, hear).error) == (
        "failed",
        "The picture ends early.",
    )
    assert row(context, prepare).status == "failed"
    assert "Your work is safe" in row(context, prepare).error


def test_a_fault_of_a_fresh_worker_is_tried_again(context: AppContext) -> None:
    """As where two threads load the same library at once."""
    tried: list[int] = []

    def fails_once(task: Task) -> None:
        tried.append(1)
        if len(tried) == 1:
            raise AttributeError("no such function yet")

    def fails(task: Task) -> None:
        raise AttributeError("no such function ever")

    hear, prepare = take_in(context, COUNTER).jobs
    kinds = working("prepare", fails_once)
    again = runner.run(broker(context, kinds), context.tools, kinds, prepare, fresh=True)
    assert (again, row(context, prepare).status) == ([prepare], "queued")
    assert runner.run(broker(context, kinds), context.tools, kinds, prepare, fresh=True) == []
    assert row(context, prepare).status == "done"
    kinds = working("transcribe", fails)
    rounds = 1
    while runner.run(broker(context, kinds), context.tools, kinds, hear, fresh=True):
        rounds += 1
    assert rounds == jobs.MOST_ATTEMPTS
    assert row(context, hear).status == "failed"


def test_a_job_whose_project_is_deleted_just_ends(
    context: AppContext, caplog: pytest.LogCaptureFixture
) -> None:
    made = take_in(context, COUNTER)

    def slow(task: Task) -> None:
        projects.delete_project(context.database, made.project_id)
        raise FileNotFoundError("the recording is gone")

    assert run(context, made.jobs[0], transcribe=slow) == []
    assert caplog.records == []


def test_a_cancelled_job_stops_at_its_next_report(
    context: AppContext, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(task, "REPORT_S", 0.0)
    reached = []

    def slow(task: Task) -> None:
        for step in range(100):
            reached.append(step)
            if step == 3:
                threading.Thread(target=jobs.ask_cancel, args=(context.database, task.job_id)).run()
            task.progress(step / 100)

    job = take_in(context, COUNTER).jobs[0]
    run(context, job, transcribe=slow)
    assert row(context, job).status == "cancelled"
    assert reached[-1] == 3


def test_an_end_that_cannot_be_noted_waits_until_it_can(
    context: AppContext, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(runner, "AGAIN_S", 0.0)
    tries = iter([NoSpace("The disk is full."), OSError(28, "No space left on device")])
    finish = jobs.finish

    def sometimes(*arguments, **named):
        if fault := next(tries, None):
            raise fault
        return finish(*arguments, **named)

    def full(task: Task) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(jobs, "finish", sometimes)
    job = take_in(context, COUNTER).jobs[0]
    run(context, job, transcribe=full)
    assert row(context, job).status == "failed"
    assert "free some space" in row(context, job).error


def test_a_job_that_cannot_be_begun_stays_queued(
    context: AppContext, monkeypatch: pytest.MonkeyPatch
) -> None:
    job = take_in(context, COUNTER).jobs[0]

    def full(*_: object) -> None:
        raise NoSpace("The disk is full.")

    monkeypatch.setattr(jobs, "take", full)
    assert run(context, job) == []
    assert row(context, job).status == "queued"


def test_a_lease_outlives_times_when_it_cannot_be_renewed(
    context: AppContext, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(runner, "HEARTBEAT_S", 0.01)
    renewed = threading.Event()
    tries = iter([NoSpace("The disk is full.")])
    renew = jobs.renew

    def sometimes(*arguments):
        if fault := next(tries, None):
            raise fault
        renewed.set()
        return renew(*arguments)

    monkeypatch.setattr(jobs, "renew", sometimes)
    job = take_in(context, COUNTER).jobs[0]
    run(context, job, transcribe=lambda task: renewed.wait(10) and None)
    assert renewed.is_set()
    assert row(context, job).status == "done"


def test_work_that_never_stops_by_itself_is_cancelled_all_the_same(
    context: AppContext, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(runner, "HEARTBEAT_S", 0.01)
    monkeypatch.setattr(runner, "PATIENCE_S", 0.05)
    job = take_in(context, COUNTER).jobs[0]
    ended = []

    def deaf(task: Task) -> None:
        threading.Thread(target=jobs.ask_cancel, args=(context.database, job)).run()
        for _ in range(1000):
            if row(context, job).status == "cancelled":
                ended.append(task)
                return
            time.sleep(0.01)

    run(context, job, transcribe=deaf)
    assert ended
    assert row(context, job).status == "cancelled"
    with pytest.raises(Cancelled):
        ended[0].still_wanted()


def test_transcription_goes_on_behind_the_last_word_and_keeps_corrections(
    context: AppContext,
) -> None:
    made = take_in(context, COUNTER)
    run(context, made.jobs[0])
    whole = transcript.source_words(context.database.connection, made.source_id)
    again = take_in(context, COUNTER)
    half = [replace(w, id=0) for w in whole[: len(whole) // 2]]
    transcript.append_line(context.database, again.source_id, half)
    cue = projects.piece_cues(context.database.connection, again.piece_id)[0]
    editing.apply(
        context.database, again.project_id, 0, RetypeCue(cue_id=cue.id, text="corrected tone")
    )
    run(context, again.jobs[0])
    words = transcript.source_words(context.database.connection, again.source_id)
    assert words[0].text == "corrected"
    assert len(words) > len(half)
    assert all(a.end_us <= b.start_us for a, b in itertools.pairwise(words))
    assert words[len(half)].start_us >= half[-1].end_us
    assert editing.undo(context.database, again.project_id, 1).label == "retype “corrected”"


def test_skipping_sound_is_exact() -> None:
    import numpy as np

    sound = [np.arange(i * 100, i * 100 + 100, dtype=np.float32) for i in range(50)]
    for from_us in (0, 1_000, 10_000, 62_500 * 3):
        left = np.concatenate(list(clip(iter(sound), from_us, 300_000)))
        assert left[0] == from_us * RATE // 1_000_000
        assert left[-1] == min(5_000, 300_000 * RATE // 1_000_000) - 1


def test_a_failed_delivery_leaves_no_half_file(
    context: AppContext, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    made = take_in(context, make_video(tmp_path / "a.mp4"))
    transcript.append_line(context.database, made.source_id, [Word("mend", 200_000, 900_000)])
    delivery, (job, *others) = ordered(context, made.piece_id)
    for other in others:
        run(context, other)
    folder = context.workspace.root / "deliveries" / str(delivery)
    monkeypatch.setattr(task, "REPORT_S", 0.0)

    def stop_midway(tools: Tools, task: Task, given: Ordered):
        def progress(part: float) -> None:
            if part > 0.5:
                assert {f.suffix for f in folder.iterdir()} == {".partial", ".srt", ".vtt"}
                raise BadMedia("stopped")

        task.progress = progress
        yield from DELIVER.work(tools, task, given)

    context.run(job, {**KINDS, "deliver": replace(DELIVER, work=stop_midway)})
    assert row(context, job).status == "failed"
    assert {f.suffix for f in folder.iterdir()} == {".srt", ".vtt"}
    jobs.requeue(context.database, job)
    run(context, job)
    files = deliveries.files_of(context.database.connection, delivery)
    assert {f.name for f in folder.iterdir()} == {f.name for f in files}
    assert [f.kind for f in files] == ["mp4", "srt", "vtt"]


def test_a_project_copied_while_it_is_prepared_gets_all_the_same(
    context: AppContext, tmp_path: Path
) -> None:
    made = take_in(context, make_video(tmp_path / "a.mkv", codec="ffv1", audio_codec="flac"))
    copied = copy_project(context.database, context.workspace, made.project_id)
    db = context.database.connection
    assert [row(context, job).kind for job in copied.jobs] == ["prepare", "transcribe"]
    for job in copied.jobs:
        run(context, job)
    (source,) = projects.read_sources(db, copied.project_id)
    assert source.proxy_path
    assert context.workspace.beside(source.path, "peaks.npz").exists()
    assert transcript.source_words(db, source.id)
    assert not transcript.source_words(db, made.source_id)


def test_a_project_is_copied_whose_preview_was_made(context: AppContext, tmp_path: Path) -> None:
    made = take_in(context, make_video(tmp_path / "a.mp4"))
    source = projects.read_source(context.database.connection, made.source_id)
    context.segments.file(source, (0, 1_000_000), (160, 120))
    copied = copy_project(context.database, context.workspace, made.project_id)
    (copy,) = projects.read_sources(context.database.connection, copied.project_id)
    assert context.segments.file(copy, (0, 1_000_000), (160, 120)).exists()


def test_the_chosen_track_is_what_the_page_plays(context: AppContext, tmp_path: Path) -> None:
    made = take_in(context, make_video(tmp_path / "a.mp4", tracks=2))
    projects.choose_hearing(context.database, made.source_id, "en", 1)
    run(context, made.jobs[1])
    source = projects.read_source(context.database.connection, made.source_id)
    assert source.proxy_path
    with av.open(str(context.workspace.path(source.proxy_path))) as reading:
        (sound,) = reading.streams.audio
        heard = np.concatenate([f.to_ndarray() for f in reading.decode(sound)], axis=1)[0]
        assert np.abs(np.fft.rfft(heard[: sound.rate // 2])).argmax() * 2 == pytest.approx(
            500, abs=6
        )
    projects.choose_hearing(context.database, made.source_id, "de", 1)
    source = projects.read_source(context.database.connection, made.source_id)
    assert source.proxy_path, "the language says nothing of the track"
    projects.choose_hearing(context.database, made.source_id, "en", 0)
    source = projects.read_source(context.database.connection, made.source_id)
    assert not source.proxy_path


def test_what_was_ordered_is_made_whatever_is_edited_meanwhile(
    context: AppContext, tmp_path: Path
) -> None:
    made = take_in(context, make_video(tmp_path / "a.mp4"))
    transcript.append_line(context.database, made.source_id, [Word("mend", 200_000, 900_000)])
    delivery, made_by = ordered(context, made.piece_id)
    (cue,) = projects.piece_cues(context.database.connection, made.piece_id)
    editing.apply(context.database, made.project_id, 0, RetypeCue(cue_id=cue.id, text="tea"))
    for job in made_by:
        run(context, job)
    folder = context.workspace.root / "deliveries" / str(delivery)
    (text,) = [file.read_text() for file in folder.glob("*.srt")]
    assert "mend" in text
    assert "tea" not in text
    db = context.database.connection
    assert deliveries.get(db, delivery).revision == 0
    assert deliveries.order_of(db, delivery) is None, "all of it is made"


def test_a_made_file_that_is_not_what_was_ordered_is_no_success(
    context: AppContext, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    made = take_in(context, make_video(tmp_path / "a.mp4"))
    transcript.append_line(context.database, made.source_id, [Word("mend", 200_000, 900_000)])
    delivery, (job, *others) = ordered(context, made.piece_id)
    for other in others:
        run(context, other)

    def cut_short(plan: RenderPlan, out: Path, *_: object, **__: object) -> None:
        shutil.copy(make_video(tmp_path / "short.mp4", seconds=1.0), out)

    monkeypatch.setattr(video, "burn", cut_short)
    run(context, job)
    assert "it lasts 1.0" in row(context, job).error
    assert not list((context.workspace.root / "deliveries" / str(delivery)).glob("*.mp4"))


def test_what_the_browser_cannot_play_gets_a_copy(context: AppContext, tmp_path: Path) -> None:
    made = take_in(
        context, make_video(tmp_path / "a.mkv", codec="ffv1", pixels="yuv444p", audio_codec="flac")
    )
    run(context, made.jobs[1])
    source = projects.read_source(context.database.connection, made.source_id)
    from mortiser.media.probe import probe

    assert not source.playable
    assert probe(context.workspace.path(source.proxy_path)).playable


@pytest.mark.parametrize(
    ("name", "stem"),
    [
        ("The cold kettle", "The-cold-kettle"),
        ("../../etc", "etc"),
        ("Über: a/b?", "Über-ab"),
        ("***", "piece"),
    ],
)
def test_file_names_are_safe(name: str, stem: str) -> None:
    assert file_stem(name) == stem


@pytest.mark.parametrize(
    ("file", "name"),
    [("my_clip.final.mp4", "my clip.final"), ("C:\\x\\clip.mov", "clip"), ("", "Untitled")],
)
def test_projects_are_named_after_their_file(file: str, name: str) -> None:
    assert title(file) == name


def test_what_is_waited_for_goes_first(context: AppContext) -> None:
    assert set(JOB_SPECS) == set(KINDS) == set(get_args(JobKind))
    made = take_in(context, COUNTER)
    delivery = ordered(context, made.piece_id)[1][0]
    doubting = jobs.add(
        context.database, made.project_id, "doubt", DoubtPayload(source_id=made.source_id)
    )
    queue = Queue(broker(context), context.tools, KINDS)
    queue.submit(doubting, delivery, *made.jobs)
    order = []
    while (task := queue._huey.dequeue()) is not None:
        order.append(row(context, task.args[0]).kind)
    assert order == ["prepare", "transcribe", "deliver", "doubt"]


def test_second_listenings_take_one_worker_and_all_get_their_turn(context: AppContext) -> None:
    made = take_in(context, COUNTER)
    doubts = [
        jobs.add(context.database, made.project_id, "doubt", DoubtPayload(source_id=made.source_id))
        for _ in range(3)
    ]
    order: list[int] = []
    at_once: list[int] = []

    def slow(task: Task) -> None:
        at_once.append(1)
        order.append(task.job_id)
        others = [threading.Thread(target=queue._run, args=(job,)) for job in doubts]
        for other in others:
            other.start()
        for other in others:
            other.join()
        assert sum(at_once) == 1
        at_once.pop()

    kinds = working("doubt", slow)
    queue = Queue(broker(context, kinds), context.tools, kinds, inline=True)
    queue._run(doubts[0])
    assert order == doubts
    assert {row(context, job).status for job in doubts} == {"done"}
