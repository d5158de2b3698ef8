"""One's own account: name, password, and ending other sessions."""

import random
import re
import uuid

import pytest
from django.test import Client

from conftest import PASSWORD
from firkin.accounts.models import User
from firkin.shelf.models import Stock
from steps import said

HERE = "/accounts/me/"
NEW = "a longer password than that"


def other(maker) -> Client:
    """A session of the same account elsewhere."""
    elsewhere = Client()
    elsewhere.force_login(maker)
    assert elsewhere.get("/").status_code == 200
    return elsewhere


def test_a_name_is_changed_and_one_that_is_taken_is_refused_at_its_field(bench: Client, maker) -> None:
    User.objects.create_user("lock-keeper")
    taken = said(bench.post(HERE, {"act": "name", "username": "lock-keeper"}))
    assert "already exists" in taken
    assert bench.post(HERE, {"act": "name", "username": "quay-hand"}).status_code == 302
    maker.refresh_from_db()
    assert maker.username == "quay-hand"
    assert bench.get("/").status_code == 200


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ({"old_password": "wrong"}, "incorrect"),
        ({"new_password2": "another one entirely"}, "match"),
        ({"new_password1": "short", "new_password2": "short"}, "too short"),
        ({"new_password1": "password1234", "new_password2": "password1234"}, "too common"),
    ],
)
def test_a_password_that_will_not_do_is_refused_and_nothing_changes(bench: Client, maker, typed, says: str) -> None:
    data = {"act": "password", "old_password": PASSWORD, "new_password1": NEW, "new_password2": NEW} | typed
    assert says in said(bench.post(HERE, data))
    maker.refresh_from_db()
    assert maker.check_password(PASSWORD)


def test_a_new_password_ends_every_other_session_and_not_this_one(bench: Client, maker, workshop) -> None:
    elsewhere = other(maker)
    data = {"act": "password", "old_password": PASSWORD, "new_password1": NEW, "new_password2": NEW}
    assert bench.post(HERE, data).status_code == 302
    assert bench.get("/").status_code == 200
    assert elsewhere.get("/").status_code == 302
    maker.refresh_from_db()
    assert maker.check_password(NEW)


def test_other_sessions_end_on_request_those_of_others_do_not(bench: Client, maker, workshop) -> None:
    stranger = User.objects.create_user("stranger")
    theirs, elsewhere = other(maker), other(maker)
    apart = Client()
    apart.force_login(stranger)
    assert "2 other sessions ended" in said(bench.post(HERE, {"act": "sessions"}, follow=True))
    assert [client.get("/").status_code for client in (bench, theirs, elsewhere)] == [200, 302, 302]
    assert apart.get("/").status_code == 403  # still signed in, and in no workshop


def hidden(page: str) -> dict[str, str]:
    return dict(re.findall(r'<input type="hidden" name="(\w+)" value="([^"]*)"', page))


def test_what_was_typed_when_the_session_had_ended_is_there_after_the_sign_in(client: Client, maker, workshop) -> None:
    typed = {"material": "glycerol", "size": "1 L", "name": "Tall “brown” bottle", "press": str(uuid.uuid4())}
    page = said(client.post("/shelf/stock/add/", typed))
    assert "Sign in" in page
    carried = hidden(page)
    wrong = said(client.post("/accounts/sign-in/", carried | {"username": "maker", "password": "wrong"}))
    page = said(client.post("/accounts/sign-in/", hidden(wrong) | {"username": "maker", "password": PASSWORD}))
    assert "What you had typed is here" in page
    assert "Tall “brown” bottle" in page
    assert not Stock.objects.exists()
    again = {name: value for name, value in hidden(page).items() if name in typed}
    assert again == typed
    client.post("/shelf/stock/add/", again)
    assert Stock.objects.get().name == "Tall “brown” bottle"


def test_what_was_typed_on_a_page_from_before_a_sign_in_is_there_to_be_sent(maker, workshop) -> None:
    """A sign-in in another tab gives the session a new token; the page that was open holds the old one."""
    client = Client(enforce_csrf_checks=True)
    client.force_login(maker)
    token = re.search(r'name="csrfmiddlewaretoken" value="(\w+)"', client.get("/shelf/stock/add/").content.decode())[1]
    typed = {"material": "glycerol", "size": "1 L", "name": "Tall “brown” bottle", "press": str(uuid.uuid4())}
    client.force_login(maker)
    client.cookies["csrftoken"] = "a" * 32
    old = {**typed, "csrfmiddlewaretoken": token}
    ours = {"Origin": "http://testserver"}
    page = client.post("/shelf/stock/add/", old, headers=ours).content.decode()
    assert "What you had typed is here" in page
    assert not Stock.objects.exists()
    assert client.post("/shelf/stock/add/", hidden(page), headers=ours).status_code == 302
    assert Stock.objects.get().name == "Tall “brown” bottle"


@pytest.mark.parametrize("origin", [{}, {"Origin": "http://elsewhere.example"}, {"Origin": "null"}])
def test_what_another_site_sends_is_refused_and_not_shown(maker, workshop, origin: dict[str, str]) -> None:
    client = Client(enforce_csrf_checks=True)
    client.force_login(maker)
    client.cookies["csrftoken"] = "a" * 32
    answer = client.post("/shelf/stock/add/", {"name": "Planted"}, headers=origin)
    assert answer.status_code == 403
    assert "Planted" not in said(answer)


def test_an_old_page_after_signing_out_asks_to_sign_in_and_keeps_what_was_typed(client: Client, workshop) -> None:
    strict = Client(enforce_csrf_checks=True, headers={"Origin": "http://testserver"})
    page = said(strict.post("/shelf/stock/add/", {"name": "Tall “brown” bottle"}))
    assert "Sign in to the bench" in page
    assert "What you typed is kept" in page


@pytest.mark.parametrize("unsent", ["nonsense", "", "a" * 3000])
def test_a_form_that_nobody_signed_is_not_carried(client: Client, maker, workshop, unsent: str) -> None:
    data = {"username": "maker", "password": PASSWORD, "unsent": unsent, "next": "/shelf/"}
    answer = client.post("/accounts/sign-in/", data)
    assert (answer.status_code, answer.url) == (302, "/shelf/")


def test_more_than_is_carried_leads_to_the_sign_in_as_before(client: Client, maker, workshop) -> None:
    text = "".join(random.Random(1).choices("abcdefghijklmnopqrstuvwxyz0123456789", k=400_000))
    answer = client.post("/batches/1/record/", {"text": text})
    assert answer.status_code == 302


def test_the_demo_s_account_keeps_its_name_by_which_it_is_signed_in(bench: Client, maker, settings) -> None:
    settings.DEMO = True
    assert "stays as it is" in said(bench.post(HERE, {"act": "name", "username": "other"}, follow=True))
    maker.refresh_from_db()
    assert maker.username == "maker"
