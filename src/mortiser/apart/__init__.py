"""Work on what strangers made, done in a process of its own with limits on its time and memory.

Libraries that draw, decode or parse may be led to take for ever, hold the interpreter meanwhile, or fall over.
"""

from __future__ import annotations

import pickle
import subprocess
import sys
import threading
from collections.abc import Callable
from typing import ParamSpec, TypeVar

from mortiser.core.common.errors import BadInput, MortiserError

P = ParamSpec("P")
T = TypeVar("T")
SECONDS = 15.0
"""Both on the clock and of a core."""
MEMORY = 3 * 1024**3
"""Address space, in bytes; libraries reserve more of it than they use."""
AT_ONCE = 2
_room = threading.BoundedSemaphore(AT_ONCE)


def done_apart(work: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
    """What a function of a module gives, called in a process of its own; arguments and result are pickled.

    Raises what MortiserError it raises, and BadInput where it does not end in time or falls over.
    """
    asked = pickle.dumps((work.__module__, work.__qualname__, args, kwargs))
    command = [sys.executable, "-m", "mortiser.apart", str(SECONDS), str(MEMORY)]
    with _room:
        try:
            done = subprocess.run(
                command, input=asked, capture_output=True, timeout=SECONDS + 5, check=False
            )
        except subprocess.TimeoutExpired as error:
            raise BadInput(TOO_MUCH) from error
    if done.returncode:
        raise BadInput(TOO_MUCH)
    result: T | MortiserError = pickle.loads(done.stdout)
    if isinstance(result, MortiserError):
        raise result
    return result


TOO_MUCH = (
    "That file takes too much time or memory to read. Nothing was taken; make it smaller or plainer, "
    "or bring it in parts."
)
