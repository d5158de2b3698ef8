"""A connection that drips keeps no place on the server, and one that is only slow keeps its own."""

import socket
import threading
from collections.abc import Iterator

import pytest
from waitress.server import create_server

from firkin.site import patience


def _answer(environ, start_response):
    start_response("200 OK", [("Content-Type", "text/plain")])
    return [b"%d bytes" % len(environ["wsgi.input"].read())]


@pytest.fixture
def port() -> Iterator[int]:
    """A server that waits one second, with the channels Firkin serves by."""
    server = create_server(_answer, host="127.0.0.1", port=0, channel_timeout=1, cleanup_interval=0)
    server.channel_class = patience.Channel
    server.next_channel_cleanup = 0
    running = threading.Thread(target=server.run, daemon=True)
    running.start()
    yield server.effective_port
    server.task_dispatcher.shutdown()
    server.close()


def _closed(connection: socket.socket) -> bool:
    connection.settimeout(0.05)
    try:
        return connection.recv(1) == b""
    except TimeoutError:
        return False
    except ConnectionError:
        return True


def _drip(connection: socket.socket, piece: bytes, times: int) -> bool:
    """Send a piece every twentieth of a second, so many times; whether the server closed the connection meanwhile."""
    for _ in range(times):
        try:
            connection.sendall(piece)
        except ConnectionError:
            return True
        if _closed(connection):
            return True
    return False


@pytest.mark.parametrize(
    "beginning",
    [b"GET / HTTP/1.1\r\nX-Long: ", b"POST / HTTP/1.1\r\nContent-Length: 100000\r\n\r\n"],
    ids=["head", "body"],
)
def test_what_comes_by_drops_is_closed(port: int, beginning: bytes) -> None:
    with socket.create_connection(("127.0.0.1", port), timeout=10) as connection:
        connection.sendall(beginning)
        assert _drip(connection, b"x", 120)


@pytest.mark.long
def test_a_photo_over_a_slow_line_arrives_whole_and_so_does_the_next(port: int) -> None:
    with socket.create_connection(("127.0.0.1", port), timeout=10) as connection:
        for _ in range(2):
            connection.sendall(b"POST / HTTP/1.1\r\nContent-Length: 6000\r\n\r\n")
            assert not _drip(connection, b"x" * 100, 59)  # for longer than the second it waits, and faster than drops
            connection.settimeout(5)
            connection.sendall(b"x" * 100)
            answer = b""
            while not answer.endswith(b" bytes"):
                answer += connection.recv(4096)
            assert answer.endswith(b"6000 bytes")
