"""Which of the files that come together belong together, by their names."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

FileKind = Literal["words", "cover", "sound", "video"]
ENDINGS: dict[FileKind, frozenset[str]] = {
    "words": frozenset({"srt", "vtt", "ass", "ssa", "ttml", "xml", "txt"}),
    "cover": frozenset({"png", "jpg", "jpeg", "webp", "svg"}),
    "sound": frozenset({"wav", "mp3", "m4a", "aac", "ogg", "oga", "opus", "flac"}),
}
"""What a file is taken for by its ending; a video by any other."""


@dataclass(frozen=True)
class RecordingFiles:
    """A recording and what comes with it, by their places in the list of files: its words, the sounds that were
    recorded apart from it, the picture that a sound is shown beside."""

    file: int
    words: int | None = None
    sounds: tuple[int, ...] = ()
    cover: int | None = None


@dataclass(frozen=True)
class FileGroups:
    """The recordings among some files; ``lonely`` belong to none."""

    recordings: tuple[RecordingFiles, ...]
    lonely: tuple[int, ...]


def grouped(names: Sequence[str]) -> FileGroups:
    """Files grouped by the same name, or as one of each.

    Sounds that come with a single video belong to it. A picture is the cover of the sound of its name, or of
    all sounds that come without one.
    """
    kinds = [_kind(name) for name in names]
    at = {kind: [i for i, one in enumerate(kinds) if one == kind] for kind in (*ENDINGS, "video")}
    alone = len(at["video"]) == 1
    recorded = [i for i, kind in enumerate(kinds) if kind in ("video", "sound")]
    first = at["video"] if alone else recorded
    sounds = tuple(at["sound"]) if alone else ()
    words, covered, found = list(at["words"]), set[int](), []
    for file in first:
        same = next((w for w in words if _stem(names[w]).startswith(_stem(names[file]))), None)
        if same is None and len(first) == len(words) == 1:
            same = words[0]
        if same is not None:
            words.remove(same)
        cover = _cover(file, names, at["cover"]) if kinds[file] == "sound" else None
        covered |= {cover} if cover is not None else set()
        found.append(RecordingFiles(file, same, sounds, cover))
    lonely = (*words, *(i for i in at["cover"] if i not in covered))
    return FileGroups(tuple(found), lonely)


def _cover(sound: int, names: Sequence[str], covers: Sequence[int]) -> int | None:
    named = [i for i in covers if _stem(names[i]) == _stem(names[sound])]
    return next(iter(named), covers[0] if len(covers) == 1 else None)


def _kind(name: str) -> FileKind:
    ending = name.rpartition(".")[2].lower()
    return next((kind for kind, endings in ENDINGS.items() if ending in endings), "video")


def _stem(name: str) -> str:
    return (name.rpartition(".")[0] or name).lower()
