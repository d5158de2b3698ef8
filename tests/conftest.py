"""What the tests share: how properties are tried, and for pages a workshop, its maker, a signed-in client.

Properties have no deadline: a busy machine is no fault. They are tried on the same examples every time, unless
FIRKIN_EXAMPLES says "random"; ./firkin test --random does, and prints its seed.
"""

import os
import re
from typing import Any

import pytest
from django.test import Client
from hypothesis import HealthCheck, settings

from firkin.accounts.models import Membership, User, Workshop
from firkin.core.formula import formula_from_dict
from firkin.formulas.models import Formula
from served import demo_folder, served  # noqa: F401  fixtures

PATIENT = [HealthCheck.too_slow, HealthCheck.function_scoped_fixture]
settings.register_profile("same", deadline=None, derandomize=True, max_examples=20, suppress_health_check=PATIENT)
settings.register_profile("many", deadline=None, derandomize=True, max_examples=200, suppress_health_check=PATIENT)
settings.register_profile("random", deadline=None, print_blob=True, suppress_health_check=PATIENT)
settings.load_profile(os.environ.get("FIRKIN_EXAMPLES", "same"))

#: How long a page is waited for in a browser, s. A wait ends when it is there; only a busy machine takes longer.
PATIENCE_S = 60
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


def plain(words: str) -> str:
    """A test's name for what it is tried on: letters, figures and hyphens, so that it can be asked for by itself."""
    return re.sub(r"[^A-Za-z0-9]+", "-", words)[:40].strip("-") or "nothing"


def pytest_make_parametrize_id(val: object) -> str | None:
    return plain(val) if isinstance(val, str) else None


@pytest.fixture(scope="session", autouse=True)
def data_folder(tmp_path_factory: pytest.TempPathFactory) -> None:
    """What is written beside the database goes into a folder of these tests."""
    from django.conf import settings as django_settings

    django_settings.DATA = tmp_path_factory.mktemp("data")


@pytest.fixture
def workshop(db) -> Workshop:
    return Workshop.objects.create(name="Test quay", time_zone="Europe/Berlin")


@pytest.fixture
def in_the_zone_of_the_workshop(settings: Any) -> None:
    """The day is the workshop's also outside of a request: for two hours before midnight UTC it is another."""
    settings.TIME_ZONE = "Europe/Berlin"


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
