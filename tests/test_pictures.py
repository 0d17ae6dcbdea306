"""Pictures of the user's own: read once, made safe, given in any size."""

import io
from collections.abc import Iterator
from pathlib import Path

import pytest
from PIL import Image

from mortiser import pictures
from mortiser.core.common.errors import BadInput, NotFound
from mortiser.pictures.checking import checked

SVG = '<svg xmlns="http://www.w3.org/2000/svg" {size}>{body}</svg>'
RED = '<rect width="10" height="10" fill="#f00"/>'


def file(kind: str, size: tuple[int, int] = (60, 40), **more: object) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", size, (200, 30, 30)).save(out, kind, **more)
    return out.getvalue()


def drawn(body: str = RED, size: str = 'viewBox="0 0 10 10"') -> bytes:
    return SVG.format(size=size, body=body).encode()


@pytest.fixture
def folder(tmp_path: Path) -> Iterator[Path]:
    before = pictures._folder
    pictures.use_pictures(tmp_path / "pictures")
    yield tmp_path / "pictures"
    if before:
        pictures.use_pictures(before)


@pytest.mark.parametrize("kind", ["PNG", "JPEG", "WEBP"])
def test_a_picture_is_read_from_each_format(kind: str) -> None:
    found = checked(file(kind))
    with Image.open(io.BytesIO(found.png)) as image:
        assert (image.format, image.mode, image.size) == ("PNG", "RGBA", (60, 40))
        assert image.getpixel((30, 20))[0] == pytest.approx(200, abs=3)


def test_the_same_pixels_are_the_same_picture() -> None:
    assert checked(file("PNG")).digest == checked(file("PNG", compress_level=1)).digest
    assert checked(file("PNG")).digest != checked(file("PNG", (40, 60))).digest


def test_a_photograph_on_its_side_is_put_upright() -> None:
    exif = Image.Exif()
    exif[0x0112] = 6
    found = checked(file("JPEG", exif=exif))
    assert (found.width, found.height) == (40, 60)


def test_a_large_picture_is_kept_smaller() -> None:
    found = checked(file("PNG", (5_000, 2_500)))
    assert (found.width, found.height) == (2_048, 1_024)


@pytest.mark.parametrize(
    "size", ['viewBox="0 0 20 10"', 'width="20px" height="10px"', 'viewBox="0,0,20,10"']
)
def test_a_drawing_is_drawn_in_its_own_proportions(size: str) -> None:
    found = checked(drawn(size=size))
    assert (found.width, found.height) == (1_600, 800)
    with Image.open(io.BytesIO(found.png)) as image:
        assert image.getpixel((100, 100)) == (255, 0, 0, 255)
        assert image.getpixel((1_500, 100))[3] == 0


def test_what_acts_or_fetches_is_left_out(tmp_path: Path) -> None:
    outside = tmp_path / "secret.png"
    outside.write_bytes(file("PNG", (10, 10)))
    for body in (
        f'<image href="{outside}" width="10" height="10"/>',
        f'<image xmlns:xlink="http://www.w3.org/1999/xlink" xlink:href="file://{outside}" '
        'width="10" height="10"/>',
        f'<g><foreignObject width="10" height="10">{RED}</foreignObject></g>',
        "<script>alert(1)</script>",
    ):
        with Image.open(io.BytesIO(checked(drawn(body)).png)) as image:
            assert image.getextrema()[3] == (0, 0), body


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (b"no picture", "no picture that can be read"),
        (file("PNG")[:60], "no picture that can be read"),
        (file("BMP"), "no picture that can be read"),
        (b"<svg", "damaged"),
        (b"<html></html>", "no drawing"),
        (drawn(size=""), "no size"),
        (drawn(size='viewBox="0 0 1 400"'), "too long"),
        (b'<!DOCTYPE svg [<!ENTITY a "aaaa">]>' + drawn(), "entities"),
        (drawn(" " * 2_000_001), "2 MB"),
        (file("PNG", (9_000, 9_000)), "can be read|60 million"),
    ],
)
def test_what_is_no_picture_is_told_as_such(data: bytes, said: str) -> None:
    with pytest.raises(BadInput, match=said):
        checked(data)


def test_a_picture_is_kept_and_given_in_any_size(folder: Path) -> None:
    found = checked(file("PNG"))
    assert not pictures.is_kept(found.digest)
    with pytest.raises(NotFound, match="Choose it again"):
        pictures.sized_png(found.digest, 10, 10)
    pictures.keep(found)
    pictures.keep(found)
    assert pictures.is_kept(found.digest)
    with Image.open(io.BytesIO(pictures.sized_png(found.digest, 31, 7))) as image:
        assert image.size == (31, 7)
