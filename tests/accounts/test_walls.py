"""No address leads into another workshop, and no onlooker's press writes: every address there is, found in the code."""

import pytest
from django.test import Client

from addresses import EVERY, OPEN, filled, whole_demo
from firkin.accounts.models import Membership, Role, User, Workshop

#: Addresses at which an onlooker's press is let through: nothing of the workshop is written there.
LET_THROUGH = ("accounts/", "reckon/", "formulas/check/")


@pytest.fixture
def quay(db) -> Workshop:
    return whole_demo()


def came(workshop: Workshop, role: Role) -> Client:
    user = User.objects.create_user(f"{role} of {workshop}".replace(" ", "-"))
    Membership.objects.create(user=user, workshop=workshop, role=role)
    client = Client()
    client.force_login(user)
    return client


@pytest.mark.long
def test_every_address_of_anothers_thing_is_not_there(quay: Workshop) -> None:
    own, other = came(quay, Role.KEEPER), came(Workshop.objects.create(name="Other quay"), Role.KEEPER)
    walked = 0
    for pattern in EVERY:
        if pattern in OPEN or "<" not in pattern:
            continue
        for address in filled(pattern):
            walked += 1
            assert other.get(address).status_code in (404, 405), address
            assert other.post(address).status_code in (404, 405), address
            there = own.get(address)
            assert there.status_code in (200, 204, 302, 405, 422), address  # so the address is a right one
            there.close()
    assert walked > 60


@pytest.mark.long
def test_every_address_asks_a_stranger_to_sign_in(quay: Workshop) -> None:
    let_in = {
        "health/",
        "manifest.webmanifest",
        "worker.js",
        "accounts/sign-in/",
        "accounts/sign-out/",
        "accounts/passkey/begin/",
        "accounts/passkey/complete/",
    }
    let_in |= {key for key in OPEN if "token" in key}
    stranger = Client()
    for pattern in EVERY:
        if pattern not in let_in:
            for address in filled(pattern)[:1]:
                for answer in (stranger.get(address), stranger.post(address)):
                    assert answer.status_code == 302, address
                    assert answer.url.startswith("/accounts/sign-in/"), address


@pytest.mark.long
def test_every_press_of_an_onlooker_is_refused_and_every_page_opens(quay: Workshop) -> None:
    onlooker = came(quay, Role.ONLOOKER)
    for pattern in EVERY:
        if pattern.startswith(LET_THROUGH) or pattern in ("health/",):
            continue
        for address in filled(pattern)[:1]:
            assert onlooker.post(address, {"amount": "1 L"}).status_code == 403, address
            answer = onlooker.get(address)
            for_keepers = pattern in ("copies/", "accounts/members/audit/")
            assert answer.status_code in ((403,) if for_keepers else (200, 204, 302, 404, 405, 422)), address
            answer.close()
