"""Who is followed: faces joined over time, and the calm path that keeps one in its place.

Places and sizes are shares of the upright picture's width and height.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import numpy.typing as npt
from pydantic import TypeAdapter

from mortiser.core.style.finish.parts import Value

LOOK_US = 200_000
"""A look at the picture is taken this often."""
NEAR = 1.2
"""A face is the same one where it has moved by no more than this many of its own widths between looks."""
LONGEST_GAP = 10
"""Looks that a face may be away (turned, hidden) and be the same afterwards."""
SURE = 0.45
"""A face that was ever seen this surely is one; others have to be there for a while."""
FEW = 5
"""Looks that a face that was never sure has to be there."""
JUMP = 0.6
"""Who is more than so many of its own sizes away at the next look has jumped."""
SMOOTH = 1.6
"""Sigma of what rounds a path's corners, in looks."""
FADE = 10
"""What was said by hand about a moment counts for so many looks before and behind it, less and less."""
Held = tuple[int, float, float]
"""A look, and where the face is said to be at it."""
Floats = npt.NDArray[np.float64]


class Face(Value):
    """A face in a picture: its middle, its size, and how sure the finder is (0 to 1)."""

    x: float
    y: float
    width: float
    height: float
    score: float


class Track(Value):
    """One face over time: the numbers of the looks it was seen in, and where it was in each. ``drawn`` is
    what was followed from a box drawn by hand."""

    looks: tuple[int, ...]
    faces: tuple[Face, ...]
    drawn: bool = False

    @property
    def weight(self) -> float:
        """How much of the picture it takes up over how long: who is largest and longest there is meant."""
        return sum(face.height * face.score for face in self.faces)


Tracks = tuple[Track, ...]
_TRACKS: TypeAdapter[Tracks] = TypeAdapter(Tracks)


def tracks_text(tracks: Tracks) -> str:
    """The text that is stored."""
    return _TRACKS.dump_json(tracks, exclude_defaults=True).decode()


@lru_cache(maxsize=16)
def tracks_of(text: str) -> Tracks:
    """What a stored text stands for."""
    return _TRACKS.validate_json(text)


def joined(looks: Sequence[Sequence[Face]]) -> Tracks:
    """Faces of one look after another joined into tracks, who is meant most likely first."""
    going: list[tuple[list[int], list[Face]]] = []
    for number, faces in enumerate(looks):
        pairs = sorted(
            (_apart(faces_of[-1], face), at, which)
            for at, (seen, faces_of) in enumerate(going)
            if number - seen[-1] <= LONGEST_GAP
            for which, face in enumerate(faces)
        )
        taken: set[int] = set()
        used: set[int] = set()
        for apart, at, which in pairs:
            seen, faces_of = going[at]
            # Who was away for a while may have gone farther.
            reach = NEAR * (1 + (number - seen[-1] - 1) / 4)
            if at in used or which in taken or apart > reach:
                continue
            seen.append(number)
            faces_of.append(faces[which])
            used.add(at)
            taken.add(which)
        going += [([number], [face]) for which, face in enumerate(faces) if which not in taken]
    made = [Track(looks=tuple(seen), faces=tuple(found)) for seen, found in _rejoined(going)]
    real = [one for one in made if _is_real(one)]
    return tuple(sorted(real, key=lambda one: -one.weight))


def _apart(one: Face, other: Face) -> float:
    """How far two faces are apart, in widths of the first; far too where their sizes are others."""
    width = max(one.width, 1e-6)
    height = max(one.height, 1e-6)
    ratio = max(one.height, other.height) / max(1e-6, min(one.height, other.height))
    return float(np.hypot((one.x - other.x) / width, (one.y - other.y) / height)) + max(
        0.0, ratio - 1.5
    )


def _rejoined(going: list[tuple[list[int], list[Face]]]) -> list[tuple[list[int], list[Face]]]:
    """A face that jumps while nobody else is there is the same face."""
    found: list[tuple[list[int], list[Face]]] = []
    for seen, faces in sorted(going, key=lambda one: one[0][0]):
        ended = [one for one in found if 0 < seen[0] - one[0][-1] <= LONGEST_GAP]
        alike = [one for one in ended if 0.6 < faces[0].height / one[1][-1].height < 1.7]
        others = sum(one[0][0] < seen[0] <= one[0][-1] for one in found)
        if len(alike) == 1 and not others:
            alike[0][0].extend(seen)
            alike[0][1].extend(faces)
        else:
            found.append((seen, faces))
    return found


def _is_real(track: Track) -> bool:
    return len(track.looks) >= FEW or max(face.score for face in track.faces) >= SURE


@dataclass(frozen=True)
class FacePath:
    """Where the frame's point lies over time: one place for each look from ``first`` on."""

    first: int
    xs: tuple[float, ...]
    ys: tuple[float, ...]

    @property
    def rests(self) -> bool:
        """Whether it is the same place all the time."""
        return len(set(self.xs)) == 1 and len(set(self.ys)) == 1

    def at(self, source_us: int) -> tuple[float, float]:
        """The place at a moment; smooth in between (cubic Hermite, Catmull-Rom tangents)."""
        share = source_us / LOOK_US - self.first
        return _between(self.xs, share), _between(self.ys, share)

    def during(self, start_us: int, end_us: int) -> FacePath:
        """What of it counts in a stretch of the source."""
        low = max(0, start_us // LOOK_US - self.first - 1)
        high = max(low + 1, end_us // LOOK_US - self.first + 4)
        xs, ys = self.xs[low:high], self.ys[low:high]
        if not xs:
            return FacePath(self.first + len(self.xs) - 1, self.xs[-1:], self.ys[-1:])
        return FacePath(self.first + low, xs, ys)


@lru_cache(maxsize=4_000)
def path_of(
    track: Track,
    start_us: int,
    end_us: int,
    zone: tuple[float, float],
    holds: tuple[Held, ...] = (),
) -> FacePath:
    """The path of a frame's point over a stretch of the source that keeps within ``zone`` (across and
    down) of the face, and moves as little as it can: a taut string (P. L. Davies and A. Kovac, "Local
    extremes, runs, strings and multiresolution", 2001), its corners rounded. At ``holds`` somebody said where
    the face is; what is near is moved along."""
    first, last = start_us // LOOK_US, max(-(-end_us // LOOK_US), start_us // LOOK_US + 1)
    grid = np.arange(first, last + 1)
    xs, ys = (
        np.interp(grid, track.looks, _without_flicker(np.array(values)))
        for values in ([face.x for face in track.faces], [face.y for face in track.faces])
    )
    xs = xs + _corrections(grid, xs, [(look, x) for look, x, _ in holds])
    ys = ys + _corrections(grid, ys, [(look, y) for look, _, y in holds])
    width = float(np.median([face.width for face in track.faces]))
    height = float(np.median([face.height for face in track.faces]))
    far = np.hypot(np.diff(xs) / width, np.diff(ys) / height) > JUMP
    # Who jumps is jumped after: what is before has nothing to do with what is behind.
    parts = np.flatnonzero(far) + 1
    return FacePath(int(first), _line(xs, parts, zone[0]), _line(ys, parts, zone[1]))


def _corrections(
    grid: npt.NDArray[np.intp], seen: Floats, said: Sequence[tuple[int, float]]
) -> Floats:
    """What is to be added, so that the values are what was said at some looks, and less and less of that
    before and behind."""
    inside = sorted((look, value) for look, value in said if grid[0] <= look <= grid[-1])
    if not inside:
        return np.zeros(len(grid))
    off = [value - float(seen[look - grid[0]]) for look, value in inside]
    knots: list[tuple[float, float]] = [(inside[0][0] - FADE, 0.0)]
    for number, (look, _) in enumerate(inside):
        if number and look - inside[number - 1][0] > 2 * FADE:
            knots += [(inside[number - 1][0] + FADE, 0.0), (look - FADE, 0.0)]
        knots.append((look, off[number]))
    knots.append((inside[-1][0] + FADE, 0.0))
    return np.interp(grid, [at for at, _ in knots], [value for _, value in knots])


def _line(seen: Floats, parts: npt.NDArray[np.intp], room: float) -> tuple[float, ...]:
    found: list[float] = []
    for part in np.split(seen, parts):
        string = taut(part - room, part + room) if room else part
        found += [round(float(value), 4) for value in _rounded(string)]
    return tuple(found)


def taut(lower: Floats, upper: Floats) -> Floats:
    """The shortest line within a tube, its ends free."""
    count = len(lower)
    out = np.empty(count)
    at, level, found = _beginning(lower, upper)
    out[: at + 1] = level
    if found:
        return out
    while at < count - 1:
        after, value = _bend(lower, upper, at, float(out[at]))
        steps = np.arange(1, after - at + 1) / (after - at)
        out[at + 1 : after + 1] = out[at] + (value - out[at]) * steps
        at = after
    return out


def _beginning(lower: Floats, upper: Floats) -> tuple[int, float, bool]:
    """Where the level beginning of a taut line ends, and its level; whether it is all of it."""
    low, high = float(lower[0]), float(upper[0])
    low_at = high_at = 0
    for k in range(1, len(lower)):
        if lower[k] > high:
            return high_at, high, False
        if upper[k] < low:
            return low_at, low, False
        if lower[k] >= low:
            low, low_at = float(lower[k]), k
        if upper[k] <= high:
            high, high_at = float(upper[k]), k
    return len(lower) - 1, (low + high) / 2, True


def _bend(lower: Floats, upper: Floats, at: int, value: float) -> tuple[int, float]:
    """Where a taut line from a point bends next, or ends."""
    low, high = -np.inf, np.inf
    low_at = high_at = at
    for k in range(at + 1, len(lower)):
        least, most = (lower[k] - value) / (k - at), (upper[k] - value) / (k - at)
        if least > high:
            return high_at, float(upper[high_at])
        if most < low:
            return low_at, float(lower[low_at])
        if least >= low:
            low, low_at = least, k
        if most <= high:
            high, high_at = most, k
    if low > 0:
        return low_at, float(lower[low_at])
    if high < 0:
        return high_at, float(upper[high_at])
    return len(lower) - 1, value


def _without_flicker(values: Floats) -> Floats:
    """The middle one of each three, so that a single wrong look counts for nothing."""
    if len(values) < 3:
        return values
    padded = np.pad(values, 1, mode="edge")
    return np.median(np.stack([padded[:-2], padded[1:-1], padded[2:]]), axis=0)


def _rounded(values: Floats) -> Floats:
    """Corners rounded by a Gaussian; what is level stays as it is."""
    reach = int(3 * SMOOTH)
    kernel = np.exp(-0.5 * (np.arange(-reach, reach + 1) / SMOOTH) ** 2)
    return np.convolve(np.pad(values, reach, mode="edge"), kernel / kernel.sum(), mode="valid")


def _between(values: tuple[float, ...], share: float) -> float:
    last = len(values) - 1
    if share <= 0 or last == 0:
        return values[0]
    if share >= last:
        return values[last]
    i = int(share)
    t = share - i
    a, b = values[i], values[i + 1]
    before, after = values[max(0, i - 1)], values[min(last, i + 2)]
    m, n = (b - before) / 2, (after - a) / 2
    return (
        (2 * t**3 - 3 * t**2 + 1) * a
        + (t**3 - 2 * t**2 + t) * m
        + (3 * t**2 - 2 * t**3) * b
        + (t**3 - t**2) * n
    )
