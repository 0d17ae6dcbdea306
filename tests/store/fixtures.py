"""A database with one project of made-up words, and a picture of all its rows."""

from itertools import count
from pathlib import Path

from mortiser.core.captions.pace import PACES
from mortiser.core.editing.timeline import Clip
from mortiser.core.edits.projection import caption_fresh
from mortiser.core.edits.retiming import retime_all
from mortiser.core.project.job import JOB_SPECS, JobKind
from mortiser.core.project.job_payloads import JobPayload
from mortiser.core.transcript.words import Word
from mortiser.store import projects, transcript
from mortiser.store.database import Database
from mortiser.store.journal import BOOKKEEPING, TABLES
from mortiser.store.projects import NewSource
from mortiser.store.rows import insert
from mortiser.store.sql_session import SqlEditSession

TEXT = (
    "Good morning from Lantern Lane, where we mend things. Today this kettle came in stone cold. "
    "Nine times out of ten it is the fuse."
)


def source(duration_us: int = 60_000_000) -> NewSource:
    return NewSource(
        name="clip.mp4", path="sources/x/recording", kind="video", size_bytes=5, duration_us=duration_us,
        width=1080, height=1920, rotation=0, frame_count=1, frame_rate=30.0, variable_rate=False,
        audio_tracks=1, video_codec="h264", audio_codec="aac", playable=True,
    )  # fmt: skip


def spoken(text: str = TEXT, start_us: int = 400_000) -> list[Word]:
    """The text's words, 300 ms each with 50 ms between."""
    return [
        Word(token, start_us + i * 350_000, start_us + i * 350_000 + 300_000, 0.9)
        for i, token in enumerate(text.split())
    ]


def open_project(path: Path, words: list[Word] | None = None) -> tuple[Database, int, int]:
    """(database, project id, piece id) of a fresh project whose words are all heard."""
    database = Database(path / "m.db")
    duration = max(60_000_000, words[-1].end_us + 1_000_000 if words else 0)
    project, source_id, piece = projects.create_project(database, "The kettle", source(duration))
    for line in [words or spoken()]:
        transcript.append_line(database, source_id, line)
    return database, project, piece


OTHER = "Bring your radio on Saturday and we open it together."
FUSE, MORNING = 16, 0
"""The first word of "Nine times out of ten" and of "Good morning" in TEXT."""


def before(word: int) -> int:
    """A moment just before a word of the source begins."""
    return 375_000 + word * 350_000


SHORT = [
    Clip(2, 0, 4_000_000, id=2, strand_id=2),
    Clip(1, before(FUSE), before(FUSE + 9), id=3, strand_id=3),
    Clip(1, before(MORNING), before(MORNING + 5), id=4, strand_id=4),
    Clip(1, before(FUSE), before(FUSE + 5), id=5, strand_id=5),
]
"""A second piece: the radio, the fuse, the greeting, and "Nine times out of ten" once more."""


def cut(database: Database, piece_id: int, clips: list[Clip]) -> None:
    """Make a piece of other clips, its captions anew."""
    with database.transaction() as db:
        project = db.execute("SELECT project_id FROM piece WHERE id = ?", (piece_id,)).fetchone()[0]
        db.execute("DELETE FROM cue WHERE piece_id = ?", (piece_id,))
        db.execute("DELETE FROM clip WHERE piece_id = ?", (piece_id,))
        for position, clip in enumerate(clips):
            strand = insert(
                db, "strand", piece_id=piece_id, source_id=clip.source_id,
                start_us=clip.start_us, end_us=clip.end_us,
            )  # fmt: skip
            insert(
                db, "clip", piece_id=piece_id, position=position, strand_id=strand,
                start_us=clip.start_us, end_us=clip.end_us,
            )  # fmt: skip
        session = SqlEditSession(db, project)
        caption_fresh(session, piece_id, {w.id for w in session.unshown(piece_id)}, PACES["quick"])
        retime_all(session, piece_id)


def open_two_pieces(path: Path) -> tuple[Database, int]:
    """(database, project id) of a project with two sources, a piece of the first, and SHORT."""
    database, project, _ = open_project(path)
    with database.transaction() as db:
        values = dict(source().__dict__) | {"project_id": project, "variable_rate": 0}
        insert(db, "source", **values)
        size = {"width": 1080, "height": 1920, "finish": "Pine", "pace": "quick"}
        insert(db, "piece", project_id=project, name="Short", **size)
    cut(database, 2, SHORT)
    transcript.append_line(database, 2, spoken(OTHER))
    return database, project


def rows(database: Database) -> dict[str, list[tuple[object, ...]]]:
    """Every row that edits may touch, without the columns that say when they did."""
    picture = {}
    for table in TABLES:
        skip = BOOKKEEPING[table] if table == "project" else ()
        found = database.connection.execute(f"SELECT * FROM {table} ORDER BY id").fetchall()
        picture[table] = [tuple(r[k] for k in r.keys() if k not in skip) for r in found]  # noqa: SIM118
    return picture


_NUMBERS = count(1_000)


def payload(kind: JobKind, **about: object) -> JobPayload:
    """What a job of a kind may be queued with; its recording is no other job's."""
    usual = {
        "source_id": next(_NUMBERS), "piece_id": 1, "sound_id": 1, "text": "tea", "file": "none",
        "at_us": 0, "box": (0.5, 0.5, 0.2, 0.2), "from_us": 0, "to_us": 1,
    }  # fmt: skip
    model = JOB_SPECS[kind].payload
    needed = {name for name, field in model.model_fields.items() if field.is_required()}
    return model.model_validate({key: usual[key] for key in needed} | about)
