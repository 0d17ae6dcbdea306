"""Attack the application and count what fails: ``python -m tests.torture [PART ...] [--whole]``.

Without ``--whole`` all parts together take less than five minutes.
"""

from __future__ import annotations

import argparse
import logging
import sys
from collections.abc import Callable

from tests.torture import day, delivering, disk, files, kills, load, requests
from tests.torture.tally import Tally

PARTS: dict[str, Callable[[bool], Tally]] = {
    "kills": lambda whole: kills.attack(102 if whole else 9),
    "delivering": lambda whole: delivering.attack(100 if whole else 8),
    "files": lambda whole: files.attack(150 if whole else 24),
    "requests": lambda whole: requests.attack(5_000 if whole else 500),
    "disk": lambda whole: disk.attack() if whole else disk.attack(disk.SITUATIONS[::3]),
    "load": lambda whole: load.attack(70.0 if whole else 15.0),
    "day": lambda whole: day.attack(600.0 if whole else 40.0),
}


def main() -> int:
    """Run the parts named, or all; returns 1 when anything failed."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("parts", nargs="*", choices=[*PARTS, []], help="all where none is named")
    parser.add_argument("--whole", action="store_true", help="every kill, file and situation")
    options = parser.parse_args()
    logging.disable(logging.WARNING)
    failed = 0
    for name in options.parts or PARTS:
        tally = PARTS[name](options.whole)
        failed += len(tally.failures)
        print(tally, flush=True)
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
