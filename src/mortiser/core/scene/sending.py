"""The scene as plain JSON values, as the page reads it."""

from __future__ import annotations

from typing import Any

from mortiser.core.scene.model import (
    PathItem,
    PictureItem,
    RectItem,
    Scene,
    SceneCue,
    StampItem,
    WaveItem,
)
from mortiser.core.style.motion.layers import MotionLayer
from mortiser.core.style.motion.track import Track


def scene_json(scene: Scene) -> dict[str, Any]:
    """The scene as plain JSON values; equal outlines are sent once, what is not there is left out."""
    outlines: dict[str, int] = {}

    def path(item: PathItem) -> dict[str, Any]:
        return _there(
            outline_of=outlines.setdefault(item.path, len(outlines)),
            x=item.x,
            y=item.y,
            reach=item.reach,
            fill=_track(item.fill),
            outlines=[[stroke.width, stroke.colour] for stroke in item.outlines],
            shadow=item.shadow
            and [item.shadow.dx, item.shadow.dy, item.shadow.blur, item.shadow.colour],
            line=item.line,
            ink=item.ink and {"fill": _track(item.ink.fill), "span": _track(item.ink.span)},
            layers=_layers(item.layers),
            word=item.word,
        )

    def cue(one: SceneCue) -> dict[str, Any]:
        return {
            "id": one.id,
            "start_us": one.start_us,
            "end_us": one.end_us,
            "whole_us": one.whole_us,
            "size": one.size,
            "layers": _layers(one.layers),
            "plates": [path(item) for item in one.plates],
            "rects": [_rect(item) for item in one.rects],
            "paths": [path(item) for item in one.paths],
            "stamps": [_stamp(item) for item in one.stamps],
            "pictures": [_picture(item) for item in one.pictures],
            "waves": [_wave(item) for item in one.waves],
        }

    cues = [cue(one) for one in scene.cues]
    return {
        "width": scene.width,
        "height": scene.height,
        "outlines": list(outlines),
        "cues": cues,
    }


def _track(keys: Track) -> list[list[Any]]:
    return [[key.at_us, [round(v, 4) for v in key.value], key.ease] for key in keys]


def _layers(layers: tuple[MotionLayer, ...]) -> list[dict[str, Any]]:
    return [
        _there(
            pivot=layer.pivot,
            opacity=layer.opacity and _track(layer.opacity),
            move=layer.move and _track(layer.move),
            scale=layer.scale and _track(layer.scale),
            turn=layer.turn and _track(layer.turn),
        )
        for layer in layers
    ]


def _rect(item: RectItem) -> dict[str, Any]:
    return {"box": _track(item.box), "radius": item.radius, "fill": item.fill}


def _stamp(item: StampItem) -> dict[str, Any]:
    return {
        "emoji": item.emoji,
        "x": item.x,
        "y": item.y,
        "side": item.side,
        "layers": _layers(item.layers),
        "word": item.word,
    }


def _picture(item: PictureItem) -> dict[str, Any]:
    return {name: getattr(item, name) for name in PictureItem.__slots__}


def _wave(item: WaveItem) -> dict[str, Any]:
    levels = [round(level, 4) for level in item.levels]
    return {name: getattr(item, name) for name in WaveItem.__slots__} | {"levels": levels}


def _there(**values: Any) -> dict[str, Any]:
    return {name: value for name, value in values.items() if value is not None}
