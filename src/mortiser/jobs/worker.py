"""The worker process: started, watched and restarted by the server."""

from __future__ import annotations

import fcntl
import logging
import os
import subprocess
import sys
import threading
import time
from pathlib import Path

from mortiser.jobs.queue import Queue

log = logging.getLogger(__name__)
WATCH_S = 0.5


def work(queue: Queue, lock: Path) -> None:
    """Be the only worker of a workspace until told to stop, or until the server is gone."""
    with lock.open("w") as held:
        fcntl.flock(held, fcntl.LOCK_EX)
        parent = os.getppid()
        threading.Thread(target=_leave_with, args=(parent,), daemon=True).start()
        queue.work()


def _leave_with(parent: int) -> None:
    """End the process when its parent has: nobody would restart or stop it otherwise."""
    while os.getppid() == parent:
        time.sleep(WATCH_S)
    os._exit(0)


class Supervisor:
    """Keeps a worker process running for as long as the server does."""

    def __init__(self, workspace: Path) -> None:
        self._command = [sys.executable, "-m", "mortiser", "worker", "--workspace", str(workspace)]
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
                self._process.wait(timeout=5)
            except subprocess.TimeoutExpired:
                self._process.kill()
        self._thread.join(timeout=5)

    def _watch(self) -> None:
        while not self._stop.is_set():
            self._process = subprocess.Popen(self._command)
            code = self._process.wait()
            if not self._stop.is_set():
                log.warning("the worker ended (%s) and is started again", code)
                self._stop.wait(WATCH_S)
