import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.spans import Span, SpanMap

ordered = st.lists(st.tuples(st.integers(0, 500), st.integers(1, 500)), min_size=1, max_size=6)


def build(parts: list[tuple[int, int]]) -> SpanMap:
    at, spans = 0, []
    for skip, length in parts:
        spans.append(Span(1, at + skip, at + skip + length))
        at += skip + length
    return SpanMap(spans)


@given(ordered, st.data())
def test_there_and_back(parts: list[tuple[int, int]], data: st.DataObject) -> None:
    spans = build(parts)
    moment = data.draw(st.integers(0, spans.duration_us - 1))
    assert spans.to_piece(spans.to_source(moment)) == moment


@given(ordered, st.integers(0, 5_000), st.integers(0, 5_000))
def test_order_is_kept(parts: list[tuple[int, int]], a: int, b: int) -> None:
    spans = build(parts)
    low, high = sorted((a, b))
    assert spans.to_piece(low) <= spans.to_piece(high) <= spans.duration_us


def test_a_cut_moment_maps_to_the_next_kept_one() -> None:
    spans = SpanMap([Span(1, 0, 100), Span(1, 200, 300)])
    assert spans.to_piece(150) == 100
    assert spans.to_source(100) == 200


def test_an_empty_span_is_refused() -> None:
    with pytest.raises(ValueError, match="length"):
        Span(1, 5, 5)
