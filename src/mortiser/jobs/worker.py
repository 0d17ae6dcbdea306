"""The worker process: started, watched and restarted by the server."""

from __future__ import annotations

import fcntl
import logging
import os
import signal
import subprocess
import sys
import threading
import time
from pathlib import Path

log = logging.getLogger(__name__)
RESTART_S = 0.5
LONGEST_RESTART_S = 15.0
LIVED_S = 30.0
"""A worker that lived this long is started again at once; others more and more slowly."""
STOP_S = 5.0
"""How long a process may take to end in order before it is ended at once."""


def end_with_input() -> None:
    """End this process, in order, when its standard input closes: its server is gone then.

    To be called first of all: a server may be killed while its worker still starts.
    """
    threading.Thread(target=_end_with_input, daemon=True).start()


def _end_with_input() -> None:
    while os.read(sys.stdin.fileno(), 4096):
        pass
    threading.Timer(STOP_S, os._exit, (1,)).start()
    os.kill(os.getpid(), signal.SIGTERM)


def hold_alone(lock: Path) -> int:
    """Wait until no other worker holds the workspace; the open lock, held until the process ends."""
    held = os.open(lock, os.O_RDWR | os.O_CREAT, 0o600)
    fcntl.flock(held, fcntl.LOCK_EX)
    return held


class Supervisor:
    """Keeps a worker process running for as long as the server does."""

    def __init__(self, workspace: Path) -> None:
        self._command = [sys.executable, "-m", "mortiser", "worker", "--with-input"]
        self._command += ["--workspace", str(workspace)]
        self._stop = threading.Event()
        self._process: subprocess.Popen[bytes] | None = None
        self._thread = threading.Thread(target=self._watch, daemon=True)

    def start(self) -> None:
        """Start the worker."""
        self._thread.start()

    def stop(self) -> None:
        """Stop the worker; what it was doing is picked up at the next start."""
        self._stop.set()
        if self._process is not None:
            self._process.terminate()
            try:
                self._process.wait(timeout=STOP_S)
            except subprocess.TimeoutExpired:
                self._process.kill()
        self._thread.join(timeout=STOP_S)

    def _watch(self) -> None:
        pause = RESTART_S
        while not self._stop.is_set():
            began = time.monotonic()
            # In a session of its own, so that an interrupt from the keyboard reaches the server
            # alone, which ends its worker in order.
            self._process = subprocess.Popen(
                self._command, stdin=subprocess.PIPE, start_new_session=True
            )
            code = self._process.wait()
            if self._process.stdin is not None:
                self._process.stdin.close()
            if self._stop.is_set():
                return
            lived = time.monotonic() - began > LIVED_S
            pause = RESTART_S if lived else min(LONGEST_RESTART_S, 2 * pause)
            log.warning("the worker ended (%s) and is started again", code)
            self._stop.wait(pause)
