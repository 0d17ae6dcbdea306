"""Plain text: the words alone, a caption a line."""

from __future__ import annotations

from collections.abc import Sequence

from mortiser.core.common.time import timecode
from mortiser.formats.base import Caption, CaptionDocument


def write(captions: Sequence[Caption], document: CaptionDocument) -> str:
    """The file's text: each caption behind the moment it comes, where the document is timed."""
    texts = [" ".join(caption.named_lines) for caption in captions]
    if document.timed:
        texts = [f"{timecode(c.start_us)}  {text}" for c, text in zip(captions, texts, strict=True)]
    return "".join(f"{text}\n" for text in texts)
