"""Hear one recording on the command line, and compare what was heard with what was said."""

from __future__ import annotations

import json
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from mortiser.core.common.errors import BadInput
from mortiser.core.common.time import timecode
from mortiser.core.transcript.comparing import Comparison, compare
from mortiser.core.transcript.words import Word
from mortiser.formats.decoding import decode
from mortiser.speech.spoken import spoken_map


@dataclass(frozen=True)
class Reference:
    """What was said: its words, and where it is known when each begins (µs)."""

    texts: tuple[str, ...]
    starts_us: tuple[int, ...] = ()


def read_reference(file: Path) -> Reference:
    """A plain text, or a JSON of words with their times as ``caption --json`` writes it.

    Raises BadInput.
    """
    if not file.is_file():
        raise BadInput(f"{file}: no such file.")
    text, _ = decode(file.read_bytes())
    if file.suffix == ".json":
        try:
            words = json.loads(text)["words"]
            return Reference(
                tuple(str(w["text"]) for w in words), tuple(int(w["start_us"]) for w in words)
            )
        except (ValueError, KeyError, TypeError) as error:
            raise BadInput(
                f"{file} has no words with times, as caption --json writes them."
            ) from error
    if not text.split():
        raise BadInput(f"{file} has no words.")
    return Reference(tuple(text.split()))


def lines_of(words: Sequence[Word]) -> Iterator[str]:
    """A line a word: when it starts and ends in seconds, and the word, with tabs between."""
    for word in words:
        yield f"{word.start_us / 1e6:.3f}\t{word.end_us / 1e6:.3f}\t{word.text}"


def report(words: Sequence[Word], reference: Reference) -> Iterator[str]:
    """What differs, word by word as spoken (numbers and capitals count alike), and the sums."""
    said, said_of = spoken_map(reference.texts)
    heard, heard_of = spoken_map([word.text for word in words])
    found = compare(said, heard)
    for one in found.differences:
        at = words[heard_of[min(one.heard, len(heard) - 1)]].start_us if heard else 0
        match one.kind:
            case "wrong":
                told = f"said “{said[one.said]}”, heard “{heard[one.heard]}”"
            case "missed":
                told = f"said “{said[one.said]}”, not heard"
            case "added":
                told = f"heard “{heard[one.heard]}”, not said"
        yield f"{timecode(at)[3:]}  {told}"
    yield (
        f"{found.said} words said: {found.count('wrong')} wrong, {found.count('missed')} missed, "
        f"{found.count('added')} added; word error {100 * found.word_error:.1f} %"
    )
    yield from _times(words, reference, found, said_of, heard_of)


def _times(
    words: Sequence[Word],
    reference: Reference,
    found: Comparison,
    said_of: Sequence[int],
    heard_of: Sequence[int],
) -> Iterator[str]:
    if not reference.starts_us or not found.same:
        return
    pairs = {(said_of[a], heard_of[b]) for a, b in found.same}
    off = [abs(words[b].start_us - reference.starts_us[a]) / 1000 for a, b in pairs]
    yield (
        f"onsets of {len(off)} words: median {np.median(off):.0f} ms off, "
        f"95 % within {np.quantile(off, 0.95):.0f} ms"
    )
