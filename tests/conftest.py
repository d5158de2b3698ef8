"""What the tests of pages share: a workshop, its maker, a signed-in client."""

import pytest
from django.test import Client

from firkin.accounts.models import Membership, User, Workshop
from firkin.core.formula import formula_from_dict
from firkin.formulas.models import Formula

PASSWORD = "long enough for a lock-keeper"

WHO_I = {
    "format": "firkin-formula/1",
    "name": "Landing rub",
    "family": "liquid-rub",
    "make": "1 L",
    "guideline": "who-ethanol",
    "lines": [
        {"material": "ethanol", "strength": "96 % v/v", "amount": "833.3 mL"},
        {"material": "hydrogen-peroxide", "strength": "3 %", "amount": "41.7 mL"},
        {"material": "glycerol", "amount": "14.5 mL"},
        {"material": "water", "amount": "q.s."},
    ],
}


@pytest.fixture
def workshop(db) -> Workshop:
    return Workshop.objects.create(name="Test quay", time_zone="Europe/Berlin")


@pytest.fixture
def maker(workshop: Workshop) -> User:
    user = User.objects.create_user("maker", password=PASSWORD)
    Membership.objects.create(user=user, workshop=workshop)
    return user


@pytest.fixture
def bench(client: Client, maker: User) -> Client:
    """A client signed in as the maker."""
    client.force_login(maker)
    return client


@pytest.fixture
def landing_rub(workshop: Workshop, maker: User) -> Formula:
    return Formula.objects.keep(formula_from_dict(WHO_I), workshop, maker)
