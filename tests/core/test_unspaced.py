"""Scripts without spaces: cut into words, put together again, laid out without gaps."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.style.layout.block import lay_out
from mortiser.core.transcript.carry import carry
from mortiser.core.transcript.search import find
from mortiser.core.transcript.unspaced import joined, tight
from mortiser.core.transcript.words import Cue, Shown, tokens
from mortiser.fonts import font_book

CHINESE = "今天这个水壶送来的时候是冷的，我们来修理它吧。"
JAPANESE = "今日はとても良い天気ですね。修理しましょう。"


@pytest.mark.parametrize(
    "text", [CHINESE, JAPANESE, "ฉันชอบซ่อมกาต้มน้ำ", "kettle 水壶坏了 iPhone很好用"]
)
def test_a_line_is_cut_into_words_and_put_together_again(text: str) -> None:
    words = tokens(text)
    assert len(words) > 2
    assert all(word.split() == [word] for word in words)
    assert joined(words).replace(" ", "") == text.replace(" ", "")
    assert tokens(joined(words)) == words


def test_closing_signs_begin_no_word() -> None:
    assert not any(word[0] in "，。、" for word in tokens(CHINESE) + tokens(JAPANESE))


def test_spaced_scripts_are_left_alone() -> None:
    text = "Good morning from 서울 좋은 아침"
    assert tokens(text) == text.split()
    assert joined(text.split()) == text
    assert not tight("kettle", "水壶")


@given(st.data())
def test_deleting_words_leaves_the_others_their_times(data: st.DataObject) -> None:
    texts = tokens(CHINESE)
    old = [Shown(t, i * 300_000, (i + 1) * 300_000, id=i + 1) for i, t in enumerate(texts)]
    kept = data.draw(st.sets(st.integers(0, len(old) - 1), min_size=1).map(sorted))
    left = [old[i] for i in kept]
    fresh = carry(old, joined([w.text for w in left]), (0, 10**9))
    assert joined([w.text for w in fresh]) == joined([w.text for w in left])
    same = {w.id: (w.start_us, w.end_us) for w in old}
    assert all((w.start_us, w.end_us) == same[w.id] for w in fresh if w.id and w.text in texts)
    assert sum(w.id != 0 for w in fresh) >= len(fresh) - 2


def test_lines_have_no_gaps_between_the_words() -> None:
    finish = FINISHES["Linen"]
    texts = tokens("水壶坏了")
    block = lay_out(texts, finish, 1080, 1920, font_book())
    whole = lay_out(["水壶坏了"], finish, 1080, 1920, font_book())
    assert len(block.words) > 1
    assert block.line_boxes[0].width == pytest.approx(whole.line_boxes[0].width, abs=1.0)
    first, second = block.words[:2]
    assert second.x == pytest.approx(first.x + first.shaped.advance, abs=0.5)


def test_a_long_line_breaks_where_it_may() -> None:
    block = lay_out(tokens(CHINESE), FINISHES["Lacquer"], 1080, 1920, font_book())
    assert len(block.lines) > 1
    assert block.size > 0.9 * FINISHES["Lacquer"].size * 1080


def test_text_is_found_over_words_without_spaces() -> None:
    words = tuple(
        Shown(t, i * 300_000, (i + 1) * 300_000, id=i + 1) for i, t in enumerate(tokens(CHINESE))
    )
    cue = Cue(1, words, 0, 10**7, id=1)
    (match,) = find([cue], "水壶送来")
    assert joined([w.text for w in words[match.first : match.last + 1]]) == "水壶送来"
