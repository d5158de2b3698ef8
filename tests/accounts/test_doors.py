"""Doors: new passwords by a link, sessions by device, the second step, who did what, what a browser keeps."""

import time
from datetime import timedelta
from typing import Any
from urllib.parse import parse_qs, urlsplit

import pytest
from django.core import signing
from django.test import Client
from django.urls import reverse
from django.utils import timezone
from django_otp.oath import totp
from django_otp.plugins.otp_totp.models import TOTPDevice

from conftest import PASSWORD
from firkin.accounts.models import AuditLine, Membership, PasswordReset, User, Workshop
from firkin.batches.models import CalendarFeed
from steps import said

ME, MEMBERS = "/accounts/me/", "/accounts/members/"
NEW = "a longer password than that"


@pytest.fixture
def mate(workshop: Workshop) -> User:
    user = User.objects.create_user("mate", password=PASSWORD)
    Membership.objects.create(user=user, workshop=workshop, role="maker")
    return user


def signed_in(user: User, **more: Any) -> Client:
    client = Client(**more)
    answer = client.post("/accounts/sign-in/", {"username": user.username, "password": PASSWORD})
    assert answer.status_code == 302
    return client


# limits of tries


def test_six_wrong_passwords_of_one_address_close_it_whatever_names_are_tried(db, maker: User) -> None:
    here = Client(REMOTE_ADDR="192.0.2.1")
    for number in range(6):
        here.post("/accounts/sign-in/", {"username": f"guess-{number}", "password": "wrong"})
    right = {"username": "maker", "password": PASSWORD}
    assert "wait" in said(here.post("/accounts/sign-in/", right)).lower()
    assert Client(REMOTE_ADDR="192.0.2.2").post("/accounts/sign-in/", right).status_code == 302


@pytest.mark.parametrize(("tries", "open_"), [(29, True), (30, False)])
def test_thirty_wrong_passwords_of_one_account_rest_it_wherever_they_come_from(
    db, maker, tries: int, open_: bool
) -> None:
    for number in range(tries):
        here = Client(REMOTE_ADDR=f"192.0.2.{number // 5}")
        here.post("/accounts/sign-in/", {"username": "maker", "password": "wrong"})
    elsewhere = Client(REMOTE_ADDR="192.0.2.99")
    answer = elsewhere.post("/accounts/sign-in/", {"username": "maker", "password": PASSWORD})
    assert (answer.status_code == 302) is open_


def test_five_wrong_ones_do_not(db, maker: User) -> None:
    for _ in range(5):
        Client().post("/accounts/sign-in/", {"username": "maker", "password": "wrong"})
    assert signed_in(maker).get("/").status_code == 200


# a new password


def link_for(bench: Client, user: User) -> str:
    member = Membership.objects.get(user=user)
    answer = bench.post(MEMBERS, {"act": "reset", "member": member.pk})
    (signed,) = parse_qs(urlsplit(answer.url).query)["reset"]
    return reverse("accounts:new_password", args=[signing.loads(signed, salt="new password")])


def test_a_member_sets_a_new_password_once_by_a_keeper_s_link(bench: Client, mate: User) -> None:
    elsewhere = signed_in(mate)
    link = link_for(bench, mate)
    typed = {"new_password1": NEW, "new_password2": NEW}
    stranger = Client()
    assert "A new password for mate" in said(stranger.get(link))
    assert stranger.post(link, typed).url == reverse("accounts:sign_in")
    mate.refresh_from_db()
    assert mate.check_password(NEW)
    assert elsewhere.get("/").status_code == 302
    assert stranger.post(link, {"new_password1": PASSWORD, "new_password2": PASSWORD}).status_code == 404
    mate.refresh_from_db()
    assert mate.check_password(NEW)


def test_a_link_ends_with_its_hours_and_with_the_next_one(bench: Client, mate: User) -> None:
    first = link_for(bench, mate)
    assert bench.get(first).status_code == 200
    second = link_for(bench, mate)
    assert (bench.get(first).status_code, bench.get(second).status_code) == (404, 200)
    for left_s, status in ((60, 200), (-1, 404)):
        PasswordReset.objects.filter(used=False).update(ends=timezone.now() + timedelta(seconds=left_s))
        assert bench.get(second).status_code == status


def test_a_password_that_will_not_do_leaves_the_link_open(bench: Client, mate: User) -> None:
    link = link_for(bench, mate)
    assert "too short" in said(Client().post(link, {"new_password1": "short", "new_password2": "short"}))
    assert bench.get(link).status_code == 200


def test_no_link_lets_a_keeper_into_a_workshop_they_do_not_keep(bench: Client, mate: User, maker: User) -> None:
    other = Workshop.objects.create(name="Other quay")
    Membership.objects.create(user=mate, workshop=other, role="onlooker")
    member = Membership.objects.get(user=mate, workshop__name="Test quay")
    page = said(bench.post(MEMBERS, {"act": "reset", "member": member.pk}, follow=True))
    assert "in a workshop you do not keep" in page
    assert not PasswordReset.objects.exists()
    Membership.objects.create(user=maker, workshop=other, role="maker")
    bench.post(MEMBERS, {"act": "reset", "member": member.pk})
    assert not PasswordReset.objects.exists()
    Membership.objects.filter(user=maker, workshop=other).update(role="keeper")
    bench.post(MEMBERS, {"act": "reset", "member": member.pk})
    assert PasswordReset.objects.count() == 1


def test_no_maker_makes_a_link_and_no_keeper_one_for_a_stranger(bench: Client, mate: User, maker: User) -> None:
    own = Membership.objects.get(user=maker)
    assert signed_in(mate).post(MEMBERS, {"act": "reset", "member": own.pk}).status_code == 403
    stranger = Workshop.objects.create(name="Other quay").membership_set.create(user=User.objects.create_user("x"))
    bench.post(MEMBERS, {"act": "reset", "member": stranger.pk})
    assert not PasswordReset.objects.exists()


# sessions


def test_each_session_is_told_apart_and_one_is_ended(maker: User) -> None:
    desk = signed_in(maker, REMOTE_ADDR="192.0.2.1", HTTP_USER_AGENT="A browser")
    phone = signed_in(maker, REMOTE_ADDR="192.0.2.2", HTTP_USER_AGENT="A browser (Mobile)")
    third = signed_in(maker, REMOTE_ADDR="192.0.2.3")
    page, key = said(desk.get(ME)), phone.session.session_key
    assert page.count("A computer") == 2
    assert "A telephone or tablet" in page
    assert "from 192.0.2.2" in page
    which = next(one.which for one in desk.get(ME).context["sessions"] if one.address == "192.0.2.2")
    for says in ("Ended there.", "It had ended already."):
        assert says in said(desk.post(ME, {"act": "end", "which": which}, follow=True))
    assert phone.get("/").status_code == 302
    assert (desk.get("/").status_code, third.get("/").status_code) == (200, 200)
    mine = next(one.which for one in desk.get(ME).context["sessions"] if one.here)
    desk.post(ME, {"act": "end", "which": mine})
    assert desk.get("/").status_code == 200
    assert key not in page


def test_nobody_ends_a_session_of_somebody_else(maker: User, mate: User) -> None:
    mine, theirs = signed_in(maker), signed_in(mate)
    which = theirs.get(ME).context["sessions"][0].which
    mine.post(ME, {"act": "end", "which": which})
    mine.post(ME, {"act": "sessions"})
    assert theirs.get("/").status_code == 200


# the second step


def code_of(user: User, confirmed: bool) -> str:
    device = TOTPDevice.objects.get(user=user, confirmed=confirmed)
    TOTPDevice.objects.filter(pk=device.pk).update(
        last_t=-1, throttling_failure_count=0, throttling_failure_timestamp=None
    )
    return f"{totp(device.bin_key):06d}"


@pytest.fixture
def guarded(maker: User) -> list[str]:
    """The maker has a second step; its recovery codes."""
    client = signed_in(maker)
    page = said(client.get("/accounts/second-step/set-up/"))
    assert "<svg" in page
    answer = client.post("/accounts/second-step/set-up/", {"act": "confirm", "code": code_of(maker, False)})
    return list(answer.context["codes"])


def test_nothing_is_seen_before_the_second_step(maker: User, guarded: list[str]) -> None:
    client = Client()
    answer = client.post(
        "/accounts/sign-in/", {"username": "maker", "password": PASSWORD, "next": "/shelf/"}, follow=True
    )
    assert "Second step" in said(answer)
    for path in ("/", "/shelf/", "/exchange/workshop.zip", ME, "/accounts/second-step/set-up/"):
        assert client.get(path).url.startswith("/accounts/second-step/?next=")
    assert client.post("/shelf/", {"add-stock": "1"}).status_code == 302
    assert "wrong" in said(client.post("/accounts/second-step/?next=/shelf/", {"code": "000000"}))
    assert client.get("/").status_code == 302
    code = code_of(maker, True)
    answer = client.post("/accounts/second-step/?next=/shelf/", {"code": f"{code[:3]} {code[3:]}"})
    assert answer.url == "/shelf/"
    assert client.get("/shelf/").status_code == 200


def test_a_code_works_once_and_so_does_a_recovery_code(maker: User, guarded: list[str]) -> None:
    code = code_of(maker, True)
    for used, lets_in in ((code, True), (code, False), (guarded[0], True), (guarded[0], False), (guarded[1], True)):
        client = signed_in(maker)
        TOTPDevice.objects.update(throttling_failure_count=0, throttling_failure_timestamp=None)
        maker.staticdevice_set.update(throttling_failure_count=0, throttling_failure_timestamp=None)
        client.post("/accounts/second-step/", {"code": used})
        assert (client.get("/").status_code == 200) is lets_in, used


def test_wrong_codes_are_held_back_longer_and_longer(maker: User, guarded: list[str]) -> None:
    client = signed_in(maker)
    for _ in range(3):
        client.post("/accounts/second-step/", {"code": "000000"})
    right = f"{totp(TOTPDevice.objects.get(user=maker).bin_key):06d}"
    client.post("/accounts/second-step/", {"code": right})
    assert client.get("/").status_code == 302


@pytest.mark.parametrize("where", ["https://elsewhere.example/", "//elsewhere.example", "javascript:alert(1)"])
def test_the_second_step_leads_nowhere_else(maker: User, guarded: list[str], where: str) -> None:
    client = signed_in(maker)
    assert client.post(f"/accounts/second-step/?next={where}", {"code": code_of(maker, True)}).url == "/"


def test_setting_it_up_ends_other_sessions_and_a_wrong_code_sets_nothing_up(maker: User) -> None:
    elsewhere, client = signed_in(maker), signed_in(maker)
    assert "wrong" in said(client.post("/accounts/second-step/set-up/", {"act": "confirm", "code": "000000"}))
    assert elsewhere.get("/").status_code == 200
    client.post("/accounts/second-step/set-up/", {"act": "confirm", "code": code_of(maker, False)})
    assert client.get("/").status_code == 200
    assert elsewhere.get("/").status_code == 302


def test_it_is_turned_off_with_a_code_alone(maker: User, guarded: list[str]) -> None:
    client = signed_in(maker)
    client.post("/accounts/second-step/", {"code": code_of(maker, True)})
    client.post("/accounts/second-step/set-up/", {"act": "remove", "code": "000000"})
    assert TOTPDevice.objects.filter(user=maker, confirmed=True).exists()
    client.post("/accounts/second-step/set-up/", {"act": "remove", "code": code_of(maker, True)})
    assert not TOTPDevice.objects.filter(user=maker).exists()
    assert signed_in(maker).get("/").status_code == 200


# who did what


def test_what_is_done_stands_in_the_list_and_keepers_alone_see_it(bench: Client, maker: User, mate: User) -> None:
    signed_in(mate, REMOTE_ADDR="192.0.2.5")
    bench.post(MEMBERS, {"act": "invite", "role": "onlooker", "days": "7"})
    bench.post(MEMBERS, {"act": "role", "member": Membership.objects.get(user=mate).pk, "role": "onlooker"})
    link_for(bench, mate)
    b"".join(bench.get("/exchange/workshop.zip").streaming_content)
    bench.get("/exchange/tables/shelf.csv")
    page = said(bench.get("/accounts/members/audit/"))
    for text in ("Signed in.", "Made an invitation for an onlooker.", "Made mate an onlooker.", "Made a link for a new password of mate.", "Took the whole workshop out as a file.", "192.0.2.5"):  # fmt: skip
        assert text in page, text
    assert signed_in(mate).get("/accounts/members/audit/").status_code == 403
    stranger = User.objects.create_user("stranger", password=PASSWORD)
    Workshop.objects.create(name="Other quay").membership_set.create(user=stranger)
    assert "mate" not in said(signed_in(stranger).get("/accounts/members/audit/"))


def test_taking_out_is_noted_once_a_file(bench: Client) -> None:
    before = AuditLine.objects.count()
    bench.get("/exchange/tables/shelf.csv")
    bench.get("/exchange/tables/shelf.csv")
    assert AuditLine.objects.count() == before + 2


# what a browser keeps, and what others may follow


@pytest.mark.parametrize("path", ["/", "/shelf/", ME, "/exchange/tables/shelf.csv", "/accounts/workshop/"])
def test_nothing_private_is_kept_on_the_way(bench: Client, path: str) -> None:
    assert bench.get(path).headers["Cache-Control"] == "no-store, private"
    assert "no-store" not in Client().get("/health/").headers.get("Cache-Control", "")


def test_signing_out_clears_what_the_browser_kept(bench: Client) -> None:
    assert bench.post("/accounts/sign-out/").headers["Clear-Site-Data"] == '"cache", "storage"'


def test_a_feed_is_its_owner_s_and_dies_with_the_membership(bench: Client, mate: User, workshop: Workshop) -> None:
    theirs = signed_in(mate)
    theirs.post("/batches/calendar/feeds/")
    feed = CalendarFeed.objects.get(owner=mate)
    address = reverse("batches:feed", args=[feed.token])
    assert feed.token in said(theirs.get("/batches/calendar/"))
    assert feed.token not in said(bench.get("/batches/calendar/"))
    assert bench.post("/batches/calendar/feeds/", {"revoke": feed.pk}).status_code == 404
    assert Client().get(address).status_code == 200
    bench.post(MEMBERS, {"act": "remove", "member": Membership.objects.get(user=mate).pk})
    assert Client().get(address).status_code == 404
    Membership.objects.create(user=mate, workshop=Workshop.objects.create(name="Other quay"))
    assert Client().get(address).status_code == 404


@pytest.mark.parametrize("deed", ["feed", "photo"])
def test_four_presses_of_a_page_make_one(bench: Client, deed: str, workshop, maker, landing_rub) -> None:
    import io
    import uuid

    from django.core.files.uploadedfile import SimpleUploadedFile
    from PIL import Image

    from firkin.batches.models import Batch, Photo
    from firkin.core.measures import read_quantity

    key = str(uuid.uuid4())
    batch = Batch.objects.start(
        landing_rub.current, landing_rub.current.as_core().scaled_to(read_quantity("1 L")), maker
    )
    picture = io.BytesIO()
    Image.new("RGB", (20, 20)).save(picture, "JPEG")
    for _ in range(4):
        if deed == "feed":
            bench.post("/batches/calendar/feeds/", {"press": key})
        else:
            file = SimpleUploadedFile("x.jpg", picture.getvalue())
            bench.post(f"/batches/{batch.pk}/check/", {"act": "photo", "picture": file, "press": key})
    assert (CalendarFeed if deed == "feed" else Photo).objects.count() == 1


def test_paths_of_the_machine_are_for_keepers(bench: Client, mate: User) -> None:
    assert bench.get("/copies/").status_code == 200
    assert signed_in(mate).get("/copies/").status_code == 403


def test_health_fails_when_nothing_can_be_written(client: Client, db, settings, tmp_path, monkeypatch) -> None:
    settings.DATA = tmp_path
    assert client.get("/health/").content == b"ok\n"
    assert list(tmp_path.iterdir()) == []
    settings.DATA = tmp_path / "gone"
    assert client.get("/health/").status_code == 503
    settings.DATA = tmp_path
    monkeypatch.setattr("firkin.site.views.LEAST_FREE_BYTES", 10**18)
    assert (client.get("/health/").status_code, client.get("/health/").content) == (503, b"the disk is full\n")


def test_a_stale_press_is_said(bench: Client, workshop, maker, landing_rub) -> None:
    import uuid

    from firkin.core.formula import house_formulas
    from steps import begin, press

    batch = begin(house_formulas()["who-one"].formula, workshop, maker, "1 L")
    key = uuid.uuid4()
    press(bench, batch, amount="833.3 mL", key=key, turn=0)
    address = reverse("batches:make", args=[batch.pk])
    again = bench.post(address, {"task": 0, "key": key, "amount": "833.3 mL"}, follow=True)
    assert "moved on" not in said(again)
    other = bench.post(address, {"task": 0, "key": uuid.uuid4(), "amount": "800 mL"}, follow=True)
    assert "Not stored: you did this already at" in said(other)
    assert "(Ethanol 833.3 mL)." in said(other)
    assert [message.level_tag for message in other.context["messages"]] == ["error"]  # not in green, with a tick
    assert batch.entries.filter(kind="pour").count() == 1
    undone = bench.post(reverse("batches:undo", args=[batch.pk]), {"entry": "999999"}, follow=True)
    assert "Nothing was undone" in said(undone)


def test_time_is_a_part_of_the_code() -> None:
    """RFC 6238, appendix B: the eight digits at 59 s, their last six."""
    assert totp(b"12345678901234567890", step=30, t0=0, drift=-(int(time.time()) // 30) + 1) == 287082
