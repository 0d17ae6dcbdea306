"""Undo and redo over random edits: rows come back exactly, in any order of steps."""

import json
import sqlite3
import tempfile
from dataclasses import replace
from importlib.resources import files
from pathlib import Path

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from mortiser.core.captions.pace import PACES
from mortiser.core.common.errors import BadInput, Conflict, NoSpace, NotFound, Stale
from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.captions.captions import BreakLine, DeleteCues, JoinCue
from mortiser.core.edits.captions.pacing import CheckBy
from mortiser.core.edits.commands import EDIT, Edit
from mortiser.core.edits.cutting.removing import RemoveRecording
from mortiser.core.edits.cutting.toggling import ToggleWords
from mortiser.core.edits.cutting.trimming import Passage, StrikeWords
from mortiser.core.edits.look.dressing import DressCues
from mortiser.core.edits.look.settings import RenameProject
from mortiser.core.edits.text.words import AcceptAll, RetypeCue
from mortiser.core.transcript.words import Cue
from mortiser.store import copying, editing, paces, projects, transcript
from mortiser.store.database import Database
from mortiser.store.editing import Outcome
from tests.store.fixtures import open_project, open_two_pieces, rows, source, spoken
from tests.store.some_edits import KINDS, MAKERS, an_edit

seeds = st.lists(
    st.tuples(
        st.integers(0, len(KINDS) - 1), st.integers(1, 2), st.integers(0, 50), st.integers(0, 50)
    ),
    min_size=1,
    max_size=10,
)


def some_edit(database: Database, kind: int, piece: int, at: int, n: int) -> Edit:
    db = database.connection
    timeline = projects.piece(db, piece).timeline
    edit = an_edit(piece, projects.piece_cues(db, piece), timeline, kind, at, n)
    return EDIT.validate_python(edit.model_dump())


def test_every_kind_of_edit_has_a_maker() -> None:
    assert set(KINDS) == set(MAKERS)


def revision(database: Database, project: int) -> int:
    return int(projects.read_project(database.connection, project).revision)


def numbered(*steps: tuple[type[BaseEdit], int, int, int]) -> list[tuple[int, int, int, int]]:
    """Steps whose kinds are known by their number."""
    return [(KINDS.index(kind), *where) for kind, *where in steps]


@settings(max_examples=40, deadline=None)
@example(numbered((ToggleWords, 2, 25, 1), (RemoveRecording, 1, 0, 1)))
@given(seeds)
def test_undo_and_redo_bring_back_every_row(steps: list[tuple[int, int, int, int]]) -> None:
    with tempfile.TemporaryDirectory() as folder:
        database, project = open_two_pieces(Path(folder))
        states = [rows(database)]
        for step in steps:
            try:
                edit = some_edit(database, *step)
                outcome = editing.apply(database, project, revision(database, project), edit)
            except (BadInput, NotFound, ZeroDivisionError):
                assert rows(database) == states[-1]
                continue
            if rows(database) != states[-1]:
                states.append(rows(database))
            assert (outcome.undo is None) is (len(states) == 1)
        for state in reversed(states[:-1]):
            editing.undo(database, project, revision(database, project))
            assert rows(database) == state
        database.close()
        database = Database(Path(folder) / "m.db")
        for state in states[1:]:
            editing.redo(database, project, revision(database, project))
            assert rows(database) == state
        database.close()


def all_cues(db: sqlite3.Connection, project: int) -> list[Cue]:
    pieces = projects.pieces(db, project)
    return [cue for piece in pieces for cue in projects.piece_cues(db, piece.id)]


def shifted(cue: Cue, outcome: Outcome) -> Cue:
    """A caption where a cut has moved it."""
    for piece_id, shift in outcome.moved:
        if piece_id == cue.piece_id and shift.from_us <= cue.start_us < shift.to_us:
            by = shift.by_us
            words = tuple(
                replace(word, start_us=word.start_us + by, end_us=word.end_us + by)
                for word in cue.words
            )
            return replace(cue, words=words, start_us=cue.start_us + by, end_us=cue.end_us + by)
    return cue


def plain(cue: Cue) -> Cue:
    """A caption without what pages are not told: which clips its words are in."""
    return cue.with_words(tuple(replace(word, clip_id=0) for word in cue.words))


@settings(max_examples=40, deadline=None)
@given(seeds)
def test_answers_alone_keep_a_page_up_to_date(steps: list[tuple[int, int, int, int]]) -> None:
    """What a page holds after merging each answer is what reading everything anew would give."""
    with tempfile.TemporaryDirectory() as folder:
        database, project = open_two_pieces(Path(folder))
        db = database.connection
        page = {cue.id: cue for cue in all_cues(db, project)}

        def merge(outcome: Outcome) -> None:
            page.update({key: shifted(cue, outcome) for key, cue in page.items()})
            page.update({cue.id: cue for cue in outcome.cues})
            for gone in outcome.gone:
                page.pop(gone, None)
            now = all_cues(db, project)
            assert {key: plain(cue) for key, cue in page.items()} == {c.id: plain(c) for c in now}
            assert all(cue.words for cue in now)

        made = 0
        for step in steps:
            try:
                edit = some_edit(database, *step)
                merge(editing.apply(database, project, revision(database, project), edit))
            except (BadInput, NotFound, ZeroDivisionError):
                continue
            made += 1
        for way in (editing.undo, editing.redo):
            for _ in range(made):
                try:
                    merge(way(database, project, revision(database, project)))
                except Conflict:
                    break
        database.close()


def test_an_outcome_names_only_what_changed(tmp_path: Path) -> None:
    database, project, piece = open_project(tmp_path)
    cues = projects.piece_cues(database.connection, piece)
    edit = RetypeCue(cue_id=cues[4].id, text=cues[4].text + " extra")
    outcome = editing.apply(database, project, 0, edit)
    assert {c.id for c in outcome.cues} <= {c.id for c in cues[3:6]}
    assert (outcome.revision, outcome.undo, outcome.redo) == (1, "retype “extra”", None)
    back = editing.undo(database, project, 1)
    assert (back.undo, back.redo, back.gone) == (None, "retype “extra”", [])


def test_a_stale_revision_changes_nothing(tmp_path: Path) -> None:
    database, project, piece = open_project(tmp_path)
    cue = projects.piece_cues(database.connection, piece)[0]
    editing.apply(database, project, 0, RetypeCue(cue_id=cue.id, text="Hello there"))
    before = rows(database)
    for attempt in (
        lambda: editing.undo(database, project, 0),
        lambda: editing.redo(database, project, 0),
    ):
        with pytest.raises(Stale, match="Nothing was lost"):
            attempt()
    with pytest.raises(Stale):
        editing.apply(database, project, 0, DeleteCues(cue_ids=[cue.id]))
    assert rows(database) == before


def test_a_refused_edit_leaves_no_trace(tmp_path: Path) -> None:
    database, project, piece = open_project(tmp_path)
    cue = projects.piece_cues(database.connection, piece)[0]
    before = rows(database)
    with pytest.raises(BadInput):
        editing.apply(database, project, 0, RetypeCue(cue_id=cue.id, text=" "))
    assert rows(database) == before
    assert revision(database, project) == 0
    with pytest.raises(Conflict, match="nothing to undo"):
        editing.undo(database, project, 0)


def test_an_edit_of_another_project_is_not_found(tmp_path: Path) -> None:
    database, _, piece = open_project(tmp_path)
    other, _, _ = projects.create_project(database, "Other", source())
    cue = projects.piece_cues(database.connection, piece)[0]
    with pytest.raises(NotFound):
        editing.apply(database, other, 0, DeleteCues(cue_ids=[cue.id]))


def test_a_full_disk_loses_nothing(tmp_path: Path) -> None:
    database, project, piece = open_project(tmp_path)
    before = rows(database)
    pages = database.connection.execute("PRAGMA page_count").fetchone()[0]
    database.connection.execute(f"PRAGMA max_page_count = {pages}")
    cue = projects.piece_cues(database.connection, piece)[0]
    with pytest.raises(NoSpace, match="nothing was lost"):
        editing.apply(database, project, 0, RetypeCue(cue_id=cue.id, text="many words " * 150))
    assert rows(database) == before
    database.connection.execute("PRAGMA max_page_count = 1000000")
    editing.apply(database, project, 0, RetypeCue(cue_id=cue.id, text="many words"))


def test_a_growing_transcript_groups_line_by_line(tmp_path: Path) -> None:
    database, project, piece = open_project(tmp_path)
    first = projects.piece_cues(database.connection, piece)
    transcript.append_line(database, 1, spoken("Bring your chair on Saturday.", 40_000_000))
    after = projects.piece_cues(database.connection, piece)
    assert [c.id for c in after[: len(first)]] == [c.id for c in first]
    assert " ".join(c.text for c in after[len(first) :]) == "Bring your chair on Saturday."
    assert revision(database, project) == 0


def test_a_copy_is_independent(tmp_path: Path) -> None:
    database, project, piece = open_project(tmp_path)
    copy = copying.duplicate_project(
        database, project, {"sources/x/recording": "sources/y/recording"}
    ).project_id
    (copied,) = projects.pieces(database.connection, copy)
    originals = projects.piece_cues(database.connection, piece)
    copies = projects.piece_cues(database.connection, copied.id)
    assert [(c.text, c.start_us, c.end_us) for c in copies] == [
        (c.text, c.start_us, c.end_us) for c in originals
    ]
    assert not {c.id for c in copies} & {c.id for c in originals}
    editing.apply(database, copy, 0, DeleteCues(cue_ids=[copies[0].id]))
    assert len(projects.piece_cues(database.connection, piece)) == len(originals)
    projects.delete_project(database, project)
    assert len(projects.piece_cues(database.connection, copied.id)) == len(originals) - 1
    assert len(projects.list_projects(database)) == 1


def test_what_follows_from_an_edit_is_undone_with_it(tmp_path: Path) -> None:
    database, project, piece = open_project(tmp_path)
    before = rows(database)
    cue = projects.piece_cues(database.connection, piece)[2]
    editing.apply(database, project, 0, RetypeCue(cue_id=cue.id, text=f"{cue.text} now"))

    def change(session) -> None:
        now = session.cue(cue.id)
        words = (
            *now.words[:-1],
            replace(now.words[-1], end_us=now.words[-1].end_us - 1, aligned=True),
        )
        session.save_cue(now.with_words(words))

    outcome = editing.amend(database, project, change)
    assert (outcome.revision, outcome.undo) == (2, "retype “now”")
    assert outcome.cues[0].words[-1].aligned
    after = rows(database)
    editing.undo(database, project, 2)
    assert rows(database) == before
    with pytest.raises(Conflict, match="undone in the meantime"):
        editing.amend(database, project, change)
    editing.redo(database, project, 3)
    assert rows(database) == after


def test_a_workspace_of_before_is_taken_over(tmp_path: Path) -> None:
    """A pace that was stored with two shortest durations is read with one."""
    path = tmp_path / "m.db"
    folder = files("mortiser.store") / "migrations"
    db = sqlite3.connect(path)
    db.execute("CREATE TABLE migration (name TEXT PRIMARY KEY, run_us INTEGER NOT NULL) STRICT")
    for name in sorted(entry.name for entry in folder.iterdir()):
        if name.endswith(".sql") and name < "0007":
            db.executescript((folder / name).read_text())
            db.execute("INSERT INTO migration VALUES (?, 0)", (name,))
    old = {**PACES["quick"].model_dump(), "words": 4, "too_short_us": 250_000}
    db.execute("INSERT INTO project (name, created_us, changed_us) VALUES ('Old', 0, 0)")
    values = dict(source().__dict__)
    values |= {"project_id": 1, "variable_rate": 0, "playable": 1}
    del values["first_frame_us"], values["track_names"], values["credit"]
    marks = ", ".join("?" for _ in values)
    db.execute(f"INSERT INTO source ({', '.join(values)}) VALUES ({marks})", (*values.values(),))
    db.execute(
        "INSERT INTO piece (project_id, name, width, height, finish, grouping) "
        "VALUES (1, 'Old', 1080, 1920, 'Lacquer', ?)",
        (json.dumps(old),),
    )
    db.execute(
        "INSERT INTO span (piece_id, position, source_id, start_us, end_us) VALUES (1, 0, 1, 0, 9)"
    )
    db.execute("INSERT INTO saved_pace (name, pace) VALUES ('Four', ?)", (json.dumps(old),))
    db.commit()
    db.close()
    database = Database(path)
    piece = projects.piece(database.connection, 1)
    assert (piece.settings.pace.words, piece.settings.file_pace) == (4, None)
    assert [pace.words for _, _, pace in paces.saved(database.connection)] == [4]


def test_a_drag_over_many_captions_keeps_one_change_a_row(tmp_path: Path) -> None:
    database, project, piece = open_project(tmp_path, spoken("We mend kettles and chairs. " * 200))
    cues = projects.piece_cues(database.connection, piece)[:300]
    words = sum(len(cue.words) for cue in cues)
    before = rows(database)
    for step in range(30):
        edit = DressCues(cue_ids=[cue.id for cue in cues], changes={"size": 0.05 + step / 1000})
        editing.apply(database, project, step, edit, goes_on=step > 0)
    kept = database.connection.execute("SELECT count(*) FROM edit_change").fetchone()[0]
    assert kept == words
    editing.undo(database, project, 30)
    assert rows(database) == before


def test_a_drag_that_comes_back_leaves_nothing_to_undo_but_names_what_it_touched(
    tmp_path: Path,
) -> None:
    database, project, piece = open_project(tmp_path)
    cue = projects.piece_cues(database.connection, piece)[0]
    for step, size in enumerate((0.08, 0.09)):
        edit = DressCues(cue_ids=[cue.id], changes={"size": size})
        editing.apply(database, project, step, edit, goes_on=step > 0)
    own = {"size": projects.piece(database.connection, piece).settings.finish.size}
    back = editing.apply(
        database, project, 2, DressCues(cue_ids=[cue.id], changes=own), goes_on=True
    )
    assert [(one.id, one.look) for one in back.cues] == [(cue.id, "")]
    assert back.undo is None


def test_a_cut_before_many_others_keeps_a_handful_of_rows(tmp_path: Path) -> None:
    database, project, piece = open_project(tmp_path)
    words = [word for cue in projects.piece_cues(database.connection, piece) for word in cue.words]
    strand = projects.piece(database.connection, piece).timeline.clips[0].strand_id
    kept = []
    for word in reversed(words[1:-1:2]):
        passage = Passage(strand_id=strand, first_word=word.id, last_word=word.id)
        editing.apply_now(database, project, StrikeWords(piece_id=piece, passages=[passage]))
        (count,) = database.connection.execute(
            "SELECT count(*) FROM edit_change WHERE table_name = 'clip' "
            "AND entry_id = (SELECT max(id) FROM edit_entry)"
        ).fetchone()
        kept.append(count)
    assert len(kept) > 10
    assert max(kept[2:]) <= 3
    timeline = projects.piece(database.connection, piece).timeline
    assert [clip.start_us for clip in timeline.clips] == sorted(c.start_us for c in timeline.clips)


def test_only_so_many_edits_can_be_taken_back(tmp_path: Path) -> None:
    database, project, _ = open_project(tmp_path)
    database.undo_steps = 3
    for number in range(5):
        editing.apply(database, project, number, RenameProject(name=f"Name {number}"))
    for number in range(3):
        editing.undo(database, project, 5 + number)
    with pytest.raises(Conflict, match="nothing to undo"):
        editing.undo(database, project, 8)
    assert projects.read_project(database.connection, project).name == "Name 1"


def test_an_edit_made_over_an_older_revision_is_taken_where_its_captions_read_the_same(
    tmp_path: Path,
) -> None:
    database, project, piece = open_project(tmp_path)
    first, second, third = projects.piece_cues(database.connection, piece)[:3]
    editing.apply(database, project, 0, RetypeCue(cue_id=first.id, text="Hello there"))
    editing.apply(database, project, 0, RetypeCue(cue_id=third.id, text="mend chairs"))
    editing.apply(database, project, 0, RenameProject(name="Chairs"))
    # Its times may have been changed: what is said about it holds all the same.
    editing.apply(database, project, 0, BreakLine(cue_id=second.id, before_word=1))
    for late in (
        RetypeCue(cue_id=first.id, text="Good evening"),
        DeleteCues(cue_ids=[second.id, third.id]),
        AcceptAll(piece_id=piece),
    ):
        with pytest.raises(Stale):
            editing.apply(database, project, 0, late)
    with pytest.raises(Stale):
        editing.undo(database, project, 3)
    with pytest.raises(Stale):
        editing.apply(database, project, 5, RenameProject(name="From the future"))


def test_catching_up_gives_what_reading_anew_gives(tmp_path: Path) -> None:
    database, project, piece = open_project(tmp_path)
    page = {cue.id: cue for cue in projects.piece_cues(database.connection, piece)}
    first, second = list(page.values())[:2]
    editing.apply(database, project, 0, RetypeCue(cue_id=first.id, text="Hello there, you"))
    editing.apply(database, project, 1, JoinCue(cue_id=second.id))
    editing.apply(database, project, 2, CheckBy(piece_id=piece, rules="feed"))
    editing.undo(database, project, 3)
    found = editing.catch_up(database, project, 0)
    assert found is not None
    for gone in found.gone:
        del page[gone]
    page |= {cue.id: cue for cue in found.cues}
    assert page == {cue.id: cue for cue in projects.piece_cues(database.connection, piece)}
    assert found.settings is not None
    assert (found.revision, found.redo) == (4, "check by feed")
    nothing = editing.catch_up(database, project, 4)
    assert nothing is not None
    assert (nothing.cues, nothing.gone, nothing.settings) == ([], [], None)
    assert editing.catch_up(database, project, 9) is None
