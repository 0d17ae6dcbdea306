"""Scenes: what both painters play.

``model`` says what one is and how it is painted, ``building`` makes them; ``overlap_checks`` says what is in whose way.
"""

from mortiser.core.scene.building import MOST_OVER_US, SceneReader, build_scene
from mortiser.core.scene.model import NO_CAPTIONS, Scene, SceneCue, Shows
from mortiser.core.scene.sending import scene_json

__all__ = [
    "MOST_OVER_US",
    "NO_CAPTIONS",
    "Scene",
    "SceneCue",
    "SceneReader",
    "Shows",
    "build_scene",
    "scene_json",
]
