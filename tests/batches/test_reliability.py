"""Nothing confirmed is lost: the server is killed while a batch is made."""

import http.cookiejar
import os
import re
import shutil
import signal
import sqlite3
import subprocess
import sys
import threading
import time
import urllib.error
import urllib.parse
import urllib.request
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]


class Served:
    """The demo served from a data folder, and a maker's browser on it."""

    def __init__(self, data: Path) -> None:
        self.data = data
        self.start()

    def start(self) -> None:
        environment = {**os.environ, "FIRKIN_DATA": str(self.data), "PYTHONPATH": str(ROOT / "src")}
        environment.pop("DJANGO_SETTINGS_MODULE", None)
        command = [sys.executable, "-m", "firkin.site.run", "demo", "--port", "0"]
        self.process = subprocess.Popen(
            command, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True, env=environment
        )
        self.address = re.search(r"http://\S+?:\d+", self.process.stdout.readline())[0]
        jar = urllib.request.HTTPCookieProcessor(http.cookiejar.CookieJar())
        self.browser = urllib.request.build_opener(jar)

    def kill(self) -> None:
        self.process.send_signal(signal.SIGKILL)
        self.process.communicate()

    def get(self, path: str) -> str:
        with self.browser.open(self.address + path, timeout=120) as answer:
            return answer.read().decode()

    def confirm(self, amount: str) -> str:
        """Fill in the form of the task at hand and press the button."""
        page = self.get("/batches/6/make/")
        hidden = dict(re.findall(r'<input type="hidden" name="(\w+)" value="([^"]*)"', page))
        body = urllib.parse.urlencode({**hidden, "amount": amount}).encode()
        request = urllib.request.Request(self.address + "/batches/6/make/", body, {"Referer": self.address})
        with self.browser.open(request, timeout=120) as answer:
            return answer.read().decode()


@pytest.fixture(scope="module")
def demo(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A data folder with the demo in it, laid down once for all that are served."""
    data = tmp_path_factory.mktemp("demo")
    Served(data).kill()
    return data


@pytest.fixture
def served(tmp_path: Path, demo: Path):
    data = shutil.copytree(demo, tmp_path / "data")
    server = Served(data)
    yield server
    server.kill()


def test_every_confirmed_step_is_there_after_the_server_was_killed(served: Served) -> None:
    assert "3 of 6" in served.get("/batches/6/make/")
    for number, amount in enumerate(("29.2 mL", "2.03 L"), start=4):
        served.confirm(amount)
        served.kill()
        served.start()
        assert f"{number} of 6" in served.get("/batches/6/make/")
    journal = served.get("/batches/6/record/")
    assert "29.2 mL" in journal
    assert "2.03 L" in journal
    assert served.get("/batches/6/record/").count("29.2 mL") == journal.count("29.2 mL")


@pytest.mark.parametrize("after_ms", [0, 8, 20])
def test_killed_in_the_middle_of_an_entry_it_is_there_whole_or_not_at_all(served: Served, after_ms: int) -> None:
    answers: list[str] = []

    def press() -> None:
        try:
            answers.append(served.confirm("29.2 mL"))
        except OSError:
            return

    served.get("/batches/6/make/")
    hand = threading.Thread(target=press)
    hand.start()
    time.sleep(after_ms / 1000)
    served.kill()
    hand.join(timeout=120)
    (kept,) = served.data.rglob("*.sqlite3")
    with sqlite3.connect(kept) as database:
        assert database.execute("PRAGMA integrity_check").fetchone() == ("ok",)
        poured = database.execute(
            "SELECT COUNT(*) FROM batches_entry WHERE batch_id = 6 AND kind = 'pour' AND amount_value = 29.2"
        ).fetchone()[0]
    assert poured == 1 if answers else poured in (0, 1)
    served.start()
    assert f"{3 + poured} of 6" in served.get("/batches/6/make/")


def test_presses_at_the_same_moment_are_one_deed(served: Served) -> None:
    """Four hands on one page's button: one batch is started, and all are led to it."""
    page = served.get("/formulas/1/")
    form = page[page.index('class="start"') :]
    hidden = dict(re.findall(r'<input type="hidden" name="(\w+)" value="([^"]*)"', form[: form.index("</form>")]))
    together, led = threading.Barrier(4), []

    def press() -> None:
        body = urllib.parse.urlencode(hidden).encode()
        request = urllib.request.Request(served.address + "/batches/start/", body, {"Referer": served.address})
        together.wait()
        with served.browser.open(request, timeout=120) as answer:
            led.append(answer.geturl())

    before = served.get("/batches/").count('class="book-code"')
    hands = [threading.Thread(target=press) for _ in range(4)]
    for hand in hands:
        hand.start()
    for hand in hands:
        hand.join(timeout=120)
    assert len(led) == 4
    assert len(set(led)) == 1
    assert served.get("/batches/").count('class="book-code"') == before + 1
