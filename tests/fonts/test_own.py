"""Fonts of one's own: what is refused, and that what is taken is clean and shapes."""

from io import BytesIO
from pathlib import Path

import pytest
from fontTools.fontBuilder import FontBuilder
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib import TTFont

from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.style.layout.face import FontFace
from mortiser.fonts import font_book, own, shipped, use_own_fonts

LETTERS = "abcdefghijklmnopqrstuvwxyz"


def font_file(letters: str = LETTERS, family: str = "Lane Hand", fs_type: int = 0) -> bytes:
    """A small made-up font: each letter is a box."""
    names = [".notdef", *letters]
    builder = FontBuilder(1000, isTTF=True)
    builder.setupGlyphOrder(names)
    builder.setupCharacterMap({ord(ch): ch for ch in letters})
    pen = TTGlyphPen(None)
    pen.moveTo((50, 0))
    pen.lineTo((50, 700))
    pen.lineTo((450, 700))
    pen.lineTo((450, 0))
    pen.closePath()
    box = pen.glyph()
    builder.setupGlyf(dict.fromkeys(names, box))
    builder.setupHorizontalMetrics(dict.fromkeys(names, (500, 50)))
    builder.setupHorizontalHeader(ascent=800, descent=-200)
    builder.setupNameTable({"familyName": family, "styleName": "Regular"})
    builder.setupOS2(sTypoAscender=800, sTypoDescender=-200, usWinAscent=800, usWinDescent=200)
    builder.font["OS/2"].fsType = fs_type
    builder.setupPost()
    out = BytesIO()
    builder.save(out)
    return out.getvalue()


def test_a_font_is_cleaned_and_keeps_its_name_and_letters() -> None:
    found = own.checked(font_file())
    assert (found.family, found.weight) == ("Lane Hand", 400)
    font = TTFont(BytesIO(found.data))
    assert {ord(ch) for ch in LETTERS} <= set(font.getBestCmap())
    assert {tag.strip() for tag in font.keys()} - {"GlyphOrder"} <= own.KEPT_TABLES  # noqa: SIM118


def test_a_shipped_font_loses_its_hints_and_shapes_as_before() -> None:
    data = shipped()["Rubik"][800]
    found = own.checked(data)
    assert "prep" in TTFont(BytesIO(data))
    assert not {"prep", "fpgm", "DSIG"} & set(TTFont(BytesIO(found.data)).keys())
    before, after = (
        FontFace(one).draw("Kéttle", 80.0, 0.0, False, 0.0) for one in (data, found.data)
    )
    assert before == after


def test_a_variable_font_is_pinned_to_bold() -> None:
    font = TTFont(BytesIO(font_file()))
    builder = FontBuilder(font=font)
    builder.setupFvar([("wght", 300, 400, 900, "Weight")], [])
    builder.setupGvar({})
    out = BytesIO()
    font.save(out)
    found = own.checked(out.getvalue())
    assert found.weight == 700
    assert "fvar" not in TTFont(BytesIO(found.data))


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "no font file"),
        (b"%PDF-1.7 and more", "no font file"),
        (b"wOF2" + bytes(100), "WOFF2"),
        (b"ttcf" + bytes(100), "collection"),
        (b"\x00\x01\x00\x00" + bytes(400), "check"),
        (font_file()[:900], "check"),
        (font_file("abc"), "3 letters"),
        (font_file(fs_type=2), "licence"),
    ],
)
def test_what_is_no_usable_font_is_refused_in_words(data: bytes, says: str) -> None:
    with pytest.raises(BadInput, match=says):
        own.checked(data)


def test_any_flipped_byte_is_refused_or_gives_a_font_that_shapes() -> None:
    data = bytearray(font_file())
    for at in range(0, len(data), 61):
        broken = bytearray(data)
        broken[at] ^= 0xFF
        try:
            found = own.checked(bytes(broken))
        except BadInput:
            continue
        assert TTFont(BytesIO(found.data)).getGlyphOrder()


def test_own_fonts_join_the_book_and_leave_it(tmp_path: Path) -> None:
    use_own_fonts(tmp_path / "fonts")
    assert "Lane Hand" not in font_book().families
    own.add(tmp_path / "fonts", own.checked(font_file(family="Lane/Hand _ é")))
    book = font_book()
    assert book.families["Lane/Hand _ é"] == (400,)
    boxes = book.shape("ab", "Lane/Hand _ é", 700, 100.0)
    assert boxes.advance == pytest.approx(100.0)
    # What it lacks comes from the others.
    assert book.shape("кот", "Lane/Hand _ é", 700, 100.0).path
    own.remove(tmp_path / "fonts", "Lane/Hand _ é")
    assert "Lane/Hand _ é" not in font_book().families
    with pytest.raises(NotFound):
        own.remove(tmp_path / "fonts", "Rubik")
