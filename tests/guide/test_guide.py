"""The guide: every page opens, every link into it leads somewhere, and it is never calm beside what it does not know."""

import re

import pytest
from django.test import Client
from django.urls import reverse

from firkin.core.catalogue import cautions, families, materials, rule_lines
from firkin.core.mending import TROUBLES
from firkin.guide import contents
from firkin.search.guide import found, known
from firkin.ui import guide_links
from often import some

PARTS = ("guide", "start", "rules", "together", "materials", "troubles", "hands", "cautions", "words")


def page(bench: Client, address: str) -> str:
    answer = bench.get(address)
    assert answer.status_code == 200, address
    return answer.content.decode()


def places(html: str) -> set[str]:
    return set(re.findall(r'\bid="([\w-]+)"', html))


def test_every_part_is_one_press_from_every_other(bench: Client) -> None:
    addresses = {reverse(f"guide:{part}") for part in PARTS}
    for address in addresses:
        assert addresses <= set(re.findall(r'href="([^"#?]+)"', page(bench, address))), address


@pytest.mark.parametrize("key", some(materials(), 20))
def test_a_material_says_how_dense_it_is_and_whence_that_is(bench: Client, key: str) -> None:
    told = page(bench, reverse("guide:material", args=[key]))
    assert "g/mL at 20 °C" in told
    assert "Source" in told
    for caution in materials()[key].cautions:
        assert cautions()[caution].text.split(".")[0].replace("'", "&#x27;") in told


@pytest.mark.parametrize("key", families())
def test_a_family_leads_to_its_rules_and_troubles(bench: Client, key: str) -> None:
    told = page(bench, reverse("guide:family", args=[key]))
    links = set(re.findall(r'href="([^"]+)"', told))
    for trouble in families()[key].troubles:
        assert f"{reverse('guide:troubles')}#{trouble}" in links
    for line in families()[key].lines:
        assert f"{reverse('guide:rules')}#{line}" in links


@pytest.mark.parametrize("address", ["/guide/materials/moondust/", "/guide/families/potions/"])
def test_what_there_is_not_is_not_found(bench: Client, address: str) -> None:
    assert bench.get(address).status_code == 404


def test_every_trouble_has_help_and_every_caution_its_source(bench: Client) -> None:
    assert [one.id for one in contents.troubles()] == list(TROUBLES)
    assert all(one.advice for one in contents.troubles())
    assert set(TROUBLES) <= places(page(bench, reverse("guide:troubles")))
    assert set(cautions()) <= places(page(bench, reverse("guide:cautions")))
    assert set(rule_lines()) <= places(page(bench, reverse("guide:rules")))


PAIRS = [
    ("bleach", "vinegar", "chlorine gas", "knows of nothing"),
    ("vinegar", "bleach", "chlorine gas", "knows of nothing"),
    ("javel", "esprit de sel", "chlorine gas", "knows of nothing"),
    ("soap", "lemon juice", "curdles", "knows of nothing"),
    ("salt", "glycerol", "knows of nothing", "stop"),
    ("moon dust", "water", "does not know “moon dust”", "knows of nothing"),
    ("moon dust", "bleach", "not known to be harmless", "knows of nothing"),
    ("bleach", "Bleach", "the same thing twice", "knows of nothing"),
    ("<b>x", "salt", "&lt;b&gt;x", "knows of nothing"),
]


@pytest.mark.parametrize(("one", "other", "said", "not_said"), PAIRS, ids=[f"{a}-{b}" for a, b, *_ in PAIRS])
def test_any_two_are_answered(bench: Client, one: str, other: str, said: str, not_said: str) -> None:
    answer = bench.get(reverse("guide:together"), {"one": one, "with": other}).content.decode()
    told = answer.partition("guide-answer")[2].partition("guide-chart")[0]
    assert said in told
    assert not_said not in told


def test_one_alone_or_none_is_no_question(bench: Client) -> None:
    for asked in ({}, {"one": "bleach"}, {"with": "bleach"}, {"one": "  ", "with": "bleach"}):
        assert "guide-answer" not in bench.get(reverse("guide:together"), asked).content.decode()


@pytest.mark.long
def test_the_chart_says_of_every_pair_what_is_answered_for_it(bench: Client) -> None:
    for _, cells in contents.chart():
        for cell in cells:
            answer = page(bench, f"{reverse('guide:together')}?one={cell.one.id}&with={cell.other.id}")
            told = answer.partition("guide-answer")[2].partition("guide-chart")[0]
            assert ("knows of nothing" in told) == (cell.severity == "nothing"), (cell.one.id, cell.other.id)
            assert (f"finding-{cell.severity}" in told) or cell.severity == "nothing"


def test_every_link_from_a_finding_and_from_the_search_leads_to_a_place_that_is_there(bench: Client) -> None:
    links = {guide_links.guide_place(rule) for rule in guide_links._PLACES}
    links |= {one.address for one in known() if one.address.startswith("/guide/")}
    there: dict[str, set[str]] = {}
    for link in sorted(links):
        address, _, place = link.partition("#")
        if address not in there:
            there[address] = places(page(bench, address))
        assert not place or place in there[address], link
    assert guide_links.guide_place("nothing-of-the-kind") == ""


@pytest.mark.parametrize(
    ("asked", "kind"),
    [
        ("sticky", "trouble"),
        ("proof", "word"),
        ("sles", "material"),
        ("gel", "to make"),
        ("72", "caution"),
        ("who", "rule"),
    ],
)
def test_the_search_finds_what_the_guide_says(asked: str, kind: str) -> None:
    assert kind in {one.kind for one in found(asked)}
