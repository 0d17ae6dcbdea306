"""Start the web server."""

from __future__ import annotations

import gc
import os
import socket
import sys
from collections.abc import Callable
from contextlib import suppress

import uvicorn

from mortiser.core.common.errors import Conflict
from mortiser.settings import Settings, own_names


def serve(settings: Settings, first: Callable[[Settings], None] | None = None) -> int:
    """Serve until interrupted, as the workspace's one server; prints the address once it opens.

    ``first`` is done before, when the address and the workspace are this server's.
    """
    os.umask(0o077)
    listener = listening(settings.host, settings.port)
    address = address_of(listener)
    # Only now, so that a mistake in the address is said at once.
    from mortiser.api.app import create_app
    from mortiser.jobs.workspace import Workspace
    from mortiser.wiring import open_context

    with listener, Workspace(settings.workspace).owned(address):
        if first is not None:
            first(settings)
        context = open_context(settings)
        context.database.reserve.keep()
        app = create_app(context)
        config = uvicorn.Config(app, log_level="warning", timeout_graceful_shutdown=2)
        server = uvicorn.Server(config)
        spare_collections()
        print(f"Mortiser is at {address}", flush=True)
        if app.state.pairing is not None:
            print(_opening(settings, listener.getsockname()[1], app.state.pairing.code), flush=True)
        with suppress(KeyboardInterrupt):
            server.run(sockets=[listener])
    print("Mortiser has stopped; everything is saved.", file=sys.stderr)
    return 0


def spare_collections() -> None:
    """Keep the garbage collector from going through all there is in the middle of an answer.

    Nearly nothing of what answers are made of is cyclic, yet they are made of many objects.
    """
    gc.collect()
    gc.freeze()
    gc.set_threshold(50_000, 20, 20)


def listening(host: str, port: int) -> socket.socket:
    """A socket bound to an address. Raises Conflict when that is taken or none of this machine's."""
    listener: socket.socket | None = None
    try:
        family, kind, _, _, address = socket.getaddrinfo(
            host, port, type=socket.SOCK_STREAM, flags=socket.AI_PASSIVE
        )[0]
        # Only of sockets that say they are TCP does asyncio switch off the waiting for
        # acknowledgements, which held every third answer back by 40 ms.
        listener = socket.socket(family, kind, socket.IPPROTO_TCP)
        listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        listener.bind(address)
    except (OSError, UnicodeError) as error:
        if listener is not None:
            listener.close()
        raise Conflict(
            f"{host}:{port} cannot be used ({getattr(error, 'strerror', None) or error}). "
            "Is Mortiser running already? Choose another with --port or --host."
        ) from error
    return listener


def address_of(listener: socket.socket) -> str:
    """The address a listening socket is opened at."""
    host, port = listener.getsockname()[:2]
    host = {"0.0.0.0": "127.0.0.1", "::": "::1"}.get(host, host)
    return f"http://[{host}]:{port}" if ":" in host else f"http://{host}:{port}"


def _opening(settings: Settings, port: int, code: str) -> str:
    """What being open beyond this machine means, and what others need."""
    addresses = ", ".join(
        f"http://{name}:{port}"
        for name in own_names(settings)
        if name not in ("0.0.0.0", "::", "localhost")
    )
    word = "the pass phrase that was set" if settings.pass_phrase else f"this pairing code: {code}"
    return (
        f"It is open to other machines, as {addresses} or by this machine's addresses.\n"
        f"Whoever reaches it can read and change all projects in {settings.workspace.resolve()} "
        f"with {word}\n"
        "What is sent is not encrypted: open it in networks you trust, or behind a proxy with TLS."
    )
