"""Workspaces made by each earlier schema open, show the same captions, and can be undone."""

import json
import sqlite3
from importlib.resources import files
from pathlib import Path

import pytest

from mortiser.cli import main
from mortiser.core.captions.pace import PACES
from mortiser.core.common.errors import Damaged
from mortiser.core.edits.text.words import RetypeCue
from mortiser.store import editing, projects
from mortiser.store.database import Database, _statements

FOLDER = files("mortiser.store") / "migrations"
NAMES = sorted(entry.name for entry in FOLDER.iterdir() if entry.name.endswith(".sql"))
BEFORE_CLIPS = NAMES[: NAMES.index("0009_clips.sql")]


def made_by(file: Path, names: list[str]) -> None:
    """A database as a version with these migrations left it: one caption, cut down from two words by
    an edit that can be undone."""
    db = sqlite3.connect(file)
    db.row_factory = sqlite3.Row
    db.execute("CREATE TABLE migration (name TEXT PRIMARY KEY, run_us INTEGER NOT NULL) STRICT")
    for name in names:
        for statement in _statements((FOLDER / name).read_text(encoding="utf-8")):
            db.execute(statement)
        db.execute("INSERT INTO migration VALUES (?, 0)", (name,))
    db.execute("INSERT INTO project VALUES (1, 'Kettle', 0, 0, 1)")
    columns = "id, project_id, name, path, kind, size_bytes, duration_us, width, height, rotation, "
    columns += "frame_count, frame_rate, variable_rate, audio_tracks, playable"
    db.execute(
        f"INSERT INTO source ({columns}) VALUES "
        "(1, 1, 'k.mp4', 'sources/k/recording', 'video', 9, 9000000, 90, 160, 0, 1, 30, 0, 1, 1)"
    )
    db.execute(
        "INSERT INTO piece (id, project_id, name, width, height, finish, grouping) "
        "VALUES (1, 1, 'Kettle', 90, 160, 'Pine', 'quick')"
    )
    db.execute("INSERT INTO span VALUES (7, 1, 0, 1, 0, 9000000)")
    for number, text in enumerate(("cold", "kettle"), start=1):
        db.execute(
            "INSERT INTO word (id, source_id, text, start_us, end_us, origin, aligned) "
            "VALUES (?, 1, ?, ?, ?, 'heard', 1)",
            (number, text, number * 1_000_000, number * 1_000_000 + 500_000),
        )
    db.execute("INSERT INTO cue VALUES (1, 1, 1000000, 3000000, 0, 0)")
    for number in (1, 2):
        db.execute(
            "INSERT INTO cue_word (id, cue_id, word_id, position) VALUES (?, 1, ?, ?)",
            (number, number, number - 1),
        )
    row = dict(db.execute("SELECT * FROM cue_word WHERE id = 2").fetchone())
    db.execute("DELETE FROM cue_word WHERE id = 2")
    was = dict(db.execute("SELECT * FROM piece").fetchone()) | {"grouping": "sentence"}
    now = was | {"grouping": "quick"}
    db.execute("INSERT INTO edit_entry VALUES (1, 1, 'cut', '{}', 0, 0)")
    db.execute(
        "INSERT INTO edit_change (entry_id, table_name, row_id, before, after) "
        "VALUES (1, 'piece', 1, ?, ?)",
        (json.dumps(was), json.dumps(now)),
    )
    db.execute(
        "INSERT INTO edit_change (entry_id, table_name, row_id, before) VALUES (1, 'cue_word', 2, ?)",
        (json.dumps(row),),
    )
    db.commit()
    db.close()


@pytest.mark.parametrize("count", range(1, len(BEFORE_CLIPS) + 1))
def test_a_workspace_of_an_earlier_version_opens(tmp_path: Path, count: int) -> None:
    made_by(tmp_path / "m.db", BEFORE_CLIPS[:count])
    database = Database(tmp_path / "m.db")
    db = database.connection
    (piece,) = projects.pieces(db, 1)
    (clip,) = piece.timeline.clips
    assert (clip.id, clip.start_us, clip.end_us) == (7, 0, 9_000_000)
    (cue,) = projects.piece_cues(db, 1)
    assert [(w.text, w.clip_id) for w in cue.words] == [("cold", 7)]
    # Rows that are gone are known by their numbers, so none is given twice.
    editing.apply(database, 1, 1, RetypeCue(cue_id=1, text="cold tea"))
    ids = [row["id"] for row in db.execute("SELECT id FROM shown_word ORDER BY id")]
    assert ids == [1, 3]
    editing.undo(database, 1, 2)
    editing.undo(database, 1, 3)
    assert projects.piece(db, 1).settings.pace == PACES["sentence"]
    (cue,) = projects.piece_cues(db, 1)
    assert [(w.text, w.clip_id, w.start_us) for w in cue.words] == [
        ("cold", 7, 1_000_000),
        ("kettle", 7, 2_000_000),
    ]
    editing.apply(database, 1, 4, RetypeCue(cue_id=1, text="cold kettle again"))
    assert projects.piece_cues(db, 1)[0].words[-1].id > 2
    assert db.execute("PRAGMA foreign_key_check").fetchall() == []
    database.close()


def test_a_workspace_of_a_newer_version_is_refused_and_left_alone(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    file = tmp_path / "mortiser.db"
    Database(file)
    db = sqlite3.connect(file)
    db.execute("INSERT INTO migration VALUES ('0999_later.sql', 0)")
    db.commit()
    db.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    db.close()
    before = file.read_bytes()
    with pytest.raises(Damaged, match="newer Mortiser"):
        Database(file)
    assert main(["serve", "--workspace", str(tmp_path), "--port", "0"]) == 1
    assert "Start the newer one" in capsys.readouterr().err
    assert file.read_bytes() == before


def test_a_path_that_is_too_long_is_said(tmp_path: Path) -> None:
    deep = tmp_path.joinpath(*["a" * 200] * 4)
    deep.mkdir(parents=True)
    with pytest.raises(Damaged, match=r"path of the workspace is longer than 500 letters"):
        Database(deep / "mortiser.db")
