"""Undo and redo over random edits: rows come back exactly, in any order of steps."""

import json
import sqlite3
import tempfile
from dataclasses import replace
from importlib.resources import files
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mortiser.core.edits.captions import BreakLine, DeleteCues, JoinCue, MoveWord, SplitCue
from mortiser.core.edits.commands import Edit
from mortiser.core.edits.everywhere import DressSpeaker, MarkEverywhere
from mortiser.core.edits.marking import MarkWords
from mortiser.core.edits.pacing import CheckBy, Regroup, SetFilePace, SetPace
from mortiser.core.edits.settings import RenameProject
from mortiser.core.edits.shifting import ShiftCues
from mortiser.core.edits.times import MoveCues
from mortiser.core.edits.word_times import MoveWordEdge
from mortiser.core.edits.words import ReplaceWord, RetypeCue
from mortiser.core.errors import BadInput, Conflict, NoSpace, NotFound, Stale
from mortiser.core.pace import PACES
from mortiser.store import editing, paces, projects
from mortiser.store.database import Database
from mortiser.store.editing import Outcome
from tests.store.fixtures import open_project, rows, source, spoken

seeds = st.lists(
    st.tuples(st.integers(0, 17), st.integers(0, 50), st.integers(0, 50)), min_size=1, max_size=10
)


def some_edit(database: Database, piece: int, kind: int, which: int, detail: int) -> Edit:
    cues = projects.piece_cues(database.connection, piece)
    cue = cues[which % len(cues)]
    match kind:
        case 0:
            words = [w.text for w in cue.words]
            words.insert(detail % (len(words) + 1), f"word{detail}")
            return RetypeCue(cue_id=cue.id, text=" ".join(words[detail % 2 :]))
        case 1:
            return ReplaceWord(
                cue_id=cue.id, word_id=cue.words[detail % len(cue.words)].id, text=""
            )
        case 2:
            return SplitCue(cue_id=cue.id, before_word=1 + detail % 3)
        case 3:
            return JoinCue(cue_id=cue.id)
        case 4:
            return DeleteCues(cue_ids=[cue.id])
        case 5:
            return RenameProject(name=f"Name {detail}")
        case 6:
            return MoveWord(cue_id=cue.id, which="first" if detail % 2 else "last")
        case 7:
            return BreakLine(cue_id=cue.id, before_word=1 + detail % 2)
        case 8:
            return MoveCues(cue_ids=[cue.id], by_us=detail * 10_000 - 200_000, ripple=detail > 40)
        case 9:
            return ShiftCues(cue_ids=[cue.id], by=f"+{detail}f", onward=True)
        case 15:
            return MarkEverywhere(piece_id=piece, text=cue.words[0].text, accent=detail % 4)
        case 16:
            return DressSpeaker(piece_id=piece, name=f"S{detail % 2}", changes={"size": 0.1})
        case 17:
            return SetFilePace(piece_id=piece, pace=PACES["sentence"] if detail % 2 else None)
        case 10:
            return MoveWordEdge(cue_id=cue.id, word_id=cue.words[0].id, by_us=detail * 4_000 - 9)
        case 11:
            return CheckBy(piece_id=piece, rules="feed" if detail % 2 else "course")
        case 12:
            return Regroup(piece_id=piece, cue_ids=[cue.id], keep=bool(detail % 2))
        case 13:
            word = cue.words[detail % len(cue.words)]
            return MarkWords(cue_ids=[cue.id], word_ids=[word.id], accent=detail % 3)
        case _:
            return SetPace(piece_id=piece, pace=PACES["sentence" if detail % 2 else "quick"])


def revision(database: Database, project: int) -> int:
    return int(projects.project_row(database.connection, project)["revision"])


@settings(max_examples=40, deadline=None)
@given(seeds)
def test_undo_and_redo_bring_back_every_row(steps: list[tuple[int, int, int]]) -> None:
    with tempfile.TemporaryDirectory() as folder:
        database, project, piece = open_project(Path(folder))
        states = [rows(database)]
        for kind, which, detail in steps:
            try:
                edit = some_edit(database, piece, kind, which, detail)
                outcome = editing.apply(database, project, revision(database, project), edit)
            except (BadInput, ZeroDivisionError):
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


@settings(max_examples=40, deadline=None)
@given(seeds)
def test_answers_alone_keep_a_page_up_to_date(steps: list[tuple[int, int, int]]) -> None:
    """What a page holds after merging each answer is what reading everything anew would give."""
    with tempfile.TemporaryDirectory() as folder:
        database, project, piece = open_project(Path(folder))
        page = {cue.id: cue for cue in projects.piece_cues(database.connection, piece)}

        def merge(outcome: Outcome) -> None:
            for gone in outcome.gone:
                page.pop(gone, None)
            page.update({cue.id: cue for cue in outcome.cues})
            anew = projects.piece_cues(database.connection, piece)
            assert page == {cue.id: cue for cue in anew}

        made = 0
        for kind, which, detail in steps:
            try:
                edit = some_edit(database, piece, kind, which, detail)
                merge(editing.apply(database, project, revision(database, project), edit))
            except (BadInput, ZeroDivisionError):
                continue
            made += 1
        for step in (editing.undo, editing.redo):
            for _ in range(made):
                try:
                    merge(step(database, project, revision(database, project)))
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
    projects.append_line(database, piece, spoken("Bring your chair on Saturday.", 40_000_000))
    after = projects.piece_cues(database.connection, piece)
    assert [c.id for c in after[: len(first)]] == [c.id for c in first]
    assert " ".join(c.text for c in after[len(first) :]) == "Bring your chair on Saturday."
    assert revision(database, project) == 0


def test_a_copy_is_independent(tmp_path: Path) -> None:
    database, project, piece = open_project(tmp_path)
    copy = projects.duplicate_project(
        database, project, {"sources/x/recording": "sources/y/recording"}
    )
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

    def change(desk) -> None:
        now = desk.cue(cue.id)
        words = (
            *now.words[:-1],
            replace(now.words[-1], end_us=now.words[-1].end_us - 1, aligned=True),
        )
        desk.save_cue(now.with_words(words))

    outcome = editing.amend(database, project, 1, change)
    assert (outcome.revision, outcome.undo) == (2, "retype “now”")
    assert outcome.cues[0].words[-1].aligned
    after = rows(database)
    editing.undo(database, project, 2)
    assert rows(database) == before
    with pytest.raises(Conflict, match="undone in the meantime"):
        editing.amend(database, project, 3, change)
    editing.redo(database, project, 3)
    assert rows(database) == after
    with pytest.raises(Stale):
        editing.amend(database, project, 1, change)


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
    assert (piece.pace.words, piece.file_pace) == (4, None)
    assert [pace.words for _, _, pace in paces.saved(database.connection)] == [4]
