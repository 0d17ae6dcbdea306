"""Scenes: what painters play. ``model`` says what one is and how it is painted."""

from mortiser.core.style.scene.building import MOST_OVER_US, SceneReel, build_scene
from mortiser.core.style.scene.model import NO_CAPTIONS, Scene, SceneCue, Shows
from mortiser.core.style.scene.sending import scene_json

__all__ = [
    "MOST_OVER_US",
    "NO_CAPTIONS",
    "Scene",
    "SceneCue",
    "SceneReel",
    "Shows",
    "build_scene",
    "scene_json",
]
