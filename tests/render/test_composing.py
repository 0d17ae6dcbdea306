"""What is seen besides the clips, in what is delivered, in stills and in the preview: the same."""

from fractions import Fraction
from pathlib import Path

import av
import cv2
import numpy as np
import pytest

from mortiser.core.assembly.assembled import Assembled, PartLook
from mortiser.core.assembly.covering import covers
from mortiser.core.assembly.cutaway import Cutaway, CutawayPlace, RecordingSeen
from mortiser.core.assembly.grade import Grade, GradedSource, Grades
from mortiser.core.assembly.joining import Joins, joined
from mortiser.core.assembly.transition import Transition
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.clip_framing import ClipFraming
from mortiser.core.framing.shape import FramedStretch
from mortiser.render.burn import burn
from mortiser.render.plan import RenderPlan
from mortiser.render.segments import write_segment
from mortiser.render.still import still
from tests.recordings import make_video
from tests.render.test_plan import SECOND, brightness, ready, recording, sound_of

SIZE = (160, 120)
CUT = Timeline([Clip(1, 0, SECOND), Clip(1, 3 * SECOND, 4 * SECOND)])
"""The first and the last second of four, whose blue grows to 255."""
FRAMINGS = [ClipFraming()] * 2


@pytest.fixture(scope="module")
def talk(tmp_path_factory: pytest.TempPathFactory) -> Path:
    return make_video(tmp_path_factory.mktemp("talk") / "talk.mp4", seconds=4.0)


def plan(talk: Path, assembled: Assembled, timeline: Timeline = CUT, **more) -> RenderPlan:
    both = {1: recording(talk), 2: recording(talk)}
    return RenderPlan(timeline, both, SIZE, rate=Fraction(25), assembled=assembled, **more)


def dissolving(length_us: int = 800_000) -> Assembled:
    how = Transition(kind="dissolve", length_us=length_us, eased=False)
    return Assembled(joins=joined(CUT, Joins(where="everywhere", transition=how), FRAMINGS))


def blue_at(at_s: float) -> float:
    """Of the recording."""
    return 255 * at_s / 4


def pixels(png: bytes) -> np.ndarray:
    return cv2.imdecode(np.frombuffer(png, np.uint8), cv2.IMREAD_COLOR).astype(float)


def test_clips_go_over_and_nothing_gets_longer(talk: Path, tmp_path: Path) -> None:
    burn(plan(talk, dissolving()), tmp_path / "out.mp4", ready)
    burn(plan(talk, Assembled()), tmp_path / "plain.mp4", ready)
    seen = brightness(tmp_path / "out.mp4")
    expected = []
    for number in range(50):
        at = number / 25
        share = min(1.0, max(0.0, (at - 0.6) / 0.8))
        # Beyond the recording's end its last frame stands.
        expected.append(blue_at(at) * (1 - share) + blue_at(min(3.96, at + 2)) * share)
    assert [blue for _, blue in seen] == pytest.approx(expected, abs=5)
    one, other = (sound_of(tmp_path / f"{name}.mp4")[0] for name in ("out", "plain"))
    assert len(one) == len(other)
    assert np.abs(one - other).max() < 0.02, "what is heard is as it was"


def test_parts_of_the_preview_and_stills_show_the_same(talk: Path, tmp_path: Path) -> None:
    assembled = dissolving()
    whole = plan(talk, assembled)
    found = []
    for index, placed in enumerate(CUT.placed):
        out = tmp_path / f"{index}.mp4"
        look = PartLook(ClipFraming(), assembled.within(placed.at_us, placed.end_us), index % 2)
        clip = placed.clip
        write_segment(
            recording(talk), (clip.start_us, clip.end_us), SIZE, out, Fraction(25), None, look,
            source_id=1,
        )  # fmt: skip
        found += [blue for _, blue in brightness(out)]
    burn(whole, tmp_path / "out.mp4", ready)
    assert found == pytest.approx([blue for _, blue in brightness(tmp_path / "out.mp4")], abs=3)
    for at in (0.5, 0.7, 0.99, 1.2, 1.6):
        blue = pixels(still(whole, round(at * SECOND)))[..., 0].mean()
        assert blue == pytest.approx(found[round(at * 25)], abs=6)


def test_a_stretch_that_begins_in_a_transition_shows_it_from_there(talk: Path) -> None:
    assembled = dissolving()
    from_us = 900_000
    part = Timeline([Clip(1, 900_000, SECOND), Clip(1, 3 * SECOND, 4 * SECOND)])
    cut = plan(talk, assembled.within(from_us, 2 * SECOND), part)
    for at in (0, 200_000, 400_000):
        one, other = still(cut, at), still(plan(talk, assembled), at + from_us)
        assert np.abs(pixels(one) - pixels(other)).max() <= 2


def over(**more) -> Assembled:
    during = FramedStretch(source_id=1, start_us=200_000, end_us=800_000)
    cutaway = Cutaway(
        id=1, during=during, seen=RecordingSeen(source_id=2, from_us=3 * SECOND), **more
    )
    return Assembled(covers=covers(CUT, [cutaway]))


def test_a_picture_in_the_picture_leaves_the_rest_in_sight(talk: Path) -> None:
    place = CutawayPlace(x=0.5, y=0.5, width=0.5, aspect=1.0, corner=0.25, border=0)
    shown = pixels(still(plan(talk, over(place=place)), 500_000))
    plain = pixels(still(plan(talk, Assembled()), 500_000))
    assert shown[60, 80, 0] == pytest.approx(blue_at(3.28), abs=8)
    assert np.abs(shown[:15] - plain[:15]).max() <= 1, "beside it nothing changes"
    assert np.abs(shown[21:24, 41:44] - plain[21:24, 41:44]).max() < 30, "a corner is round"


def test_its_line_and_how_much_can_be_seen_through_it(talk: Path) -> None:
    place = CutawayPlace(
        x=0.5, y=0.5, width=0.5, corner=0, border=0.05, border_colour=(255, 255, 255, 255)
    )
    lined = pixels(still(plan(talk, over(place=place)), 500_000))
    assert lined[60, 42].min() > 225, "white at its left"
    assert lined[60, 80, 0] == pytest.approx(blue_at(3.28), abs=8)
    half = pixels(still(plan(talk, over(opacity=0.5)), 500_000))
    assert half[..., 0].mean() == pytest.approx((blue_at(0.5) + blue_at(3.28)) / 2, abs=8)


def test_it_comes_and_goes_as_it_was_told(talk: Path, tmp_path: Path) -> None:
    how = Transition(kind="dissolve", length_us=200_000, eased=False)
    burn(plan(talk, over(comes=how, goes=how)), tmp_path / "out.mp4", ready)
    blues = [blue for _, blue in brightness(tmp_path / "out.mp4")]

    def expected(number: int) -> float:
        at = number / 25
        share = min(1, max(0, (at - 0.2) / 0.2), max(0, (0.8 - at) / 0.2))
        return blue_at(at) * (1 - share) + blue_at(min(3.96, 3 + at - 0.2)) * share

    for number in (4, 6, 7, 9, 12, 16, 17, 18, 19, 21):
        assert blues[number] == pytest.approx(expected(number), abs=9), number


def test_a_picture_in_the_picture_comes_within_its_place(talk: Path) -> None:
    place = CutawayPlace(x=0.5, y=0.5, width=0.5, corner=0, border=0)
    how = Transition(kind="push", length_us=200_000, eased=False, direction="left")
    shown = pixels(still(plan(talk, over(place=place, comes=how)), 300_000))
    plain = pixels(still(plan(talk, Assembled()), 300_000))
    assert np.abs(shown[:, :36] - plain[:, :36]).max() <= 1
    assert shown[60, 110, 0] > 150 > shown[60, 45, 0], "half of it has come, from the right"


def test_what_is_graded(talk: Path, tmp_path: Path) -> None:
    grey, dark = Grade(saturation=-1), Grade(exposure=-1)
    for grades in (
        Grades(whole=grey), Grades(sources=(GradedSource(source_id=1, grade=grey),)),
    ):  # fmt: skip
        shown = pixels(still(plan(talk, Assembled(grades=grades)), 500_000))
        assert np.abs(shown[..., 0] - shown[..., 2]).max() <= 3
    other = Grades(sources=(GradedSource(source_id=2, grade=dark),))
    plain = pixels(still(plan(talk, Assembled()), 500_000))
    assert np.array_equal(pixels(still(plan(talk, Assembled(grades=other)), 500_000)), plain)
    # A recording that is otherwise untouched keeps the times of its frames.
    whole = Timeline([Clip(1, 0, recording(talk).duration_us)])
    burn(plan(talk, Assembled(grades=Grades(whole=grey)), whole), tmp_path / "grey.mp4", ready)
    burn(plan(talk, Assembled(), whole), tmp_path / "plain.mp4", ready)
    times = []
    for name in ("grey", "plain"):
        with av.open(str(tmp_path / f"{name}.mp4")) as reading:
            frames = list(reading.decode(video=0))
            times.append([frame.pts for frame in frames])
            if name == "grey":
                assert frames[50].to_ndarray()[120:].std() < 3
    assert times[0] == times[1]


def test_its_own_sound_is_heard_over_the_talk_or_under_it(talk: Path, tmp_path: Path) -> None:
    loud = {}
    for sound in ("off", "quiet", "heard"):
        burn(plan(talk, over(sound=sound)), tmp_path / f"{sound}.mp4", ready)
        samples = sound_of(tmp_path / f"{sound}.mp4")[0]
        rate = len(samples) / 2
        loud[sound] = [
            float(np.sqrt(np.mean(samples[round(a * rate) : round(b * rate)] ** 2)))
            for a, b in ((0.05, 0.15), (0.3, 0.7), (0.85, 0.95))
        ]
    for sound in ("quiet", "heard"):
        assert loud[sound][0] == pytest.approx(loud["off"][0], rel=0.05)
        assert loud[sound][2] == pytest.approx(loud["off"][2], rel=0.05)
    assert loud["off"][1] < loud["quiet"][1] * 1.02
    assert loud["heard"][1] > 1.15 * loud["off"][1]
    # A part of the preview that begins in it sounds like the whole.
    parts = []
    for sound in ("off", "heard"):
        out, assembled = tmp_path / f"{sound}-part.mp4", over(sound=sound)
        look = PartLook(assembled=assembled.within(500_000, SECOND))
        write_segment(
            recording(talk), (500_000, SECOND), SIZE, out, Fraction(25), None, look,
            source_id=1, seen={2: recording(talk)},
        )  # fmt: skip
        samples = sound_of(out)[0].astype(float)
        parts.append(float(np.sqrt(np.mean(samples[: round(0.4 * len(samples))] ** 2))))
    assert parts[1] / parts[0] == pytest.approx(loud["heard"][1] / loud["off"][1], rel=0.1)
