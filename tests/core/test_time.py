import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.errors import BadInput
from mortiser.core.time import parse_timecode, timecode


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
