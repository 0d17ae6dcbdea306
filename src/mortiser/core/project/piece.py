"""A piece: one deliverable, with what is needed to show or deliver it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

from mortiser.core.captions.pace import Pace, RuleSet
from mortiser.core.captions.standing import NOTHING, Standing
from mortiser.core.common.errors import NotFound
from mortiser.core.common.frames import NO_FRAMES, Frames
from mortiser.core.editing.timeline import Timeline
from mortiser.core.framing.clip_framing import ClipFraming, clip_framings, recorded
from mortiser.core.framing.following import Turn
from mortiser.core.framing.layer import Layers
from mortiser.core.framing.placing import Size
from mortiser.core.framing.shape import Shape, Shapes
from mortiser.core.framing.subject import Tracks
from mortiser.core.project.output import USUAL_OUTPUTS, Outputs
from mortiser.core.project.post import Post
from mortiser.core.style.finish.changes import dressed, look_text
from mortiser.core.style.finish.model import Finish


@dataclass(frozen=True)
class Piece:
    """Clips, the shapes they are shown in, and how captions look and are timed.

    One of the shapes is looked at: the first one as long as none is chosen by ``in_shape``.
    """

    id: int
    project_id: int
    name: str
    shapes: Shapes
    finish: Finish
    pace: Pace
    timeline: Timeline
    show_speakers: bool = False
    frames: Frames = NO_FRAMES
    checked_by: RuleSet = "own"
    standing: Standing = NOTHING
    file_pace: Pace | None = None
    """How caption files are grouped and timed; as on the picture where None."""

    goal_us: int = 0
    """How long it is to be at most; 0 where nobody has said."""
    whole_us: int = 0
    """How long it would be with nothing struck."""
    untouched: bool = True
    """Whether it is one recording from beginning to end."""
    pictures: Mapping[int, Size] = field(default_factory=dict)
    """The sizes of its sources' pictures, upright; one without a picture is not among them."""
    layers: Layers = ()
    subjects: Mapping[int, Tracks] = field(default_factory=dict)
    """The faces of its sources, where one of its shapes follows them and they are known."""
    turns: Mapping[int, Sequence[Turn]] = field(default_factory=dict)
    """Who speaks when in its sources, where one of its shapes follows whoever speaks."""
    outputs: Outputs = USUAL_OUTPUTS
    """What it is delivered as."""
    post: Post = Post()
    """What is written beside it where it is shown."""
    naming: str = ""
    """The pattern of its files' names; the usual one where empty."""
    unreadable: tuple[str, ...] = ()
    """Those of its settings that cannot be read from the database; the usual ones stand in."""
    shape_id: int = 0

    @property
    def source_id(self) -> int:
        """The source that its first clip is of."""
        return self.timeline.clips[0].source_id

    @property
    def shape(self) -> Shape:
        """The shape that is looked at."""
        found = [one for one in self.shapes if one.id == self.shape_id]
        return found[0] if found else self.shapes[0]

    def in_shape(self, shape_id: int | None) -> Piece:
        """The same, looked at in another shape; in its first one for None. Raises NotFound."""
        if shape_id is None:
            return replace(self, shape_id=0)
        if all(one.id != shape_id for one in self.shapes):
            raise NotFound("That shape is not there any more. The page shows the newest state.")
        return replace(self, shape_id=shape_id)

    @property
    def layers_follow_captions(self) -> bool:
        """Whether what a layer shows, or when, goes by the captions of the whole piece."""
        return any(layer.kind == "speaker" or layer.intro for layer in self.layers)

    @property
    def draws_sound(self) -> bool:
        """Whether a layer is a waveform of what is heard."""
        return any(layer.kind == "waveform" for layer in self.layers)

    @property
    def size(self) -> tuple[int, int]:
        """Width and height of the frame in pixels."""
        return self.shape.size

    @property
    def worn(self) -> Finish:
        """The finish with what captions have in this shape in place of it."""
        return dressed(self.finish, look_text(self.shape.look))

    @property
    def framings(self) -> tuple[ClipFraming, ...]:
        """How the picture of each clip lies in the frame."""
        return clip_framings(self.shape, self.timeline, self.pictures, self.subjects, self.turns)

    @property
    def as_recorded(self) -> bool:
        """Whether it is one recording from beginning to end, shown as it is."""
        return self.untouched and recorded(self.framings, self.timeline, self.pictures, self.size)
