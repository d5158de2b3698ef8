"""A file is brought in by a process of its own: how far it is, what stops it, and that the page goes on."""

import io
import json
import os
import re
import subprocess
import sys
import time
import urllib.request
import uuid
import zipfile
from pathlib import Path

import pytest
from django.test import Client

from firkin.accounts.models import User, Workshop
from firkin.exchange import archive, bringing, files
from firkin.shelf.models import Stock
from quay import lantern_quay
from served import ROOT, Served
from steps import said

HERE = "/exchange/"


def posted(server: Served, fields: dict[str, str], file: bytes | None = None) -> str:
    """A form of the page sent as a browser sends it, with its token."""
    page = server.get(HERE)
    fields = fields | {"csrfmiddlewaretoken": re.search(r'name="csrfmiddlewaretoken" value="(\w+)"', page)[1]}
    parts = [f'--x\r\nContent-Disposition: form-data; name="{name}"\r\n\r\n{value}\r\n'.encode() for name, value in fields.items()]  # fmt: skip
    if file is not None:
        head = b'--x\r\nContent-Disposition: form-data; name="file"; filename="quay.zip"\r\n\r\n'
        parts.append(head + file + b"\r\n")
    headers = {"Referer": server.address, "Content-Type": "multipart/form-data; boundary=x"}
    request = urllib.request.Request(server.address + HERE, b"".join(parts) + b"--x--\r\n", headers)
    with server.browser.open(request, timeout=120) as answer:
        return answer.read().decode()


def when_done(server: Served) -> str:
    """The page once the process is through."""
    for _ in range(300):
        page = server.get(HERE)
        if 'class="progress-said"' not in page:
            return " ".join(page.split())
        time.sleep(0.2)
    raise AssertionError(page)


@pytest.mark.long
def test_a_served_file_is_looked_at_and_brought_in_by_another_process(served: Served) -> None:
    with served.browser.open(served.address + "/exchange/workshop.zip") as answer:
        taken = zipfile.ZipFile(io.BytesIO(answer.read()))
    document = json.loads(taken.read(files.DOCUMENT))
    document["tables"]["stocks"].append(document["tables"]["stocks"][0] | {"name": "A new can"})
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as whole:
        for name in taken.namelist():
            whole.writestr(name, json.dumps(document) if name == files.DOCUMENT else taken.read(name))
    posted(served, {"act": "look"}, out.getvalue())
    assert "Stocks: 1 would come in, 15 here already." in when_done(served)
    assert "A new can" not in served.get("/shelf/")
    posted(served, {"act": "bring", "way": "into", "press": str(uuid.uuid4())})
    assert "Stocks: 1 came in, 15 were here already." in when_done(served)
    assert "A new can" in served.get("/shelf/")
    assert not list((served.data / "demo" / "incoming").rglob("*"))


@pytest.mark.long
def test_a_process_that_takes_too_much_memory_is_gone_and_the_page_says_so(tmp_path: Path) -> None:
    """The limit itself, made small: a document of 20 MB in a process of 200 MB."""
    folder = tmp_path / "demo" / "incoming" / "1"
    (folder / "sent").mkdir(parents=True)
    with zipfile.ZipFile(folder / "sent" / "x.zip", "w", zipfile.ZIP_DEFLATED) as whole:
        whole.writestr(files.DOCUMENT, json.dumps({"a": [[0.5, "x"]] * 1_500_000}))
    task = {"act": "look", "workshop": 1, "user": 1, "state": "working", "how_far": "", "pid": 0, "began": time.time()}
    (folder / "said.json").write_text(json.dumps(task))
    code = f"import firkin.exchange.bringing as b, sys; b.MOST_MEMORY = 300_000_000; sys.argv = ['', {str(folder)!r}]; b.main()"
    environment = {**os.environ, "FIRKIN_DATA": str(tmp_path), "FIRKIN_MODE": "demo", "PYTHONPATH": str(ROOT / "src")}
    environment["DJANGO_SETTINGS_MODULE"] = "firkin.site.settings"
    subprocess.run([sys.executable, "-c", code], env=environment, check=False, capture_output=True, timeout=120)
    told = json.loads((folder / "said.json").read_text())
    assert told["state"] == "working" or (told["state"], told["text"]) == ("refused", bringing.STOPPED)


@pytest.fixture
def quay(client: Client, db, settings, tmp_path) -> Client:
    settings.DATA = tmp_path
    lantern_quay()
    client.force_login(User.objects.get())
    return client


def under_way(settings, user: User, pid: int, began: float) -> None:
    """A file that a process is said to look at."""
    place = bringing.place_for(user.pk, "quay.zip")
    files.to_file(archive.written(Workshop.objects.get()), place)
    task = {"act": "look", "workshop": Workshop.objects.get().pk, "user": user.pk, "state": "working"}
    said_file = bringing.folder_of(user.pk) / "said.json"
    said_file.write_text(json.dumps(task | {"how_far": "Photos: 3 of 12", "pid": pid, "began": began}))


def test_while_it_is_looked_at_the_page_tells_how_far_and_can_stop_it(quay: Client, settings) -> None:
    user = User.objects.get()
    under_way(settings, user, os.getpid(), time.time())
    assert "Photos: 3 of 12." in said(quay.get(HERE))
    assert "Photos: 3 of 12." in said(quay.get(f"{HERE}progress/"))
    quay.post(HERE, {"act": "bring", "way": "into"})  # nothing was looked at yet
    assert bringing.said_of(user.pk)["state"] == "working"
    quay.post(HERE, {"act": "forget"})
    assert not bringing.folder_of(user.pk).exists()
    assert "HX-Redirect" in quay.get(f"{HERE}progress/").headers


def _ended() -> int:
    process = subprocess.Popen([sys.executable, "-c", ""])
    process.wait()
    return process.pid


@pytest.mark.parametrize("late", [False, True])
def test_a_process_that_is_gone_without_a_word_is_said_and_its_file_removed(quay: Client, settings, late: bool) -> None:
    """Killed for its memory; or of a server before this one, and past its time."""
    user = User.objects.get()
    began = time.time() - (bringing.MOST_WAIT_S + 1 if late else 0)
    under_way(settings, user, os.getpid() if late else _ended(), began)
    assert bringing.STOPPED in said(quay.get(HERE))
    assert "See what it would add" in said(quay.get(HERE))
    assert not bringing.folder_of(user.pk).exists()


def test_one_press_four_times_brings_it_in_once(quay: Client) -> None:
    user = User.objects.get()
    place = bringing.place_for(user.pk, "quay.zip")
    files.to_file(archive.written(Workshop.objects.get()), place)
    Stock.objects.filter(name="Glycerol").delete()
    assert "Stocks: 1 would come in" in said(quay.get(HERE))
    press = {"act": "bring", "way": "own", "name": "Upper quay", "press": str(uuid.uuid4())}
    for _ in range(4):
        quay.post(HERE, press)
    assert Workshop.objects.filter(name="Upper quay").count() == 1
    assert Workshop.objects.count() == 2


@pytest.mark.long
def test_what_was_looked_at_from_another_workshop_is_looked_at_anew(quay: Client) -> None:
    """What it would add is told of the workshop it would go into."""
    user = User.objects.get()
    files.to_file(archive.written(Workshop.objects.get()), bringing.place_for(user.pk, "quay.zip"))
    assert "All of it is here already" in said(quay.get(HERE))
    other = Workshop.objects.create(name="Other quay")
    other.membership_set.create(user=user)
    session = quay.session
    session["workshop"] = other.pk
    session.save()
    assert "Stocks: 15 would come in" in said(quay.get(HERE))
