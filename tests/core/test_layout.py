from dataclasses import replace
from itertools import combinations, pairwise
from pathlib import Path

import pytest
from bidi import get_display
from hypothesis import given
from hypothesis import strategies as st

import mortiser.fonts
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.style.finish.model import Pattern
from mortiser.core.style.finish.parts import Place
from mortiser.core.style.layout.bidi import levels, runs_left, visual_order
from mortiser.core.style.layout.block import lay_out, lay_out_cue
from mortiser.core.style.layout.lines import break_lines
from mortiser.core.transcript.words import Cue, Shown
from mortiser.emoji import emoji_png
from mortiser.fonts import FALLBACKS, font_book

LACQUER = FINISHES["Lacquer"]

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
        assert word.box.left >= 0
        assert word.box.right <= width
        assert word.box.top >= 0
        assert word.box.bottom <= height
    assert len(block.lines) <= finish.max_lines


def test_lines_are_centred_and_words_do_not_touch() -> None:
    block = lay_out(["not", "the", "element."], LACQUER, 1080, 1920, font_book())
    for first, last in block.lines:
        line = block.words[first:last]
        left, right = line[0].box.left, line[-1].box.right
        assert left + right == pytest.approx(1080, abs=0.1)
        for a, b in pairwise(line):
            assert b.box.left - (a.box.right) > 10


WEST = "Ωmega чайник été Việt الغلاية קומקום केतली क़लम tea☕ 🔧"
EAST = "修理水壶， 茶壺を直す 주전자를 「ケトル」"


@pytest.mark.parametrize("text", [*WEST.split(), *EAST.split()])
@pytest.mark.parametrize("family", font_book().families)
def test_no_letter_is_a_missing_glyph(text: str, family: str) -> None:
    fonts = font_book()
    runs = fonts._runs(text, family, 700)
    assert "".join(run.text for run in runs) == text
    assert all(run.face.covers(ch) for run in runs if run.face for ch in run.text)
    assert fonts.shape(text, family, 700, 80.0).advance > 20


@pytest.mark.parametrize(
    ("text", "emoji"),
    [
        ("first👍🏽", ["👍🏽"]),
        ("❤️", ["❤"]),
        ("👩‍🔧🧵!", ["👩‍🔧", "🧵"]),
        ("5️⃣", ["5⃣"]),
        ("£5", []),
        ("©1999™", []),
        ("#mend", []),
    ],
)
def test_emoji_are_found_whole_and_letters_are_left_alone(text: str, emoji: list[str]) -> None:
    stamps = font_book().shape(text, "Rubik", 800, 80.0).stamps
    assert [stamp.emoji for stamp in stamps] == emoji
    for stamp in stamps:
        assert emoji_png(stamp.emoji, int(stamp.side))[:4] == b"\x89PNG"


def test_shaping_scales_with_the_size() -> None:
    fonts = font_book()
    small, large = (fonts.shape("kettle", "Rubik", 800, size) for size in (40.0, 80.0))
    assert large.advance == pytest.approx(2 * small.advance)
    assert small.path.startswith("M")
    assert len(small.letters) == 6
    assert "".join(letter.path for letter in small.letters) == small.path


def test_letters_stand_apart_by_a_gap_but_arabic_ones_stay_joined() -> None:
    fonts = font_book()
    plain, wide = (fonts.shape("kettle", "Rubik", 800, 80.0, gap) for gap in (0.0, 10.0))
    assert wide.advance == pytest.approx(plain.advance + 5 * 10)
    joined = [fonts.shape("الغلاية", "Rubik", 800, 80.0, gap).path for gap in (0.0, 10.0)]
    assert joined[0] == joined[1]


def test_every_finish_names_a_font_that_is_there() -> None:
    families = font_book().families
    for finish in FINISHES.values():
        assert finish.weight in families[finish.font], finish.name
    assert set(FALLBACKS) <= set(families)


def test_every_font_has_its_licence_beside_it() -> None:
    folder = Path(mortiser.fonts.__file__).parent
    licences = {file.name.removesuffix("-OFL.txt") for file in folder.glob("*-OFL.txt")}
    assert {name.lower().replace(" ", "-") for name in font_book().families} == licences


def words_from_left(texts: list[str]) -> list[str]:
    block = lay_out(texts, LACQUER, 1920, 1080, font_book())
    assert len(block.lines) == 1
    return [texts[i] for i in sorted(range(len(texts)), key=lambda i: block.words[i].x)]


def test_lines_run_the_way_their_script_does() -> None:
    assert words_from_left(["mend", "the", "kettle"]) == ["mend", "the", "kettle"]
    assert words_from_left(["أصلح", "الغلاية", "اليوم"]) == ["اليوم", "الغلاية", "أصلح"]
    # Latin words inside a right-to-left line keep their own order.
    mixed = ["תקן", "Lantern", "Lane", "היום"]
    assert words_from_left(mixed) == ["היום", "Lantern", "Lane", "תקן"]
    assert words_from_left(["the", "קומקום", "ישן", "one"]) == ["the", "ישן", "קומקום", "one"]


def test_marks_stand_where_the_line_ends() -> None:
    # A right-to-left line puts a Latin word's question mark on its left.
    ltr = font_book().shape("tea?", "Rubik", 800, 80.0, 0.0, False)
    rtl = font_book().shape("tea?", "Rubik", 800, 80.0, 0.0, True)
    assert [letter.x for letter in ltr.letters] == sorted(letter.x for letter in ltr.letters)
    assert min(rtl.letters, key=lambda letter: letter.x).path != ltr.letters[0].path


ALPHABET = "ab אב ا ١2.,!-"


@given(st.text(ALPHABET, max_size=14))
def test_levels_give_the_order_of_another_implementation(text: str) -> None:
    leftwards = runs_left(text)
    order = visual_order(levels(text, leftwards))
    assert sorted(order) == list(range(len(text)))
    shown = "".join(text[i] for i in order)
    wanted = get_display(text, base_dir="R" if leftwards else "L")
    assert shown == wanted.translate(str.maketrans("()", ")("))


@pytest.mark.parametrize("finish", FINISHES.values(), ids=list(FINISHES))
def test_a_line_ends_where_somebody_said_so(finish) -> None:
    said = ["bring", "your", "kettle,", "your", "chair", "or", "your", "radio"]
    block = lay_out(said, finish, 1080, 1920, font_book(), forced=(1, 5))
    starts = [first for first, _ in block.lines]
    assert {1, 5} <= set(starts)
    assert [i for a, b in block.lines for i in range(a, b)] == list(range(len(said)))
    right = max(word.box.right for word in block.words)
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
        Shown(t, i, i)
        for i, t in enumerate(["So", "before", "you", "throw", "it", "away,", "open"])
    ]
    words[3] = replace(words[3], accent=number)
    block = lay_out_cue(Cue(1, tuple(words), 0, 1), finish, (1080, 1920), font_book())
    accent = finish.accent(number)
    assert accent
    assert block.words[3].scale == accent.scale
    for first, last in block.lines:
        stood = {
            round(word.y + (word.accent.lift * block.size if word.accent else 0), 6)
            for word in block.words[first:last]
        }
        assert len(stood) == 1
    for one, after in pairwise(block.line_boxes):
        assert one.bottom <= after.top + 0.01
    assert all(w.box.left >= 0 and w.box.right <= 1080 for w in block.words)


@pytest.mark.parametrize("align", ["left", "centre", "right"])
@pytest.mark.parametrize("across", ["left", "centre", "right"])
@pytest.mark.parametrize("down", ["top", "middle", "bottom"])
def test_a_place_holds_its_box(align: str, across: str, down: str) -> None:
    place = Place(across=across, down=down, dx=0, dy=0, width=0.5)
    finish = LACQUER.model_copy(update={"place": place, "align": align, "size": 0.06})
    box = lay_out(["mend", "it"], finish, 1000, 1000, font_book()).box
    left = {"left": 50, "centre": 250, "right": 450}[across]
    spare = 500 - box.width
    wanted = left + {"left": 0, "centre": spare / 2, "right": spare}[align]
    assert box.left == pytest.approx(wanted, abs=0.1)
    tops = {"top": 50, "middle": 500 - box.height / 2, "bottom": 950 - box.height}
    assert box.top == pytest.approx(tops[down], abs=0.1)


def test_a_pattern_dresses_lines_and_words_but_not_marked_ones() -> None:
    said = ["bring", "your", "kettle", "or", "your", "radio"]
    by_line = LACQUER.model_copy(update={"pattern": Pattern(by="line", cycle=(0, 2))})
    block = lay_out(
        said,
        by_line,
        1080,
        1920,
        font_book(),
        forced=(3,),
        accents=[None, LACQUER.accents[2], None, None, None, None],
    )
    for line, (first, last) in enumerate(block.lines):
        for word in block.words[first:last]:
            marked = word is block.words[1]
            assert word.accent == LACQUER.accent(3 if marked else [0, 2][line % 2])
    by_word = LACQUER.model_copy(update={"pattern": Pattern(by="word", cycle=(0, 0, 1))})
    block = lay_out(said, by_word, 1080, 1920, font_book())
    assert [word.accent == LACQUER.accent(1) for word in block.words] == [False, False, True] * 2
