"""The Bench, the demo, and what every page keeps to."""

import re
from datetime import timedelta
from pathlib import Path

import pytest
from django.contrib.staticfiles import finders
from django.core.management import call_command
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django.urls import reverse
from django.utils import timezone

from firkin.accounts.models import User
from firkin.batches.models import Batch, State
from firkin.core.formula import reckon
from quay import lantern_quay
from steps import said

SOURCES = Path(__file__).resolve().parents[2] / "src" / "firkin"


@pytest.fixture
def quay(client: Client, db) -> Client:
    """A client signed in at Lantern Quay."""
    lantern_quay()
    client.force_login(User.objects.get(username="lantern-quay"))
    return client


def test_the_demo_opens_on_a_bench_with_batches_at_different_stages(quay: Client) -> None:
    page = said(quay.get(reverse("bench")))
    assert "Quarantine is over" in page
    for words in ("Go on making", "Fill bottles", "4 batches", "Vent it", "Look at it again", "Make again"):
        assert words in page
    assert {batch.state for batch in Batch.objects.all()} >= {
        State.MAKING,
        State.RESTING,
        State.FILLED,
        State.RELEASED,
    }


def test_every_demo_formula_can_be_reckoned_and_every_page_opens(quay: Client) -> None:
    for batch in Batch.objects.all():
        reckon(batch.formula())
        for name in ("batch", "record", "label"):
            assert quay.get(reverse(f"batches:{name}", args=[batch.pk]), follow=True).status_code == 200


def test_a_due_batch_is_released_with_one_press(quay: Client) -> None:
    due = Batch.objects.resting().first()
    quay.post(reverse("batches:wait", args=[due.pk]))
    due.refresh_from_db()
    assert due.state == State.RELEASED


def test_the_bench_takes_the_same_number_of_queries_for_many_batches(quay: Client) -> None:
    with CaptureQueriesContext(connection) as few:
        quay.get(reverse("bench"))
    pattern = Batch.objects.resting().first()
    for number in range(100, 130):
        wait = pattern.waits.first()
        pattern.pk, pattern.number, pattern._state.adding = None, number, True
        pattern.save()
        wait.pk, wait.batch, wait._state.adding = None, pattern, True
        wait.free_at = timezone.now() + timedelta(hours=number)
        wait.save()
    with CaptureQueriesContext(connection) as many:
        quay.get(reverse("bench"))
    assert len(many) == len(few)


def test_no_page_holds_inline_script_or_style_or_leaves_the_machine(quay: Client) -> None:
    names = ["bench", "reckoner:strength", "formulas:book", "batches:list", "shelf:shelf", "guide:guide"]
    addresses = [reverse(name) for name in names]
    addresses += [reverse("formulas:sheet", args=[1]), reverse("batches:make", args=[6])]
    for address in addresses:
        answer = quay.get(address, follow=True)
        page = answer.content.decode()
        assert "script-src 'self'" in answer["Content-Security-Policy"]
        assert "unsafe" not in answer["Content-Security-Policy"]
        assert not re.search(r"<script(?![^>]*src=)|<style|\sstyle=|\son[a-z]+=", page), address
        assert not re.search(r'(?:src|href|action)="(?:https?:)?//', page), address


def test_a_page_that_is_not_there_says_so_kindly(quay: Client) -> None:
    answer = quay.get("/nowhere/")
    assert answer.status_code == 404
    assert "Nothing stands here" in answer.content.decode()


def test_every_icon_a_template_asks_for_is_there() -> None:
    asked = {
        name
        for template in SOURCES.rglob("*.html")
        for name in re.findall(r'{% icon "([a-z-]+)" %}', template.read_text())
    }
    assert asked
    assert not [name for name in asked if finders.find(f"vendor/icons/{name}.svg") is None]


def test_the_first_page_is_under_250_kB_on_the_wire(quay: Client) -> None:
    import gzip

    page = quay.get(reverse("bench"), headers={"Accept-Encoding": "gzip"})
    assert page["Content-Encoding"] == "gzip"
    total = len(page.content)
    for name in re.findall(r'(?:href|src)="/static/([^"]+)"', gzip.decompress(page.content).decode()):
        file = Path(finders.find(name)).read_bytes()
        total += len(file) if name.endswith("woff2") else len(gzip.compress(file))
    assert total < 250_000


def test_migrations_are_complete(db) -> None:
    call_command("makemigrations", check=True, dry_run=True, verbosity=0)
