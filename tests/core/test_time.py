import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.common.errors import BadInput
from mortiser.core.common.time import parse_entry, parse_timecode, timecode


@pytest.mark.parametrize(
    ("text", "us"),
    [
        ("0", 0),
        ("62.5", 62_500_000),
        ("1:02.500", 62_500_000),
        (" 1:02,5 ", 62_500_000),
        ("1:00:00.001", 3_600_001_000),
        ("00:00:08.933", 8_933_000),
        ("90:00", 5_400_000_000),
    ],
)
def test_times_as_people_type_them(text: str, us: int) -> None:
    assert parse_timecode(text) == us


@pytest.mark.parametrize("text", ["", "soon", "1:75", "1:60:00.0", "-3", "1.2.3", "1:2:3:4"])
def test_what_is_no_time_is_refused_with_an_example(text: str) -> None:
    with pytest.raises(BadInput, match=r"1:02\.500"):
        parse_timecode(text)


@given(st.integers(0, 10**12))
def test_a_written_time_reads_back_to_the_millisecond(us: int) -> None:
    assert abs(parse_timecode(timecode(us)) - us) <= 500
    assert parse_timecode(timecode(us, ",")) == parse_timecode(timecode(us))


def test_rounding_carries_into_the_seconds() -> None:
    assert timecode(59_999_600) == "00:01:00.000"


@pytest.mark.parametrize(
    ("text", "us"),
    [
        ("1:02.5", 62_500_000),
        ("50f", 2_000_000),
        ("0:01:02:05", 62_200_000),
        ("+0.2", 10_200_000),
        ("+ 5 f", 10_200_000),
        ("-3f", 9_880_000),
        ("−1:00.5", -50_500_000),
    ],
)
def test_times_are_typed_in_several_ways(text: str, us: int) -> None:
    assert parse_entry(text, 10_000_000, 40_000, below_zero=True) == us


def test_a_time_before_the_start_is_refused() -> None:
    with pytest.raises(BadInput, match="before the start"):
        parse_entry("-3", 1_000_000, 40_000)
    with pytest.raises(BadInput, match="not a time"):
        parse_entry("+", 0, 40_000)
