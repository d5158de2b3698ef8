"""Family, rule line and basis go with what is in a formula, until the maker chooses them."""

import pytest
from django.http import QueryDict
from django.test import Client
from django.urls import reverse

from firkin.core.catalogue import find
from firkin.formulas.following import followed


def form(**fields: str) -> QueryDict:
    data = QueryDict(mutable=True)
    data.update({"family": "other", "basis": "volume", "rule": ""} | fields)
    return data


def after(data: QueryDict, *materials: str) -> tuple[str, str, list[str]]:
    found = followed(data, [find(one) for one in materials])
    return str(found["family"]), str(found["basis"]), found.getlist("rule")


RUB = ("liquid-rub", "volume", ["cdc-alcohol-60"])


def test_alcohol_that_is_typed_makes_a_rub_with_its_rule() -> None:
    first = followed(form(), [find("water")])
    assert first["family"] == "other"
    assert after(first, "water", "ethanol", "glycerol") == RUB
    second = followed(first, [find("ethanol"), find("glycerol")])
    assert after(second, "castile-soap", "water")[0] == "foaming-soap"  # and again, the other way


def test_what_the_maker_chose_stays_whatever_goes_in_later() -> None:
    shown = followed(form(), [find("water")])
    chosen = shown.copy()
    chosen["family"] = "surface"
    kept = followed(chosen, [find("ethanol"), find("glycerol")])
    assert kept["family"] == "surface"
    assert after(kept, "castile-soap", "water")[0] == "surface"


def test_a_rule_or_basis_of_one_s_own_is_not_taken_away() -> None:
    shown = followed(form(rule="hicpac-60-95", basis="weight"), [find("water")])
    assert after(shown, "ethanol", "glycerol") == ("liquid-rub", "weight", ["hicpac-60-95"])


def test_a_family_that_the_text_told_stays_while_the_lines_speak_for_the_same() -> None:
    """Alcohol for tables is no hand rub: the text said so, and another spoon of it changes nothing."""
    shown = followed(form(family="surface"), [find("ethanol"), find("water")])
    assert shown["family"] == "surface"
    assert after(shown, "ethanol", "water", "glycerol")[0] in ("surface", "liquid-rub")
    assert after(shown, "ethanol", "water")[0] == "surface"


@pytest.mark.django_db
def test_a_rub_typed_into_the_editor_is_judged_as_one(bench: Client) -> None:
    """A rub whose alcohol was typed by hand stayed "other" once, and got no verdict and no stop."""
    address = reverse("formulas:new")
    page = bench.get(address).context["editor"]
    typed = {
        "name": "By hand", "family": page.head["family"].value() or "other", "basis": "volume", "make": "1 L",
        "material": ["ethanol", "water"], "strength": ["70 %", ""], "amount": ["500 mL", "q.s."],
        "error": ["", ""], "phase": ["", ""], "note": ["", ""], "act": "look", **page.follows,
    }  # fmt: skip
    editor = bench.post(address, typed).context["editor"]
    assert editor.formula.family == "liquid-rub"
    assert [verdict.verdict.value for verdict in editor.result.verdicts] == ["short"]
