"""The session that edits work on, over the open transaction of one project."""

from __future__ import annotations

import sqlite3
from collections.abc import Collection, Sequence
from dataclasses import asdict

from mortiser.core.captions.grouping import Ruler
from mortiser.core.captions.pace import Pace
from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.common.frames import Frames
from mortiser.core.editing.cutting import SILENT, Loudness
from mortiser.core.editing.microphone import Microphone
from mortiser.core.editing.strand import Strand
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.project.settings import PieceSettings
from mortiser.core.project.source import Source
from mortiser.core.transcript.words import Cue, Shown, Word
from mortiser.store.caption_rows import CaptionRows
from mortiser.store.cue_times import crowding, move, part_cues, touched
from mortiser.store.media_services import NO_SERVICES, MediaServices
from mortiser.store.piece_settings import changed_columns, read_settings
from mortiser.store.projects import read_source
from mortiser.store.ranks import ranked
from mortiser.store.rows import (
    WORD_COLUMNS,
    Timelines,
    batched,
    insert,
    load_frames,
    load_strands,
    load_unshown,
    word_of,
)


class SqlEditSession:
    """EditSession (see core.edits.session) in SQL; ids of other projects are not found."""

    def __init__(
        self, db: sqlite3.Connection, project_id: int, media_services: MediaServices = NO_SERVICES
    ) -> None:
        self._db = db
        self._media_services = media_services
        self._project_id = project_id
        rows = db.execute("SELECT id FROM piece WHERE project_id = ?", (project_id,))
        self._pieces = {row["id"] for row in rows}
        self._settings: dict[int, PieceSettings] = {}
        """Asked for with every caption that is saved: read once a piece."""
        self.timelines = Timelines(db)
        self._rows = CaptionRows(db, self.timelines)

    def cue(self, cue_id: int) -> Cue:
        found = self._rows.load("cue.id = ?", (cue_id,))
        if not found or found[0].piece_id not in self._pieces:
            raise NotFound("That caption is not there any more. The page shows the newest state.")
        return found[0]

    def some(self, cue_ids: Collection[int]) -> list[Cue]:
        found = self._rows.some(cue_ids)
        mine = [cue for cue in found if cue.piece_id in self._pieces]
        return sorted(mine, key=lambda cue: (cue.start_us, cue.id))

    def cues(self, piece_id: int) -> list[Cue]:
        self._known(piece_id)
        return self._rows.of_piece(piece_id)

    def showing(self, piece_id: int, at_us: int) -> Cue | None:
        self._known(piece_id)
        where = "cue.piece_id = ? AND cue.start_us <= ? AND cue.end_us > ?"
        found = self._rows.load(where, (piece_id, at_us, at_us))
        return found[0] if found else None

    def around(self, cue: Cue, reach: int) -> tuple[list[Cue], list[Cue]]:
        key = (cue.piece_id, cue.start_us, cue.id, reach)
        before = self._near("<", "DESC", key)
        after = self._near(">", "ASC", key)
        return before, after

    def _near(self, side: str, order: str, key: tuple[int, int, int, int]) -> list[Cue]:
        return self._rows.load(
            f"cue.id IN (SELECT id FROM cue WHERE piece_id = ? AND (start_us, id) {side} (?, ?) "
            f"ORDER BY start_us {order}, id {order} LIMIT ?)",
            key,
        )

    def crowding(self) -> list[tuple[int, int]]:
        return [pair for piece_id in self._pieces for pair in crowding(self._db, piece_id)]

    def word_room(self, cue: Cue) -> tuple[int, int]:
        first, last = cue.words[0], cue.words[-1]
        timeline = self.timeline(cue.piece_id)
        left, right = timeline.place_of(first), timeline.place_of(last)
        start, end = left.said(first).start_us, right.said(last).end_us
        before = self._db.execute(
            "SELECT end_us FROM word WHERE source_id = ? AND start_us <= ? AND end_us <= ? "
            "AND id <> ? ORDER BY start_us DESC LIMIT 1",
            (left.clip.source_id, start, start, first.id),
        ).fetchone()
        after = self._db.execute(
            "SELECT start_us FROM word WHERE source_id = ? AND start_us >= ? AND id <> ? "
            "ORDER BY start_us LIMIT 1",
            (right.clip.source_id, end, last.id),
        ).fetchone()
        return (
            left.to_piece(before["end_us"]) if before else left.at_us,
            right.to_piece(after["start_us"]) if after else max(last.end_us, right.end_us),
        )

    def timeline(self, piece_id: int) -> Timeline:
        self._known(piece_id)
        return self.timelines.of(piece_id)

    def save_cue(self, cue: Cue) -> Cue:
        return self.save_cues([cue])[0]

    def save_cues(self, cues: Sequence[Cue]) -> list[Cue]:
        saved: dict[int, Cue] = {}
        for piece_id in {cue.piece_id for cue in cues}:
            self._known(piece_id)
            places = [at for at, cue in enumerate(cues) if cue.piece_id == piece_id]
            standing = self.settings(piece_id).standing
            saved |= zip(
                places, self._rows.save([cues[at] for at in places], standing), strict=True
            )
        return [saved[at] for at in range(len(cues))]

    def save_times(self, cues: Sequence[Cue]) -> None:
        self._rows.save_times(cues)

    def elsewhere(self, word_ids: Collection[int], but: Collection[int]) -> list[Cue]:
        if len(self._pieces) == 1 and len(self.timeline(*self._pieces).clips) == 1:
            return []
        cue_ids: set[int] = set()
        for some in batched(word_ids):
            marks = ", ".join("?" for _ in some)
            rows = self._db.execute(
                f"SELECT DISTINCT cue_id FROM shown_word WHERE word_id IN ({marks})", some
            )
            cue_ids |= {row["cue_id"] for row in rows}
        return self.some(cue_ids - set(but))

    def moved(self) -> Collection[int]:
        return self._rows.moved

    def delete_cues(self, cues: Sequence[Cue]) -> None:
        for cue in cues:
            self._known(cue.piece_id)
        self._rows.delete(cues)

    def delete_words(self, word_ids: list[int]) -> None:
        self._rows.delete_words(word_ids)

    def set_clips(self, piece_id: int, clips: Sequence[Clip]) -> None:
        self._known(piece_id)
        if not clips:
            raise ValueError("a piece has clips")
        was = self.timeline(piece_id).clips
        known = {clip.id: clip for clip in was}
        rows = self._db.execute("SELECT id, position FROM clip WHERE piece_id = ?", (piece_id,))
        ranks = {row["id"]: row["position"] for row in rows}
        kept = {clip.id for clip in clips}
        for clip_id in known.keys() - kept:
            self._db.execute("DELETE FROM clip WHERE id = ?", (clip_id,))
        wanted = ranked([ranks.get(clip.id) for clip in clips])
        for rank, clip in zip(wanted, clips, strict=True):
            if clip.id in known and (known[clip.id], ranks[clip.id]) == (clip, rank):
                continue
            values = {
                "piece_id": piece_id,
                "position": rank,
                "strand_id": clip.strand_id or self._new_strand(piece_id, clip),
                "start_us": clip.start_us,
                "end_us": clip.end_us,
            }
            if clip.id in known:
                sets = ", ".join(f"{column} = ?" for column in values)
                self._db.execute(
                    f"UPDATE clip SET {sets} WHERE id = ?", (*values.values(), clip.id)
                )
            else:
                insert(self._db, "clip", **values)
        before = self.timeline(piece_id)
        self.timelines.forget(piece_id)
        self._rows.forget()
        move(self._db, piece_id, before, self.timeline(piece_id))

    def _new_strand(self, piece_id: int, clip: Clip) -> int:
        about = {"piece_id": piece_id, "source_id": clip.source_id}
        return insert(self._db, "strand", **about, start_us=clip.start_us, end_us=clip.end_us)

    def strands(self, piece_id: int) -> list[Strand]:
        self._known(piece_id)
        return load_strands(self._db, piece_id)

    def begin_strand(self, piece_id: int, strand_id: int, at_us: int) -> int:
        strand = next(one for one in self.strands(piece_id) if one.id == strand_id)
        later = self._new_strand(piece_id, Clip(strand.source_id, at_us, strand.end_us))
        self._db.execute("UPDATE strand SET end_us = ? WHERE id = ?", (at_us, strand_id))
        self._db.execute(
            "UPDATE shown_word SET strand_id = ? WHERE strand_id = ? AND word_id IN "
            "(SELECT id FROM word WHERE source_id = ? AND (start_us + end_us) / 2 >= ?)",
            (later, strand_id, strand.source_id, at_us),
        )
        part_cues(self._db, strand_id, later)
        self._rows.forget()
        return later

    def stretch_strand(self, piece_id: int, strand: Strand) -> None:
        self._known(piece_id)
        self._db.execute(
            "UPDATE strand SET start_us = ?, end_us = ? WHERE id = ? AND piece_id = ?",
            (strand.start_us, strand.end_us, strand.id, piece_id),
        )

    def said(self, word_id: int) -> Word:
        return self._rows.word(word_id)

    def said_from(self, source_id: int, from_us: int, to_us: int) -> list[Word]:
        rows = self._db.execute(
            f"SELECT {WORD_COLUMNS} FROM word WHERE source_id = ? AND start_us >= ? "
            "AND start_us < ? ORDER BY start_us, end_us, id",
            (source_id, from_us, to_us),
        )
        return [word_of(row) for row in rows]

    def reaching(self, piece_id: int, stretches: Sequence[tuple[int, int, int]]) -> list[Cue]:
        self._known(piece_id)
        return self.some(touched(self._db, piece_id, stretches))

    def loudness(self, source_id: int) -> Loudness:
        row = read_source(self._db, source_id)
        return self._media_services.loudness(row) if self._media_services.loudness else SILENT

    def source_ids(self) -> list[int]:
        rows = self._db.execute(
            "SELECT id FROM source WHERE project_id = ? AND NOT removed ORDER BY id",
            (self._project_id,),
        )
        return [row["id"] for row in rows]

    def remove_source(self, source_id: int) -> None:
        self._source(source_id)
        self._rows.forget()
        for piece_id in self._pieces:
            mine = "(SELECT id FROM strand WHERE piece_id = ? AND source_id = ?)"
            key = (piece_id, source_id)
            self._db.execute(f"DELETE FROM shown_word WHERE strand_id IN {mine}", key)
            self._db.execute(
                "DELETE FROM cue WHERE piece_id = ? AND NOT EXISTS "
                "(SELECT 1 FROM shown_word WHERE cue_id = cue.id)",
                (piece_id,),
            )
            self._db.execute(f"DELETE FROM strand WHERE id IN {mine}", key)
        self._db.execute("UPDATE source SET removed = 1 WHERE id = ?", (source_id,))

    def source_name(self, source_id: int) -> str:
        return self._source(source_id).name

    def source_length(self, source_id: int) -> int:
        return self._source(source_id).duration_us

    def picture(self, source_id: int) -> tuple[int, int] | None:
        source = self._source(source_id)
        return (source.width, source.height) if source.width else None

    def microphone(self, source_id: int) -> Microphone | None:
        return self._source(source_id).microphone

    def set_microphone(self, source_id: int, microphone: Microphone | None) -> None:
        known = self.microphone(source_id)
        if microphone is None:
            self._db.execute("DELETE FROM microphone WHERE source_id = ?", (source_id,))
            return
        self._source(microphone.sound_id)
        values = asdict(microphone)
        if known is None:
            insert(self._db, "microphone", source_id=source_id, **values)
            return
        # The same row: in the journal it is one that was changed.
        sets = ", ".join(f"{column} = ?" for column in values)
        self._db.execute(
            f"UPDATE microphone SET {sets} WHERE source_id = ?", (*values.values(), source_id)
        )

    def _source(self, source_id: int) -> Source:
        source = read_source(self._db, source_id)
        if source.project_id != self._project_id or source.removed:
            raise NotFound("That recording is not part of this project.")
        return source

    def piece_ids(self) -> list[int]:
        return sorted(self._pieces)

    def settings(self, piece_id: int) -> PieceSettings:
        if piece_id not in self._settings:
            self._settings[piece_id], _ = read_settings(self._piece(piece_id))
        return self._settings[piece_id]

    def save_settings(self, piece_id: int, settings: PieceSettings) -> None:
        changes = changed_columns(self.settings(piece_id), settings)
        if changes:
            sets = ", ".join(f"{column} = ?" for column in changes)
            self._db.execute(f"UPDATE piece SET {sets} WHERE id = ?", (*changes.values(), piece_id))
        self._settings[piece_id] = settings

    def pace(self, piece_id: int) -> Pace:
        return self.settings(piece_id).pace

    def frames(self, piece_id: int) -> Frames:
        self._known(piece_id)
        return load_frames(self._db, piece_id)

    def ruler(self, piece_id: int) -> Ruler | None:
        make, settings = self._media_services.ruler, self.settings(piece_id)
        return make(settings.finish, settings.shapes[0].size) if make else None

    def _piece(self, piece_id: int) -> sqlite3.Row:
        self._known(piece_id)
        row: sqlite3.Row = self._db.execute(
            "SELECT * FROM piece WHERE id = ?", (piece_id,)
        ).fetchone()
        return row

    def words_between(self, piece_id: int, from_us: int, to_us: int) -> list[Shown]:
        found: list[Shown] = []
        timeline = self.timeline(piece_id)
        for part in timeline.slice(from_us, to_us):
            whole = timeline.clip(part.clip.id) or part
            rows = self._db.execute(
                f"SELECT {WORD_COLUMNS} FROM word WHERE source_id = ? AND "
                "(start_us + end_us) / 2 >= ? AND (start_us + end_us) / 2 < ? "
                "ORDER BY start_us, end_us, id",
                (part.clip.source_id, part.clip.start_us, part.clip.end_us),
            )
            found += [whole.show(word_of(row)) for row in rows]
        return found

    def unshown(self, piece_id: int) -> list[Shown]:
        return load_unshown(self._db, piece_id, self.timeline(piece_id))

    def note_correction(self, heard: str, written: str) -> None:
        insert(self._db, "correction", project_id=self._project_id, heard=heard, written=written)

    def add_piece(
        self,
        like: int,
        name: str,
        strands: Sequence[Strand],
        clips: Sequence[tuple[int, Clip]],
    ) -> int:
        row = self._piece(like)
        values = {key: row[key] for key in row.keys() if key not in ("id", "name")}  # noqa: SIM118
        piece_id = insert(self._db, "piece", **values, name=name)
        self._pieces.add(piece_id)
        ids = [
            self._new_strand(piece_id, Clip(one.source_id, one.start_us, one.end_us))
            for one in strands
        ]
        for rank, (number, clip) in zip(ranked([None] * len(clips)), clips, strict=True):
            insert(
                self._db,
                "clip",
                piece_id=piece_id,
                position=rank,
                strand_id=ids[number],
                start_us=clip.start_us,
                end_us=clip.end_us,
            )
        return piece_id

    def delete_piece(self, piece_id: int) -> None:
        self._known(piece_id)
        self._rows.forget()
        if len(self._pieces) == 1:
            raise BadInput("A project has a piece at least. Delete the project instead.")
        cues = "(SELECT id FROM cue WHERE piece_id = ?)"
        self._db.execute(f"DELETE FROM shown_word WHERE cue_id IN {cues}", (piece_id,))
        for table in ("cue", "clip", "strand"):
            self._db.execute(f"DELETE FROM {table} WHERE piece_id = ?", (piece_id,))
        self._db.execute("DELETE FROM piece WHERE id = ?", (piece_id,))
        self._pieces.discard(piece_id)

    def rename_project(self, name: str) -> None:
        self._db.execute("UPDATE project SET name = ? WHERE id = ?", (name, self._project_id))

    def _known(self, piece_id: int) -> None:
        if piece_id not in self._pieces:
            raise NotFound("That piece is not part of this project.")
