"""How a measurement is printed, and CPU time and memory of a piece of work in its own process."""

from __future__ import annotations

import json
import os
import resource
import subprocess
import sys
import time
from collections.abc import Callable
from typing import Any


def at_most(
    name: str, value: float, unit: str, most: float, reference: str, digits: int = 0
) -> None:
    """One measurement that is to stay below a limit."""
    _line(name, f"{value:.{digits}f} {unit}", f"≤ {most:g} {unit}", reference, value <= most)


def at_least(
    name: str, value: float, unit: str, least: float, reference: str, digits: int = 0
) -> None:
    """One measurement that is to reach a limit."""
    _line(name, f"{value:.{digits}f} {unit}", f"≥ {least:g} {unit}", reference, value >= least)


def _line(name: str, value: str, aim: str, reference: str, ok: bool) -> None:
    print(
        f"{'ok  ' if ok else 'MISS'}  {name:<40} {value:>12}   aim {aim:<12} against {reference}",
        flush=True,
    )


def alone(module: str, *arguments: str) -> dict[str, Any]:
    """Run ``python -m module`` and return the JSON it prints last, with its CPU s, wall s and peak MB."""
    started = time.perf_counter()
    process = subprocess.Popen(
        [sys.executable, "-m", module, *arguments], stdout=subprocess.PIPE, text=True
    )
    assert process.stdout is not None
    output = process.stdout.read()
    _, status, usage = os.wait4(process.pid, 0)
    process.returncode = os.waitstatus_to_exitcode(status)
    if process.returncode:
        raise RuntimeError(f"{module} {arguments} ended with {process.returncode}")
    result: dict[str, Any] = json.loads(output.strip().splitlines()[-1])
    return result | {
        "cpu_s": usage.ru_utime + usage.ru_stime,
        "wall_s": time.perf_counter() - started,
        "peak_mb": usage.ru_maxrss / 1024,
    }


def measured(work: Callable[[], dict[str, Any]]) -> None:
    """For the measured process: do the work and print its result with the CPU it took by itself."""
    before = resource.getrusage(resource.RUSAGE_SELF)
    started = time.perf_counter()
    result = work()
    after = resource.getrusage(resource.RUSAGE_SELF)
    spent = after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime
    print(json.dumps(result | {"work_cpu_s": spent, "work_wall_s": time.perf_counter() - started}))
