"""A video kept to a size: made as its quality has it, and once more with fewer bits where that is too large.

The first time notes how hard each frame is to encode, the second one shares the bits out by it (two passes
of x264 and x265).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import av

from mortiser.core.common.errors import BadInput
from mortiser.core.project.output import MB
from mortiser.disk.passing import passing
from mortiser.media.encode import UNKNOWN
from mortiser.media.forms import Form
from mortiser.render.burn import Texts, burn
from mortiser.render.loudness import Level
from mortiser.render.plan import RenderPlan

AIM = 0.99
"""Share of the size that is aimed at."""
NEAR = 0.98
"""A smaller share than this is tried again: encoders hit the size of a short video less well."""
MOST_PASSES = 4
LEAST_PICTURE = 0.1
"""Share of a size that has to be left for the picture."""


def burn_within(
    plan: RenderPlan,
    out: Path,
    progress: Callable[[float], None],
    form: Form,
    most_bytes: int,
    *,
    texts: Texts | None = None,
    level: Level | None = None,
    spoken: str = UNKNOWN,
) -> None:
    """Write a video (see render.burn) of at most so many bytes: as good as fits.

    Raises BadInput where its sound alone fills them.
    """
    with passing() as folder:
        notes = folder / "passes"
        bits, by_bits = 0.0, 1.0
        for number in range(1, MOST_PASSES + 1):
            burn(
                plan,
                out,
                _share(progress, number),
                _pass(form, number, notes, round(bits)),
                texts=texts,
                level=level,
                spoken=spoken,
            )
            size = out.stat().st_size
            if size <= most_bytes and (not bits or size >= NEAR * most_bytes):
                return
            seen, seconds = _picture(out)
            room = most_bytes * AIM - (size - seen)
            if room < most_bytes * LEAST_PICTURE:
                raise BadInput(
                    f"The sound alone fills {most_bytes / MB:g} MB. Allow a larger size for this file."
                )
            if bits:
                by_bits = seen * 8 / seconds / bits
            bits = room * 8 / seconds / by_bits
    if size > most_bytes:
        raise BadInput(
            f"The picture does not fit into {most_bytes / MB:g} MB. Allow a larger size, or fewer lines."
        )


def _share(progress: Callable[[float], None], number: int) -> Callable[[float], None]:
    """How far all of it is, of how far one pass is: two as a rule, what comes after them is the rest."""
    begin, share = (number - 1) * 0.48, 0.48 if number < 3 else 0.0
    return lambda done: progress(min(1.0, min(begin, 0.96) + share * done))


def _pass(form: Form, number: int, notes: Path, bits: int) -> Form:
    """The form as it is encoded in a pass: by its quality, then by bits a second."""
    key = "x265-params" if form.codec == "libx265" else "x264-params"
    told = [form.options[key]] if key in form.options else []
    told += [f"pass={min(number, 2)}", f"stats={notes}"]
    options = {name: value for name, value in form.options.items() if name != "crf" or number == 1}
    if bits:
        options["b"] = str(bits)
    return replace(form, options={**options, key: ":".join(told)})


def _picture(path: Path) -> tuple[int, float]:
    """How many bytes of a video are its picture's, and how long it lasts in seconds."""
    with av.open(str(path)) as reading:
        picture = reading.streams.video[0]
        seen = sum(packet.size for packet in reading.demux(picture))
        return seen, float(reading.duration or 0) / av.time_base
