"""Print the limits, defaults and names that the page shares with the core, as TypeScript: ``make types``."""

from __future__ import annotations

import json
from dataclasses import asdict
from typing import Any

from annotated_types import Ge, Le, MaxLen
from pydantic import BaseModel

from mortiser.api.delivery_routes import MOST_STRETCHES
from mortiser.core.assembly.cutaway import FASTEST, SLOWEST, CutawayPlace
from mortiser.core.assembly.grade import GRADES
from mortiser.core.assembly.transition import (
    DIRECTED,
    EDGED,
    STEPS,
    TRANSITION_NAMES,
    Transition,
)
from mortiser.core.captions.checks import SAFE
from mortiser.core.captions.cue_timing import SHORTEST_SHOWN_US
from mortiser.core.captions.pace import Pace
from mortiser.core.framing.layer import LAYER_NAMES
from mortiser.core.framing.shape import NAMED_SHAPES, LayerPlace
from mortiser.core.project.output import StillFile, TextFile, VideoFile
from mortiser.core.project.post import LONGEST_TAG, LONGEST_TEXT, LONGEST_TITLE, MOST_TAGS
from mortiser.core.project.text_forms import TEXT_FORMS
from mortiser.core.style.finish.model import Finish


def _range(model: type[BaseModel], name: str) -> list[Any]:
    """The least and the most of a field."""
    about = model.model_fields[name].metadata
    least = next(one.ge for one in about if isinstance(one, Ge))
    most = next(one.le for one in about if isinstance(one, Le))
    return [least, most]


def _longest(model: type[BaseModel], name: str) -> int:
    """How many a field holds at most."""
    field = model.model_fields[name]
    return next(one.max_length for one in field.metadata if isinstance(one, MaxLen))


def values() -> dict[str, Any]:
    """Each value by the name the page knows it by."""
    place = {name: _range(LayerPlace, name) for name in ("size", "width", "height")}
    return {
        "SHORTEST_SHOWN_US": SHORTEST_SHOWN_US,
        "MOST_CLOSED_US": _range(Pace, "close_us")[1],
        "SAFE": SAFE,
        "PLACE_RANGE": place,
        "MOST_OUTLINES": _longest(Finish, "outlines"),
        "LONGEST_TITLE": LONGEST_TITLE,
        "LONGEST_TEXT": LONGEST_TEXT,
        "MOST_TAGS": MOST_TAGS,
        "LONGEST_TAG": LONGEST_TAG,
        "MOST_STRETCHES": MOST_STRETCHES,
        "NAMED_SHAPES": [asdict(one) for one in NAMED_SHAPES],
        "CUTAWAY_SPEEDS": [SLOWEST, FASTEST],
        "TRANSITION_NAMES": [asdict(one) for one in TRANSITION_NAMES],
        "TRANSITION_LENGTHS": _range(Transition, "length_us"),
        "TRANSITION_STEPS": STEPS,
        "DIRECTED": DIRECTED,
        "EDGED": EDGED,
        "USUAL_TRANSITION": Transition().model_dump(),
        "USUAL_CUTAWAY_PLACE": CutawayPlace().model_dump(),
        "GRADES": {name: grade.model_dump() for name, grade in GRADES.items()},
        "LAYER_NAMES": LAYER_NAMES,
        "TEXT_NAMES": {form: facts.name for form, facts in TEXT_FORMS.items()},
        "USUAL_VIDEO": VideoFile().model_dump(),
        "USUAL_TEXT": TextFile().model_dump(),
        "USUAL_STILL": StillFile().model_dump(),
    }


def description() -> str:
    """The module's text, in a stable order."""
    lines = [
        "/** Made by `make types` from the core: limits, defaults and names. Not to be changed by hand. */"
    ]
    for name, value in values().items():
        lines.append(
            f"export const {name} = {json.dumps(value, ensure_ascii=False, indent=2)} as const;"
        )
    return "\n".join(lines) + "\n"


if __name__ == "__main__":
    print(description(), end="")
