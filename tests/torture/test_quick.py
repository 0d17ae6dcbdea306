"""The quick core of the attacks, counted the same way; kills have tests of their own."""

import pytest

from tests.torture import disk, requests


def test_no_hostile_request_is_a_fault() -> None:
    assert requests.attack(60, seed=7).failures == []


def test_full_disks_end_nothing_for_good() -> None:
    try:
        with disk.small_disk():
            pass
    except OSError as error:
        pytest.skip(str(error))
    assert disk.attack((disk.starting_with_work_left,)).failures == []
