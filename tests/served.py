"""The demo served by a process of its own, for tests of what happens to it."""

import http.cookiejar
import os
import re
import shutil
import signal
import subprocess
import sys
import urllib.parse
import urllib.request
from pathlib import Path
from typing import Any

import pytest
from django.db import connection, transaction

from firkin.batches.models import Batch
from firkin.formulas.models import Formula
from firkin.site.folder import DATABASE, DEMO
from quay import lantern_quay

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
def demo_folder(tmp_path_factory: pytest.TempPathFactory, django_db_setup: None, django_db_blocker: Any) -> Path:
    """A data folder with the demo in it for all that are served: a copy of the tests' database with the demo laid in."""
    folder = tmp_path_factory.mktemp("demo")
    (folder / DEMO).mkdir()
    with django_db_blocker.unblock(), transaction.atomic():
        quay = lantern_quay()
        numbers = (Formula.objects.order_by("pk")[0].pk, Batch.objects.order_by("pk")[0].pk, quay.pk)
        if numbers == (1, 1, 1):  # nobody was here before it
            (folder / DEMO / DATABASE).write_bytes(connection.connection.serialize())
        transaction.set_rollback(True)
    if not (folder / DEMO / DATABASE).exists():
        Served(folder).kill()
    return folder


@pytest.fixture
def served(tmp_path: Path, demo_folder: Path):
    data = shutil.copytree(demo_folder, tmp_path / "data")
    server = Served(data)
    yield server
    server.kill()
