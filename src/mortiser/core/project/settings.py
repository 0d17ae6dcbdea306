"""What was chosen for a piece: all that an editor can set of it but its clips and its captions."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass

from mortiser.core.assembly.cutaway import Cutaways
from mortiser.core.assembly.grade import Grades
from mortiser.core.assembly.joining import Joins
from mortiser.core.captions.pace import Pace, RuleSet
from mortiser.core.captions.standing import NOTHING, Standing
from mortiser.core.framing.layer import Layers
from mortiser.core.framing.shape import Shapes
from mortiser.core.project.output import USUAL_OUTPUTS, Outputs
from mortiser.core.project.post import Post
from mortiser.core.style.finish.model import Finish


@dataclass(frozen=True)
class PieceSettings:
    """A piece's settings. The first of its shapes is the one it was begun in."""

    name: str
    shapes: Shapes
    finish: Finish
    pace: Pace
    file_pace: Pace | None = None
    """How caption files are grouped and timed; as on the picture where None."""
    checked_by: RuleSet = "own"
    show_speakers: bool = False
    standing: Standing = NOTHING
    """What stands for speakers and spellings."""
    goal_us: int = 0
    """How long it is to be at most; 0 where nobody has said."""
    layers: Layers = ()
    joins: Joins = Joins()
    """How clips go over into each other."""
    grades: Grades = Grades()
    """How its pictures look."""
    cutaways: Cutaways = ()
    """What is seen in place of the talk while words are said; of two over the same words the last."""
    outputs: Outputs = USUAL_OUTPUTS
    """What it is delivered as."""
    post: Post = Post()
    """What is written beside it where it is shown."""
    naming: str = ""
    """The pattern of its files' names; the usual one where empty."""

    @property
    def look_digest(self) -> str:
        """The same for the same transitions, cutaways and grades."""
        looks = (self.joins, self.grades, *self.cutaways)
        said = ";".join(one.model_dump_json() for one in looks)
        return hashlib.sha256(said.encode()).hexdigest()[:16]
