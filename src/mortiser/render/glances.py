"""What is behind the captions of a piece, small: its thumbnails as they lie in the frame."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

import cv2
import numpy as np

from mortiser.core.framing.clip_framing import ClipFraming
from mortiser.core.framing.layer import Layers
from mortiser.core.framing.placing import Size, covers, is_plain, matrix_of
from mortiser.core.framing.shape import Backdrop
from mortiser.core.project.piece import ShapedPiece
from mortiser.core.scene.layered import LayerReader, layer_readers
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.layout.fonts import FontBook
from mortiser.core.style.legibility import Rgb
from mortiser.core.transcript.words import Cue
from mortiser.media.thumbnails import PieceThumbnails
from mortiser.paint.painter import area_of, paint
from mortiser.paint.state import state_at
from mortiser.render.backdrops import filling

SIDE = 320
"""The short side of a glance, in pixels."""


@dataclass(frozen=True)
class Glances:
    """The thumbnails of a piece in one of its shapes; equal by what is seen."""

    thumbnails: PieceThumbnails
    framings: tuple[ClipFraming, ...]
    pictures: tuple[tuple[int, Size], ...]
    size: tuple[int, int]

    def at(self, piece_us: int) -> Rgb:
        """The picture nearest to a moment of the piece, of the frame's shape."""
        timeline = self.thumbnails.timeline
        placed = timeline.playing(piece_us)
        clip = self.framings[timeline.placed.index(placed)]
        picture = dict(self.pictures).get(placed.clip.source_id)
        seen = self.thumbnails.at(piece_us)
        framing = clip.at(placed.to_source(piece_us))
        if picture is not None and is_plain(framing, picture, self.size):
            return seen
        share = SIDE / min(self.size)
        small = round(self.size[0] * share), round(self.size[1] * share)
        if picture is None:
            return _behind(None, clip.backdrop, small)
        a, b, c, d, e, f = matrix_of(framing, picture, self.size)
        across, down = picture[0] / seen.shape[1], picture[1] / seen.shape[0]
        turn = np.array([[a * across, b * down, c], [d * across, e * down, f]]) * share
        whole = covers(framing, picture, self.size)
        out = np.empty((small[1], small[0], 3), np.uint8) if whole else None
        if out is None:
            out = _behind(seen, clip.backdrop, small).copy()
        border = cv2.BORDER_REPLICATE if whole else cv2.BORDER_TRANSPARENT
        found = cv2.warpAffine(
            seen, turn, small, dst=out, flags=cv2.INTER_LINEAR, borderMode=border
        )
        return np.asarray(found, np.uint8)


@dataclass(frozen=True)
class Composed:
    """Glances with the layers of a piece over them; equal by what is seen."""

    behind: Glances
    layers: Layers
    places: str
    worn: Finish
    readers: tuple[LayerReader, ...] = field(compare=False)
    """In the size of a glance."""

    def at(self, piece_us: int) -> Rgb:
        """The picture nearest to a moment of the piece, with what stands over it then."""
        seen = self.behind.at(piece_us)
        width, height = self.readers[0].size
        if seen.shape[:2] != (height, width):
            seen = np.asarray(cv2.resize(seen, (width, height)), np.uint8)
        found = seen.astype(np.uint16)
        for reader in self.readers:
            state = state_at(reader, piece_us)
            left, top, right, bottom = area = area_of(state, width, height)
            if right <= left or bottom <= top:
                continue
            over = paint(state, area).astype(np.uint16)
            part = found[top:bottom, left:right]
            part *= 255 - over[..., 3:]
            part //= 255
            part += over[..., 2::-1]
        return np.minimum(found, 255).astype(np.uint8)


def glances(
    piece: ShapedPiece, thumbnails: PieceThumbnails, cues: Sequence[Cue], fonts: FontBook
) -> Glances | Composed:
    """What is behind captions in the shape that a piece is looked at in: its pictures, and the layers."""
    sizes = tuple(sorted((key, (w, h)) for key, (w, h) in piece.facts.pictures.items()))
    behind = Glances(thumbnails, piece.framings, sizes, piece.size)
    if not piece.settings.layers:
        return behind
    share = SIDE / min(piece.size)
    small = round(piece.size[0] * share) & ~1, round(piece.size[1] * share) & ~1
    places = repr(sorted(piece.shape.places.items()))
    readers = tuple(layer_readers(piece, cues, small, fonts))
    return Composed(behind, piece.settings.layers, places, piece.worn, readers)


def _behind(seen: Rgb | None, backdrop: Backdrop, small: tuple[int, int]) -> Rgb:
    first, last = (np.array(one[:3], np.float64) for one in (backdrop.first, backdrop.last))
    if backdrop.kind == "blur" and seen is not None:
        share = max(small[0] / seen.shape[1], small[1] / seen.shape[0])
        width, height = small[0] / share, small[1] / share
        top, left = int((seen.shape[0] - height) / 2), int((seen.shape[1] - width) / 2)
        part = seen[top : top + max(1, int(height)), left : left + max(1, int(width))]
        soft = cv2.GaussianBlur(cv2.resize(part, small), (0, 0), small[0] / 16)
        return np.asarray(soft * (1 - backdrop.dark), np.uint8)
    if backdrop.kind == "picture":
        found = filling(backdrop, small)
        if found is not None:
            return found
    share_down = ((np.arange(small[1]) + 0.5) / small[1])[:, None, None]
    if backdrop.kind != "gradient":
        last = first
    rows = first + (last - first) * share_down
    return np.broadcast_to(rows, (small[1], small[0], 3)).astype(np.uint8)
