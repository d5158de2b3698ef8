"""The example beside one's own workshop: apart from it, one for each account, and gone when it is left."""

import pytest
from django.db import connection
from django.test import Client

from firkin.accounts.models import Example, Membership, User, Workshop
from firkin.batches.models import Batch

#: Tables that say who was here and when, or how the index of the search is laid out, and not what a workshop holds.
_OF_THE_SITE = ("django_session", "axes_", "sqlite_", "accounts_auditline", "search_entry_idx", "search_entry_data")


def makers(*names: str) -> list[User]:
    found = []
    for name in names:
        workshop = Workshop.objects.create(name=f"Shed of {name}", time_zone="Asia/Tokyo", currency="JPY")
        found.append(User.objects.create_user(name))
        Membership.objects.create(user=found[-1], workshop=workshop)
    return found


def signed_in(user: User) -> Client:
    client = Client()
    client.force_login(user)
    return client


def rows() -> dict[str, int]:
    with connection.cursor() as cursor:
        names = [name for name in connection.introspection.table_names(cursor) if not name.startswith(_OF_THE_SITE)]
        return {name: cursor.execute(f'SELECT count(*) FROM "{name}"').fetchone()[0] for name in names}  # noqa: S608


@pytest.mark.long
@pytest.mark.django_db
def test_an_example_is_looked_at_tried_and_left_and_nothing_of_it_stays() -> None:
    robin, wren = makers("robin", "wren")
    before = rows()
    client = signed_in(robin)
    assert "Look around an example" in client.get("/").content.decode()
    for _ in range(2):  # pressed twice, it is one
        page = client.post("/example/", follow=True).content.decode()
        assert "nothing here is yours" in page
        assert "Citrus ferment" in page
    there = Example.objects.get()
    assert (there.workshop.time_zone, there.workshop.currency) == ("Asia/Tokyo", "JPY")
    batch = Batch.objects.filter(workshop=there.workshop).first()
    assert batch
    assert client.get(f"/batches/{batch.pk}/", follow=True).status_code == 200
    other = signed_in(wren)
    assert other.get(f"/batches/{batch.pk}/").status_code == 404, "it is the account's alone"
    assert "Shed of wren" in other.get("/").content.decode()
    other.post("/example/")
    assert Example.objects.count() == 2
    for one in (client, other, client):  # left twice, it is still only left
        page = one.post("/example/", {"act": "leave"}, follow=True).content.decode()
        assert "Shed of" in page
        assert "nothing here is yours" not in page
    assert rows() == before


@pytest.mark.long
@pytest.mark.django_db
def test_a_long_name_and_one_that_is_taken_get_an_example_each() -> None:
    first, second = makers("a" * 65 + "1", "a" * 65 + "2")
    for user in (first, second):
        assert signed_in(user).post("/example/", follow=True).status_code == 200
    assert Example.objects.count() == 2


@pytest.mark.django_db
def test_the_demo_is_the_example_already(settings) -> None:
    settings.DEMO = True
    (robin,) = makers("robin")
    assert "already" in signed_in(robin).post("/example/", follow=True).content.decode()
    assert not Example.objects.exists()
