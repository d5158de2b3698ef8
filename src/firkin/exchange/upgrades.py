"""The versions of firkin-workshop, and how a file of one becomes a file of the next.

When a table gets another column, or anything else of the document changes: raise VERSION, add the step from the version
before, and keep an archive of the new version beside the others (docs/contributing.md). A step gets a document that
nobody has checked yet; what it does not find as it expects it leaves for the check that follows.
"""

from collections.abc import Callable
from typing import Any

from firkin.core.errors import CannotRead

NAME, VERSION = "firkin-workshop", 2
FORMAT = f"{NAME}/{VERSION}"
Document = dict[str, Any]


def _roles_instruments_and_address(document: Document) -> None:
    """1 to 2: members have roles (all were keepers); simulated instruments and an address of the workshop."""
    members = document.get("members")
    if isinstance(members, list) and all(isinstance(name, str) for name in members):
        document["members"] = dict.fromkeys(members, "keeper")
    if isinstance(document.get("workshop"), dict):
        document["workshop"] = {"simulated_instruments": False, "address": "", **document["workshop"]}


#: From each version to the next.
STEPS: dict[int, Callable[[Document], None]] = {1: _roles_instruments_and_address}


def upgraded(document: Any) -> Document:
    """A document of any version as one of this version; the one that is given stays as it is.

    Raises CannotRead for another format, and says so of a newer version.

    >>> upgraded({"format": "firkin-workshop/1", "members": ["ada"]})["members"]
    {'ada': 'keeper'}
    """
    if not isinstance(document, dict):
        raise CannotRead(f"this is no {NAME}")
    version = version_of(document.get("format"), FORMAT)
    document = dict(document)
    for step in range(version, VERSION):
        STEPS[step](document)
    return {**document, "format": FORMAT}


def version_of(there: Any, wanted: str) -> int:
    """Which version of a format a file says it is.

    Raises CannotRead for another format, and with both numbers for one that is newer than ``wanted``.
    """
    name, _, newest = wanted.rpartition("/")
    told, _, number = there.rpartition("/") if isinstance(there, str) else ("", "", "")
    number = number if number.isascii() and number.isdigit() and len(number) < 6 else ""
    if told != name or not number or number.startswith("0"):
        raise CannotRead(f"{str(there)[:40]}; expected {wanted}").at("format")
    if int(number) > int(newest):
        raise CannotRead(f"{there}; it was written by a newer Firkin. This one reads up to {wanted}").at("format")
    return int(number)
