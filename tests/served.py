"""The demo served by a process of its own, for tests of what happens to it."""

import http.cookiejar
import os
import re
import shutil
import signal
import subprocess
import sys
import time
import urllib.parse
import urllib.request
from pathlib import Path

import pytest

#: How long one worker waits for the demo of another, s.
PATIENCE_S = 120
ROOT = Path(__file__).resolve().parents[1]


def obeying() -> list[str]:
    """What goes before a command so that the modes of files are obeyed, also by root."""
    return ["setpriv", "--bounding-set", "-dac_override,-dac_read_search,-fowner"] if os.geteuid() == 0 else []


class Served:
    """The demo served from a data folder, and a maker's browser on it."""

    def __init__(self, data: Path) -> None:
        self.data = data
        self.start()

    def start(self) -> None:
        environment = {**os.environ, "FIRKIN_DATA": str(self.data), "PYTHONPATH": str(ROOT / "src")}
        environment.pop("DJANGO_SETTINGS_MODULE", None)
        command = [*obeying(), sys.executable, "-m", "firkin.site.run", "demo", "--port", "0"]
        self.process = subprocess.Popen(
            command, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True, env=environment
        )
        self.address = re.search(r"http://\S+?:\d+", self.process.stdout.readline())[0]
        jar = urllib.request.HTTPCookieProcessor(http.cookiejar.CookieJar())
        self.browser = urllib.request.build_opener(jar)

    @property
    def database(self) -> Path:
        """The file of its database."""
        (there,) = self.data.rglob("*.sqlite3")
        return there

    def kill(self) -> None:
        if self.process.poll() is None:
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


@pytest.fixture(scope="session")
def demo_folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A data folder with the demo in it, laid down once for all that are served, by whichever worker comes first."""
    alone = not os.environ.get("PYTEST_XDIST_WORKER")
    shared = tmp_path_factory.mktemp("demo") if alone else tmp_path_factory.getbasetemp().parent
    ready = shared / "demo-ready"
    try:
        (shared / "demo-begun").mkdir()
    except FileExistsError:
        ends = time.monotonic() + PATIENCE_S
        while not ready.exists() and time.monotonic() < ends:
            time.sleep(0.2)
        if ready.exists():
            return ready
        shared = tmp_path_factory.mktemp("demo")  # the other one did not come to its end
        ready = shared / "demo-ready"
    Served(shared / "demo").kill()
    (shared / "demo").rename(ready)
    return ready


@pytest.fixture
def served(tmp_path: Path, demo_folder: Path):
    data = shutil.copytree(demo_folder, tmp_path / "data")
    server = Served(data)
    yield server
    server.kill()
