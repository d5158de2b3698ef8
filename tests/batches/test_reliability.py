"""Nothing confirmed is lost: the server is killed while a batch is made."""

import http.client
import re
import sqlite3
import threading
import time
import urllib.error
import urllib.parse
import urllib.request
import uuid

import pytest

from often import some
from served import Served


def test_every_confirmed_step_is_there_after_the_server_was_killed(served: Served) -> None:
    assert "3 of 6" in served.get("/batches/6/make/")
    amounts = some(("29.2 mL", "2.03 L"), 1)
    for number, amount in enumerate(amounts, start=4):
        served.confirm(amount)
        served.kill()
        served.start()
        assert f"{number} of 6" in served.get("/batches/6/make/")
    journal = served.get("/batches/6/record/")
    assert all(amount in journal for amount in amounts)
    assert served.get("/batches/6/record/").count("29.2 mL") == journal.count("29.2 mL")


@pytest.mark.long
@pytest.mark.parametrize("after_ms", [0, 8, 20])
def test_killed_in_the_middle_of_an_entry_it_is_there_whole_or_not_at_all(served: Served, after_ms: int) -> None:
    answers: list[str] = []

    def press() -> None:
        try:
            answers.append(served.confirm("29.2 mL"))
        except (OSError, http.client.HTTPException):  # cut off in the middle of its answer
            return

    served.get("/batches/6/make/")
    hand = threading.Thread(target=press)
    hand.start()
    time.sleep(after_ms / 1000)
    served.kill()
    hand.join(timeout=120)
    with sqlite3.connect(served.database) as database:
        assert database.execute("PRAGMA integrity_check").fetchone() == ("ok",)
        poured = database.execute(
            "SELECT COUNT(*) FROM batches_entry WHERE batch_id = 6 AND kind = 'pour' AND amount_value = 29.2"
        ).fetchone()[0]
    assert poured == 1 if answers else poured in (0, 1)
    served.start()
    assert f"{3 + poured} of 6" in served.get("/batches/6/make/")


@pytest.mark.long
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


def hidden_of(page: str, within: str) -> dict[str, str]:
    """The hidden fields of the form that begins at some words."""
    form = page[page.index(within) :]
    return dict(re.findall(r'<input type="hidden" name="(\w+)" value="([^"]*)"', form[: form.index("</form>")]))


def together(served: Served, presses: list[tuple[str, dict[str, str]]]) -> list[int]:
    """Press at the same moment, each hand its own form; the status of each answer."""
    barrier, statuses = threading.Barrier(len(presses)), []

    def press(path: str, fields: dict[str, str]) -> None:
        body = urllib.parse.urlencode(fields).encode()
        request = urllib.request.Request(served.address + path, body, {"Referer": served.address})
        barrier.wait()
        try:
            with served.browser.open(request, timeout=120) as answer:
                statuses.append(answer.status)
        except urllib.error.HTTPError as refused:
            statuses.append(refused.code)

    hands = [threading.Thread(target=press, args=press_) for press_ in presses]
    for hand in hands:
        hand.start()
    for hand in hands:
        hand.join(timeout=120)
    return statuses


def counted(served: Served, what: str) -> float:
    with sqlite3.connect(served.database) as database:
        return database.execute(f"SELECT COALESCE({what}").fetchone()[0]


def test_tabs_that_press_on_one_task_at_the_same_moment_store_one_pour(served: Served) -> None:
    """Each tab has a key of its own: what is asked for is looked at where it is written."""
    for number in range(2):
        page = served.get("/batches/6/make/")
        fields = hidden_of(page, '<form method="post" class="confirm">')
        tabs = [("/batches/6/make/", {**fields, "key": str(uuid.uuid4()), "amount": "29.2 mL"}) for _ in range(4)]
        before = counted(served, "COUNT(*), 0) FROM batches_entry WHERE batch_id = 6 AND kind = 'pour'")
        assert together(served, tabs) == [200] * 4
        after = counted(served, "COUNT(*), 0) FROM batches_entry WHERE batch_id = 6 AND kind = 'pour'")
        assert after == before + 1, number
        page = served.get("/batches/6/make/")
        if "Measured" not in page:
            break
        undo = hidden_of(page, "/batches/6/make/undo/")
        undo["entry"] = re.search(r'name="entry" value="(\d+)"', page)[1]
        assert together(served, [("/batches/6/make/undo/", undo)] * 4) == [200] * 4
        undone = counted(served, "COUNT(*), 0) FROM batches_entry WHERE batch_id = 6 AND kind = 'undo'")
        assert undone == number + 1


@pytest.mark.long
def test_tabs_that_fill_at_the_same_moment_fill_no_more_than_there_is(served: Served) -> None:
    page = served.get("/batches/8/fill/")
    fields = hidden_of(page, 'class="fill-form"')
    vessel = re.search(r'<option value="(\d+)"[^>]*>Half-litre flask', page)[1]
    tabs = [
        ("/batches/8/fill/", {**fields, "key": str(uuid.uuid4()), "vessel": vessel, "count": "6", "fill": "475 mL"})
        for _ in range(4)
    ]
    assert together(served, tabs) == [200] * 4
    filled = counted(served, "SUM(count * fill_mL), 0) FROM batches_filling WHERE batch_id = 8")
    assert 0 < filled <= 4900  # the batch comes to 4.84 L


@pytest.mark.long
def test_one_note_and_one_look_pressed_by_four_hands_are_one(served: Served) -> None:
    page = served.get("/batches/8/record/")
    note = {**hidden_of(page, "<form"), **hidden_of(page[page.index("Write in the journal") - 3000 :], "<form")}
    note["key"], note["text"] = str(uuid.uuid4()), "lent to the lock-keeper"
    assert together(served, [("/batches/8/record/", note)] * 4) == [200] * 4
    said = "COUNT(*), 0) FROM batches_entry WHERE text = 'lent to the lock-keeper'"
    assert counted(served, said) == 1
