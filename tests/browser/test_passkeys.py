"""Passkeys, with an authenticator that Chromium itself plays (W3C WebDriver extension of WebAuthn)."""

from collections.abc import Iterator

import pytest
from django.test import Client
from django_otp.plugins.otp_static.models import StaticToken
from django_otp_webauthn.models import WebAuthnCredential
from selenium.webdriver.common.virtual_authenticator import VirtualAuthenticatorOptions

from conftest import PASSWORD
from firkin.accounts.models import AuditLine, Membership

pytestmark = pytest.mark.django_db(transaction=True)
SET_UP = "/accounts/second-step/set-up/"


@pytest.fixture
def key(chromium) -> Iterator[object]:
    """A telephone that holds passkeys and knows its owner."""
    options = VirtualAuthenticatorOptions(has_resident_key=True, has_user_verification=True, is_user_verified=True)
    chromium.add_virtual_authenticator(options)
    yield chromium
    chromium.remove_virtual_authenticator()


@pytest.mark.long
def test_made_used_at_the_sign_in_and_at_the_second_step_and_removed(hand, key, workshop, maker) -> None:
    hand.begin()
    hand.open(SET_UP)
    hand.find("[data-passkey] button").click()
    hand.reads("Recovery codes")
    code = StaticToken.objects.filter(device__user=maker).first().token
    assert WebAuthnCredential.objects.filter(user=maker).count() == 1

    key.delete_all_cookies()  # without a password
    hand.open("/accounts/sign-in/?next=/shelf/")
    hand.find("[data-passkey] button").click()
    hand.wait.until(lambda browser: "sign-in" not in browser.current_url)

    key.delete_all_cookies()  # with the password, and then the passkey
    hand.open("/accounts/sign-in/")
    hand.type("#id_username", maker.username)
    hand.type("#id_password", PASSWORD)
    hand.find("form button[type=submit]").click()
    hand.reads("Without your passkey")
    hand.open("/shelf/")
    hand.reads("Without your passkey")
    hand.find("[data-passkey] button").click()
    hand.wait.until(lambda browser: "second-step" not in browser.current_url)
    hand.open("/shelf/")
    assert hand.browser.current_url.endswith("/shelf/")

    hand.open(SET_UP)
    hand.type("[name=password]", "not the password")
    hand.find("button[value=remove-passkey]").click()
    hand.reads("the password is wrong")
    assert WebAuthnCredential.objects.filter(user=maker).exists()
    hand.type("[name=password]", PASSWORD)
    hand.find("button[value=remove-passkey]").click()
    hand.reads("The passkey is removed")
    assert not WebAuthnCredential.objects.filter(user=maker).exists()
    assert not StaticToken.objects.filter(token=code).exists()  # nothing is left for them to stand in for
    said = list(AuditLine.objects.values_list("text", flat=True))
    assert [line for line in said if "passkey" in line] == ["A passkey was removed.", "A passkey was set up."]


@pytest.mark.long
def test_a_passkey_of_another_account_is_no_second_step(hand, key, workshop, maker, django_user_model) -> None:
    other = django_user_model.objects.create_user("other", password=PASSWORD)
    Membership.objects.create(user=other, workshop=workshop)
    hand.begin()
    hand.open(SET_UP)
    hand.find("[data-passkey] button").click()
    hand.reads("Recovery codes")
    WebAuthnCredential.objects.create(user=other, confirmed=True, credential_id=b"1", public_key=b"2", transports=[])
    key.delete_all_cookies()
    hand.open("/accounts/sign-in/")
    hand.type("#id_username", "other")
    hand.type("#id_password", PASSWORD)
    hand.find("form button[type=submit]").click()
    hand.reads("Without your passkey")
    hand.find("[data-passkey] button").click()  # the browser has a passkey, and it is not this account's
    hand.reads("That did not work")
    hand.open("/shelf/")
    hand.reads("Without your passkey")
    client = Client()
    client.force_login(other)
    assert client.get("/shelf/").status_code == 302
    begun = client.post("/accounts/passkey/begin/", {}, content_type="application/json")
    assert begun.status_code == 200
    refused = client.post("/accounts/passkey/complete/", {"id": "x"}, content_type="application/json")
    assert refused.status_code == 422
    again = client.post("/accounts/passkey/complete/", {"id": "x"}, content_type="application/json")
    assert again.status_code == 400  # and not again: what was begun is used up
    assert client.get("/shelf/").status_code == 302
