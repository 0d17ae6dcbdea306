"""How written words are said: numbers and signs spelt out for the aligner and mapped back."""

from __future__ import annotations

import re
from collections.abc import Sequence

from num2words import num2words

SIGNS = {"&": "and", "%": "percent", "+": "plus", "=": "equals", "@": "at", "#": "number"}
UNITS = {"hz": "hertz", "khz": "kilohertz", "km": "kilometres", "kg": "kilograms"}
CURRENCIES = {"$": "dollars", "£": "pounds", "€": "euros"}
_PART = re.compile(
    r"\d+(?:,\d{3})+(?:\.\d+)?|\d+(?:\.\d+)?(?:st|nd|rd|th)?|[^\W\d_]+(?:['’][^\W\d_]+)*|\S"
)


def spoken(word: str) -> list[str]:
    """Lower-case spoken words for one written word; empty when nothing is said."""
    said: list[str] = []
    after: list[str] = []
    for part in _PART.findall(word):
        if part[0].isdecimal():
            said += _number(part)
        elif part in CURRENCIES:
            after.append(CURRENCIES[part])
        elif part in SIGNS:
            said.append(SIGNS[part])
        elif part[0].isalpha():
            plain = part.lower().replace("’", "'")
            said.append(UNITS.get(plain, plain))
    return said + after


def spoken_map(words: Sequence[str]) -> tuple[list[str], list[int]]:
    """All spoken words, and for each the index of the written word it came from."""
    said: list[str] = []
    origin: list[int] = []
    for index, word in enumerate(words):
        parts = spoken(word)
        said += parts
        origin += [index] * len(parts)
    return said, origin


def _number(text: str) -> list[str]:
    ordinal = re.fullmatch(r"(\d+)(?:st|nd|rd|th)", text)
    if ordinal:
        said = num2words(int(ordinal.group(1)), to="ordinal")
    else:
        plain = text.replace(",", "")
        if len(plain) > 15:
            said = " ".join(num2words(int(d)) for d in plain if d.isdecimal())
        elif re.fullmatch(r"(1[1-9]|20)\d\d", text):
            said = num2words(int(text), to="year")
        else:
            said = num2words(float(plain) if "." in plain else int(plain))
    return re.findall(r"[a-z]+", said.lower())
