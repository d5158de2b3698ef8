"""Who sees what."""

import pytest
from django.core.management import call_command
from django.test import Client, override_settings
from django.urls import reverse
from django.utils import timezone

from conftest import PASSWORD
from firkin.accounts.middleware import demo_sign_in
from firkin.accounts.models import Membership, User, Workshop
from firkin.batches.models import Batch, Due, Photo
from firkin.formulas.models import Formula
from firkin.shelf.models import Stock

PLAIN = [
    "bench",
    "reckoner:strength",
    "formulas:book",
    "batches:list",
    "batches:calendar",
    "batches:instruments",
    "formulas:check",
    "shelf:shelf",
    "guide:guide",
]
OF_A_BATCH = [
    "batch",
    "prepare",
    "make",
    "wait",
    "fill",
    "label",
    "label_svg",
    "label_pdf",
    "record",
    "pour",
    "scale",
    "check",
    "rescue",
    "ics",
    "end",
]


@pytest.mark.parametrize("name", PLAIN)
def test_every_page_asks_for_sign_in(client: Client, db, name: str) -> None:
    answer = client.get(reverse(name))
    assert answer.status_code == 302
    assert answer.url.startswith(reverse("accounts:sign_in"))


@pytest.mark.parametrize("name", PLAIN)
def test_every_page_opens_for_a_member(bench: Client, landing_rub: Formula, name: str) -> None:
    assert bench.get(reverse(name)).status_code == 200


def test_another_workshops_things_are_not_there(client: Client, landing_rub: Formula, maker: User) -> None:
    version = landing_rub.current
    batch = Batch.objects.start(version, version.as_core(), maker)
    stranger = User.objects.create_user("stranger", password=PASSWORD)
    Membership.objects.create(user=stranger, workshop=Workshop.objects.create(name="Other quay"))
    client.force_login(stranger)
    addresses = [reverse(f"batches:{name}", args=[batch.pk]) for name in OF_A_BATCH]
    photo = Photo.objects.create(batch=batch, jpeg=b"x")
    addresses += [
        reverse("batches:photo", args=[batch.pk, photo.pk]),
        reverse("batches:compare", args=[landing_rub.pk]),
    ]
    addresses += [
        reverse(f"formulas:{name}", args=[landing_rub.pk]) for name in ("sheet", "edit", "strip", "strip_pdf")
    ]
    addresses.append(reverse("formulas:swap", args=[landing_rub.pk, 0]))
    due = Due.objects.create(batch=batch, kind="vent", at=timezone.now())
    assert client.post(reverse("batches:settle", args=[due.pk])).status_code == 404
    for address in addresses:
        assert client.get(address).status_code in ((405,) if address.endswith("/end/") else (404,)), address
        assert client.post(address).status_code in (404, 405), address
    start = client.post(reverse("batches:start"), {"make": "1 L", "version": version.pk})
    assert start.status_code == 404
    assert client.post(reverse("batches:undo", args=[batch.pk])).status_code == 404
    stock = Stock(workshop=landing_rub.workshop, material="water", name="Water")
    stock.amount = version.as_core().make
    stock.save()
    assert client.post(reverse("shelf:use_up", args=[stock.pk])).status_code == 404


def test_an_account_without_a_workshop_is_told_so(client: Client, db) -> None:
    client.force_login(User.objects.create_user("loose", password=PASSWORD))
    answer = client.get(reverse("bench"))
    assert answer.status_code == 403
    assert b"belongs to no workshop" in answer.content


def test_sign_in_rests_after_six_wrong_passwords(client: Client, maker: User) -> None:
    address = reverse("accounts:sign_in")
    for _ in range(6):
        answer = client.post(address, {"username": "maker", "password": "wrong"})
    assert b"Too many tries" in answer.content
    right = client.post(address, {"username": "maker", "password": PASSWORD})
    assert b"Too many tries" in right.content


@pytest.mark.parametrize(("address", "signed_in"), [("127.0.0.1", True), ("::1", True), ("192.0.2.7", False)])
def test_the_demo_signs_in_by_itself_on_the_loopback_address_only(rf, db, address, signed_in) -> None:
    from django.contrib.auth.models import AnonymousUser
    from django.contrib.sessions.backends.db import SessionStore

    User.objects.create_user("lantern-quay")
    request = rf.get("/", REMOTE_ADDR=address)
    request.user, request.session = AnonymousUser(), SessionStore()
    demo_sign_in(lambda request: request.user)(request)
    assert request.user.is_authenticated is signed_in


def test_the_deployment_check_is_clean(db) -> None:
    """Django's own check, with the settings that serve --https turns on."""
    with override_settings(
        SECURE_SSL_REDIRECT=True,
        SECURE_HSTS_SECONDS=31536000,
        SECURE_HSTS_INCLUDE_SUBDOMAINS=True,
        SECURE_HSTS_PRELOAD=True,
        SESSION_COOKIE_SECURE=True,
        CSRF_COOKIE_SECURE=True,
    ):
        call_command("check", deploy=True, fail_level="WARNING")
