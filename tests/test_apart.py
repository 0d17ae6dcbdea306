"""Work on foreign files is done apart: it ends, whatever is in them, and the server goes on."""

import io
import struct
import sys
import time
import zlib
from pathlib import Path

import pytest
from fontTools.ttLib import TTFont
from PIL import Image

from mortiser import apart
from mortiser.apart import done_apart
from mortiser.core.common.errors import BadInput
from mortiser.fonts import own
from mortiser.formats import registry
from mortiser.pictures import checking

SVG = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1000 1000">{}</svg>'
NOISE = (
    '<filter id="f"><feTurbulence numOctaves="2000" baseFrequency="0.05"/></filter>'
    '<rect width="1000" height="1000" filter="url(#f)"/>'
)


def uses(levels: int) -> str:
    """Drawings within drawings, ten of each in the next."""
    parts = ['<g id="a0"><rect width="9" height="9"/></g>']
    for level in range(1, levels):
        inside = f'<use href="#a{level - 1}"/>' * 10
        parts.append(f'<g id="a{level}">{inside}</g>')
    return "".join(parts) + f'<use href="#a{levels - 1}"/>'


def nested(depth: int) -> str:
    return "<g>" * depth + "</g>" * depth


def png_that_says(width: int, height: int) -> bytes:
    """A PNG of few bytes that says it is large."""

    def chunk(name: bytes, data: bytes) -> bytes:
        whole = name + data
        return struct.pack(">I", len(data)) + whole + struct.pack(">I", zlib.crc32(whole))

    head = struct.pack(">IIBBBBB", width, height, 8, 6, 0, 0, 0)
    rows = zlib.compress(bytes(10_000_000))
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", rows) + chunk(b"IEND", b"")


def many_frames(form: str, count: int = 60) -> bytes:
    out = io.BytesIO()
    frames = [Image.new("P", (1_200, 1_200), shade) for shade in range(count)]
    frames[0].save(out, form, save_all=True, append_images=frames[1:])
    return out.getvalue()


def font_with_a_bad(table: str) -> bytes:
    file = Path("src/mortiser/fonts/Rubik_500Medium.ttf")
    found = TTFont(file).reader.tables[table]
    data = bytearray(file.read_bytes())
    data[found.offset : found.offset + found.length] = b"\xff" * found.length
    return bytes(data)


@pytest.fixture(autouse=True)
def short(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(apart, "SECONDS", 3.0)


@pytest.mark.parametrize(
    "drawing",
    [NOISE, uses(9), nested(40_000)],
    ids=["filter that never ends", "drawings in drawings", "nested"],
)
def test_a_drawing_that_never_ends_is_refused(drawing: str) -> None:
    began = time.monotonic()
    with pytest.raises(BadInput, match=r"Nothing was taken|damaged|cannot be drawn"):
        done_apart(checking.checked, SVG.format(drawing).encode())
    assert time.monotonic() - began < 60


@pytest.mark.parametrize(
    "data",
    [png_that_says(100_000, 100_000), png_that_says(7_000, 7_000), many_frames("GIF", 120)],
    ids=["huge", "half there", "GIF"],
)
def test_bombs_are_refused_or_small(data: bytes) -> None:
    with pytest.raises(BadInput, match=r"Save it smaller|no picture that can be read|as a film"):
        done_apart(checking.checked, data)


def test_frames_that_are_all_the_same_are_one_picture() -> None:
    taken = done_apart(checking.checked, many_frames("WEBP"))
    assert (taken.width, taken.height) == (1_200, 1_200)


@pytest.mark.parametrize("table", ["glyf", "cmap", "GSUB", "head", "name"])
def test_fonts_with_bad_tables_are_refused(table: str) -> None:
    with pytest.raises(BadInput, match="font"):
        done_apart(own.checked, font_with_a_bad(table))


def test_what_is_read_apart_comes_back_whole() -> None:
    text = "1\n00:00:01,000 --> 00:00:02,500\n<i>We</i> mend\nkettles\n"
    assert done_apart(registry.read, text) == registry.read(text)
    with pytest.raises(BadInput, match="No caption could be read"):
        done_apart(registry.read, "nothing")


def test_what_takes_too_much_memory_is_refused(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(apart, "MEMORY", 600 * 1024**2)
    with pytest.raises(BadInput, match="memory"):
        done_apart(bytearray, 10**9)


def test_a_process_that_falls_over_is_said() -> None:
    with pytest.raises(BadInput, match="Nothing was taken"):
        done_apart(sys.exit, 3)
