"""Text files as bytes: which encoding they are in."""

from __future__ import annotations

import codecs
import re

import charset_normalizer

from mortiser.core.common.errors import BadInput

_MARKS = (
    (codecs.BOM_UTF8, "utf-8-sig"),
    (codecs.BOM_UTF32_LE, "utf-32"),
    (codecs.BOM_UTF32_BE, "utf-32"),
    (codecs.BOM_UTF16_LE, "utf-16"),
    (codecs.BOM_UTF16_BE, "utf-16"),
)
FEW_MARKS = 4
LARGEST = 8 * 1024**2
LOOKED_AT = 256 * 1024
"""Bytes from which an encoding is guessed."""


WESTERN = frozenset(
    "àáâãäåæçèéêëìíîïðñòóôõöøùúûüýþÿßœšžÀÁÂÃÄÅÆÇÈÉÊËÌÍÎÏÐÑÒÓÔÕÖØÙÚÛÜÝÞŒŠŽŸªº"
    "¡¿«»‹›“”‘’„‚–—…·€£¢§°©®™\u00a0"
)
"""What texts in western European languages have beside plain letters, in Windows-1252."""
MOST_MARKED = 0.4
"""More letters with marks than this share no western European language has."""
_MISPLACED = re.compile(r"\w[¿¡]\w")
CHOICES = (
    "utf-8", "cp1252", "cp1250", "cp1251", "cp1253", "cp1254", "cp1255", "cp1256", "cp1257",
    "iso8859_2", "koi8_r", "utf_16_le", "shift_jis", "gb18030", "big5", "euc_kr",
)  # fmt: skip
"""Encodings to choose from by hand."""


def decode(data: bytes, encoding: str | None = None) -> tuple[str, str | None]:
    """The text with ``\\n`` line ends, and the encoding where it had to be guessed.

    With ``encoding`` (one of CHOICES) it is read as that. Raises BadInput for what is no text.
    """
    if encoding is not None:
        if encoding not in CHOICES:
            raise BadInput(f"“{encoding}” is no encoding that can be read here.")
        return _lines(data.decode(encoding, "replace")), None
    return _guessed(data)


def _guessed(data: bytes) -> tuple[str, str | None]:
    if len(data) > LARGEST:
        raise BadInput("That file is larger than 8 MB: it is no text that can be read here.")
    encoding = next((name for mark, name in _MARKS if data.startswith(mark)), "utf-8")
    guessed = None
    try:
        text = data.decode(encoding)
    except UnicodeDecodeError as error:
        # Guessing takes time for each of some ninety encodings: the beginning is enough for it.
        best = charset_normalizer.from_bytes(data[:LOOKED_AT]).best()
        if best is None or b"\0" in data:
            raise BadInput("That file is no text: its letters cannot be read.") from error
        text, guessed = data.decode(best.encoding, "replace"), best.encoding
        if len({byte for byte in data if byte > 127}) < FEW_MARKS:
            # So few letters with marks tell languages apart by chance: the commonest is taken.
            text, guessed = data.decode("cp1252", "replace"), "cp1252"
        if _western(data):
            text, guessed = data.decode("cp1252"), "cp1252"
    if text.count("\0") > 0:
        raise BadInput("That file is no text: its letters cannot be read.")
    return _lines(text), guessed


def _western(data: bytes) -> bool:
    """Whether the bytes read as Windows-1252 are a text in a western European language.

    Other code pages for Latin letters differ from it in few places, and guesses hit on them.
    """
    try:
        text = data.decode("cp1252")
    except UnicodeDecodeError:
        return False
    beside = [ch for ch in text if ch > "\x7f"]
    letters = sum(ch.isalpha() for ch in text)
    # Other scripts read as it are letters with marks nearly throughout.
    plain = sum(ch.isalpha() for ch in beside) <= MOST_MARKED * max(1, letters)
    return plain and set(beside) <= WESTERN and not _MISPLACED.search(text)


def _lines(text: str) -> str:
    # Some encodings can spell half a character, which nothing can store.
    text = text.encode("utf-16", "surrogatepass").decode("utf-16", "replace")
    return text.replace("\r\n", "\n").replace("\r", "\n")
