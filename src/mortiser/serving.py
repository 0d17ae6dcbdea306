"""Start the web server."""

from __future__ import annotations

import gc
import socket
import sys
from contextlib import suppress

import uvicorn

from mortiser.api.app import create_app
from mortiser.core.errors import Conflict
from mortiser.settings import Settings
from mortiser.wiring import open_shop


def serve(settings: Settings) -> int:
    """Serve until interrupted; prints the address once it can be opened."""
    listener = listening(settings.host, settings.port)
    host, port = listener.getsockname()[:2]
    app = create_app(open_shop(settings))
    config = uvicorn.Config(app, log_level="warning", timeout_graceful_shutdown=2)
    server = uvicorn.Server(config)
    _spare_collections()
    print(f"Mortiser is at http://{host}:{port}", flush=True)
    with suppress(KeyboardInterrupt):
        server.run(sockets=[listener])
    print("Mortiser has stopped; everything is saved.", file=sys.stderr)
    return 0


def _spare_collections() -> None:
    """Keep the garbage collector from going through all there is in the middle of an answer.

    Nearly nothing of what answers are made of is cyclic, yet they are made of many objects.
    """
    gc.collect()
    gc.freeze()
    gc.set_threshold(50_000, 20, 20)


def listening(host: str, port: int) -> socket.socket:
    """A socket bound to an address. Raises Conflict when that is taken."""
    # Only of sockets that say they are TCP does asyncio switch off the waiting for acknowledgements,
    # which held every third answer back by 40 ms.
    listener = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind((host, port))
    except OSError as error:
        listener.close()
        raise Conflict(
            f"{host}:{port} cannot be used ({error.strerror}). "
            "Is Mortiser running already? Choose another with --port."
        ) from error
    return listener
