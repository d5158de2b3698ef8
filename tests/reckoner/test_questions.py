"""The other questions as pages: what each answers, and what each refuses kindly."""

from urllib.parse import urlencode

import pytest
from django.test import Client

from firkin.core.catalogue import find
from firkin.formulas.models import Formula
from firkin.reckoner.questions import QUESTIONS
from firkin.shelf.models import Stock


@pytest.fixture
def shelf(workshop) -> None:
    for name, material, strength in (("Blue can", "ethanol", "96 %"), ("Lock bottle", "isopropanol", "90-91 %")):
        stock = Stock(workshop=workshop, name=name, material=material, amount_value=1, amount_unit="L")
        stock.strength = find(material).read_strength(strength)
        stock.save()


def page(client: Client, slug: str, live: bool = False, **change: str) -> str:
    data = {**QUESTIONS[slug].example, **change}
    headers = {"HX-Request": "true"} if live else {}
    answer = client.get(f"/reckon/{slug}/?{urlencode(data)}", headers=headers)
    assert answer.status_code == 200
    return answer.content.decode()


@pytest.mark.parametrize("slug", QUESTIONS)
def test_every_question_opens_with_an_answer_a_drawing_and_its_arithmetic(bench: Client, slug: str) -> None:
    text = bench.get(f"/reckon/{slug}/").content.decode()
    assert 'class="big-number"' in text
    assert 'class="drawing' in text
    assert "Show the arithmetic" in text
    assert QUESTIONS[slug].title in text


@pytest.mark.parametrize("slug", QUESTIONS)
def test_every_question_keeps_what_is_typed_when_it_cannot_be_read(bench: Client, slug: str) -> None:
    data = dict.fromkeys(QUESTIONS[slug].example, "<b>nonsense</b>")
    text = bench.get(f"/reckon/{slug}/?{urlencode(data)}").content.decode()
    assert "field-error" in text
    assert "&lt;b&gt;nonsense" in text
    assert "<b>nonsense" not in text


ANSWERS = [
    # common practice, no source: share at most 1 - line / stock
    ("gel", {}, ["14.3", "at least 6", "83.33 mL"]),
    ("gel", {"stock": "60 %"}, ["Use it straight"]),
    ("gel", {"stock": "Lock bottle"}, ["33.3"]),
    ("stock", {}, ["90", "% v/v at least", "Lock bottle"]),
    # OIML R 22
    ("thin", {}, ["297.4", "729.2 mL", "270.8 mL"]),
    ("thin", {"left": "729.2 mL", "make": ""}, ["297.4", "1 L"]),
    ("thin", {"temperature": "28 °C"}, ["Measured at 28"]),
    ("thin", {"active": "hydrogen-peroxide", "stock": "3 %", "target": "0.5 %"}, ["mL of water"]),
    # alligation, from memory of pharmaceutical calculations textbooks
    ("blend", {}, ["20 : 25", "435.9 mL"]),
    ("blend", {"first": "Blue can"}, ["20 : 26"]),
    ("blend", {"use_up": "200 mL", "first": "50 %", "second": "96 %"}, ["of the second bottle", "195"]),
    # common practice, no source: label arithmetic
    ("lift", {}, ["181.5", "May be off by"]),
    ("lift", {"room": "800 mL"}, ["of the batch out first"]),
    ("lift", {"target": "75 %", "other": "Lock bottle", "thickener": "xanthan-gum"}, ["The gel would collapse"]),
    ("lift", {"now": "91 %", "target": "70 %", "other": "0 %", "thickener": "carbomer"}, ["ask the supplier"]),
    # CDC, WHO: parts of water = stock / wanted - 1
    ("surfaces", {"rule": "surface-chlorine-05"}, ["1 : 9", "Never mix bleach", "24 hours"]),
    ("surfaces", {"age_months": "14"}, ["cannot be trusted"]),
    ("surfaces", {"rule": "", "target": "1000 ppm"}, ["1 : 49", "1000 ppm"]),
    ("surfaces", {"active": "hydrogen-peroxide", "stock": "3 %", "rule": "surface-peroxide"}, ["1 : 5", "vinegar"]),
    # OIML R 22
    ("alcoholmeter", {}, ["75.8", "Glycerol"]),
    ("alcoholmeter", {"way": "read", "reading": "75.8"}, ["78"]),
    ("convert", {}, ["67.74", "135.5 proof", "236.6 mL"]),
    ("convert", {"active": "salt", "strength": "", "amount": "1 cup"}, ["295.7 g"]),
    ("convert", {"strength": "", "amount": "", "hard": "7"}, ["119.8 mg/L"]),
    ("convert", {"active": "pond water", "strength": "", "amount": "1 L"}, ["does not know"]),
    ("warmth", {}, ["991.4", "1.009 L"]),
]


@pytest.mark.parametrize(("slug", "change", "words"), ANSWERS)
def test_a_question_answers(bench: Client, shelf, slug: str, change: dict, words: list[str]) -> None:
    text = page(bench, slug, live=True, **change)
    assert "<html" not in text
    for word in words:
        assert word in text, word


REFUSALS = [
    ("gel", {"stock": "50 %"}, "At most 50 %"),
    ("gel", {"stock": "Blue can"}, "is ethanol, not isopropanol"),
    ("gel", {"stock": "70 % w/w"}, "in % v/v"),
    ("gel", {"stock": "110 %"}, "above 100 %"),
    ("stock", {"stock_parts": "1", "additive_parts": "2"}, "at most 33.33 %"),
    ("stock", {"stock_parts": "-1"}, "greater than or equal"),
    ("thin", {"target": "99 %"}, "thinning only weakens"),
    ("thin", {"make": "", "left": ""}, "Say how much to make"),
    ("thin", {"make": "1 kg"}, "not a volume"),
    ("blend", {"target": "40 %"}, "does not lie between"),
    ("blend", {"use_up": "1.5 L"}, "use at most"),
    ("lift", {"other": "55 %"}, "must be stronger"),
    ("lift", {"target": "52.5 %"}, "already"),
    ("surfaces", {"rule": "surface-peroxide"}, "That line is for hydrogen peroxide"),
    ("surfaces", {"rule": "", "target": ""}, "Choose what it is for"),
    ("surfaces", {"age_months": "-3"}, "greater than or equal"),
    ("alcoholmeter", {"reading": "120"}, "less than or equal"),
    ("alcoholmeter", {"temperature": "90 °C"}, "outside -20 to 40"),
    ("convert", {"strength": "", "amount": ""}, "to convert"),
    ("convert", {"active": ""}, "required"),
    ("warmth", {"allowance": "80"}, "less than or equal"),
]


@pytest.mark.parametrize(("slug", "change", "says"), REFUSALS)
def test_an_impossible_question_says_what_would_be_possible(bench: Client, shelf, slug, change, says) -> None:
    assert says in page(bench, slug, **change)


@pytest.mark.parametrize("slug", ["gel", "stock", "thin", "blend", "lift", "surfaces"])
def test_an_answer_can_be_kept_as_a_formula(bench: Client, slug: str) -> None:
    import re

    signed = re.search(r'name="signed" value="([^"]+)"', page(bench, slug))[1]
    answer = bench.post("/formulas/keep/", {"signed": signed, "name": slug}, follow=True)
    assert Formula.objects.get().name == slug
    assert "in the book" in answer.content.decode()


def test_the_strength_page_names_the_stocks_on_the_shelf_and_what_they_would_do(bench: Client, shelf) -> None:
    query = urlencode(
        [("material", "Lock bottle"), ("strength", ""), ("amount", "1 part"), ("error", "cup"),
         ("material", "aloe"), ("strength", ""), ("amount", "1 part"), ("error", "5 %"), ("rule", "cdc-alcohol-60")]
    )  # fmt: skip
    text = bench.get(f"/reckon/strength/?{query}").content.decode()
    assert "45.2" in text  # 90.5 / 2 by label
    assert "of Lock bottle (90 % isopropanol)" in text
    assert "worst cases" in text


def test_no_such_question_is_a_page_that_is_not_there(bench: Client) -> None:
    assert bench.get("/reckon/riddle/").status_code == 404
