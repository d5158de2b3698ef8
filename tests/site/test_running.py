"""Running it for real: the key, the first account, the server."""

import http.client
import os
import re
import signal
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]


@pytest.fixture
def run(tmp_path: Path):
    """Run a command of the start-up script with a data folder of its own."""
    environment = {**os.environ, "FIRKIN_DATA": str(tmp_path), "PYTHONPATH": str(ROOT / "src")}
    environment.pop("DJANGO_SETTINGS_MODULE", None)

    def start(*arguments: str) -> subprocess.Popen[str]:
        command = [sys.executable, "-m", "firkin.site.run", *arguments]
        pipe = subprocess.PIPE
        return subprocess.Popen(command, stdin=pipe, stdout=pipe, stderr=pipe, text=True, env=environment)

    return start


def test_the_first_account_is_made_and_can_sign_in_to_a_served_workshop(run, tmp_path: Path) -> None:
    _out, error = run("adduser", "lock-keeper", "--zone", "Lantern/Quay").communicate("", timeout=120)
    assert "is not a time zone" in error
    out, error = run("adduser", "lock-keeper", "--zone", "Europe/Berlin").communicate(
        "a long enough password\n", timeout=120
    )
    assert "Account lock-keeper" in out, error
    assert "on Europe/Berlin time" in out
    assert (tmp_path / "secret-key").stat().st_mode & 0o077 == 0
    assert len((tmp_path / "secret-key").read_text()) > 60
    _again, error = run("adduser", "lock-keeper").communicate("a long enough password\n", timeout=120)
    assert "already an account" in error
    weak, error = run("adduser", "other").communicate("short\n", timeout=120)
    assert "too short" in error
    assert weak == ""

    server = run("serve", "--port", "0")
    try:
        printed = server.stdout.readline()
        port = int(re.search(r"http://127\.0\.0\.1:(\d+)/", printed)[1])
        browser = http.client.HTTPConnection("127.0.0.1", port, timeout=120)
        browser.request("GET", "/")
        answer = browser.getresponse()
        answer.read()
        assert (answer.status, answer.headers["Location"]) == (302, "/accounts/sign-in/?next=/")
        browser.request("GET", "/accounts/sign-in/")
        answer = browser.getresponse()
        page = answer.read().decode()
        assert answer.headers["Server"] is None
        style = re.search(r'href="(/static/firkin/tokens\.[0-9a-f]+\.css)"', page)[1]
        browser.request("GET", style)
        answer = browser.getresponse()
        answer.read()
        assert "immutable" in answer.headers["Cache-Control"]
        browser.request("GET", "/", headers={"Host": "evil.example"})
        assert browser.getresponse().status == 400
        browser.close()
    finally:
        server.send_signal(signal.SIGKILL)
        server.communicate()


def test_the_demo_prints_its_address_and_opens_by_itself(run) -> None:
    server = run("demo", "--port", "0")
    try:
        printed = server.stdout.readline()
        port = int(re.search(r"http://127\.0\.0\.1:(\d+)/", printed)[1])
        browser = http.client.HTTPConnection("127.0.0.1", port, timeout=120)
        browser.request("GET", "/")
        answer = browser.getresponse()
        assert answer.status == 200
        assert "Lantern Quay" in answer.read().decode()
        browser.close()
    finally:
        server.send_signal(signal.SIGKILL)
        server.communicate()
