"""The scene over the wire: what core/scene/sending.py writes. The page's types come from here."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict, Field

from mortiser.core.style.motion.track import Ease

TrackView = list[tuple[int, list[float], Ease]]
ColourView = tuple[int, int, int, int]
BoundsView = tuple[float, float, float, float]


class _View(BaseModel):
    model_config = ConfigDict(extra="forbid")


class LayerView(_View):
    pivot: tuple[float, float]
    opacity: TrackView | None = None
    move: TrackView | None = None
    scale: TrackView | None = None
    turn: TrackView | None = None


class InkView(_View):
    fill: TrackView
    span: TrackView


class PathView(_View):
    outline_of: int
    x: float
    y: float
    reach: BoundsView
    fill: TrackView
    outlines: list[tuple[float, ColourView]]
    shadow: tuple[float, float, float, ColourView] | None = None
    line: BoundsView | None = None
    ink: InkView | None = None
    layers: list[LayerView]
    word: int


class RectView(_View):
    box: TrackView
    radius: float
    fill: ColourView


class StampView(_View):
    emoji: str
    x: float
    y: float
    side: float
    layers: list[LayerView]
    word: int


class PictureView(_View):
    picture: str = Field(description="What it is asked for by.")
    x: float
    y: float
    width: int
    height: int
    radius: float


class WaveView(_View):
    levels: list[float]
    from_us: int
    step_us: int
    marks: list[tuple[float, float, float, float, int]] = Field(
        description="x, y, how far it goes at the loudest (dx, dy), the age of its sound in µs."
    )
    thick: float
    fill: ColourView
    both: bool
    joined: bool
    reach: BoundsView


class SceneCueView(_View):
    id: int
    start_us: int
    end_us: int
    whole_us: int = Field(description="The first moment at which all of it stands.")
    size: float
    layers: list[LayerView]
    plates: list[PathView]
    rects: list[RectView]
    paths: list[PathView]
    stamps: list[StampView]
    pictures: list[PictureView]
    waves: list[WaveView]


class SceneView(_View):
    """Everything a painter needs (see core.scene)."""

    width: int
    height: int
    outlines: list[str]
    cues: list[SceneCueView]
