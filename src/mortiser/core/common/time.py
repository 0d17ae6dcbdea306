"""Time inside Mortiser is integer microseconds; text forms exist only at the edges."""

import re

from mortiser.core.common.errors import BadInput

SECOND = 1_000_000
MILLISECOND = 1_000

_FRAMES = re.compile(r"(\d{1,8})\s*f")
_CLOCK_FRAMES = re.compile(r"(\d+):(\d{1,2}):(\d{1,2}):(\d{1,3})")
_CLOCK = re.compile(r"(?:(?:(\d+):)?(\d{1,3}):)?(\d{1,6})(?:[.,](\d{1,6}))?")


def round_to_ms(us: int) -> int:
    """Whole milliseconds nearest to ``us`` microseconds, half up."""
    return (us + MILLISECOND // 2) // MILLISECOND


def timecode(us: int, decimal: str = ".") -> str:
    """``hh:mm:ss.mmm`` for ``us`` ≥ 0 microseconds, rounded to the millisecond."""
    ms = round_to_ms(us)
    seconds, ms = divmod(ms, 1000)
    minutes, seconds = divmod(seconds, 60)
    hours, minutes = divmod(minutes, 60)
    return f"{hours:02d}:{minutes:02d}:{seconds:02d}{decimal}{ms:03d}"


def parse_timecode(text: str) -> int:
    """Microseconds from ``h:mm:ss.mmm``, ``m:ss.mmm`` or ``s.mmm`` (comma or point).

    Raises BadInput for anything else and for minutes or seconds over 59 below a larger unit.
    """
    match = _CLOCK.fullmatch(text.strip())
    if match is None:
        raise BadInput(
            f"“{text.strip()}” is not a time. Write it like 1:02.500, 62.5, 120f or +0.2."
        )
    hours, minutes, seconds = (int(part or 0) for part in match.group(1, 2, 3))
    if (match.group(2) is not None and seconds > 59) or (match.group(1) and minutes > 59):
        raise BadInput(f"“{text.strip()}” has more than 59 minutes or seconds. Write 1:02.500.")
    fraction = int((match.group(4) or "0").ljust(6, "0"))
    return ((hours * 60 + minutes) * 60 + seconds) * SECOND + fraction


def parse_entry(text: str, now_us: int, frame_us: float, *, below_zero: bool = False) -> int:
    """Microseconds from a time as typed: ``h:mm:ss.mmm``, frames (``120f``, ``h:mm:ss:ff``), or
    relative to ``now_us`` (``+0.2``, ``-3f``).

    Raises BadInput for anything else, and for a time before the start unless ``below_zero``.
    """
    entry = text.strip().replace("−", "-")
    sign = {"+": 1, "-": -1}.get(entry[:1], 0)
    rest = entry[1:].strip() if sign else entry
    frames, clock = _FRAMES.fullmatch(rest), _CLOCK_FRAMES.fullmatch(rest)
    if frames:
        amount = round(int(frames.group(1)) * frame_us)
    elif clock:
        hours, minutes, seconds, count = (int(part) for part in clock.groups())
        whole = ((hours * 60 + minutes) * 60 + seconds) * SECOND
        amount = whole + round(count * frame_us)
    else:
        amount = parse_timecode(rest)
    found = now_us + sign * amount if sign else amount
    if found < 0 and not below_zero:
        raise BadInput(f"“{entry}” lies before the start of the recording.")
    return found
