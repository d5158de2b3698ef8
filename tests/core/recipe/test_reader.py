"""Recipe text as it is heard, read line by line and whole."""

import time
import tomllib
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from firkin.core.audit import audit
from firkin.core.errors import CannotReckon
from firkin.core.formula import reckon
from firkin.core.measures import read_quantity
from firkin.core.recipe import Recipe, read_recipe

LINES = list(tomllib.loads((Path(__file__).parent / "recipe_lines.toml").read_text("utf-8")).items())


def said(recipe: Recipe) -> str:
    """A reading in one line of words."""
    parts = []
    for line in recipe.lines:
        name, strength, amount = line.words()
        claims = line.claims
        words = [name, *([strength] if strength else []), amount or "?"]
        words += [f"share {claims.share_pct:g}"] if claims.share_pct is not None else []
        words += [f"hand {claims.on_hand}"] if claims.on_hand else []
        words += [f"misread {claims.misread_pct:g}"] if claims.misread_pct else []
        parts.append(", ".join(words))
    parts += [f"make {recipe.make}"] if recipe.make else []
    parts += [f"claim {recipe.claim.active} {recipe.claim.strength}"] if recipe.claim else []
    for name in recipe.claims.__slots__:
        value = getattr(recipe.claims, name)
        if value:
            parts.append(f"{name} {value:g}" if isinstance(value, float) else f"{name} {value}")
    parts += (["advice"] if recipe.remarks else []) + (["unread"] if recipe.unread else [])
    return "; ".join(parts) or "nothing"


@pytest.mark.parametrize(("text", "reading"), LINES)
def test_a_line_of_recipe_text_is_read_as_it_is_meant(text: str, reading: str) -> None:
    assert said(read_recipe(text)) == reading


def test_what_a_chip_shows_reads_back_as_the_amount_that_was_read() -> None:
    texts = [text for text, _ in LINES] + [".5 g salt", ",5 g salt", "½ tsp salt", "1 1/2 cups water", "0,75 l water"]
    for line in (line for text in texts for line in read_recipe(text).lines if line.amount is not None):
        back = read_quantity(line.words()[2])
        assert (back.value, back.unit) == (pytest.approx(line.amount.value), line.amount.unit), line.words()


def test_there_are_three_hundred_lines_of_recipe_text() -> None:
    assert len(LINES) >= 300


def rules_of(text: str) -> dict[str, str]:
    return {finding.rule: finding.text for finding in audit(reckon(read_recipe(text).formula()))}


def test_three_parts_of_70_percent_to_one_of_gel_is_found_short_of_its_claim() -> None:
    """Common practice, no source: 70 x 3 / 4 = 52.5."""
    found = rules_of("three parts 70% rubbing alcohol to one part aloe vera gel, makes 70%")
    assert "52.5 %" in found["claim-differs"]
    assert "line-short" in found


def test_a_quarter_cup_of_gel_to_a_cup_of_91_percent_is_72_8_by_label() -> None:
    """91 x 1 / 1.25; NIST HB 44 for the cup."""
    result = reckon(read_recipe("1 quarter cup of aloe gel : 1 cup of 91 % isopropyl alcohol").formula())
    assert result.actives[0].label == pytest.approx(72.8)


def test_a_list_summing_to_97_says_so() -> None:
    assert "97" in rules_of("water 80 %, SLES 12 %, cocamide DEA 3 %, salt 2 %")["percent-sum"]


def test_one_percent_of_five_litres_is_50_mL() -> None:
    found = rules_of("Water to 5 L. Phenoxyethanol: 1 % of 5 L = 5 mL")
    assert "1 % of 5000 mL is 50 mL, not 5" in found["amount-not-its-share"]


def test_a_share_is_of_the_size_said_even_when_the_amounts_miss_it() -> None:
    found = rules_of(
        "Water 3.9 L\nSLES 25 % 500 ml\nPhenoxyethanol 1 %\nadd salt 1.5 % of 5 L = 7.5 mL\nMakes 5 litres"
    )
    assert "1.5 % of 5000 mL is 75 mL, not 7.5" in found["amount-not-its-share"]


def test_a_recipe_for_90_with_a_bottle_of_70_shows_both_results() -> None:
    found = rules_of("2 parts 90 % isopropyl alcohol to 1 part aloe. I only have 70 %.")
    assert "60 % v/v" in found["stock-mixed-up"]
    assert "46.67 % v/v" in found["stock-mixed-up"]  # 70 x 2 / 3


def test_whose_cups_they_are_is_asked_and_not_guessed() -> None:
    us, metric = (read_recipe("2 cups water", whose).lines[0].amount for whose in ("us", "metric"))
    assert (us.mL, metric.mL) == (pytest.approx(473.176), 500.0)  # NIST HB 44; common practice


def test_a_line_without_an_amount_is_asked_for_at_its_place() -> None:
    with pytest.raises(CannotReckon) as error:
        read_recipe("2 cups rubbing alcohol\naloe vera gel").formula()
    assert error.value.path == ("lines", 1, "amount")


@pytest.mark.parametrize(
    "piece",
    [
        "2 cups 91% isopropyl alcohol and 1 cup of aloe ",
        "aloe water ethanol ",
        "aloe, water and ethanol to ",
        "70% aloe water 30% ",
        "1 cup water ",
        "5% ",
        "3 ",
        "(",
        "",
    ],
)
def test_ten_thousand_lines_are_read_in_bounded_time_and_the_rest_is_said(piece: str) -> None:
    line = piece * (390 // len(piece)) if piece else "2 cups 91% isopropyl alcohol and 1 cup of aloe"
    started = time.process_time()
    recipe = read_recipe(f"{line}\n" * 10_000)
    assert time.process_time() - started < 20  # some seconds of this process's own time, on any machine
    assert "Only the first" in recipe.left_out


def test_a_heap_of_materials_without_amounts_is_taken_for_advice_and_shown() -> None:
    recipe = read_recipe("aloe water ethanol glycerol vinegar salt\n1 cup water")
    assert [line.material.id for line in recipe.lines] == ["water"]
    assert recipe.remarks == ("aloe water ethanol glycerol vinegar salt",)


def test_markup_is_read_as_text_and_script_is_not() -> None:
    recipe = read_recipe(
        "<table><tr><td>Aloe<td>1 cup</table><script>2 cups ethanol</script><style>1 cup water</style>"
    )
    assert [line.material.id for line in recipe.lines] == ["aloe-gel"]


@settings(max_examples=60)
@given(st.text(max_size=300))
def test_any_text_at_all_is_read_or_left_without_an_error(text: str) -> None:
    recipe = read_recipe(text)
    assert all(line.material.name for line in recipe.lines)


@settings(max_examples=60)
@given(
    st.lists(
        st.sampled_from(
            [
                "3",
                "91%",
                "parts",
                "cups",
                ":",
                "to",
                "of",
                "aloe",
                "ethanol",
                "water",
                "makes",
                "and",
                ",",
                "(",
                ")",
                "1/2",
                "q.s.",
                "top",
                "up",
                "jug",
                "per",
                "load",
                "$",
                "instead",
            ]
        ),
        max_size=25,
    )
)
def test_any_jumble_of_recipe_words_is_read_or_left_without_an_error(words: list[str]) -> None:
    recipe = read_recipe(" ".join(words))
    assert all(line.words()[0] for line in recipe.lines)


WHOLE = tomllib.loads((Path(__file__).parent / "whole_recipes.toml").read_text())["recipe"]


@pytest.mark.parametrize("recipe", WHOLE, ids=[recipe["why"][:40] for recipe in WHOLE])
def test_a_whole_recipe_is_read_reckoned_and_audited(recipe: dict) -> None:
    read = read_recipe(recipe["text"])
    assert len(read.lines) == recipe["lines"], said(read)
    assert not read.unread, read.unread
    missing = [line for line in read.lines if line.amount is None]
    assert len(missing) == recipe.get("missing", 0)
    if missing:
        return
    result = reckon(read.formula())
    if "label" in recipe:
        assert result.main.label == pytest.approx(recipe["label"], rel=0.005)
    found = {finding.rule for finding in audit(result)}
    assert set(recipe["finds"]) <= found
    assert not set(recipe["leaves"]) & found


@pytest.mark.parametrize("recipe", WHOLE, ids=[recipe["why"][:40] for recipe in WHOLE])
def test_pressing_every_fix_in_turn_ends_without_a_stop_that_can_be_fixed(recipe: dict) -> None:
    """Fix after fix, the first that is offered: it must come to rest."""
    read = read_recipe(recipe["text"])
    if any(line.amount is None for line in read.lines):
        return
    formula = read.formula()
    for _ in range(25):
        fixed = next(
            (
                finding.fixed
                for finding in audit(reckon(formula))
                if finding.fixed is not None and finding.severity != "note"
            ),
            None,
        )
        if fixed is None:
            break
        formula = fixed
    else:
        pytest.fail("the fixes chase each other")
    assert reckon(formula).total.mass_g > 0
