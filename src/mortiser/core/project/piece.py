"""A piece: one deliverable, with what is needed to show or deliver it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, fields
from functools import cached_property

from mortiser.core.assembly.assembled import Assembled, assembled
from mortiser.core.assembly.covering import Cover, covers
from mortiser.core.assembly.cutaway import RecordingSeen
from mortiser.core.common.errors import NotFound
from mortiser.core.common.frames import NO_FRAMES, Frames
from mortiser.core.common.time import SECOND
from mortiser.core.editing.timeline import Timeline
from mortiser.core.framing.clip_framing import ClipFraming, clip_framings, recorded
from mortiser.core.framing.following import Turn
from mortiser.core.framing.placing import Size
from mortiser.core.framing.shape import Shape
from mortiser.core.framing.subject import Tracks
from mortiser.core.project.settings import PieceSettings
from mortiser.core.style.finish.changes import dressed, look_text
from mortiser.core.style.finish.model import Finish


@dataclass(frozen=True)
class MediaFacts:
    """What the recordings of a piece are."""

    frames: Frames = NO_FRAMES
    whole_us: int = 0
    """How long the piece would be with nothing struck."""
    untouched: bool = True
    """Whether it is one recording from beginning to end."""
    pictures: Mapping[int, Size] = field(default_factory=dict)
    """The sizes of its sources' pictures, upright; one without a picture is not among them."""
    subjects: Mapping[int, Tracks] = field(default_factory=dict)
    """The faces of its sources, where one of its shapes follows them and they are known."""
    turns: Mapping[int, Sequence[Turn]] = field(default_factory=dict)
    """Who speaks when in its sources, where one of its shapes follows whoever speaks."""


NEARLY_US = SECOND // 2
"""A piece that is so little longer than its goal has reached it."""


@dataclass(frozen=True)
class Piece:
    """Clips, what was chosen for them, and what their recordings are."""

    id: int
    project_id: int
    settings: PieceSettings
    timeline: Timeline
    facts: MediaFacts = MediaFacts()
    unreadable: tuple[str, ...] = ()
    """Those of its settings that cannot be read from the database; the usual ones stand in."""

    @property
    def source_id(self) -> int:
        """The source that its first clip is of."""
        return self.timeline.clips[0].source_id

    @property
    def source_ids(self) -> frozenset[int]:
        """The sources that are heard or seen in it."""
        seen = (one.cutaway.seen for one in self.covers)
        shown = {one.source_id for one in seen if isinstance(one, RecordingSeen)}
        return frozenset(shown | {clip.source_id for clip in self.timeline.clips})

    def in_shape(self, shape_id: int | None = None) -> ShapedPiece:
        """The same, seen in one of its shapes; in the first one for None. Raises NotFound."""
        for shape in self.settings.shapes:
            if shape_id in (None, shape.id):
                mine = {one.name: getattr(self, one.name) for one in fields(Piece)}
                return ShapedPiece(**mine, shape=shape)
        raise NotFound("That shape is not there any more. The page shows the newest state.")

    @property
    def untouched(self) -> bool:
        """Whether it is one recording from beginning to end, and nothing else is seen."""
        chosen = self.settings
        return self.facts.untouched and not chosen.cutaways and chosen.grades.plain

    @cached_property
    def covers(self) -> tuple[Cover, ...]:
        """The stretches of it in which cutaways are seen."""
        return covers(self.timeline, self.settings.cutaways)

    @property
    def over_us(self) -> int:
        """How much longer it is than its goal; 0 where it has none, or reaches it but for half a second."""
        over = self.timeline.duration_us - self.settings.goal_us
        return over if self.settings.goal_us and over > NEARLY_US else 0

    @property
    def layers_follow_captions(self) -> bool:
        """Whether what a layer shows, or when, goes by the captions of the whole piece."""
        return any(layer.kind == "speaker" or layer.intro for layer in self.settings.layers)

    @property
    def draws_sound(self) -> bool:
        """Whether a layer is a waveform of what is heard."""
        return any(layer.kind == "waveform" for layer in self.settings.layers)


@dataclass(frozen=True)
class ShapedPiece(Piece):
    """A piece seen in one of its shapes."""

    shape: Shape = field(kw_only=True)

    @property
    def size(self) -> tuple[int, int]:
        """Width and height of the frame in pixels."""
        return self.shape.size

    @property
    def worn(self) -> Finish:
        """The finish with what captions have in this shape in place of it."""
        return dressed(self.settings.finish, look_text(self.shape.look))

    @cached_property
    def framings(self) -> tuple[ClipFraming, ...]:
        """How the picture of each clip lies in the frame."""
        return clip_framings(
            self.shape, self.timeline, self.facts.pictures, self.facts.subjects, self.facts.turns
        )

    @cached_property
    def assembled(self) -> Assembled:
        """What is seen besides its clips."""
        chosen = self.settings
        return assembled(self.timeline, self.framings, chosen.cutaways, chosen.joins, chosen.grades)

    @property
    def as_recorded(self) -> bool:
        """Whether it is one recording from beginning to end, shown as it is."""
        return self.untouched and recorded(
            self.framings, self.timeline, self.facts.pictures, self.size
        )
