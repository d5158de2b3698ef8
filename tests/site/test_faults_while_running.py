"""Faults of the machine, really caused while a server runs: the maker is told in a sentence, nothing confirmed is lost."""

import sqlite3
import threading
import time
import urllib.error
from datetime import timedelta

import pytest
from django.test import Client
from django.utils import timezone

from addresses import EVERY, filled, whole_demo
from firkin.accounts.models import User
from firkin.batches.models import Batch
from often import often
from served import Served


def answer(server: Served, path: str) -> tuple[int, str]:
    try:
        return 200, server.get(path)
    except urllib.error.HTTPError as refused:
        return refused.code, refused.read().decode()


@pytest.mark.long
def test_a_database_that_another_program_holds_is_waited_for_and_then_said(served: Served) -> None:
    """The lock is taken as any program takes it. A short one is waited out; for a long one there is a sentence."""
    other = sqlite3.connect(served.database, isolation_level=None, check_same_thread=False)
    other.execute("BEGIN IMMEDIATE")
    letting_go = threading.Timer(2.0, lambda: other.execute("ROLLBACK"))
    letting_go.start()
    assert "4 of 6" in " ".join(served.confirm("29.2 mL").split())
    letting_go.join()
    other.execute("BEGIN IMMEDIATE")
    started = time.monotonic()
    with pytest.raises(urllib.error.HTTPError) as refused:
        served.confirm("2.03 L")
    assert refused.value.code == 503
    page = refused.value.read().decode()
    assert "The database is busy" in page
    assert "Nothing of this was stored" in page
    assert time.monotonic() - started < 60
    other.execute("ROLLBACK")
    assert "5 of 6" in " ".join(served.confirm("2.03 L").split())
    other.close()


@pytest.mark.parametrize("from_byte", often([0, 8192], 0))
def test_a_database_that_is_damaged_under_a_server_is_said_and_never_taken_for_an_empty_one(
    served: Served,
    from_byte: int,
) -> None:
    assert "4 of 6" in " ".join(served.confirm("29.2 mL").split())
    checkpoint = sqlite3.connect(served.database)
    checkpoint.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    checkpoint.close()
    with served.database.open("r+b") as file:
        file.seek(0, 2)
        size = file.tell()
        file.seek(from_byte)
        file.write(b"\x5a" * (size - from_byte))
    seen = [answer(served, path) for path in ("/", "/batches/", "/shelf/", "/formulas/", "/batches/6/make/")]
    assert {code for code, _ in seen} == {503}
    assert all("The database is damaged" in page and "restore a backup" in page for _, page in seen)


@pytest.mark.long
def test_a_data_folder_that_is_taken_away_is_said(served: Served) -> None:
    served.data.rename(served.data.with_name("elsewhere"))
    code, page = answer(served, "/batches/")
    assert (code, "cannot be reached" in page or "damaged" in page or "disk" in page) == (503, True), page[-600:]
    served.data.with_name("elsewhere").rename(served.data)


@pytest.mark.long
def test_a_folder_that_becomes_read_only_is_said_and_nothing_is_half_stored(served: Served) -> None:
    """The modes are really changed, and obeyed. What was confirmed before is still shown, or the page says why not."""
    assert "4 of 6" in " ".join(served.confirm("29.2 mL").split())
    inside = [served.data, *served.data.rglob("*")]
    modes = {path: path.stat().st_mode for path in inside}
    for path in reversed(inside):
        path.chmod(0o500 if path.is_dir() else 0o400)
    try:
        with pytest.raises(urllib.error.HTTPError) as refused:
            served.confirm("2.03 L")
        said = refused.value.read().decode()
        assert refused.value.code == 503
        assert "read-only" in said and "What was confirmed before is still there" in said, said[-800:]
        assert {answer(served, path)[0] for path in ("/", "/batches/", "/shelf/")} <= {200, 503}
    finally:
        for path, mode in modes.items():
            path.chmod(mode)
    assert "5 of 6" in " ".join(served.confirm("2.03 L").split())


@pytest.mark.parametrize(
    "shift",
    often([timedelta(days=-400), timedelta(hours=-3), timedelta(hours=3), timedelta(days=400)]),
    ids=str,
)
def test_a_clock_that_jumps_breaks_no_page_and_frees_nothing_before_its_time(
    db, client: Client, monkeypatch, shift: timedelta
) -> None:
    whole_demo()
    client.force_login(User.objects.get())
    resting = Batch.objects.filter(state="resting").order_by("rests_until").last()
    assert resting.rests_until > timezone.now()
    real = timezone.now
    monkeypatch.setattr(timezone, "now", lambda: real() + shift)
    client.force_login(User.objects.get())
    for pattern in EVERY:
        for address in filled(pattern)[:2]:
            opened = client.get(address)
            assert opened.status_code < 500, address
            opened.close()
    over = real() + shift >= resting.rests_until
    client.post(f"/batches/{resting.pk}/wait/", {})
    resting.refresh_from_db()
    assert (resting.state != "resting") is over  # without a reason nothing goes on before its hour by this clock
