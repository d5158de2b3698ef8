"""No address leads into another workshop, and no onlooker's press writes: every address there is, found in the code."""

import re
from collections.abc import Iterator

import pytest
from django.test import Client
from django.urls import URLPattern, URLResolver, get_resolver

from firkin.accounts.models import Membership, Role, User, Workshop
from firkin.batches.models import Batch, CalendarFeed, Due, Filling, Photo
from firkin.formulas.models import Formula
from firkin.shelf.models import Material, Stock, Tool, Vessel
from firkin.site import demo

#: What the number in an address is, by the beginning of the address. The longest that fits is meant.
NUMBERED = {
    "batches/<int:pk>/": Batch,
    "batches/compare/<int:pk>/": Formula,
    "batches/due/<int:pk>/": Due,
    "formulas/<int:pk>/": Formula,
    "shelf/stocks/<int:pk>/": Stock,
    "shelf/vessels/<int:pk>/": Vessel,
    "shelf/<slug:key>/<int:pk>/": {"stock": Stock, "vessel": Vessel, "tool": Tool, "material": Material},
}
#: Words and tokens in addresses that name nothing of a workshop, or are themselves the way in.
OPEN = {
    "reckon/<slug:ask>/": {"ask": "dilution"},
    "formulas/house/<slug:key>/": {"key": "xanthan-gel"},
    "shelf/<slug:key>/add/": {"key": "stock"},
    "exchange/tables/<slug:name>.csv": {"name": "readings"},
    "batches/calendar/feed/<slug:token>.ics": {"token": "made-up"},
    "accounts/join/<slug:token>/": {"token": "made-up"},
}
#: What an address needs besides to say anything.
ASKED = {"formulas/<int:pk>/compare/": "?with=1"}
#: Addresses at which an onlooker's press is let through: nothing of the workshop is written there.
LET_THROUGH = ("accounts/", "reckon/", "formulas/check/")


def patterns(resolver: URLResolver | None = None, before: str = "") -> Iterator[str]:
    for one in (resolver or get_resolver()).url_patterns:
        if isinstance(one, URLResolver):
            yield from patterns(one, before + str(one.pattern))
        elif isinstance(one, URLPattern):
            yield before + str(one.pattern)


EVERY = sorted(patterns())


def filled(pattern: str) -> list[str]:
    """The addresses of a pattern with the demo's own things in them; fails where nobody said what a number is."""
    if pattern in OPEN or "<" not in pattern:
        for name, value in OPEN.get(pattern, {}).items():
            pattern = re.sub(rf"<\w+:{name}>", value, pattern)
        return ["/" + pattern]
    whole = pattern
    begins = [start for start in NUMBERED if pattern.startswith(start)]
    assert begins, f"{pattern}: say in NUMBERED what its number is"
    what = NUMBERED[max(begins, key=len)]
    kinds = what if isinstance(what, dict) else {"": what}
    found = []
    for key, model in kinds.items():
        for thing in model.objects.all():
            address = pattern.replace("<slug:key>", key).replace("<int:pk>", str(thing.pk)).replace("<int:at>", "0")
            inner = {"<int:photo_pk>": Photo, "<int:filling_pk>": Filling}
            for name, model_of in inner.items():
                if name in address:
                    there = model_of.objects.filter(batch=thing.pk).first()
                    address = address.replace(name, str(there.pk)) if there else ""
            found.append(address)
    found = ["/" + address + ASKED.get(whole, "") for address in found if address][:4]
    assert found, f"{pattern}: the demo has nothing of that"
    assert not any("<" in address for address in found), f"{pattern}: say what its other parts are"
    return found


@pytest.fixture
def quay(db) -> Workshop:
    demo.load()
    quay = Workshop.objects.get()
    Photo.objects.create(batch=Batch.objects.first(), jpeg=b"x")
    CalendarFeed.objects.create(workshop=quay)
    Material.objects.create(workshop=quay, name="Quay clay")
    return quay


def came(workshop: Workshop, role: Role) -> Client:
    user = User.objects.create_user(f"{role} of {workshop}".replace(" ", "-"))
    Membership.objects.create(user=user, workshop=workshop, role=role)
    client = Client()
    client.force_login(user)
    return client


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
            assert own.get(address).status_code in (200, 204, 302, 405, 422), address  # so the address is a right one
    assert walked > 60


def test_every_address_asks_a_stranger_to_sign_in(quay: Workshop) -> None:
    let_in = {"health/", "accounts/sign-in/", "accounts/sign-out/", *(key for key in OPEN if "token" in key)}
    stranger = Client()
    for pattern in EVERY:
        if pattern not in let_in:
            for address in filled(pattern)[:1]:
                for answer in (stranger.get(address), stranger.post(address)):
                    assert answer.status_code == 302, address
                    assert answer.url.startswith("/accounts/sign-in/"), address


def test_every_press_of_an_onlooker_is_refused_and_every_page_opens(quay: Workshop) -> None:
    onlooker = came(quay, Role.ONLOOKER)
    for pattern in EVERY:
        if pattern.startswith(LET_THROUGH) or pattern in ("health/",):
            continue
        for address in filled(pattern)[:1]:
            assert onlooker.post(address, {"amount": "1 L"}).status_code == 403, address
            answer = onlooker.get(address)
            assert answer.status_code in (200, 204, 302, 404, 405, 422), address
            answer.close()
