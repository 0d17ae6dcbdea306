from dataclasses import replace
from itertools import combinations, pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.finish.builtin import FINISHES, LACQUER
from mortiser.core.layout.block import lay_out, lay_out_cue
from mortiser.core.layout.lines import break_lines
from mortiser.core.words import Cue, Word
from mortiser.fonts import FALLBACKS, font_book

widths = st.lists(st.integers(1, 90).map(float), min_size=1, max_size=9)


def lines_cost(
    sizes: list[float], ranges: list[tuple[int, int]], limit: float
) -> tuple[int, float]:
    total = 0.0
    for a, b in ranges:
        width = sum(sizes[a:b]) + 5 * (b - a - 1)
        if width > limit and b - a > 1:
            return (999, 0.0)
        total += max(0.0, limit - width) ** 2
    return (len(ranges), total)


@given(widths)
def test_no_breaks_are_better(sizes: list[float]) -> None:
    options = []
    for count in range(len(sizes)):
        for cuts in combinations(range(1, len(sizes)), count):
            edges = [0, *cuts, len(sizes)]
            options.append(lines_cost(sizes, list(pairwise(edges)), 100))
    found = lines_cost(sizes, break_lines(sizes, 5, 100), 100)
    assert found == pytest.approx(min(options))


@pytest.mark.parametrize("finish", FINISHES.values(), ids=list(FINISHES))
@pytest.mark.parametrize("size", [(1080, 1920), (1920, 1080), (1080, 1080), (320, 568)])
@pytest.mark.parametrize(
    "text",
    [
        "mend",
        "Nine times out of ten it is the fuse, not the element of the kettle at all",
        "Pneumonoultramicroscopicsilicovolcanoconiosis",
    ],
)
def test_captions_stay_on_the_frame(finish, size: tuple[int, int], text: str) -> None:
    block = lay_out(text.split(), finish, *size, font_book())
    width, height = size
    for word in block.words:
        assert word.box.x >= 0
        assert word.box.x + word.box.w <= width
        assert word.box.y >= 0
        assert word.box.y + word.box.h <= height
    assert len(block.lines) <= finish.max_lines


def test_lines_are_centred_and_words_do_not_touch() -> None:
    block = lay_out(["not", "the", "element."], LACQUER, 1080, 1920, font_book())
    for first, last in block.lines:
        line = block.words[first:last]
        left, right = line[0].box.x, line[-1].box.x + line[-1].box.w
        assert left + right == pytest.approx(1080, abs=0.1)
        for a, b in pairwise(line):
            assert b.box.x - (a.box.x + a.box.w) > 10


@pytest.mark.parametrize("text", ["Ωmega", "чайник", "été", "Việt", "🔧", "tea☕"])
def test_no_letter_is_a_missing_glyph(text: str) -> None:
    fonts = font_book()
    runs = fonts._runs(text, LACQUER.font)
    assert "".join(run for run, _ in runs) == text
    assert all(face.covers(ch) for run, face in runs for ch in run)
    assert fonts.shape(text, LACQUER.font, 80.0).advance > 20


def test_shaping_scales_with_the_size() -> None:
    fonts = font_book()
    small, large = (fonts.shape("kettle", LACQUER.font, size) for size in (40.0, 80.0))
    assert large.advance == pytest.approx(2 * small.advance)
    assert small.path.startswith("M")


def test_every_finish_names_a_font_that_is_there() -> None:
    faces = font_book()._faces
    assert {finish.font for finish in FINISHES.values()} <= set(faces)
    assert set(FALLBACKS) <= set(faces)


@pytest.mark.parametrize("finish", FINISHES.values(), ids=list(FINISHES))
def test_a_line_ends_where_somebody_said_so(finish) -> None:
    said = ["bring", "your", "kettle,", "your", "chair", "or", "your", "radio"]
    block = lay_out(said, finish, 1080, 1920, font_book(), forced=(1, 5))
    starts = [first for first, _ in block.lines]
    assert {1, 5} <= set(starts)
    assert [i for a, b in block.lines for i in range(a, b)] == list(range(len(said)))
    right = max(word.box.x + word.box.w for word in block.words)
    assert right <= 1080


@given(widths, st.data())
def test_forced_breaks_are_kept_and_the_rest_is_best(
    sizes: list[float], data: st.DataObject
) -> None:
    forced = data.draw(st.sets(st.integers(1, max(1, len(sizes) - 1)), max_size=2))
    found = break_lines(sizes, 5, 100, forced)
    starts = {first for first, _ in found}
    assert {at for at in forced if at < len(sizes)} <= starts
    options = []
    for count in range(len(sizes)):
        for cuts in combinations(range(1, len(sizes)), count):
            if {at for at in forced if at < len(sizes)} <= set(cuts):
                edges = [0, *cuts, len(sizes)]
                options.append(lines_cost(sizes, list(pairwise(edges)), 100))
    assert lines_cost(sizes, found, 100) == pytest.approx(min(options))


@pytest.mark.parametrize("finish", FINISHES.values(), ids=list(FINISHES))
@pytest.mark.parametrize("number", [1, 2, 3, 8])
def test_marked_words_share_a_baseline_and_stay_on_the_frame(finish, number: int) -> None:
    words = [
        Word(t, i, i) for i, t in enumerate(["So", "before", "you", "throw", "it", "away,", "open"])
    ]
    words[3] = replace(words[3], accent=number)
    block = lay_out_cue(Cue(1, tuple(words), 0, 1), finish, (1080, 1920), font_book())
    accent = finish.accent(number)
    assert accent
    assert block.words[3].scale == accent.scale
    for first, last in block.lines:
        assert len({round(word.y, 6) for word in block.words[first:last]}) == 1
    for one, after in pairwise(block.lines):
        upper = max(word.box.y + word.box.h for word in block.words[slice(*one)])
        lower = min(word.box.y for word in block.words[slice(*after)])
        assert upper <= lower + 0.01 * block.size
    assert all(w.box.x >= 0 and w.box.x + w.box.w <= 1080 for w in block.words)
