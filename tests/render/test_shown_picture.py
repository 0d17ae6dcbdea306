"""Pictures that can be seen through, and such that move, as cutaways show them."""

import io
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from mortiser import pictures
from mortiser.core.common.errors import BadInput
from mortiser.core.framing.clip_framing import ClipFraming
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.framing.shape import Framing
from mortiser.media.picture import plane_of
from mortiser.pictures import checking
from mortiser.pictures.checking import checked
from mortiser.render.shown_picture import ShownPicture

SIZE = (64, 64)
FILLS = ClipFraming(Framing(fit="fill"))
RED, BLUE = (220, 30, 30, 255), (30, 30, 220, 255)


@pytest.fixture(autouse=True)
def here(tmp_path: Path) -> None:
    pictures.use_pictures(tmp_path)


def kept(data: bytes) -> OwnPicture:
    found = checked(data)
    pictures.keep(found)
    return found.named("It")


def saved(image: Image.Image, kind: str, **how: object) -> bytes:
    out = io.BytesIO()
    image.save(out, kind, **how)
    return out.getvalue()


def moving(kind: str, shows: tuple[int, ...] = (200, 300)) -> bytes:
    frames = [Image.new("RGBA", (40, 40), colour) for colour in (RED, BLUE)]
    return saved(frames[0], kind, save_all=True, append_images=frames[1:], duration=list(shows),
                 loop=0, **({"lossless": True} if kind == "WEBP" else {}))  # fmt: skip


def luma(shown: object) -> float:
    return float(plane_of(shown.frame, 0).mean())


def test_what_can_be_seen_through_is_told_and_colours_stay_clean_at_its_edges() -> None:
    image = Image.new("RGBA", (128, 128), (0, 0, 0, 0))
    image.paste(RED, (32, 32, 96, 96))
    picture = kept(saved(image, "PNG"))
    assert picture.through
    shown = ShownPicture(picture).at(SIZE, FILLS, 0, 0)
    weights = shown.weights
    assert weights[32, 32] == 1
    assert weights[4, 4] == 0
    assert abs(weights.mean() - 0.25) < 0.03
    # Where it begins to be seen it is as red as in its middle.
    plane = plane_of(shown.frame, 0)
    edge = (weights > 0.1) & (weights < 0.9)
    assert np.abs(plane[edge].astype(int) - int(plane[32, 32])).max(initial=0) <= 12


def test_a_picture_without_holes_covers_all() -> None:
    shown = ShownPicture(kept(saved(Image.new("RGB", (50, 50), "white"), "JPEG"))).at(
        SIZE, FILLS, 0, 0
    )
    assert shown.weights is None


@pytest.mark.parametrize("kind", ["GIF", "WEBP", "PNG"])
def test_a_moving_picture_moves_and_begins_again(kind: str) -> None:
    picture = kept(moving(kind))
    assert picture.lasts_us == 500_000
    shown = ShownPicture(picture)
    seen = [luma(shown.at(SIZE, FILLS, at, at)) for at in range(0, 1_200_000, 100_000)]
    red, blue = seen[0], seen[3]
    assert abs(red - blue) > 10
    turns = [red, red, blue, blue, blue] * 3
    assert all(abs(one - turn) < 2 for one, turn in zip(seen, turns, strict=False))
    assert abs(luma(shown.at(SIZE, FILLS, 0, 100_000)) - red) < 2, "back again"


def test_frames_that_say_no_time_are_shown_for_some() -> None:
    assert kept(moving("GIF", (0, 0))).lasts_us == 40_000


def test_one_that_moves_for_too_long_is_told_to_be_a_film(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(checking, "MOST_MOVING_PIXELS", 3_000)
    with pytest.raises(BadInput, match="as a film"):
        checked(moving("GIF"))


def test_one_that_is_gone_is_passed_over(tmp_path: Path) -> None:
    picture = kept(moving("GIF"))
    (tmp_path / f"{picture.digest}.png").unlink()
    assert ShownPicture(picture).at(SIZE, FILLS, 0, 0) is None
