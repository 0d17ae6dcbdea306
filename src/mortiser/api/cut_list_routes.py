"""Cut lists of a piece for editing suites."""

from __future__ import annotations

from fastapi import Response

from mortiser.api.attachments import attachment
from mortiser.api.context import OpenContext
from mortiser.api.routing import routes
from mortiser.core.assembly.cutaway import RecordingSeen
from mortiser.core.assembly.joining import cuts
from mortiser.core.common.limits import Id, Name
from mortiser.core.delivery.naming import file_stem
from mortiser.core.project.piece import Piece
from mortiser.formats.cut_list import CutClip, CutOver, CutRecording, CutTransition
from mortiser.formats.cut_list import write as cut_list_of
from mortiser.store import projects

router = routes("/api", "cut lists")


@router.get("/pieces/{piece_id}/cuts.{ending}", response_class=Response)
def cut_list(piece_id: Id, ending: Name, context: OpenContext) -> Response:
    """The piece's clips for an editing suite: otio (OpenTimelineIO) or edl (CMX 3600)."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id)
        rows = {row.id: row for row in projects.read_sources(db, piece.project_id)}
        name = projects.read_project(db, piece.project_id).name
    known = {
        key: CutRecording(
            row.name,
            row.duration_us,
            0.0 if row.variable_rate else row.frame_rate,
            row.kind == "video",
        )
        for key, row in rows.items()
    }
    clips = [
        CutClip(known[clip.source_id], clip.start_us, clip.end_us) for clip in piece.timeline.clips
    ]
    return Response(
        cut_list_of(ending, piece.settings.name, clips, _transitions(piece), _over(piece, known)),
        media_type="text/plain; charset=utf-8",
        headers=attachment(f"{file_stem(name)}.{ending}"),
    )


def _transitions(piece: Piece) -> list[CutTransition | None]:
    """What happens behind each clip of a piece but the last."""
    found: list[CutTransition | None] = [None] * (len(piece.timeline.clips) - 1)
    for one in cuts(piece.timeline, piece.settings.joins):
        if one.transition is not None and one.half_us:
            found[one.index] = CutTransition(one.transition.kind, one.half_us)
    return found


def _over(piece: Piece, known: dict[int, CutRecording]) -> list[CutOver]:
    """What is seen over the clips of a piece."""
    found = []
    for one in piece.covers:
        seen, length = one.cutaway.seen, one.end_us - one.start_us
        recording = (
            known[seen.source_id]
            if isinstance(seen, RecordingSeen)
            else CutRecording(seen.picture.name or "picture", length, 0.0, has_picture=True)
        )
        found.append(
            CutOver(
                recording, one.start_us, one.end_us, one.seen_us(one.start_us), one.cutaway.speed
            )
        )
    return found
