"""What was typed and saved nowhere is offered again to whoever typed it, and to nobody else."""

from datetime import timedelta

import pytest
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from firkin.accounts.models import Membership, Role, User, Workshop
from firkin.formulas.editor import rows_of
from firkin.formulas.models import MOST_TYPED, Draft, Formula
from firkin.formulas.recipe_check import EXAMPLE
from formulas.test_check import again, chips, read
from formulas.test_editor import materials_of, press
from mixes import GEL

CHECK = reverse("formulas:check")
NEW = reverse("formulas:new")
RUB = "99% isopropyl 751 ml, glycerin 14 ml"


@pytest.fixture
def gel(workshop: Workshop, maker: User) -> Formula:
    return Formula.objects.keep(GEL, workshop, maker)


def left_on(client: Client, page: str) -> str:
    """The words of what is offered on a page; nothing where nothing is."""
    draft = client.get(page).context["left"]
    return "" if draft is None else draft.words


def test_a_recipe_that_was_read_and_left_is_there_a_week_later(bench: Client) -> None:
    answer = read(bench, RUB)
    bench.post(CHECK, again(answer, "look", amount=["760 ml", "14 ml"]), headers={"HX-Request": "true"})
    Draft.objects.update(at=timezone.now() - timedelta(days=7))
    page = bench.get(CHECK)
    assert "1 week ago" in page.content.decode().replace("\u00a0", " ")
    assert page.context["check"].text == "", "it is offered, and not put back by itself"
    resumed = bench.post(CHECK, {"act": "resume"})
    assert resumed.context["check"].text == RUB
    assert [amount for _, _, amount in chips(resumed)] == ["760 ml", "14 ml"], "with what was put right in it"
    assert left_on(bench, CHECK) == RUB, "until it is kept or forgotten"


def test_how_long_ago_it_was_left(bench: Client) -> None:
    read(bench, RUB)
    for seconds, said in ((0, "just now"), (59, "just now"), (61, "1 minute ago"), (7200, "2 hours ago")):
        draft = Draft.objects.get()
        draft.at = timezone.now() - timedelta(seconds=seconds)
        assert draft.since.replace("\u00a0", " ") == said


def test_what_is_typed_is_kept_before_it_is_read(bench: Client) -> None:
    answer = bench.post(CHECK, {"act": "hold", "text": RUB, "whose": "us"}, headers={"HX-Request": "true"})
    assert (answer.status_code, answer.content) == (204, b"")
    assert left_on(bench, CHECK) == RUB


def test_it_goes_when_it_is_kept_in_the_book_and_not_when_something_else_is(bench: Client) -> None:
    answer = read(bench, RUB)
    keeps = {"name": "Rub", "signed": answer.context["signed"]}
    bench.post(reverse("formulas:keep"), {**keeps, "name": "Another"})
    assert left_on(bench, CHECK) == RUB, "kept from the reckoner"
    bench.post(reverse("formulas:keep"), {**keeps, "name": "", "from": "check"})
    assert left_on(bench, CHECK) == RUB, "a name is wanted, and nothing was kept"
    bench.post(reverse("formulas:keep"), {**keeps, "from": "check"})
    assert left_on(bench, CHECK) == ""


def test_it_goes_when_it_is_forgotten_or_emptied_and_forgetting_twice_is_no_fault(bench: Client) -> None:
    read(bench, RUB)
    assert bench.post(CHECK, {"act": "forget"}, follow=True).context["left"] is None
    assert bench.post(CHECK, {"act": "forget"}).status_code == 302
    assert bench.post(CHECK, {"act": "resume"}).context["check"].text == ""
    read(bench, RUB)
    bench.post(CHECK, {"act": "hold", "text": ""})
    assert Draft.objects.count() == 0


def test_the_example_is_nothing_that_was_typed(bench: Client) -> None:
    bench.post(CHECK, {"act": "example"})
    bench.post(CHECK, {"act": "read", "text": EXAMPLE, "whose": "us"})
    assert Draft.objects.count() == 0


def test_of_two_texts_the_second_is_left_and_there_is_one(bench: Client) -> None:
    read(bench, RUB)
    read(bench, "water 1 L, soap flakes 80 g")
    assert Draft.objects.get().words == "water 1 L, soap flakes 80 g"


def test_a_line_that_was_taken_out_stays_out(bench: Client) -> None:
    """What a press changed stands on the page alone until the next one."""
    bench.post(CHECK, again(read(bench, RUB), "drop-chip-1"))
    assert [name for name, _, _ in chips(bench.post(CHECK, {"act": "resume"}))] == ["Isopropanol"]


def test_nobody_else_sees_it(bench: Client, client: Client) -> None:
    read(bench, RUB)
    workshop = Workshop.objects.get()
    other = User.objects.create_user("another", password="a long pass phrase")
    Membership.objects.create(user=other, workshop=workshop, role=Role.KEEPER)
    client.force_login(other)
    assert left_on(client, CHECK) == ""
    assert client.post(CHECK, {"act": "resume"}).context["check"].text == ""
    client.post(CHECK, {"act": "forget"})
    assert Draft.objects.count() == 1


@pytest.mark.parametrize("size", [0, 1])
def test_what_is_longer_than_can_be_kept_breaks_nothing(bench: Client, size: int) -> None:
    """As posted: "text=" and so many letters; one more is not kept."""
    answer = bench.post(CHECK, {"act": "hold", "text": "a" * (MOST_TYPED - len("text=") + size)})
    assert answer.status_code == 204
    assert Draft.objects.count() == 1 - size


def test_what_cannot_be_stored_breaks_nothing(bench: Client) -> None:
    assert bench.post(CHECK, {"act": "hold", "text": "soap\x00 80 g"}).status_code == 204


def test_a_new_formula_and_an_edited_one_are_left_apart_and_go_when_they_are_saved(bench: Client, gel: Formula) -> None:
    edit = reverse("formulas:edit", args=[gel.pk])
    assert (left_on(bench, edit), left_on(bench, NEW)) == ("", "")
    press(bench, gel, "drop-line-1")
    assert (left_on(bench, edit), left_on(bench, NEW)) == (gel.name, "")
    resumed = bench.post(edit, {"act": "resume"})
    assert materials_of(resumed) == ["Glycerol", "Ethanol", "Water"]
    assert bench.post(edit, {"act": "forget"}, follow=True).context["left"] is None
    assert gel.versions.count() == 1, "looking and forgetting saved nothing"
    fields = rows_of(gel.current.as_core(), "Another", "")
    fields["act"] = "look"
    bench.post(NEW, fields.urlencode(), content_type="application/x-www-form-urlencoded")
    assert (left_on(bench, edit), left_on(bench, NEW)) == ("", "Another")
    assert bench.post(NEW, {"act": "resume"}).context["editor"].head["name"].value() == "Another"
    fields["act"] = "save"
    bench.post(NEW, fields.urlencode(), content_type="application/x-www-form-urlencoded")
    assert left_on(bench, NEW) == ""
    assert Formula.objects.filter(name="Another").exists()


def test_what_could_not_be_saved_is_left_as_it_was_typed(bench: Client, gel: Formula) -> None:
    assert press(bench, gel, "save", name="").status_code == 200
    draft = bench.get(reverse("formulas:edit", args=[gel.pk])).context["left"]
    assert draft.fields.getlist("material")[0] == "Glycerol"
    assert draft.words.startswith("Glycerol, Xanthan gum")
    assert bench.post(reverse("formulas:edit", args=[gel.pk]), {"act": "resume"}).status_code == 200
    assert gel.versions.count() == 1, "going on with it saves nothing, whatever was pressed last"


def test_a_version_saved_since_is_said(bench: Client, gel: Formula) -> None:
    edit = reverse("formulas:edit", args=[gel.pk])
    press(bench, gel, "look", change="less of it")
    assert "was saved after that" not in bench.get(edit).content.decode()
    gel.add_version(gel.current.as_core(), None, "by somebody else")
    assert "Version 2 was saved after that." in bench.get(edit).content.decode()
