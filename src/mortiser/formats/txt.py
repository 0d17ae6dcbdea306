"""Plain text: the words alone, a caption a line."""

from __future__ import annotations

from collections.abc import Sequence

from mortiser.formats.base import Caption


def write(captions: Sequence[Caption], duration_us: int) -> str:
    """The file's text."""
    return "".join(" ".join(caption.named_lines) + "\n" for caption in captions)
