"""Running it for real: the key, the first account, the server."""

import http.client
import os
import re
import shutil
import signal
import socket
import subprocess
import sys
import time
from pathlib import Path

import pytest

from often import often
from served import obeying

ROOT = Path(__file__).resolve().parents[2]


def _hears_ctrl_c() -> None:
    """Also where the tests themselves were started in the background, deaf to it."""
    signal.signal(signal.SIGINT, signal.SIG_DFL)


@pytest.fixture
def run(tmp_path: Path):
    """Run a command of the start-up script with a data folder of its own."""
    environment = {**os.environ, "FIRKIN_DATA": str(tmp_path), "PYTHONPATH": str(ROOT / "src")}
    environment.pop("DJANGO_SETTINGS_MODULE", None)

    def start(*arguments: str) -> subprocess.Popen[str]:
        command = [sys.executable, "-m", "firkin.site.run", *arguments]
        pipe = subprocess.PIPE
        return subprocess.Popen(
            command,
            stdin=pipe,
            stdout=pipe,
            stderr=pipe,
            text=True,
            env=environment,
            preexec_fn=_hears_ctrl_c,  # noqa: PLW1509
        )

    return start


@pytest.mark.long
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


def test_the_demo_prints_its_address_and_opens_by_itself(run, tmp_path: Path, demo_folder: Path) -> None:
    shutil.copytree(demo_folder, tmp_path, dirs_exist_ok=True)
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


@pytest.mark.long
def test_a_new_machine_lets_the_first_keeper_in_by_a_link(run) -> None:
    server = run("serve", "--port", "0")
    try:
        server.stdout.readline()
        port, path = re.search(r"http://127\.0\.0\.1:(\d+)(/accounts/first/\S+)", server.stdout.readline()).groups()
        browser = http.client.HTTPConnection("127.0.0.1", int(port), timeout=120)
        browser.request("GET", path)
        answer = browser.getresponse()
        assert answer.status == 200
        assert "Set up your bench" in answer.read().decode()
        browser.close()
    finally:
        server.send_signal(signal.SIGKILL)
        server.communicate()


def served(run, *arguments: str) -> tuple[subprocess.Popen[str], int]:
    """A server that is up, and its port."""
    server = run("serve", "--port", "0", *arguments)
    printed = server.stdout.readline()
    found = re.search(r"http://127\.0\.0\.1:(\d+)/", printed)
    assert found, printed + server.stderr.read()
    return server, int(found[1])


def stop(*servers: subprocess.Popen[str]) -> None:
    for server in servers:
        server.send_signal(signal.SIGINT)
        server.communicate(timeout=120)


@pytest.mark.long
def test_a_second_server_on_a_folder_is_refused_and_a_backup_is_taken_beside_the_first(run, tmp_path: Path) -> None:
    run("adduser", "lock-keeper").communicate("a long enough password\n", timeout=120)
    server, _ = served(run)
    try:
        out, error = run("serve", "--port", "0").communicate(timeout=120)
        assert "Another Firkin is serving" in error
        assert (out, "Traceback" in error) == ("", False)
        file = tmp_path.parent / f"{tmp_path.name}-all.zip"
        out, error = run("backup", str(file)).communicate(timeout=120)
        assert (error, file.exists()) == ("", True), error
        deadline = time.monotonic() + 60.0
        while not list((tmp_path / "backups").glob("firkin-*.zip")) and time.monotonic() < deadline:
            time.sleep(0.05)
        assert len(list((tmp_path / "backups").glob("firkin-*.zip"))) == 1
    finally:
        stop(server)
    _, error = run("restore", str(file)).communicate(timeout=120)
    assert "is not empty" in error
    for path in (tmp_path, *tmp_path.rglob("*")):
        assert path.stat().st_mode & 0o077 == 0, path
    shutil.rmtree(tmp_path)
    out, error = run("restore", str(file)).communicate(timeout=120)
    assert "is as it was" in out, error
    _, error = run("adduser", "lock-keeper").communicate("a long enough password\n", timeout=120)
    assert "already an account" in error  # the restored workshop knows it


@pytest.mark.long
@pytest.mark.parametrize(
    "content", often([b"", b"not a database at all", b"SQLite format 3\x00 and then nothing of it"], b"")
)
def test_a_server_refuses_a_damaged_database_with_a_sentence(run, tmp_path: Path, content: bytes) -> None:
    run("adduser", "lock-keeper").communicate("a long enough password\n", timeout=120)
    for log in ("-wal", "-shm"):
        (tmp_path / f"firkin.sqlite3{log}").unlink(missing_ok=True)
    (tmp_path / "firkin.sqlite3").write_bytes(content)
    server = run("serve", "--port", "0")
    _, error = server.communicate(timeout=120)
    assert server.returncode == 1
    assert "./firkin restore" in error
    assert "Traceback" not in error


PROXY = """
import http.client, http.server, sys
class Proxy(http.server.BaseHTTPRequestHandler):
    def do_GET(self):
        there = http.client.HTTPConnection("127.0.0.1", int(sys.argv[1]))
        headers = {"Host": "localhost", "X-Forwarded-Proto": "https", "X-Forwarded-For": "203.0.113.7"}
        there.request("GET", self.path, headers=headers)
        answer = there.getresponse()
        body = answer.read()
        self.send_response(answer.status)
        for name, value in answer.getheaders():
            if name.lower() not in ("transfer-encoding", "content-length", "connection"):
                self.send_header(name, value)
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)
    def log_message(self, *_): pass
server = http.server.HTTPServer(("127.0.0.1", 0), Proxy)
print(server.server_port, flush=True)
server.serve_forever()
"""


def asked(port: int, path: str, **headers: str) -> http.client.HTTPResponse:
    browser = http.client.HTTPConnection("127.0.0.1", port, timeout=120)
    browser.request("GET", path, headers={"Host": "localhost", **headers})
    answer = browser.getresponse()
    answer.body = answer.read().decode()
    browser.close()
    return answer


@pytest.mark.long
def test_behind_a_real_proxy_that_speaks_https_pages_are_shown_and_anybody_elses_word_is_not_believed(run) -> None:
    server, port = served(run, "--https", "--behind", "127.0.0.1")
    proxy = subprocess.Popen([sys.executable, "-c", PROXY, str(port)], stdout=subprocess.PIPE, text=True)
    try:
        through = int(proxy.stdout.readline())
        answer = asked(through, "/accounts/sign-in/")  # it led to itself for ever
        assert answer.status == 200
        assert "max-age" in answer.headers["Strict-Transport-Security"]
        assert all("secure" in cookie.lower() for cookie in answer.headers.get_all("Set-Cookie"))
        plain = asked(port, "/accounts/sign-in/")
        assert (plain.status, plain.headers["Location"]) == (301, "https://localhost/accounts/sign-in/")
    finally:
        proxy.terminate()
        proxy.communicate(timeout=60)
        stop(server)
    server, port = served(run, "--https", "--behind", "192.0.2.1")
    try:
        liar = asked(port, "/accounts/sign-in/", **{"X-Forwarded-Proto": "https"})
        assert liar.status == 301
    finally:
        stop(server)


@pytest.mark.parametrize("whose", ["in a folder that is read-only", "another's"])
def test_a_server_refuses_a_folder_it_may_not_write_into(tmp_path: Path, whose: str) -> None:
    """The modes are really set, and obeyed."""
    above = tmp_path / "above"
    data = above / "data"
    above.mkdir()
    if whose == "another's":
        if os.geteuid() != 0:
            pytest.skip("only root can give a folder away")
        data.mkdir()
        os.chown(data, 65534, 65534)
    else:
        above.chmod(0o500)
    environment = {**os.environ, "FIRKIN_DATA": str(data), "PYTHONPATH": str(ROOT / "src")}
    environment.pop("DJANGO_SETTINGS_MODULE", None)
    command = [*obeying(), sys.executable, "-m", "firkin.site.run", "serve", "--port", "0"]
    server = subprocess.run(command, capture_output=True, text=True, env=environment, timeout=120, check=False)
    above.chmod(0o700)
    assert server.returncode == 1
    assert "Traceback" not in server.stderr
    assert str(data) in server.stderr and "cannot be written to" in server.stderr
    assert not data.exists() or not list(data.iterdir())


@pytest.mark.long
def test_a_copy_is_taken_before_the_tables_change_and_tried_in_a_scratch_folder(run, tmp_path: Path) -> None:
    run("adduser", "lock-keeper").communicate("a long enough password\n", timeout=120)
    assert not (tmp_path / "backups").exists()  # a new folder has nothing to lose
    out, error = run("restore", "--drill").communicate(timeout=120)
    assert "no copy" in error
    out, error = run("manage", "migrate", "shelf", "0008").communicate(timeout=120)
    out, error = run("adduser", "second").communicate("a long enough password\n", timeout=120)
    (copy,) = (tmp_path / "backups").glob("before-update-*.zip")
    assert f"{copy} holds it as it was" in error
    out, error = run("adduser", "third").communicate("a long enough password\n", timeout=120)
    assert list((tmp_path / "backups").iterdir()) == [copy]  # nothing to bring up to date, no copy
    before = {path: path.stat().st_mtime for path in tmp_path.rglob("*") if path.is_file()}
    process = run("restore", "--drill")
    out, error = process.communicate(timeout=120)
    assert (process.returncode, "pages opened, 0 would not" in out) == (0, True), out + error
    assert {path: path.stat().st_mtime for path in tmp_path.rglob("*") if path.is_file()} == before


def test_half_sent_requests_keep_nobody_out(served) -> None:
    """110 connections that send half a request and wait: a page comes in its usual time."""
    host, port = served.address.removeprefix("http://").split(":")
    held = []
    for _ in range(110):
        one = socket.create_connection((host, int(port)), timeout=10)
        one.sendall(b"GET / HTTP/1.1\r\nHost: localhost\r\nX-")
        held.append(one)
    began = time.monotonic()
    assert "Landing rub" in served.get("/")
    assert time.monotonic() - began < 5
    for one in held:
        one.close()
