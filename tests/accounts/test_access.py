"""Who sees what."""

import pytest
from django.core.management import call_command
from django.http import HttpResponse
from django.test import Client, override_settings
from django.urls import reverse

from conftest import PASSWORD
from firkin.accounts.middleware import demo_sign_in
from firkin.accounts.models import User


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
    demo_sign_in(lambda request: HttpResponse())(request)
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
