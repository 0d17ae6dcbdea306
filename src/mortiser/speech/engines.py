"""The engines there are, which of them hears a language, and which one votes on what was heard."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from typing import TypeVar

from mortiser.core.common.errors import BadInput
from mortiser.speech.conversion import converted
from mortiser.speech.language_model import SmallLanguageModel
from mortiser.speech.memory import give_back
from mortiser.speech.models import ENGLISH, WORDING, ModelPlace, Packaged, languages_of
from mortiser.speech.moonshine import MoonshineRecogniser
from mortiser.speech.protocols import Aligner, Ensemble, LanguageFinder, Recogniser, Translator
from mortiser.speech.sphinx import SphinxAligner
from mortiser.speech.whisper import SEVERAL, WhisperRecogniser

Made = TypeVar("Made")
QUICK = MoonshineRecogniser.name
WIDE = WhisperRecogniser.name


@dataclass(frozen=True)
class Engine:
    """An engine that could be used; ``trouble`` says why it cannot be. ``make`` takes a language."""

    name: str
    about: str
    languages: tuple[str, ...]
    make: Callable[[str], Recogniser]
    trouble: str | None = None


def engines(place: ModelPlace) -> list[Engine]:
    """The quick English engine, and the one that knows many languages."""
    quick = Engine(
        QUICK,
        "Small and quick, in English.",
        MoonshineRecogniser.languages,
        lambda language: MoonshineRecogniser(),
    )
    about = "Hears many languages, and a second time in English."
    if place.own is not None:
        about = f"{about} Your own model in {place.own}."
    try:
        heard, trouble = (*languages_of(place.folder()), SEVERAL), None
    except BadInput as error:
        heard, trouble = (), str(error)
    make = lambda language: WhisperRecogniser(place.folder(), language)  # noqa: E731
    wide = Engine(WIDE, about, heard, make, trouble)
    return [
        quick,
        wide,
    ]


def recogniser_for(language: str, place: ModelPlace, name: str | None = None) -> Recogniser:
    """An engine for a language, the quick one first, or the one named. Raises BadInput."""
    known = engines(place)
    if name is not None and name not in [engine.name for engine in known]:
        names = ", ".join(engine.name for engine in known)
        raise BadInput(f"There is no engine “{name}”. There are: {names}.")
    for engine in known:
        if name == engine.name and engine.trouble:
            raise BadInput(engine.trouble)
        if language in engine.languages and name in (None, engine.name):
            return engine.make(language)
    if name is not None:
        raise BadInput(f"The engine “{name}” does not know the language “{language}”.")
    raise BadInput(unknown(language, place))


def ensemble_for(language: str, words: Sequence[str], place: ModelPlace) -> Ensemble:
    """Who votes on what the quick engine heard, listening for some words: those there are models for;
    nobody where the quick engine does not know the language."""
    if language not in MoonshineRecogniser.languages:
        return Ensemble()
    # What heard first is gone by now: its place is theirs.
    give_back()
    with ThreadPoolExecutor() as threads:
        second = threads.submit(_found, lambda: WhisperRecogniser(place.folder(), language, words))
        third = threads.submit(
            _found, lambda: WhisperRecogniser(_needed(place, ENGLISH), language, words)
        )
        reader = threads.submit(
            _found, lambda: SmallLanguageModel(converted(_needed(place, WORDING)))
        )
    ensemble = Ensemble(second.result(), third.result(), reader.result())
    # Models are put into another form while they are loaded.
    give_back()
    return ensemble


def _needed(place: ModelPlace, model: Packaged) -> Path:
    there = place.packaged(model)
    if there is None:
        raise BadInput(f"The model {model.name} is not installed.")
    return there


def _found(make: Callable[[], Made]) -> Made | None:
    """What is made, or None where its model is missing."""
    try:
        return make()
    except BadInput:
        return None


@dataclass(frozen=True)
class Engines:
    """What hears first, and who votes on that; nobody where an engine was asked for by its name."""

    first: Recogniser
    ensemble: Ensemble | None = None


def chosen(language: str, place: ModelPlace, name: str | None, words: Sequence[str]) -> Engines:
    """The engines for a language, or the one named alone. Raises BadInput."""
    first = recogniser_for(language, place, name)
    return Engines(first, None if name else ensemble_for(language, words, place))


def language_finder(place: ModelPlace) -> LanguageFinder:
    """What tells which language is spoken. Raises BadInput where there is no model."""
    return WhisperRecogniser(place.folder(), SEVERAL)


def translator_from(language: str, place: ModelPlace) -> Translator:
    """What translates a language to English. Raises BadInput where there is no model for it."""
    return WhisperRecogniser(place.folder(), language)


def aligner_for(language: str, place: ModelPlace) -> Aligner:
    """What finds known words in sound: exactly in English, by the engine of many languages in others."""
    if language not in MoonshineRecogniser.languages:
        try:
            return WhisperRecogniser(place.folder(), language)
        except BadInput:
            pass  # Times by the sounds of English are better than none.
    return SphinxAligner()


def unknown(language: str, place: ModelPlace) -> str:
    """What is said of a language that no engine knows."""
    trouble = next((engine.trouble for engine in engines(place) if engine.trouble), None)
    if trouble:
        return f"Only English can be heard at the moment. {trouble}"
    return f"No engine here knows the language “{language}”."
