"""Projects with their sources and pieces: made, listed, read, copied, removed."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Mapping
from dataclasses import dataclass

from mortiser.core.captions.pace import PACES, PaceName
from mortiser.core.captions.pace import STORED as PACE
from mortiser.core.common.errors import NotFound
from mortiser.core.editing.microphone import Microphone
from mortiser.core.editing.timeline import Timeline
from mortiser.core.framing.following import Turn
from mortiser.core.framing.placing import Size
from mortiser.core.framing.shape import Shapes
from mortiser.core.framing.subject import Tracks
from mortiser.core.library.found import STORED as CREDIT
from mortiser.core.project.piece import MediaFacts, Piece
from mortiser.core.project.project import ListedProject, Project
from mortiser.core.project.source import Source
from mortiser.core.scene import MOST_OVER_US
from mortiser.core.style.finish.stored import STORED as FINISH
from mortiser.core.transcript.speakers import with_names
from mortiser.core.transcript.words import Cue, Shown
from mortiser.store import finishes, subjects
from mortiser.store.database import Database, now_us
from mortiser.store.piece_settings import read_settings
from mortiser.store.rows import (
    Timelines,
    insert,
    load_cues,
    load_frames,
    load_strands,
    load_unshown,
)

SOURCES = (
    "SELECT source.*, microphone.sound_id, microphone.offset_us AS sound_offset_us, "
    "microphone.drift_ppm AS sound_drift_ppm, microphone.sure AS sound_sure "
    "FROM source LEFT JOIN microphone ON microphone.source_id = source.id"
)
"""Sources with what is heard in their stead."""
AUDIO_ONLY_FRAME = (1080, 1920)
"""The frame of a piece made from a recording without a picture."""


@dataclass(frozen=True)
class NewSource:
    """What is known of a recording when it is brought in (see media.probe)."""

    name: str
    path: str
    kind: str
    size_bytes: int
    duration_us: int
    width: int
    height: int
    rotation: int
    frame_count: int
    frame_rate: float
    variable_rate: bool
    audio_tracks: int
    video_codec: str | None
    audio_codec: str | None
    playable: bool
    language: str = "en"
    audio_track: int = 0
    first_frame_us: int = 0
    track_names: str = "[]"
    credit: str = ""


def create_project(
    database: Database,
    name: str,
    source: NewSource,
    *,
    finish: str | None = None,
    pace: PaceName = "quick",
) -> tuple[int, int, int]:
    """A project with one source and a piece that keeps all of it; their three ids."""
    with database.transaction() as db:
        at = now_us()
        project = insert(db, "project", name=name, created_us=at, changed_us=at)
        size = (source.width, source.height) if source.width else AUDIO_ONLY_FRAME
        look = FINISH.read(finish) if finish else finishes.for_new_piece(db)
        about = {
            "project_id": project,
            "name": name,
            "finish": FINISH.write(look),
            "pace": PACE.write(PACES[pace]),
        }
        about |= {"width": size[0], "height": size[1]}
        return project, *_with_piece(db, source, about)


def add_source(
    database: Database, project_id: int, name: str, source: NewSource
) -> tuple[int, int]:
    """Another source of a project and a piece that keeps all of it, styled and grouped like the first
    piece and, without a picture of its own, in its frame; their ids. Raises NotFound."""
    with database.transaction() as db:
        like = chosen_piece(db, project_id)
        row = _one(db, "piece", like.id, "That project has no pieces.")
        about = {
            key: row[key]
            for key in ("finish", "pace", "file_pace", "checked_by", "outputs", "naming")
        }
        size = (source.width, source.height) if source.width else like.settings.shapes[0].size
        about |= {"project_id": project_id, "name": name, "width": size[0], "height": size[1]}
        return _with_piece(db, source, about)


def add_film(database: Database, project_id: int, source: NewSource) -> int:
    """Another source of a project that no piece plays, to be seen over others; its id. Raises NotFound."""
    with database.transaction() as db:
        read_project(db, project_id)
        return _source_row(db, source, project_id)


def _source_row(db: sqlite3.Connection, source: NewSource, project_id: object) -> int:
    values = {**source.__dict__, "project_id": project_id, "proxy_path": None}
    values |= {"variable_rate": int(source.variable_rate), "playable": int(source.playable)}
    return insert(db, "source", **values)


def _with_piece(
    db: sqlite3.Connection, source: NewSource, piece: Mapping[str, object]
) -> tuple[int, int]:
    """Rows of a source and of a piece that keeps all of it."""
    source_id = _source_row(db, source, piece["project_id"])
    piece_id = insert(db, "piece", **piece)
    reach = {"start_us": 0, "end_us": source.duration_us}
    strand = insert(db, "strand", piece_id=piece_id, source_id=source_id, **reach)
    insert(db, "clip", piece_id=piece_id, position=0, strand_id=strand, **reach)
    return source_id, piece_id


def list_projects(database: Database) -> list[ListedProject]:
    """Every project with its first source and its newest job, last changed first."""
    rows = database.connection.execute(
        "SELECT project.id, project.name, revision, changed_us, source.id AS source_id, duration_us, kind, "
        "(SELECT count(*) FROM cue JOIN piece ON piece.id = cue.piece_id "
        " WHERE piece.project_id = project.id AND cue.start_us IS NOT NULL) AS cue_count, "
        "(SELECT status FROM job WHERE job.project_id = project.id AND kind = 'transcribe' "
        " ORDER BY job.id DESC LIMIT 1) AS hearing "
        "FROM project JOIN source ON source.id = "
        "(SELECT min(id) FROM source WHERE source.project_id = project.id AND NOT removed) "
        "ORDER BY project.changed_us DESC, project.id DESC"
    )
    return [ListedProject(*row) for row in rows]


def read_project(db: sqlite3.Connection, project_id: int) -> Project:
    """A project. Raises NotFound."""
    row = _one(db, "project", project_id, "That project is not there any more.")
    return Project(row["id"], row["name"], row["revision"], row["changed_us"])


def read_source(db: sqlite3.Connection, source_id: int) -> Source:
    """A source. Raises NotFound."""
    row = db.execute(f"{SOURCES} WHERE source.id = ?", (source_id,)).fetchone()
    if row is None:
        raise NotFound("That recording is not there any more.")
    return _source(row)


def read_sources(db: sqlite3.Connection, project_id: int) -> list[Source]:
    """The project's sources, oldest first."""
    rows = db.execute(
        f"{SOURCES} WHERE project_id = ? AND NOT removed ORDER BY source.id", (project_id,)
    )
    return [_source(row) for row in rows]


def all_films(db: sqlite3.Connection) -> list[Source]:
    """The sources of all projects that have a picture, the newest first."""
    return [
        _source(row)
        for row in db.execute(f"{SOURCES} WHERE width > 0 AND NOT removed ORDER BY source.id DESC")
    ]


def _source(row: sqlite3.Row) -> Source:
    values = {name: row[name] for name in row.keys() if not name.startswith("sound_")}  # noqa: SIM118
    values |= {name: bool(row[name]) for name in ("variable_rate", "playable", "removed")}
    values["credit"] = CREDIT.read(row["credit"])
    values["track_names"] = tuple(json.loads(row["track_names"]))
    if row["sound_id"] is not None:
        values["microphone"] = Microphone(
            row["sound_id"], row["sound_offset_us"], row["sound_drift_ppm"], row["sound_sure"]
        )
    return Source(**values)


def paths_of(db: sqlite3.Connection, project_id: int) -> list[str]:
    """Where the recordings of a project lie, those taken out of it too."""
    rows = db.execute("SELECT path FROM source WHERE project_id = ?", (project_id,))
    return [row["path"] for row in rows]


def with_microphones(db: sqlite3.Connection) -> list[int]:
    """The projects in which a sound is heard in a recording's stead."""
    rows = db.execute(
        "SELECT DISTINCT project_id FROM source JOIN microphone ON source_id = source.id"
    )
    return [row["project_id"] for row in rows]


def source_paths(db: sqlite3.Connection) -> list[str]:
    """Where the recordings of all projects lie."""
    return [row["path"] for row in db.execute("SELECT path FROM source")]


def pieces(
    db: sqlite3.Connection, project_id: int, timelines: Timelines | None = None
) -> list[Piece]:
    """The project's pieces, oldest first."""
    rows = db.execute("SELECT id FROM piece WHERE project_id = ? ORDER BY id", (project_id,))
    return [piece(db, row["id"], timelines) for row in rows.fetchall()]


def chosen_piece(db: sqlite3.Connection, project_id: int, piece_id: int | None = None) -> Piece:
    """A piece of the project; the oldest one where none is named. Raises NotFound."""
    read_project(db, project_id)
    if piece_id is None:
        return pieces(db, project_id)[0]
    found = piece(db, piece_id)
    if found.project_id != project_id:
        raise NotFound("That piece is not part of this project.")
    return found


def piece(db: sqlite3.Connection, piece_id: int, timelines: Timelines | None = None) -> Piece:
    """One piece. Raises NotFound."""
    row = _one(db, "piece", piece_id, "That piece is not there any more.")
    timeline = (timelines or Timelines(db)).of(piece_id)
    settings, unreadable = read_settings(row)
    facts = MediaFacts(
        load_frames(db, piece_id),
        sum(strand.end_us - strand.start_us for strand in load_strands(db, piece_id)),
        _untouched(db, timeline),
        _pictures(db, row["project_id"]),
        _subjects(db, settings.shapes, timeline),
        _turns(db, settings.shapes, timeline),
    )
    return Piece(row["id"], row["project_id"], settings, timeline, facts, unreadable)


def _subjects(db: sqlite3.Connection, shapes: Shapes, timeline: Timeline) -> dict[int, Tracks]:
    """The faces of a piece's sources, where a shape follows any."""
    if all(one.follow == "off" for shape in shapes for one in shape.framings):
        return {}
    return subjects.of_sources(db, {clip.source_id for clip in timeline.clips})


def _turns(
    db: sqlite3.Connection, shapes: Shapes, timeline: Timeline
) -> dict[int, tuple[Turn, ...]]:
    """Who speaks when in a piece's sources, where a shape follows whoever speaks."""
    if all(one.who != "speaker" for shape in shapes for one in shape.framings):
        return {}
    return subjects.turns_of(db, {clip.source_id for clip in timeline.clips})


def _pictures(db: sqlite3.Connection, project_id: int) -> dict[int, Size]:
    """The sizes of the pictures of a project's sources."""
    rows = db.execute(
        "SELECT id, width, height FROM source WHERE project_id = ? AND width > 0", (project_id,)
    )
    return {row["id"]: (row["width"], row["height"]) for row in rows}


def _untouched(db: sqlite3.Connection, timeline: Timeline) -> bool:
    if len(timeline.clips) != 1:
        return False
    (clip,) = timeline.clips
    source = read_source(db, clip.source_id)
    whole = clip.start_us == 0 and clip.end_us >= source.duration_us
    return whole and source.microphone is None


def piece_cues(db: sqlite3.Connection, piece_id: int) -> list[Cue]:
    """All cues of a piece in time order."""
    return load_cues(db, "cue.piece_id = ?", (piece_id,))


def cue(db: sqlite3.Connection, cue_id: int) -> Cue:
    """One caption. Raises NotFound."""
    found = load_cues(db, "cue.id = ?", (cue_id,))
    if not found:
        raise NotFound("That caption is not there any more. The page shows the newest state.")
    return found[0]


def window_cues(db: sqlite3.Connection, piece_id: int, from_us: int, to_us: int) -> list[Cue]:
    """The cues that show in ``[from_us, to_us)`` of the piece, in time order."""
    return load_cues(
        db, "cue.piece_id = ? AND cue.start_us < ? AND cue.end_us > ?", (piece_id, to_us, from_us)
    )


def shown_cues(db: sqlite3.Connection, piece: Piece, from_us: int, to_us: int) -> list[Cue]:
    """The window's cues as they are painted: with what stands for their speakers, and with their
    names where these are shown."""
    if piece.settings.finish.motion.exit.overlap:
        # One that goes over the next may have ended before; and whether one does, the next says.
        after = db.execute(
            "SELECT min(start_us) FROM cue WHERE piece_id = ? AND start_us >= ?",
            (piece.id, to_us),
        ).fetchone()[0]
        from_us, to_us = max(0, from_us - MOST_OVER_US), (to_us if after is None else after) + 1
    found = piece.settings.standing.shown(window_cues(db, piece.id, from_us, to_us))
    if piece.settings.show_speakers and found:
        return with_names(found, speaker_before(db, found[0]))
    return found


def unshown(db: sqlite3.Connection, piece: Piece) -> list[Shown]:
    """The words said in a piece that none of its captions shows, in time order."""
    return load_unshown(db, piece.id, piece.timeline)


def speaker_before(db: sqlite3.Connection, cue: Cue) -> str | None:
    """Who speaks in the caption before one."""
    row = db.execute(
        "SELECT word.speaker FROM cue JOIN shown_word ON shown_word.cue_id = cue.id AND position = 0 "
        "JOIN word ON word.id = shown_word.word_id WHERE piece_id = ? AND (cue.start_us, cue.id) < "
        "(?, ?) ORDER BY cue.start_us DESC, cue.id DESC LIMIT 1",
        (cue.piece_id, cue.start_us, cue.id),
    ).fetchone()
    return row["speaker"] if row else None


def choose_hearing(database: Database, source_id: int, language: str, audio_track: int) -> None:
    """Note which language is spoken in a source, and in which of its sound tracks."""
    with database.transaction() as db:
        # A browser copy has the sound of the track it was made for.
        db.execute(
            "UPDATE source SET language = ?, audio_track = ?, "
            "proxy_path = iif(audio_track = ?, proxy_path, NULL) WHERE id = ?",
            (language, audio_track, audio_track, source_id),
        )


def name_project(database: Database, project_id: int, name: str) -> None:
    """Name a project that nobody has seen yet; later it is an edit."""
    with database.transaction() as db:
        db.execute("UPDATE project SET name = ? WHERE id = ?", (name, project_id))


def set_proxy(database: Database, source_id: int, path: str) -> None:
    """Note the file that the browser plays in the source's stead."""
    with database.transaction() as db:
        db.execute("UPDATE source SET proxy_path = ? WHERE id = ?", (path, source_id))


def delete_project(database: Database, project_id: int) -> None:
    """Remove a project and all that belongs to it; has room on a full disk, as a rule.

    Raises NotFound.
    """

    def removed(db: sqlite3.Connection) -> None:
        read_project(db, project_id)
        db.execute("DELETE FROM piece WHERE project_id = ?", (project_id,))
        db.execute("DELETE FROM project WHERE id = ?", (project_id,))

    database.without_fail(removed)


def _one(db: sqlite3.Connection, table: str, row_id: int, missing: str) -> sqlite3.Row:
    row: sqlite3.Row | None = db.execute(
        f"SELECT * FROM {table} WHERE id = ?", (row_id,)
    ).fetchone()
    if row is None:
        raise NotFound(missing)
    return row
