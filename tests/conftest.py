"""Every process of the tests hears by recorded engines, except where a test is about the engines."""

import os
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, settings

# No test depends on how busy the machine is.
settings.register_profile("patient", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("patient")
ROOT = Path(__file__).parents[1]
RECORDED = ROOT / "tests" / "recorded"
os.environ["PYTHONPATH"] = os.pathsep.join(
    [str(RECORDED), str(ROOT), *filter(None, [os.environ.get("PYTHONPATH")])]
)
sys.path.insert(0, str(RECORDED))
import sitecustomize  # noqa: E402, F401


@pytest.fixture(scope="session")
def shelf() -> Iterator[Any]:
    """A clip library, made up (mortiser.standins.shelf.ShelfServer)."""
    # Few tests need it, and it takes long to import.
    from mortiser.standins.shelf import ShelfServer

    running = ShelfServer()
    yield running
    running.close()


LONGEST = (
    "test_killed", "test_parity", "test_hands", "test_processes", "test_workbench", "test_microphone",
    "test_recordings", "test_trim", "test_hostile", "test_nothing_grows", "test_one_video", "test_address",
    "test_pace", "test_making", "test_dress", "test_monkey", "test_frame", "test_delivering", "test_wheel",
    "test_quick", "test_tones", "test_api",
)  # fmt: skip
"""Files that take longest come first, so that both processes end at about the same time."""


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Put the longest files first."""
    order = {name: number for number, name in enumerate(LONGEST)}
    items.sort(key=lambda item: order.get(item.path.stem, len(LONGEST)))
