"""Workspaces that released versions have written: they open, look the same, and can be undone."""

import shutil
import sqlite3
from datetime import date
from pathlib import Path

import av
import numpy as np
import pytest

from mortiser.core.project.output import StillFile
from mortiser.outputs import OUTPUTS
from mortiser.store import deliveries, editing, journal, projects
from mortiser.store.database import Database

SIDE = 4
"""Pixels are compared by squares of this side: colour between two samples of it is not worked out as it once was."""
RELEASED = sorted((Path(__file__).parent / "released").iterdir())


def pixels(file: Path) -> np.ndarray:
    with av.open(str(file)) as reading:
        whole = next(reading.decode(video=0)).to_ndarray(format="rgb24").astype(float)
    height, width, _ = whole.shape
    return whole.reshape(height // SIDE, SIDE, width // SIDE, SIDE, 3).mean(axis=(1, 3))


@pytest.mark.parametrize("released", RELEASED, ids=lambda folder: folder.name)
def test_a_workspace_of_a_release_looks_the_same_and_can_be_undone(
    tmp_path: Path, released: Path
) -> None:
    written = sqlite3.connect(tmp_path / "mortiser.db")
    written.executescript((released / "workspace.sql").read_text())
    written.close()
    database = Database(tmp_path / "mortiser.db")
    db = database.connection
    (source,) = projects.read_sources(db, 1)
    (tmp_path / source.path).parent.mkdir(parents=True)
    shutil.copy(released / "recording.mp4", tmp_path / source.path)
    (piece,) = projects.pieces(db, 1)
    assert piece.unreadable == ()
    still = StillFile(at_us=900_000, form="png")
    order, (part,) = deliveries.planned(
        db, piece.id, date(2026, 12, 2), (piece.settings.shapes[0].id,), (), (still,)
    )
    made = tmp_path / "frame.png"
    OUTPUTS["still"].make(
        order.of_part(part), part, made, lambda path: tmp_path / path, lambda done: None
    )
    apart = np.abs(pixels(made) - pixels(released / "frame.png")).max(axis=2)
    assert apart.mean() < 2.5
    assert apart.max() < 24

    before = projects.piece_cues(db, piece.id), piece.settings
    undone = 0
    while journal.labels(db, 1)[0]:
        editing.undo(database, 1, projects.read_project(db, 1).revision)
        undone += 1
    assert undone >= 5
    bare = projects.piece(db, piece.id)
    assert (len(bare.settings.shapes), bare.settings.layers) == (1, ())
    while journal.labels(db, 1)[1]:
        editing.redo(database, 1, projects.read_project(db, 1).revision)
    again = projects.piece(db, piece.id)
    assert (projects.piece_cues(db, piece.id), again.settings) == before
    database.close()
