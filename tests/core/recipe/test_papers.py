"""Cards, forms, clocks and cups: what a paper says of itself is no ingredient, and no amount. Common practice, no source."""

import pytest

from firkin.core.catalogue import dangers_in
from firkin.core.recipe import findings_of, read_recipe
from firkin.core.recipe.spoken import as_meant
from firkin.core.recipe.tables import in_plain_lines


def lines_of(text: str) -> list[str]:
    return [
        f"{line.material.written} {line.amount.words if line.amount else line.wording}".strip()
        for line in read_recipe(text, "metric").lines
    ]


@pytest.mark.parametrize(
    ("text", "lines"),
    [
        ("09:10 4.5 L hot water in\n09:15 600 g grated soap", ["water 4.5 L", "bar-soap 600 g"]),
        ("BATCH CARD 17 - floor soap, 10 L\n8 L hot water\n600 g soft soap", ["water 8 L", "soft-soap 600 g"]),
        ("lye water: 2.5 L cold + 45 g caustic", ["water 2.5 L", "caustic-soda 45 g"]),
        ("Two kilos? No. 4 L hot water, then 150 g salt.", ["water 4 L", "salt 150 g"]),
        ("We have really hard water so 2 cups of salt, 1 cup borax.", ["salt 2 metric cup", "borax 1 metric cup"]),
        ("Ethanol 720 ml in first, water on top, 280 ml.", ["ethanol 720 mL", "water 280 mL"]),
        (
            "citric acid 121 g -> into the water, and never ever the other way round\nLABSA 96 % 1 kg -> in\nSLES 800 g -> in",
            ["citric-acid 121 g", "labsa 1 kg", "sles 800 g"],
        ),
    ],
)
def test_what_a_paper_says_of_itself_goes_nowhere(text: str, lines: list[str]) -> None:
    assert [line for line in lines_of(text) if line != "water"] == lines


def test_one_time_alone_may_be_a_ratio_and_with_a_point_it_is_an_amount() -> None:
    assert as_meant("10:20 vinegar to water") is None
    assert lines_of("10.50 g salt\n12.25 g borax") == ["salt 10.5 g", "borax 12.25 g"]


@pytest.mark.parametrize(
    ("said", "meant"),
    [
        ("Dann die Seife einrühren.", "then die soap einrühren."),
        ("50 g grüne Seife", None),  # a kind of its own
        ("Ajouter le savon.", "Ajouter the soap."),
        ("80 g di sapone grattugiato", "80 g of sapone grattugiato"),  # a name of the catalogue
    ],
)
def test_neighbours_soap_is_soap_where_no_kind_is_told(said: str, meant: str | None) -> None:
    plain = as_meant(said)
    assert (plain.text if plain else None) == meant


def test_foam_on_top_goes_nowhere() -> None:
    assert as_meant("Skim the foam on top, and leave an inch on top for gas.") is None


@pytest.mark.parametrize(
    ("head", "missed"),
    [("Batch: 500 g", True), ("Product: soap   Size: 1 kg", True), ("Batch: 26-31", False), ("", False)],
)
def test_a_batch_with_an_amount_is_a_size_and_one_with_a_number_is_none(head: str, missed: bool) -> None:
    found = {one.rule for one in findings_of(read_recipe(f"{head}\n300 g water\n20 g salt", "metric"))}
    assert ("amounts-miss-size" in found) is missed


def test_what_is_thinned_in_use_is_left_out_unless_it_is_a_danger_of_its_own() -> None:
    peels = "300 g orange peel and a litre of white vinegar. Strain. Then half {} half water when you use it."
    assert lines_of(peels.format("vinegar")) == ["citrus-peel 300 g", "white-vinegar 1 L"]
    assert any("bleach" in line or "hypochlorite" in line for line in lines_of(peels.format("bleach")))


def test_commas_part_columns_while_each_row_has_as_many() -> None:
    plain = in_plain_lines("Water, 70, 700 g\nSalt, 3, 30 g\nBorax, 5, 10 g, 3")
    assert plain is not None
    assert plain.text.splitlines() == ["700 g Water", "30 g Salt", "Borax, 5, 10 g, 3"]
    assert in_plain_lines("Add water, salt, and stir.\nThen wait, look, and stir.") is None


def test_a_word_that_only_ends_like_a_danger_is_one_and_the_ending_alone_is_none() -> None:
    assert [one.said for one in dangers_in("Rohrreiniger, Reiniger")] == ["Rohrreiniger"]


@pytest.mark.parametrize("unit", ["(grams)", "(in g)", "[all g]", "(all in grams)"])
def test_the_unit_behind_a_list_is_that_of_all_its_figures(unit: str) -> None:
    assert lines_of(f"Water 600, betaine 250, salt 8 {unit}") == ["water 600 g", "betaine 250 g", "salt 8 g"]


def test_two_figures_are_no_list_that_tells_its_unit() -> None:
    assert lines_of("Water 600, betaine 250 (g)") == ["water 600", "betaine 250"]


def test_the_size_of_a_title_is_what_is_made() -> None:
    told = "Hand rub with ethanol, 500 mL: 417 mL ethanol 96 %, 21 mL peroxide 3 %, 7 mL glycerol, water to 500 mL."
    assert [one for one in lines_of(told) if "ethanol" in one] == ["ethanol 417 mL"]
    assert str(read_recipe(told, "metric").make) == "500 mL"


def test_a_cup_to_mix_in_is_no_amount() -> None:
    told = "Salt 20 g, betaine 100 g. In another cup mix the salt with the betaine. One more cup of water."
    assert lines_of(told) == ["salt 20 g", "betaine 100 g", "water 1 metric cup"]


def test_some_of_what_is_above_is_no_more_of_it() -> None:
    told = "Charge 500 g ethanol 96 %. Add 25 g fragrance premixed with 25 g ethanol from the above."
    assert [one for one in lines_of(told) if "ethanol" in one] == ["ethanol 500 g"]
