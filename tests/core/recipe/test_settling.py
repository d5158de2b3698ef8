"""Accounts told at length: each thing once, as it is told best; talk is no line; dangers stay heard."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.recipe import AMOUNTS_RIGHT, findings_of, read_recipe
from firkin.core.recipe.recipe import LONG
from often import tries

#: Talk without anything measured in it.
TALK = "It was a lovely morning on the landing, and the kettle was on. My sister came by with the dog. "


def long(*parts: str, talk: int = 20) -> str:
    """An account of these parts with talk before, between and after them."""
    text = (TALK * talk).join(["", *parts, ""])
    assert len(text) > LONG
    return text


def words(text: str) -> list[tuple[str, str, str]]:
    return [line.words() for line in read_recipe(text, "metric").lines]


RUB = [("ethanol", "96 % v/v", "500 ml"), ("glycerol", "", "10 ml"), ("water", "", "90 ml")]
LIST = "You need 500 ml of ethanol 96 %, 10 ml of glycerol and 90 ml of water."


@pytest.mark.parametrize(
    "doing",
    [
        "So I pour the ethanol into the jug. Then the glycerol goes in. Then the water.",
        "Now 500 ml of ethanol go in. And 10 ml of glycerol. And the 90 ml of water.",
        "The ethanol first. I add 10 ml of glycerol, that is two spoons.",
        "Somebody asked about lavender oil. You can leave that. And fragrance, no.",
    ],
)
def test_what_is_told_again_while_doing_it_is_one_line(doing: str) -> None:
    assert words(long(LIST, doing)) == RUB
    assert words(long(LIST, doing, doing)) == RUB


def test_the_amount_that_is_told_more_than_once_stands() -> None:
    text = long("Last year I took 2 litres of water and that was thin.", LIST, "In goes the 90 ml of water.")
    assert words(text)[-1] == ("water", "", "90 ml")


def test_told_twice_outweighs_what_stands_among_more_things() -> None:
    last_year = "Last year I took 2 litres of water, 40 g of salt and 30 g of citric acid."
    text = long("500 ml of ethanol 96 %.", last_year, "So 90 ml of water.", "As I said, 90 ml of water.")
    assert ("water", "", "90 ml") in words(text)
    assert ("water", "", "2 litres") not in words(text)


def test_of_amounts_told_once_the_one_among_more_things_stands() -> None:
    text = long("I once had 2 litres of water.", LIST)
    assert ("water", "", "90 ml") in words(text)


def test_a_strength_told_elsewhere_is_the_line_s() -> None:
    later = "I have 500 ml of ethanol and 90 ml of water and 10 ml of glycerol here."
    assert ("ethanol", "96 % v/v", "500 ml") in words(long(later, "The ethanol is 96 %, it says so on the can."))


@pytest.mark.parametrize(("length", "again"), [(LONG, True), (LONG + 1, False)])
def test_a_text_that_is_no_longer_than_the_limit_is_left_as_it_is(length: int, again: bool) -> None:
    text = "500 ml of ethanol 96 %, 10 ml of glycerol. Some fragrance."
    text += " " * (length - len(text))
    assert ("fragrance" in [name for name, *_ in words(text)]) is again


def test_a_danger_that_is_measured_is_a_stop_however_long_the_talk_is() -> None:
    found = {f.rule: f.severity for f in findings_of(read_recipe(long("100 ml of bleach.", "And 100 ml of vinegar.")))}
    assert found["bleach-mixed"] == "stop"


@pytest.mark.parametrize(
    ("passing", "severity"), [("And a glug of bleach goes in.", "stop"), ("Bleach makes it stronger.", "ask")]
)
def test_a_danger_named_in_passing_is_asked_about_and_a_glug_of_it_is_a_stop(passing: str, severity: str) -> None:
    found = {f.rule: f.severity for f in findings_of(read_recipe(long(LIST, passing), "metric"))}
    assert found["bleach-mixed"] == severity


@tries(6)
@given(st.permutations([LIST, "The glycerol is from the pharmacy.", "Shake it well.", "Some scent if you like."]))
def test_the_order_of_the_telling_changes_no_line(parts: list[str]) -> None:
    assert sorted(words(long(*parts))) == sorted(RUB)


@pytest.mark.parametrize(
    ("size", "stands"), [("600 ml", True), ("2 litres", True), ("2.2 litres", False), ("50 litres", False)]
)
def test_a_size_far_from_what_the_lines_come_to_is_of_another_batch(size: str, stands: bool) -> None:
    """500 + 10 + 90 mL: told as up to three and a half times that it may be the batch's, beyond it is not."""
    recipe = read_recipe(long(LIST, f"This makes {size}."), "metric")
    told = recipe.make or recipe.claims.size
    assert (told is not None) is stands


def severities(text: str, *, confirmed: bool = False) -> dict[str, str]:
    """Each rule with the heaviest it says; findings come heaviest first."""
    found = findings_of(replace(read_recipe(text, "metric"), confirmed=confirmed))
    return {one.rule: str(one.severity) for one in reversed(found)}


WEAK = "You need 300 ml of ethanol 96 % and 300 ml of aloe vera gel. It is a hand sanitizer for our hands."


@pytest.mark.parametrize(("length", "severity"), [(LONG, "stop"), (LONG + 1, "ask")])
def test_what_rests_on_the_lines_of_a_long_account_is_asked_until_they_were_looked_at(length, severity) -> None:
    text = WEAK + " " * (length - len(WEAK))
    assert severities(text)["line-short"] == severity
    assert severities(text, confirmed=True)["line-short"] == "stop"


def test_what_is_asked_says_on_what_it_rests_and_how_to_answer() -> None:
    asked = next(one for one in findings_of(read_recipe(long(WEAK), "metric")) if one.rule == "line-short")
    assert asked.text.startswith("If the lines were read right: ")
    assert asked.choices == AMOUNTS_RIGHT
    assert asked.fixed is None


@pytest.mark.parametrize(
    ("told", "severity"),
    [
        ("Then half a cup of the cheap bleach goes in.", "stop"),
        ("Then bleach, about 100 ml of it, goes in.", "stop"),
        ("A couple of you asked about bleach.", "ask"),
        ("If you put the two in one bottle you make a whole different bleach.", "ask"),
        ("Before that I had a go with bleach and it went horrible.", "ask"),
        ("A plastic bucket, 10 l. The bleach would eat it.", "ask"),
    ],
)
def test_in_a_long_account_a_danger_goes_in_where_an_amount_of_it_is_told(told: str, severity: str) -> None:
    assert severities(long(LIST, told))["bleach-mixed"] == severity


@pytest.mark.parametrize(
    ("never", "line"),
    [
        ("And no, never mix bleach with anything. Now, cotton, I use three cups of it.", False),
        ("3 cups of bleach.", True),
    ],
)
def test_an_amount_of_something_else_makes_no_line_of_what_is_warned_of(never: str, line: bool) -> None:
    names = [name for name, *_ in words(long(LIST, never))]
    assert ("sodium-hypochlorite" in names) is line


def test_three_cups_of_it_may_mean_the_alcohol() -> None:
    text = "No bleach with it. So the alcohol was three forty nine and I use three cups of it."
    assert [line.material.id for line in read_recipe(text).lines] == ["isopropanol"]


FAR, NEAR = "It rained. " * 60, "It rained. " * 40


@pytest.mark.parametrize(
    ("besides", "between", "line"),
    [
        ("40 g of borax is what the tin holds.", FAR, False),
        ("40 g of borax is what the tin holds.", NEAR, True),
        ("40 g of caustic soda.", FAR, True),  # a base may be what makes it safe, or not
        ("40 ml of bleach.", FAR, True),  # must not meet the peroxide
        ("40 g of borax. I said 40 g of borax.", FAR, True),
    ],
)
def test_what_is_told_once_and_far_from_the_rest_is_only_talked_of(besides: str, between: str, line: bool) -> None:
    text = f"{LIST} And 40 ml of hydrogen peroxide 3 %. {between}{besides}" + TALK * 20
    known = {"ethanol", "glycerol", "water", "hydrogen-peroxide"}
    assert bool({name for name, *_ in words(text)} - known) is line


@pytest.mark.parametrize(
    "bought",
    [
        "The ethanol 96 %, 5 l of it, was 22 euros. A can is 5 l of ethanol for 22 euros.",
        "The ethanol 96 %, the can is 5 l of ethanol. The can holds 5 l of ethanol, this bucket's bigger.",
    ],
)
def test_what_a_bottle_holds_and_costs_is_no_amount(bought: str) -> None:
    assert ("ethanol", "96 % v/v", "500 ml") in words(long(bought, LIST))


@pytest.mark.parametrize(
    ("told", "line"),
    [
        ("My sister says it is soft. She uses 40 ml of aloe gel.", False),
        ("My sister is here. And 40 ml of aloe gel.", True),
        ("If you want it soft, 40 ml of aloe gel.", False),
        ("You could. I did. Now 40 ml of aloe gel.", True),  # another sentence
        ("My brother-in-law made his with 40 ml of aloe gel.", False),
        ("Some of you like 40 ml of aloe gel in it.", False),
        ("It is my grandmother's, with 40 ml of aloe gel.", True),  # whose recipe it is
        ("My brother came by, so there go 40 ml of aloe gel.", True),  # he did nothing with it
    ],
)
def test_what_others_do_is_no_line(told: str, line: bool) -> None:
    assert ("aloe-gel" in {name for name, *_ in words(long(f"{LIST} {told}"))}) is line


@pytest.mark.parametrize(
    ("bottle", "line"),
    [
        ("This is phenoxyethanol, it keeps it.", "phenoxyethanol"),
        ("This is potassium sorbate, and that is sodium benzoate.", ""),  # which of them nobody said
    ],
)
def test_a_thing_may_be_called_by_what_it_is_for(bottle: str, line: str) -> None:
    text = long(bottle, "You need 500 ml of water, 50 g of castile soap and 5 g of the preservative.")
    assert [name for name, _, amount in words(text) if amount == "5 g"] == ([line] if line else [])


def test_a_number_without_a_unit_has_the_one_told_before() -> None:
    text = "You want 60 ml of castile soap, a hundred and ninety of water and 12 of glycerine. Two of the water goes."
    assert [line.words()[::2] for line in read_recipe(text, "metric").lines] == [
        ("castile-soap", "60 ml"), ("water", "190 mL"), ("glycerol", "12 ml"),
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("named", "line"),
    [
        ("200 g of bar soap", False),  # then soap alone is what is made of it
        ("200 g of washing soda", True),
    ],
)
def test_soap_alone_is_what_is_made_where_a_soap_is_named(named: str, line: bool) -> None:
    text = long(f"You take half of the bottle with 1 litre of soap, {named} and 2 litres of water.")
    assert any(name == "castile-soap" for name, _, _ in words(text)) is line


def test_a_list_by_share_told_in_sentences_has_no_strengths() -> None:
    """Each thing with its per cent and then so much of it, as somebody says it who wants it made in any size."""
    told = (
        "This one here is sulphonic acid, ninety six per cent. "
        "Water, seventy five per cent. For five kilos it's three thousand seven hundred and fifty grams. Sulphonic acid, ten "
        "per cent. Five hundred grams. SLES, six per cent. Three hundred grams. Betaine, four per cent, and that's two "
        "hundred grams. Salt, five per cent, 250 grams only."
    )
    assert words(long(told)) == [
        ("water", "", "3750 g"), ("labsa", "96 % w/w", "500 g"), ("sles", "", "300 g"), ("betaine", "", "200 g"), ("salt", "", "250 grams"),
    ]  # fmt: skip
