"""Files that were changed anywhere: refused with a sentence and a path, or taken in whole, and every page opens."""

import copy
import json
from typing import Any

import pytest
from django.db import transaction
from django.test import Client
from django.urls import reverse
from hypothesis import given, settings
from hypothesis import strategies as st

from firkin.accounts.models import User, Workshop
from firkin.batches.models import Batch
from firkin.core.errors import CannotRead
from firkin.exchange import archive
from firkin.exchange.tables import TABLES
from firkin.formulas.models import Formula
from often import often
from quay import lantern_quay

pytestmark = pytest.mark.django_db

ODD = [
    None, True, False, 0, -1, 1, 2, 0.5, 1e308, -1e308, 1e-300, 10**20, "", "x", "0", "-1", "nan", "1e999", "2026-02-30",
    "2026-11-29T10:00:00+00:00", "0001-01-01T00:00:00+00:00", "9999-12-31T23:59:59+00:00", "ethanol", "50 %", "1 L", "q.s.",
    [], {}, [[]], {"what": "ph", "value": "x"}, {"undo": {}}, {"undo": {"state": "lost", "at": "never"}}, "<script>", "ü" * 400,
]  # fmt: skip
STAGES = ("record", "label", "check", "wait", "fill", "make", "prepare", "rescue")


def places(data: Any, path: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """The path to everything in plain data."""
    found = [path] if path else []
    items = data.items() if isinstance(data, dict) else enumerate(data) if isinstance(data, list) else ()
    for key, value in items:
        found += places(value, (*path, key))
    return found


def at(data: Any, path: tuple[Any, ...]) -> Any:
    for key in path:
        data = data[key]
    return data


def changed(document: dict[str, Any], path: tuple[Any, ...], how: str, value: Any) -> dict[str, Any]:
    """The document with what stands at a path taken out, doubled, or another."""
    document = copy.deepcopy(document)
    above, key = at(document, path[:-1]), path[-1]
    if how == "out":
        del above[key]
    elif how == "twice" and isinstance(above, list):
        above.insert(key, copy.deepcopy(above[key]))
    else:
        above[key] = copy.deepcopy(value)
    return document


@pytest.fixture
def whole(db) -> dict[str, Any]:
    lantern_quay()
    return json.loads(json.dumps(archive.written(Workshop.objects.get()).document))


@pytest.fixture
def keeper(client: Client, db) -> Client:
    client.force_login(User.objects.create_user("keeper"))
    return client


def every_page(client: Client, workshop: Workshop) -> None:
    addresses = ["/", "/shelf/", "/batches/", "/formulas/", "/batches/calendar/", "/exchange/", "/accounts/workshop/", "/batches/labels/"]  # fmt: skip
    addresses += [reverse("exchange:table", args=[name]) for name in TABLES]
    for batch in Batch.objects.filter(workshop=workshop):
        addresses += [reverse(f"batches:{stage}", args=[batch.pk]) for stage in STAGES]
    for formula in Formula.objects.filter(workshop=workshop):
        addresses += [reverse("formulas:sheet", args=[formula.pk]), reverse("formulas:edit", args=[formula.pk])]
    for address in addresses:
        assert client.get(address).status_code < 500, address
    b"".join(client.get(reverse("exchange:whole")).streaming_content)


#: Each was a fault once: the table, the column (or the way into it), and what stood there.
ONCE_FAULTS = [
    (("workshop", "simulated_instruments"), "other", "1 L"),
    (("tables", "versions", 0, "guidelines", 0), "other", 10**20),
    (("tables", "versions", 1, "guidelines", 0), "other", None),
    (("tables", "fillings", 0), "twice", None),
    (("tables", "tools", 3), "twice", None),
    (("tables", "formulas", 0), "twice", None),
    (("tables", "batches", 4, "family"), "other", "nan"),
    (("tables", "batches", 6, "verdict"), "other", "glycerol"),
    (("tables", "formula_steps", 7, "lines"), "other", [10**20]),
    (("tables", "vessels", 5, "volume_mL"), "other", 0),
    (("tables", "entries", 59, "amount_value"), "other", 329.99),
    (("tables", "entries", 58, "data"), "other", {"seen": {"smell": 10**20}}),
]


@pytest.mark.parametrize(
    ("path", "how", "value"), often(ONCE_FAULTS, ONCE_FAULTS[0], ONCE_FAULTS[-1]), ids=lambda one: str(one)[:60]
)
def test_what_was_a_fault_once_is_refused_in_words(whole, keeper, path, how: str, value) -> None:
    document = changed(whole, path, how, value)
    if "kind" in at(document, path[:-1]) and path[-1] == "data":
        at(document, path[:-1])["kind"] = "observe"
    if path[-1] == "amount_value":
        at(document, path[:-1])["amount_unit"] = ""
    assert not taken_in(document, keeper)


@settings(max_examples=10)
@given(data=st.data())
@pytest.mark.long
def test_a_changed_file_is_refused_with_a_path_or_every_page_of_it_opens(whole, keeper, data) -> None:
    document = whole
    for _ in range(data.draw(st.integers(1, 2))):
        # one row of a table at a time: the tables are of very different sizes
        table = data.draw(st.sampled_from(["workshop", *archive.TABLES]))
        here = ("workshop",) if table == "workshop" else ("tables", table)
        below = [(*here, *path) for path in places(at(document, here))]
        if not below:
            continue
        path = data.draw(st.sampled_from(below))
        other = st.sampled_from(below).map(lambda one, document=document: at(document, one))
        document = changed(
            document,
            path,
            data.draw(st.sampled_from(["out", "twice", "other", "other"])),
            data.draw(st.sampled_from(ODD) | other),
        )
    taken_in(document, keeper)


def taken_in(document: dict[str, Any], keeper: Client) -> bool:
    """True where a document is taken in, and then every page opens; False where it is refused in words."""
    user = User.objects.get(username="keeper")
    with transaction.atomic():
        try:
            workshop = archive.read(archive.Archive(document), "Changed", bringer=user)
        except CannotRead as error:
            refused = error
        else:
            every_page(keeper, workshop)
            transaction.set_rollback(True)
            return True
    assert refused.path and str(refused)
    assert not Workshop.objects.filter(name="Changed").exists()
    return False
