"""A database with one project of made-up words, and a picture of all its rows."""

from pathlib import Path

from mortiser.core.words import Word
from mortiser.store import projects
from mortiser.store.database import Database
from mortiser.store.journal import BOOKKEEPING, TABLES
from mortiser.store.projects import NewSource

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
    project, _, piece = projects.create_project(database, "The kettle", source(duration))
    for line in [words or spoken()]:
        projects.append_line(database, piece, line)
    return database, project, piece


def rows(database: Database) -> dict[str, list[tuple[object, ...]]]:
    """Every row that edits may touch, without the columns that say when."""
    picture = {}
    for table in TABLES:
        skip = BOOKKEEPING.get(table, set())
        found = database.connection.execute(f"SELECT * FROM {table} ORDER BY id").fetchall()
        picture[table] = [tuple(r[k] for k in r.keys() if k not in skip) for r in found]  # noqa: SIM118
    return picture
