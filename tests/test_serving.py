"""The socket the server listens on."""

import socket

import pytest

from mortiser.core.common.errors import Conflict
from mortiser.services.serving import listening


def test_answers_do_not_wait_for_acknowledgements() -> None:
    """asyncio switches that off for sockets that say they are TCP, and accepted ones say the same."""
    with listening("127.0.0.1", 0) as listener:
        listener.listen()
        with socket.create_connection(listener.getsockname()):
            accepted, _ = listener.accept()
            with accepted:
                assert accepted.proto == socket.IPPROTO_TCP


def test_a_port_that_is_taken_is_said() -> None:
    with listening("127.0.0.1", 0) as listener:
        listener.listen()
        with pytest.raises(Conflict, match="Choose another with --port"):
            listening("127.0.0.1", listener.getsockname()[1])
