"""Pieces as values, for tests and benchmarks that have no store."""

from collections.abc import Mapping, Sequence

from mortiser.core.assembly.cutaway import Cutaways
from mortiser.core.captions.pace import PACES, Pace
from mortiser.core.common.frames import NO_FRAMES, Frames
from mortiser.core.editing.timeline import Timeline
from mortiser.core.framing.layer import Layer
from mortiser.core.framing.placing import Size
from mortiser.core.framing.shape import Shape
from mortiser.core.project.output import USUAL_OUTPUTS, Outputs
from mortiser.core.project.piece import MediaFacts, Piece
from mortiser.core.project.settings import PieceSettings
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.style.finish.model import Finish


def piece_of(
    timeline: Timeline,
    *shapes: Shape,
    finish: str | Finish = "Pine",
    pictures: Mapping[int, Size] | None = None,
    layers: Sequence[Layer] = (),
    frames: Frames = NO_FRAMES,
    outputs: Outputs = USUAL_OUTPUTS,
    name: str = "",
    file_pace: Pace | None = None,
    goal_us: int = 0,
    cutaways: Cutaways = (),
) -> Piece:
    """A piece of some clips in some shapes."""
    settings = PieceSettings(
        name=name,
        shapes=shapes,
        finish=FINISHES[finish] if isinstance(finish, str) else finish,
        pace=PACES["quick"],
        file_pace=file_pace,
        layers=tuple(layers),
        outputs=outputs,
        goal_us=goal_us,
        cutaways=cutaways,
    )
    return Piece(1, 1, settings, timeline, MediaFacts(frames, pictures=pictures or {}))
