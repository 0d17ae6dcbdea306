"""Names of delivered files: by a pattern, safe on every system, no two alike."""

from __future__ import annotations

import re
from collections.abc import Mapping

from mortiser.core.common.errors import BadInput

LONGEST_STEM = 180
"""Bytes: file systems take 255 for a name."""
MOST_PATTERN = 120
FIELDS = ("project", "piece", "shape", "date", "number", "part")
"""What a pattern can name in braces: the number is that of the piece's deliveries, the part that of several
stretches."""
_FIELD = re.compile(r"\{([^{}]*)\}")
NOTHING = "\0"
"""In the place of a fact that there is not."""
_EMPTY = re.compile(r"([-_. ]*)(?:\0[-_. ]*)+")
"""What parts it from others goes with it, but on one side of it."""
_RESERVED = re.compile(r"(?i)(con|prn|aux|nul|com\d|lpt\d)")


def checked_pattern(pattern: str) -> str:
    """A pattern without blanks at its ends. Raises BadInput for what is none."""
    clean = " ".join(pattern.split())
    if len(clean) > MOST_PATTERN:
        raise BadInput(f"A pattern has {MOST_PATTERN} letters at most.")
    unknown = [name for name in _FIELD.findall(clean) if name not in FIELDS]
    if unknown or re.search(r"[{}]", _FIELD.sub("", clean)):
        known = ", ".join(f"{{{name}}}" for name in FIELDS)
        raise BadInput(f"A pattern can have {known} in it, and letters.")
    return clean


def file_stem(name: str) -> str:
    """A text as the start of a file name that every system takes."""
    kept = re.sub(r"[^\w\- ]+", "", name).strip()[:120].strip()
    stem = re.sub(r"\s+", "-", kept)
    while len(stem.encode()) > LONGEST_STEM:
        stem = stem[:-1]
    if _RESERVED.fullmatch(stem):
        stem = f"{stem}-piece"
    return stem or "piece"


def filled(pattern: str, facts: Mapping[str, str]) -> str:
    """A pattern with its facts as the start of a file name; facts that tell files apart and that the pattern
    leaves out come after it."""
    named = set(_FIELD.findall(pattern))
    text = _FIELD.sub(lambda found: facts.get(found.group(1)) or NOTHING, pattern)
    text = _EMPTY.sub(lambda found: found.group(1) if found.end() < len(text) else "", text)
    rest = [facts[key] for key in ("shape", "part") if facts.get(key) and key not in named]
    return file_stem(" ".join([text, *rest]))
