"""The engines there are, and which of them hears a language."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from mortiser.core.errors import BadInput
from mortiser.speech.folder_model import FolderRecogniser, languages_of
from mortiser.speech.moonshine import MoonshineRecogniser
from mortiser.speech.seams import Recogniser


@dataclass(frozen=True)
class Engine:
    """An engine that could be used; ``trouble`` says why it cannot be."""

    name: str
    about: str
    languages: tuple[str, ...]
    make: Callable[[str], Recogniser]
    trouble: str | None = None


def engines(folder: Path | None) -> list[Engine]:
    """The embedded engine, and the one for the user's model folder where there is a folder."""
    found = [
        Engine(
            MoonshineRecogniser.name,
            "Embedded, small and quick.",
            MoonshineRecogniser.languages,
            lambda language: MoonshineRecogniser(),
        )
    ]
    if folder is not None:
        about = f"Your own model in {folder}."
        try:
            known, trouble = languages_of(folder), None
        except BadInput as error:
            known, trouble = (), str(error)
        make = lambda language: FolderRecogniser(folder, language)  # noqa: E731
        found.append(Engine(FolderRecogniser.name, about, known, make, trouble))
    return found


def recogniser_for(language: str, folder: Path | None) -> Recogniser:
    """An engine for a language, the embedded one first. Raises BadInput where there is none."""
    for engine in engines(folder):
        if language in engine.languages:
            return engine.make(language)
    raise BadInput(unknown(language))


def unknown(language: str) -> str:
    """What is said of a language that no engine knows."""
    return (
        f"No engine here knows the language “{language}”. Put a multilingual model into a folder "
        "and set MORTISER_MODEL_FOLDER to it."
    )
