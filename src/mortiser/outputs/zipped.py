"""Files as one ZIP, sent while it is being made: nothing of it is kept on the disk."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Iterator, Sequence
from pathlib import Path

PART = 1024**2


class _Sink(io.RawIOBase):
    """Takes what is written, until it is taken away."""

    def __init__(self) -> None:
        self._parts = bytearray()

    def writable(self) -> bool:
        """It takes bytes, and cannot go back."""
        return True

    def write(self, data: bytes) -> int:  # type: ignore[override]
        """Take some bytes."""
        self._parts += data
        return len(data)

    def taken(self) -> bytes:
        """What was written since the last time."""
        found = bytes(self._parts)
        self._parts.clear()
        return found


def zipped(files: Sequence[Path]) -> Iterator[bytes]:
    """Parts of a ZIP of files, uncompressed: what is delivered mostly is compressed already."""
    sink = _Sink()
    with zipfile.ZipFile(sink, "w", zipfile.ZIP_STORED) as archive:
        for file in files:
            about = zipfile.ZipInfo.from_file(file, file.name)
            with file.open("rb") as data, archive.open(about, "w", force_zip64=True) as out:
                while part := data.read(PART):
                    out.write(part)
                    yield sink.taken()
    yield sink.taken()
