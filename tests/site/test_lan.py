"""Serving the telephones at home: on a private address alone, with a code that leads there and a word on what is read."""

import socket
from pathlib import Path

import pytest

from firkin.site import lan, run


class Asked:
    """A socket that says which address this machine would ask from; None where no way leads out."""

    def __init__(self, address: str | None) -> None:
        self.address = address

    def __enter__(self) -> "Asked":
        return self

    def __exit__(self, *_: object) -> None:
        pass

    def connect(self, _address: object) -> None:
        if self.address is None:
            raise OSError("Network is unreachable")

    def getsockname(self) -> tuple[str, int]:
        return str(self.address), 1


#: RFC 1918: private addresses; all else is not for --lan.
ADDRESSES = [
    ("192.168.1.20", "192.168.1.20"),
    ("10.0.0.7", "10.0.0.7"),
    ("172.16.4.4", "172.16.4.4"),
    ("8.8.8.8", None),
    ("172.32.0.1", None),
    ("127.0.0.1", None),
    ("0.0.0.0", None),  # noqa: S104
    (None, None),
]


@pytest.mark.parametrize(("own", "found"), ADDRESSES, ids=[str(own) for own, _ in ADDRESSES])
def test_only_an_address_of_a_home_network_is_taken(monkeypatch, own: str | None, found: str | None) -> None:
    monkeypatch.setattr(socket, "socket", lambda *_: Asked(own))
    assert lan.own_address() == found


@pytest.fixture
def served(monkeypatch, tmp_path: Path):
    """What would be served, and to which names."""
    told: dict[str, object] = {}
    monkeypatch.setenv("FIRKIN_DATA", str(tmp_path))
    for name in ("FIRKIN_HOSTS", "FIRKIN_MODE", "FIRKIN_HTTPS", "FIRKIN_PRELOAD", "DJANGO_SETTINGS_MODULE"):
        monkeypatch.setenv(name, "")
    for step in ("ready", "prepare", "copy_nightly"):
        monkeypatch.setattr(run, step, lambda *_: None)
    monkeypatch.setattr(run, "alone", lambda *_: None)
    monkeypatch.setattr(run, "serve", lambda host, port, behind, **more: told.update(host=host, **more))
    return told


def test_it_listens_on_that_address_and_answers_to_no_other_name(monkeypatch, served) -> None:
    monkeypatch.setattr(lan, "own_address", lambda: "192.168.1.20")
    assert run.main(["serve", "--lan"]) == 0
    assert served == {"host": "192.168.1.20", "lan": True}
    assert run.os.environ["FIRKIN_HOSTS"] == "192.168.1.20"


def test_without_it_this_machine_alone_is_served(served) -> None:
    assert run.main(["serve"]) == 0
    assert served == {"host": "127.0.0.1", "lan": False}
    assert run.os.environ["FIRKIN_HOSTS"] == ""


@pytest.mark.parametrize("more", [["--https"], ["--behind", "127.0.0.1"]])
def test_behind_a_proxy_it_is_refused(monkeypatch, served, capsys, more: list[str]) -> None:
    monkeypatch.setattr(lan, "own_address", lambda: "192.168.1.20")
    assert run.main(["serve", "--lan", *more]) == 1
    assert "plain HTTP" in capsys.readouterr().err
    assert served == {}


def test_without_a_home_network_it_says_what_to_do(monkeypatch, served, capsys) -> None:
    monkeypatch.setattr(lan, "own_address", lambda: None)
    assert run.main(["serve", "--lan"]) == 1
    assert "--host" in capsys.readouterr().err
    assert served == {}


def test_the_code_leads_there() -> None:
    """Read back by another library (zxing-cpp), two rows of modules to a line."""
    import zxingcpp
    from PIL import Image

    drawn = lan.code("http://192.168.1.20:8641/").splitlines()
    tops = {"█": (1, 1), "▀": (1, 0), "▄": (0, 1), " ": (0, 0)}
    rows = [[tops[sign][half] for sign in line.replace("\x1b[0m", "")] for line in drawn for half in (0, 1)]
    picture = Image.new("L", (len(rows[0]), len(rows)))
    picture.putdata([255 * light for row in rows for light in row])
    read = zxingcpp.read_barcodes(picture.resize((len(rows[0]) * 8, len(rows) * 8), Image.Resampling.NEAREST))
    assert [one.text for one in read] == ["http://192.168.1.20:8641/"]
