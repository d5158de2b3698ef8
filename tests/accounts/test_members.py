"""Members of a workshop: what each role may do, coming in by an invitation, and having several workshops."""

import re
from datetime import timedelta

import pytest
from django.test import Client
from django.utils import timezone

from conftest import PASSWORD
from firkin.accounts.models import Invitation, Membership, Role, User, Workshop
from firkin.formulas.models import Formula
from firkin.shelf.models import Stock
from steps import said

HERE = "/accounts/members/"
NEW = {"username": "lock-keeper", "password1": PASSWORD + " too", "password2": PASSWORD + " too"}


def link(page: str) -> str:
    return re.search(r'href="http://testserver(/accounts/join/[^"]+)"', page)[1]


def invite(bench: Client, role: str = "maker", days: int = 7) -> str:
    return link(bench.post(HERE, {"act": "invite", "role": role, "days": days}, follow=True).content.decode())


def member(workshop: Workshop, name: str, role: Role) -> tuple[Client, Membership]:
    user = User.objects.create_user(name, password=PASSWORD)
    membership = Membership.objects.create(user=user, workshop=workshop, role=role)
    client = Client()
    client.force_login(user)
    return client, membership


def test_a_link_lets_one_stranger_in_and_no_second_one(bench: Client, workshop: Workshop, landing_rub: Formula) -> None:
    address = invite(bench)
    stranger, second = Client(), Client()
    assert "Come into Test quay" in said(stranger.get(address))
    assert said(stranger.post(address, NEW, follow=True)).count("Welcome to Test quay")
    assert "Landing rub" in said(stranger.get("/formulas/"))
    assert Membership.objects.get(user__username="lock-keeper").role == Role.MAKER
    late = second.post(address, NEW | {"username": "another"})
    assert late.status_code == 404
    assert "leads nowhere" in said(late)
    assert not User.objects.filter(username="another").exists()


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ({"password2": "another one entirely"}, "didn’t match"),
        ({"password1": "short", "password2": "short"}, "too short"),
        ({"username": "maker"}, "already exists"),
    ],
)
def test_an_account_that_will_not_do_leaves_the_link_open(bench: Client, maker: User, typed, says: str) -> None:
    address = invite(bench)
    assert says in said(Client().post(address, NEW | typed)).replace("&#x27;", "’")
    assert Invitation.objects.open().count() == 1


def test_a_link_is_shown_to_the_one_who_made_it_and_cannot_be_made_up(bench: Client, workshop: Workshop) -> None:
    press = {"act": "invite", "role": "maker", "days": 7, "press": "8c1c2f0e-8f0e-4f0e-9f0e-8c1c2f0e8f0e"}
    first, second = bench.post(HERE, press), bench.post(HERE, press)
    assert first.url == second.url
    assert Invitation.objects.count() == 1
    assert link(bench.get(first.url).content.decode())
    for made in ("", "made-up", "made-up:1uYw:xyz"):
        assert "The link for the one you invite" not in said(bench.get(HERE, {"made": made}))


def test_a_link_runs_out_and_can_be_withdrawn_and_is_not_stored(bench: Client, workshop: Workshop) -> None:
    old, gone = invite(bench, days=1), invite(bench)
    first, second = Invitation.objects.order_by("pk")
    token = old.split("/")[-2]
    assert token not in (first.digest, second.digest)
    assert timedelta(hours=23) < first.ends - timezone.now() < timedelta(days=1)
    assert timedelta(days=6) < second.ends - timezone.now() < timedelta(days=7)
    Invitation.objects.filter(pk=first.pk).update(ends=timezone.now())
    bench.post(HERE, {"act": "withdraw", "invitation": second.pk})
    assert [Client().get(address).status_code for address in (old, gone)] == [404, 404]
    assert Client().get("/accounts/join/made-up/").status_code == 404


def test_an_account_that_is_there_comes_in_without_a_new_one_and_chooses_between_its_workshops(
    bench: Client, maker: User, workshop: Workshop, landing_rub: Formula
) -> None:
    other = Workshop.objects.create(name="Other quay")
    keeper, _ = member(other, "other-keeper", Role.KEEPER)
    bench.post(invite(keeper, "onlooker"), {})
    assert User.objects.count() == 2
    assert "Landing rub" not in said(bench.get("/formulas/"))
    page = said(bench.post("/accounts/me/", {"act": "workshop", "workshop": workshop.pk}, follow=True))
    assert "You are in Test quay now" in page
    assert "Landing rub" in said(bench.get("/formulas/"))
    theirs = Workshop.objects.create(name="No way in")
    member(theirs, "their-keeper", Role.KEEPER)
    bench.post("/accounts/me/", {"act": "workshop", "workshop": theirs.pk})
    assert "No way in" not in said(bench.get("/"))


def test_a_member_does_not_use_up_a_link_of_their_own_workshop(bench: Client, workshop: Workshop) -> None:
    address = invite(bench, "onlooker")
    assert "member of Test quay already" in said(bench.post(address))
    assert Invitation.objects.open().count() == 1
    assert Membership.objects.get().role == Role.KEEPER


def test_an_account_in_no_workshop_can_come_into_one_and_sign_out(bench: Client, workshop: Workshop) -> None:
    loose = Client()
    loose.force_login(User.objects.create_user("loose"))
    assert loose.get("/").status_code == 403
    assert loose.post(invite(bench)).status_code == 302
    assert loose.get("/").status_code == 200
    again = Client()
    again.force_login(User.objects.create_user("looser"))
    assert again.post("/accounts/sign-out/").status_code == 302


def test_an_onlooker_sees_and_reckons_and_writes_nothing(workshop: Workshop, landing_rub: Formula) -> None:
    client, _ = member(workshop, "visitor", Role.ONLOOKER)
    assert client.get(f"/formulas/{landing_rub.pk}/").status_code == 200
    refused = client.post("/shelf/stock/add/", {"material": "glycerol", "size": "1 L", "name": "Mine"})
    assert refused.status_code == 403
    assert "change nothing" in said(refused)
    assert not Stock.objects.exists()
    assert client.post("/formulas/check/", {"text": "3 cups ethanol 96 %"}).status_code == 200
    assert client.post("/accounts/me/", {"act": "name", "username": "seer"}).status_code == 302


@pytest.mark.parametrize("role", [Role.MAKER, Role.ONLOOKER])
def test_only_a_keeper_changes_settings_and_members(bench: Client, workshop: Workshop, role: Role) -> None:
    client, mine = member(workshop, "visitor", role)
    before = list(Membership.objects.values_list("user", "role"))
    keeper = Membership.objects.get(user__username="maker")
    for data in (
        {"act": "role", "member": mine.pk, "role": "keeper"},
        {"act": "remove", "member": keeper.pk},
        {"act": "invite", "role": "keeper", "days": 7},
    ):
        assert client.post(HERE, data).status_code == 403
    answer = client.post("/accounts/workshop/", {"name": "Mine now", "time_zone": "UTC", "currency": "EUR"})
    assert answer.status_code == 403
    assert list(Membership.objects.values_list("user", "role")) == before
    assert not Invitation.objects.exists()
    workshop.refresh_from_db()
    assert workshop.name == "Test quay"
    assert client.post(HERE, {"act": "leave"}).status_code == 302
    assert not Membership.objects.filter(pk=mine.pk).exists()


def test_one_keeper_stays_whatever_is_pressed(bench: Client, workshop: Workshop) -> None:
    keeper = Membership.objects.get()
    _, other = member(workshop, "mate", Role.MAKER)
    for data in (
        {"act": "role", "member": keeper.pk, "role": "maker"},
        {"act": "remove", "member": keeper.pk},
        {"act": "leave"},
    ):
        assert "needs a keeper" in said(bench.post(HERE, data, follow=True))
    assert Membership.objects.get(pk=keeper.pk).role == Role.KEEPER
    bench.post(HERE, {"act": "role", "member": other.pk, "role": "keeper"})
    bench.post(HERE, {"act": "leave"})
    assert [one.user.username for one in Membership.objects.all()] == ["mate"]


@pytest.mark.parametrize(
    "data",
    [
        {"act": "role", "member": "", "role": "maker"},
        {"act": "remove", "member": "9" * 30},
        {"act": "withdraw", "invitation": "²"},
        {"act": "invite", "role": "admiral", "days": "7"},
        {"act": "invite", "role": "maker", "days": "3650"},
        {"act": "role", "member": "1", "role": "admiral"},
        {"act": "nonsense"},
    ],
)
def test_nonsense_changes_nothing(bench: Client, workshop: Workshop, data: dict[str, str]) -> None:
    before = list(Membership.objects.values_list("user", "role"))
    assert bench.post(HERE, data).status_code in (200, 302)
    assert (list(Membership.objects.values_list("user", "role")), Invitation.objects.count()) == (before, 0)


def test_another_workshop_s_members_and_invitations_cannot_be_named(bench: Client, workshop: Workshop) -> None:
    other = Workshop.objects.create(name="Other quay")
    keeper, theirs = member(other, "other-keeper", Role.KEEPER)
    member(other, "second-keeper", Role.KEEPER)
    invite(keeper)
    bench.post(HERE, {"act": "remove", "member": theirs.pk})
    bench.post(HERE, {"act": "role", "member": theirs.pk, "role": "onlooker"})
    bench.post(HERE, {"act": "withdraw", "invitation": Invitation.objects.get().pk})
    assert Membership.objects.get(pk=theirs.pk).role == Role.KEEPER
    assert Invitation.objects.open().count() == 1
