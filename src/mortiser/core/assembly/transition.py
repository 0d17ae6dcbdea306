"""Transitions: how one picture goes over into another. Values, checked when made."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from pydantic import Field, model_validator

from mortiser.core.common.easing import eased
from mortiser.core.common.time import SECOND
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.framing.shape import Share
from mortiser.core.style.finish.parts import Colour, Value

SHORTEST_US, LONGEST_US = SECOND // 10, 3 * SECOND
USUAL_US = 2 * SECOND // 5
STEPS = 12
"""Frames that each is shown by, where one is chosen; the first shows the one alone, the last the other."""

TransitionKind = Literal[
    "dissolve", "colour", "slide", "push", "wipe", "iris", "zoom", "whip", "blur", "picture"
]
Direction = Literal["left", "right", "up", "down"]
"""Where what goes, goes to."""
DIRECTED: tuple[TransitionKind, ...] = ("slide", "push", "wipe", "whip")
"""Those that go in a direction."""
EDGED: tuple[TransitionKind, ...] = ("wipe", "iris", "picture")
"""Those with an edge, which may be soft."""


class Transition(Value):
    """One picture going over into another in ``length_us``.

    ``dissolve``: the one fades into the other; ``colour``: by way of a colour; ``slide``: the other comes over the
    one; ``push``: it pushes it away; ``wipe`` and ``iris``: an edge, ``soft`` as a share of its way, uncovers it
    across, or from the middle on; ``picture``: from where a picture is dark to where it is bright; ``zoom``: through
    the one into the other; ``whip``: pushed quickly, blurred along its way; ``blur``: both blurred in between.
    """

    kind: TransitionKind = "dissolve"
    length_us: int = Field(default=USUAL_US, ge=SHORTEST_US, le=LONGEST_US)
    direction: Direction = "left"
    soft: Share = 0.1
    colour: Colour = (0, 0, 0, 255)
    eased: bool = True
    picture: OwnPicture | None = None

    @model_validator(mode="after")
    def _has_its_picture(self) -> Transition:
        if self.kind == "picture" and self.picture is None:
            raise ValueError("Choose the picture that it goes by.")
        return self

    def share(self, done: float) -> float:
        """How much has gone over when so much of the time has passed, both 0 to 1."""
        return eased(done) if self.eased else min(1.0, max(0.0, done))


@dataclass(frozen=True)
class TransitionName:
    """What a kind of transition is called, and in a few words what is seen."""

    kind: TransitionKind
    name: str
    seen: str


TRANSITION_NAMES = (
    TransitionName("dissolve", "Dissolve", "one fades into the other"),
    TransitionName("colour", "Colour", "by way of a colour"),
    TransitionName("slide", "Slide", "the next comes over it"),
    TransitionName("push", "Push", "the next pushes it away"),
    TransitionName("wipe", "Wipe", "an edge uncovers the next"),
    TransitionName("iris", "Iris", "the next opens from the middle"),
    TransitionName("zoom", "Zoom", "closer, into the next"),
    TransitionName("whip", "Whip", "a quick, blurred push"),
    TransitionName("blur", "Blur", "out of focus, and back"),
    TransitionName("picture", "Picture", "dark parts of a picture go first"),
)
