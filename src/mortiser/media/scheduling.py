"""The place of this process among all others on the machine."""

from __future__ import annotations

import os
from pathlib import Path

TASKS = Path("/proc/self/task")


def take_ordinary_place() -> None:
    """Give all threads of this process their ordinary scheduling back.

    SVT-AV1 takes the highest real-time priority for its threads and for the one that called it where it may, as root:
    nothing else would run on the machine, the server neither, from then on.
    """
    if not hasattr(os, "sched_setscheduler") or os.sched_getscheduler(0) == os.SCHED_OTHER:
        return
    for task in TASKS.iterdir():
        try:
            os.sched_setscheduler(int(task.name), os.SCHED_OTHER, os.sched_param(0))
        except ProcessLookupError:
            continue  # It has ended meanwhile.
