"""Firkin for the telephones at home: this machine's address on its own network, and a code that leads there."""

import io
import ipaddress
import socket

#: An address of no machine (RFC 5737): asking which way leads there sends nothing.
_NOWHERE = ("192.0.2.1", 9)
IN_CLEAR = (
    "Everything sent there can be read by others on the network, passwords too. Use it only on a network you trust;\n"
    "docs/running.md tells how to set up HTTPS. Only this address is answered, and Ctrl-C shuts it."
)


def own_address() -> str | None:
    """This machine’s address on its home network; None where it has none, or one that the whole world can reach."""
    try:
        with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as asked:
            asked.connect(_NOWHERE)
            found = ipaddress.ip_address(asked.getsockname()[0])
    except OSError:
        return None
    return str(found) if found.is_private and not found.is_loopback and not found.is_unspecified else None


def code(address: str) -> str:
    """A code for a telephone's camera that leads to an address, drawn in characters.

    >>> drawn = code("http://192.168.1.20:8641/")
    >>> len(set(map(len, drawn.splitlines())))
    1
    """
    import segno

    text = io.StringIO()
    segno.make(address, error="m", micro=False).terminal(text, border=2, compact=True)
    return text.getvalue().rstrip("\n")
