"""Text files as bytes: which encoding they are in."""

from __future__ import annotations

import codecs

import charset_normalizer

from mortiser.core.errors import BadInput

_MARKS = (
    (codecs.BOM_UTF8, "utf-8-sig"),
    (codecs.BOM_UTF32_LE, "utf-32"),
    (codecs.BOM_UTF32_BE, "utf-32"),
    (codecs.BOM_UTF16_LE, "utf-16"),
    (codecs.BOM_UTF16_BE, "utf-16"),
)
FEW_MARKS = 4
LARGEST = 8 * 1024**2


def decode(data: bytes) -> tuple[str, str | None]:
    """The text with ``\\n`` line ends, and the encoding where it had to be guessed.

    Raises BadInput for what is no text.
    """
    if len(data) > LARGEST:
        raise BadInput("That file is larger than 8 MB: it is no text that can be read here.")
    encoding = next((name for mark, name in _MARKS if data.startswith(mark)), "utf-8")
    guessed = None
    try:
        text = data.decode(encoding)
    except UnicodeDecodeError as error:
        best = charset_normalizer.from_bytes(data).best()
        if best is None or b"\0" in data:
            raise BadInput("That file is no text: its letters cannot be read.") from error
        text, guessed = str(best), best.encoding
        if len({byte for byte in data if byte > 127}) < FEW_MARKS:
            # So few letters with marks tell languages apart by chance: the commonest is taken.
            text, guessed = data.decode("cp1252", "replace"), "cp1252"
    if text.count("\0") > 0:
        raise BadInput("That file is no text: its letters cannot be read.")
    return text.replace("\r\n", "\n").replace("\r", "\n"), guessed
