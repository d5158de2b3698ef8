"""The other questions as pages: what each answers, and what each refuses kindly."""

from typing import Any
from urllib.parse import urlencode

import pytest
from django.http import QueryDict
from django.test import Client

from firkin.core.catalogue import find
from firkin.core.questions import QUESTIONS
from firkin.formulas.models import Formula
from firkin.reckoner.question_form import QuestionForm
from firkin.shelf.models import Stock
from firkin.shelf.on_hand import Shelf


@pytest.fixture
def shelf(workshop) -> None:
    for name, material, strength in (("Blue can", "ethanol", "96 %"), ("Lock bottle", "isopropanol", "90-91 %")):
        stock = Stock(workshop=workshop, name=name, material=material, amount_value=1, amount_unit="L")
        stock.strength = find(material).read_strength(strength)
        stock.save()


def opening(ask: str) -> dict[str, str]:
    """The inputs of a question's page and what it opens with."""
    form = QuestionForm(QUESTIONS[ask], QueryDict(), Shelf())
    return {field.name: str(field.value() or "") for field in form}


def page(client: Client, slug: str, live: bool = False, **change: str) -> str:
    data = {**opening(slug), **change}
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
    data = dict.fromkeys(opening(slug), "<b>nonsense</b>")
    text = bench.get(f"/reckon/{slug}/?{urlencode(data)}").content.decode()
    assert "field-error" in text
    assert "&lt;b&gt;nonsense" in text
    assert "<b>nonsense" not in text


ANSWERS = [
    # common practice, no source: share at most 1 - line / stock
    ("max-additive", {}, ["14.2 % additive", "at least 6", "83.33 mL"]),
    ("max-additive", {"stock": "60 %"}, ["Use it straight"]),
    ("max-additive", {"stock": "Lock bottle"}, ["33.3"]),
    ("required-stock", {}, ["90", "% v/v at least", "Lock bottle"]),
    # OIML R 22
    ("dilute", {}, ["297.4", "729.2 mL", "270.8 mL"]),
    ("dilute", {"left": "729.2 mL", "make": ""}, ["297.4", "1 L"]),
    ("dilute", {"temperature": "28 °C"}, ["Measured at 28"]),
    ("dilute", {"active": "hydrogen-peroxide", "stock": "3 %", "target": "0.5 %"}, ["mL of water"]),
    # alligation, from memory of pharmaceutical calculations textbooks
    ("blend", {}, ["20 : 25", "435.9 mL"]),
    ("blend", {"stocks_1": "Blue can"}, ["20 : 26"]),
    ("use-up", {}, ["mL of can", "625", "195.2 mL"]),
    ("use-up", {"make": "", "stocks_2_strength": "Blue can"}, ["that adds least", "146.2"]),
    # common practice, no source: label arithmetic
    ("strengthen", {}, ["181.5", "May be off by"]),
    ("strengthen", {"room": "800 mL"}, ["of the batch out first"]),
    ("strengthen", {"target": "75 %", "with": "Lock bottle", "thickener": "xanthan-gum"}, ["The gel would collapse"]),
    ("strengthen", {"now": "91 %", "target": "70 %", "with": "0 %", "thickener": "carbomer"}, ["ask the supplier"]),
    # CDC, WHO: parts of water = stock / wanted - 1
    ("chlorine", {"rule": "surface-chlorine-05"}, ["1 : 9", "Never mix bleach", "24 hours"]),
    ("chlorine", {"age_months": "14"}, ["cannot be trusted"]),
    ("chlorine", {"rule": "", "target": "1000 ppm"}, ["1 : 49", "1000 ppm"]),
    ("chlorine", {"active": "hydrogen-peroxide", "stock": "3 %", "rule": "surface-peroxide"}, ["1 : 5", "vinegar"]),
    # OIML R 22
    ("alcoholmeter", {}, ["75.8", "Glycerol"]),
    ("alcoholmeter", {"reading": "78 %"}, ["75.8"]),
    ("expected-reading", {}, ["78", "on the stem"]),
    ("convert", {}, ["67.74", "135.5 proof", "236.6 mL"]),
    ("convert", {"active": "salt", "from": "", "amount": "1 cup"}, ["295.7 g"]),
    ("convert", {"active": "pond water", "from": "", "amount": "1 L"}, ["does not know"]),
    # unit definitions
    ("hardness", {}, ["119.8", "moderately hard"]),
    ("hardness", {"value": "30", "from": "dH", "to": "fH"}, ["53.54", "very hard"]),
    ("temperature", {}, ["991.4", "1.009 L"]),
    # by mole, LABSA 320 g/mol from memory: 400 g of 98 % are 1.225 mol, 45 g of caustic 1.125
    ("neutralise", {}, ["acid", "1.225 mol", "1.125 mol", "3.99"]),
    ("neutralise", {"base_amount": "60 g"}, ["alkaline", "left over"]),
    ("neutralise", {"acid_strength": ""}, ["No strength was given for"]),
    # common practice, no source: 1 : 3 : 10 in 15
    ("ferment", {}, ["166.7 g", "500 g", "1.667 L", "never glass"]),
    ("loads", {}, ["163.6", "163", "18 L"]),
    ("loads", {"cost": "9.00"}, ["0.055"]),
    ("loads", {"dose": "10 mL"}, ["far from that"]),
    ("pack", {}, ["2 × flask", "475 mL each"]),
    ("pack", {"batch": "5 L"}, ["too few bottles", "left over"]),
]


@pytest.mark.parametrize(("slug", "change", "words"), ANSWERS)
def test_a_question_answers(bench: Client, shelf, slug: str, change: dict, words: list[str]) -> None:
    text = page(bench, slug, live=True, **change)
    assert "<html" not in text
    for word in words:
        assert word in text, word


REFUSALS = [
    ("max-additive", {"stock": "50 %"}, "At most 50 %"),
    ("max-additive", {"stock": "Blue can"}, "is ethanol, not isopropanol"),
    ("max-additive", {"stock": "110 %"}, "above 100 %"),
    ("max-additive", {"active": "water"}, "Choose one of these"),
    ("required-stock", {"parts_stock": "1", "parts_additive": "2"}, "at most 33.33 %"),
    ("required-stock", {"parts_stock": "-1"}, "more than 0"),
    ("dilute", {"target": "99 %"}, "thinning only weakens"),
    ("dilute", {"make": "", "left": ""}, "Say how much to make"),
    ("dilute", {"make": "1 kg"}, "not a volume"),
    ("blend", {"target": "40 %"}, "is not between"),
    ("blend", {"stocks_2": ""}, "Fill in 2 of these"),
    ("use-up", {"use_volume": "1.5 L", "stocks_1_strength": "90 %"}, "use at most"),
    ("use-up", {"use_name": "the other one"}, "none of the stocks"),
    ("strengthen", {"with": "55 %"}, "must be stronger"),
    ("strengthen", {"target": "52.5 %"}, "already"),
    ("chlorine", {"rule": "surface-peroxide"}, "That rule is for hydrogen peroxide"),
    ("chlorine", {"rule": "", "target": ""}, "Choose what it is for"),
    ("chlorine", {"age_months": "-3"}, "at least 0"),
    ("alcoholmeter", {"reading": "120"}, "at most 100"),
    ("alcoholmeter", {"temperature": "90 °C"}, "outside -20 to 40"),
    ("convert", {"from": "", "amount": ""}, "to convert"),
    ("convert", {"active": ""}, "Fill this in, such as ethanol"),
    ("temperature", {"allowance": "80"}, "at most 49"),
    ("hardness", {"value": "-2"}, "at least 0"),
    ("neutralise", {"acid_amount": "2 parts"}, "not a volume or a weight"),
    ("neutralise", {"acid_material": "water"}, "Choose one of these"),
    ("ferment", {"container": "2 kg"}, "not a volume"),
    ("loads", {"dose": "10 g"}, "both as volumes"),
    ("pack", {"containers_1_count": "2.5"}, "not a whole number"),
    ("pack", {"containers_1_volume": ""}, "Fill this in, such as 500 mL"),
]


@pytest.mark.parametrize(("slug", "change", "says"), REFUSALS)
def test_an_impossible_question_says_what_would_be_possible(bench: Client, shelf, slug, change, says) -> None:
    assert says in page(bench, slug, **change)


@pytest.mark.parametrize(
    "slug", ["max-additive", "required-stock", "dilute", "blend", "use-up", "strengthen", "chlorine"]
)
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
    assert "At worst" in text


def test_no_such_question_is_a_page_that_is_not_there(bench: Client) -> None:
    assert bench.get("/reckon/riddle/").status_code == 404


def test_a_row_more_is_there_for_the_asking_and_a_filled_one_brings_the_next(bench: Client) -> None:
    rows: dict[str, Any] = {"containers_3_name": "drum", "containers_3_volume": "5 L", "containers_3_count": "1"}
    assert "containers_4_name" in page(bench, "pack", **rows)
    assert "containers_5_name" not in page(bench, "pack", **rows)
    assert "containers_5_name" in page(bench, "pack", **rows, more="containers")
    assert "drum" in page(bench, "pack", **rows, batch="9 L")


@pytest.mark.parametrize("ask", QUESTIONS)
def test_a_page_and_its_text_command_give_the_same_numbers(ask: str) -> None:
    question = QUESTIONS[ask]
    form = QuestionForm(question, QueryDict(), Shelf())
    shown = form.try_answer()
    written = {key: value for key, value in question.opening.items() if value not in ("", [])}
    if ask == "convert":
        written["to"] = "% v/v"
    solved = question.solve(question.read(written, ask=ask))
    assert shown is not None
    assert all(shown.values[key] == solved.values[key] for key in shown.values)
