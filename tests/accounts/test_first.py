"""The first keeper comes in by a link of the start, once; the limits of it."""

import time

import pytest
from django.core import signing
from django.test import Client

from conftest import PASSWORD
from firkin.accounts import first
from firkin.accounts.models import Membership, Role, User, Workshop
from steps import said

pytestmark = pytest.mark.django_db

NEW = {
    "username": "lock-keeper",
    "password1": PASSWORD + " too",
    "password2": PASSWORD + " too",
    "workshop": "Wash-house",
    "time_zone": "Europe/Berlin",
}


def test_the_first_one_founds_a_workshop_and_the_link_is_dead_after() -> None:
    address = first.link()
    assert "Set up your bench" in said(Client().get(address))
    assert "Welcome to Wash-house" in said(Client().post(address, NEW, follow=True))
    assert Membership.objects.get().role == Role.KEEPER
    assert Workshop.objects.get().time_zone == "Europe/Berlin"
    again = Client().post(address, NEW | {"username": "second", "workshop": "Other"})
    assert again.status_code == 404
    assert User.objects.count() == 1
    assert first.link() == ""


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ({"password2": "another one entirely"}, "didn’t match"),
        ({"password1": "short", "password2": "short"}, "too short"),
        ({"time_zone": "Lantern/Quay"}, "That is not a time zone"),
        ({"workshop": " "}, "required"),
        ({"workshop": "Taken"}, "already"),
    ],
)
def test_what_will_not_do_is_said_and_the_link_stays_open(typed: dict[str, str], says: str) -> None:
    Workshop.objects.create(name="Taken")
    address = first.link()
    page = said(Client().post(address, NEW | typed)).replace("&#x27;", "’")
    assert says in page
    assert "lock-keeper" in page
    assert not User.objects.exists()
    assert "Set up your bench" in said(Client().get(address))


@pytest.mark.parametrize(("later", "status"), [(first.OPEN_HOURS * 3600 - 5, 200), (first.OPEN_HOURS * 3600 + 5, 404)])
def test_the_link_leads_in_for_a_day(later: int, status: int, monkeypatch: pytest.MonkeyPatch) -> None:
    printed = signing.b62_encode(int(time.time()) - later)
    monkeypatch.setattr(signing.TimestampSigner, "timestamp", lambda _: printed)
    assert Client().get(first.link()).status_code == status


def test_a_made_up_link_leads_nowhere() -> None:
    assert Client().get(first.link()[:-2] + "x/").status_code == 404


def test_the_sign_in_says_that_nobody_is_here_yet() -> None:
    assert "printed a link to make the first one" in said(Client().get("/accounts/sign-in/"))
    User.objects.create_user("one", password=PASSWORD)
    assert "printed a link" not in said(Client().get("/accounts/sign-in/"))
