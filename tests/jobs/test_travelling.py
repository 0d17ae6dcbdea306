"""Jobs can be done by a machine that has no database: all that they are given and give can be sent."""

import pytest

from mortiser.wiring import KINDS
from tests.jobs.travelling import adapters


@pytest.mark.parametrize("kind", KINDS)
def test_what_a_job_is_given_and_gives_is_described(kind: str) -> None:
    given, result = adapters(KINDS[kind])
    assert given.json_schema()["type"] == "object"
    assert result.json_schema()
