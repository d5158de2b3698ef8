"""Every form there is, pressed by two hands at the same moment: it does what one press does, and nothing is a fault.

Two servers begin alike. On one each form is pressed once, on the other by two hands at once; after each form every table
has as many rows on both.
"""

import io
import json
import re
import shutil
import sqlite3
import threading
import urllib.error
import urllib.parse
import urllib.request
from pathlib import Path

import pytest
from PIL import Image

from conftest import WHO_I
from served import Served

from .test_walk import Forms

#: Not pressed: what ends the sessions of the test itself.
LEFT = re.compile(r"sign-out|sign-in")
#: Tables that count presses and sessions, not what was done; and how the index of the search is kept on the disk.
UNCOUNTED = (
    *("accounts_press", "django_session", "sqlite_sequence", "axes_accesslog", "axes_accessattempt"),
    *("search_entry_data", "search_entry_idx"),
)
STARTS = [
    "/",
    "/formulas/",
    "/formulas/1/",
    "/formulas/1/edit/",
    "/formulas/new/",
    "/formulas/check/",
    "/formulas/house/who-one/",
    "/formulas/1/swap/0/",
    "/batches/calendar/",
    "/batches/2/fill/",
    "/batches/5/wait/",
    "/batches/8/check/",
    "/batches/8/fill/",
    "/batches/6/make/",
    "/batches/8/rescue/",
    "/batches/1/label/",
    "/batches/1/record/",
    "/batches/labels/",
    "/batches/7/wait/",
    "/shelf/",
    "/shelf/stock/add/",
    "/shelf/vessel/add/",
    "/shelf/tool/add/",
    "/shelf/material/add/",
    "/shelf/vessel/1/",
    "/accounts/members/",
    "/accounts/me/",
    "/accounts/workshop/",
    "/exchange/",
    "/reckon/dilute/",
]
#: What is filled in where a field stands empty.
FILLED = {
    "name": "Pressed twice", "material": "glycerol", "size": "1 L", "text": "a note", "note": "a note", "volume": "1 L",
    "density": "1", "error": "5 %", "amount": "29.2 mL", "count": "1", "reason": "for the test", "value": "7", "step": "",
    "caption": "", "change": "a word", "make": "1 L", "celsius": "",
}  # fmt: skip

pytestmark = pytest.mark.long


def rows(server: Served) -> dict[str, int]:
    """How many rows each table has."""
    with sqlite3.connect(server.database) as database:
        names = [name for (name,) in database.execute("SELECT name FROM sqlite_master WHERE type = 'table'")]
        counted = [name for name in names if name not in UNCOUNTED]
        there = {name: database.execute(f'SELECT count(*) FROM "{name}"').fetchone()[0] for name in counted}  # noqa: S608
        signed_in = database.execute("SELECT count(*) FROM accounts_auditline WHERE text = 'Signed in.'").fetchone()[0]
        return there | {"accounts_auditline": there["accounts_auditline"] - signed_in}


def picture() -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (30, 20), (90, 60, 30)).save(out, "JPEG")
    return out.getvalue()


#: What is sent where a form asks for a file, by the field's name.
SENT = {
    "picture": ("look.jpg", picture()),
    "file": ("rub.json", json.dumps(WHO_I | {"name": "A rub from a file"}).encode()),
}
_EDGE = "between-the-parts"


def pressed(form: dict, button: tuple[str, str, str] | None, path: str) -> tuple[str, bytes, str]:
    """Where a form goes, and what it sends with a button pressed and its empty fields filled in, and as what."""
    fields, files = [], []
    for name, kind, there, options in form["fields"]:
        if kind == "file":
            files.append((name, *SENT[name]))
        if kind in ("file", "checkbox"):
            continue
        value = there
        if kind == "select":
            value = next((option for option in options or [] if option), "")
        elif not there and kind != "hidden":
            value = FILLED.get(name.split("-")[-1], "")
        fields.append((name, value))
    action = form["action"]
    if button is not None:
        fields.append(button[:2])
        action = button[2] or action
    if not files:
        return (action or path), urllib.parse.urlencode(fields).encode(), "application/x-www-form-urlencoded"
    parts = [f'--{_EDGE}\r\nContent-Disposition: form-data; name="{name}"\r\n\r\n{value}\r\n'.encode() for name, value in fields]  # fmt: skip
    for name, called, content in files:
        head = f'--{_EDGE}\r\nContent-Disposition: form-data; name="{name}"; filename="{called}"\r\n\r\n'
        parts.append(head.encode() + content + b"\r\n")
    body = b"".join(parts) + f"--{_EDGE}--\r\n".encode()
    return (action or path), body, f"multipart/form-data; boundary={_EDGE}"


def send(server: Served, path: str, body: bytes, kind: str, statuses: list[int]) -> None:
    jar = next(one for one in server.browser.handlers if hasattr(one, "cookiejar")).cookiejar
    hand = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(jar))
    request = urllib.request.Request(
        server.address + path,
        body,
        {"Origin": server.address, "Referer": server.address + "/", "Content-Type": kind},
    )
    try:
        with hand.open(request, timeout=120) as answer:
            statuses.append(answer.status)
    except urllib.error.HTTPError as refused:
        statuses.append(refused.code)


def deeds(server: Served, path: str) -> list[tuple[dict, tuple[str, str, str] | None]]:
    """The forms of a page that are posted, each with each of its buttons."""
    try:
        page = server.get(path)
    except urllib.error.HTTPError:
        return []
    found = []
    for form in Forms(page).forms:
        if form["method"].lower() == "post" and not LEFT.search(form["action"]):
            found += [(form, button) for button in form["buttons"]] or [(form, None)]
    return found


def test_two_hands_on_every_form_do_what_one_does(tmp_path: Path, demo_folder: Path) -> None:
    once, twice = (Served(shutil.copytree(demo_folder, tmp_path / name)) for name in ("once", "twice"))
    wrong, walked = [], set()
    try:
        assert rows(once) == rows(twice)
        for path in STARTS:
            for place in range(len(deeds(once, path))):
                mine, theirs = deeds(once, path), deeds(twice, path)
                if place >= min(len(mine), len(theirs)):
                    break
                single, double = pressed(*mine[place], path), pressed(*theirs[place], path)
                button = mine[place][1]
                statuses: list[int] = []
                send(once, *single, statuses)
                hands = [threading.Thread(target=send, args=(twice, *double, statuses)) for _ in range(2)]
                for hand in hands:
                    hand.start()
                for hand in hands:
                    hand.join()
                what = f"{single[0]} {button[:2] if button else ''}"
                walked.add(re.sub(r"\d+", "N", what))
                if any(status >= 500 for status in statuses):
                    wrong.append(f"{what}: {statuses}")
                differ = {
                    name: (count, other)
                    for (name, count), other in zip(rows(once).items(), rows(twice).values(), strict=True)
                    if count != other
                }
                if differ:
                    wrong.append(f"{what}: {differ}")
                    return_to_same(once, twice)
    finally:
        once.kill()
        twice.kill()
    assert not wrong, "\n".join(wrong)
    assert len(walked) > 40, sorted(walked)


def return_to_same(once: Served, twice: Served) -> None:
    """Begin alike again: the one's folder is laid over the other's."""
    twice.kill()
    source = sqlite3.connect(once.database)
    target = sqlite3.connect(twice.database)
    source.backup(target)
    source.close()
    target.close()
    twice.start()
