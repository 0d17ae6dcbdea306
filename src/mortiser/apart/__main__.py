"""The process apart: reads from its standard input what is to be done, writes what came of it."""

from __future__ import annotations

import importlib
import os
import pickle
import resource
import sys
from functools import reduce
from typing import Any

from mortiser.core.common.errors import BadInput, MortiserError


def main() -> None:
    """Do one piece of work within limits (seconds of a core, bytes of memory) and end."""
    seconds, memory = round(float(sys.argv[1])), int(sys.argv[2])
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds))
    resource.setrlimit(resource.RLIMIT_AS, (memory, memory))
    # What libraries print must not mix with the answer.
    answer = os.dup(1)
    os.dup2(2, 1)
    module, name, args, kwargs = pickle.load(sys.stdin.buffer)
    work: Any = reduce(getattr, name.split("."), importlib.import_module(module))
    try:
        result = work(*args, **kwargs)
    except MortiserError as error:
        result = error
    except (RecursionError, MemoryError):
        result = BadInput(
            "That file is nested too deep or takes too much memory. Nothing was taken; make it plainer."
        )
    with os.fdopen(answer, "wb") as out:
        pickle.dump(result, out)
    # Threads of libraries are not waited for.
    os._exit(0)


main()
