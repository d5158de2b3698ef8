"""Per cents find the line they are of, whatever they happen to come to. Strengths sold: common practice, no source."""

import pytest

from firkin.core.recipe import findings_of, read_recipe

READ = [
    # 40 mL of a litre are four per cent by chance: "of 4 % bleach" is how strong it is
    (
        "2 tablespoons of 4% bleach, topped up to 1 litre with cold water.",
        "australian",
        {"sodium-hypochlorite": "4 % w/w"},
    ),
    ("50 ml of 5 % bleach, topped up to 1 litre with water", "metric", {"sodium-hypochlorite": "5 % w/w"}),
    # the share of a list stays a share
    ("SLES 12 %, 600 g; water to 5 kg", "metric", {"sles": ""}),
    # told behind the line, in the same breath
    ("Six hundred grams of SLES, that's the seventy percent paste. A litre of water.", "us", {"sles": "70 % w/w"}),
    ("Three cups of isopropyl, it's the 91 percent, one cup gel", "us", {"isopropanol": "91 % v/v"}),
    ("two cups alcohol, which is 91 percent, one cup aloe", "us", {"isopropanol": "91 % v/v", "aloe-gel": ""}),
    # of the whole, and so of no line
    ("Three cups of rubbing alcohol and a cup of gel, that's a 70 percent sanitizer", "us", {"isopropanol": ""}),
    # and a second one is not taken back
    ("two cups of 99 % isopropyl, that's the 91 percent, one cup aloe", "us", {"isopropanol": "99 % v/v"}),
    # outside the US rectified spirit is ethanol, whatever alcohol is called there
    ("8 L spirit 96%, 150 ml glycerol, water ad 10 L", "metric", {"ethanol": "96 % v/v"}),
    ("2 cups alcohol 91%, 1 cup aloe", "us", {"isopropanol": "91 % v/v"}),
    ("ethanol 70 vol%: 729 ml, water 200 ml", "metric", {"ethanol": "70 % v/v"}),
    # volumes of oxygen in neighbours' words: 10 volumes are 3 %, not 10
    ("acqua ossigenata 10 volumi 250 ml", "metric", {"hydrogen-peroxide": "3 % w/v"}),
    ("agua oxigenada 20 volúmenes 100 ml, agua 1 l", "metric", {"hydrogen-peroxide": "6 % w/v"}),
    ("peróxido 10 vol. 100 ml", "metric", {"hydrogen-peroxide": "3 % w/v"}),
]


@pytest.mark.parametrize(("text", "household", "strengths"), READ)
def test_a_per_cent_is_of_the_line_it_is_told_of(text: str, household: str, strengths: dict[str, str]) -> None:
    read = {line.material.id: str(line.strength or "") for line in read_recipe(text, household).lines}
    assert {key: read.get(key, "not read") for key in strengths} == strengths


COUNTED = [
    ("2 x 500 ml isopropyl 99 %, 250 ml water", {"isopropanol": "1000 mL", "water": "250 ml"}),
    ("2x500ml isopropyl and 1× 250 ml water", {"isopropanol": "1000 mL", "water": "250 mL"}),
    ("ethanol 500 ml x 2, water 100 ml", {"ethanol": "1000 mL", "water": "100 ml"}),
    (
        "three 250 ml bottles of 91% alcohol and a cup of aloe gel",
        {"isopropanol": "750 mL", "aloe-gel": "1 cup_metric"},
    ),
    ("2 x 250 g bars of soap, 4 l water", {"bar-soap": "500 g", "water": "4 l"}),
    ("2 1 litre bottles of bleach", {"sodium-hypochlorite": "2 L"}),
    ("a 500 ml bottle of isopropyl 99 %, 250 ml water", {"isopropanol": "500 ml", "water": "250 ml"}),
    ("take two 16oz bottles of 70% rubbing alcohol + one 8 oz tube aloe", {"isopropanol": "32 oz", "aloe-gel": "8 oz"}),
    ("One 32-oz bottle isopropyl (91%), 11 oz aloe gel", {"isopropanol": "32 oz", "aloe-gel": "11 oz"}),
    ("1 kg soda crystals, 2 bars castile soap (125g each)", {"washing-soda": "1 kg", "castile-soap": "250 g"}),
    ("1 (one) cup isopropyl; 1/3 (one third) cup aloe", {"isopropanol": "1 cup_metric", "aloe-gel": "1/3 cup_metric"}),
    (
        "water 60, ethanol 96% 35, glycerin 5 (parts by volume)",
        {"water": "60 parts", "ethanol": "35 parts", "glycerol": "5 parts"},
    ),
    (
        "- 2 c. Borax\n- 2 c. Washing Soda\n- 4 oz. Soap. Stir it.",
        {"borax": "2 cup_metric", "washing-soda": "2 cup_metric", "bar-soap": "4 oz."},
    ),
    (
        "Step 1: Pour 200 ml isopropyl. Step 2: 100 ml aloe gel. Step 3: 8 drops lavender oil",
        {"isopropanol": "200 ml", "aloe-gel": "100 ml", "lavender-oil": "8 drops"},
    ),
    # bottles to fill are none of what goes in
    ("800 ml ethanol 96%, 200 ml water. Fill it into 4 x 250 ml bottles.", {"ethanol": "800 ml", "water": "200 ml"}),
    ("1 500 ml ethanol 96 %, 300 ml water", {"ethanol": "1 500 ml", "water": "300 ml"}),
]


@pytest.mark.parametrize(("text", "amounts"), COUNTED)
def test_what_is_counted_out_is_taken_so_often(text: str, amounts: dict[str, str]) -> None:
    recipe = read_recipe(text, "metric")
    assert {line.material.id: line.words()[2] for line in recipe.lines} == amounts
    assert not any(one.isdigit() for one in recipe.unread)


TOPPED = [
    "Ethanol (96 % v/v): 833 ml. Glycerin: 15 ml. Mit abgekochtem Wasser auf 1 Liter auffüllen.",
    "833 ml Ethanol 96 %, auf 1 l mit Wasser auffüllen",
    "alcool 96 % 833 ml, compléter à 1 L avec de l'eau",
    "alcool 96° 833 mL, eau q.s.p. 1 L",
    "750 ml de alcohol al 96%, agua hasta 1 litro",
    "ethanol 96 % 833 ml, aanvullen tot 1 L met water",
    "833 ml alcol 96 %, portare a 1 L con acqua",
]


@pytest.mark.parametrize("text", TOPPED)
def test_neighbours_top_up_with_water_too(text: str) -> None:
    recipe = read_recipe(text, "metric")
    water = [line for line in recipe.lines if line.material.id == "water"]
    assert [line.amount.kind for line in water if line.amount] == ["qs"]
    assert recipe.make is not None
    assert recipe.make.mL == pytest.approx(1000.0)
    assert "ethanol" in {line.material.id for line in recipe.lines}


def test_so_much_for_each_litre_is_no_size_of_more_than_a_litre() -> None:
    recipe = read_recipe("1.5 liters of 91% IPA, 350 mL aloe gel, a teaspoon of glycerin per liter.", "us")
    assert (recipe.make, recipe.claims.size) == (None, None)
    assert "liter" in recipe.unread
    recipe = read_recipe("Per litre: 80 g soap, 60 g salt, 900 ml water", "metric")
    assert recipe.claims.size is not None


@pytest.mark.parametrize("heading", ["Recette", "Receta", "Zutaten", "Ingrediënten", "Ingredienti", "Ingredients"])
def test_a_heading_takes_no_amount(heading: str) -> None:
    recipe = read_recipe(f"{heading}: 30 g savon de Marseille, 1 l d'eau", "metric")
    assert {line.material.id: str(line.amount) for line in recipe.lines} == {"bar-soap": "30 g", "water": "1 L"}


def test_lye_is_held_against_what_it_is_said_to_be_by_weight() -> None:
    """250 g in 1 kg are 25 % (common knowledge)."""
    told = "Weigh 250 g caustic. Weigh 750 g cold water. Caustic INTO water. This is {} % lye."
    rules = [[one.rule for one in findings_of(read_recipe(told.format(pct), "metric"))] for pct in (25, 30)]
    assert ["claim-differs" in found for found in rules] == [False, True]


def test_a_strength_that_can_be_read_two_ways_beside_a_line_is_left_alone() -> None:
    read_recipe("ethanol 70 vol and 96 vol: 729 ml + water to 1000 ml", "metric")


@pytest.mark.parametrize(
    ("text", "claim", "rule"),
    [
        ("Bleach 5 % → 0.1 %: 20 ml in 980 ml water", "0.1 % w/w", "amount-not-its-share"),
        ("Dilute 1 L of 96% ethanol with 371 ml water -> 70 %", "70 % v/v", "claim-differs"),
    ],
)
def test_an_arrow_says_what_it_becomes(text: str, claim: str, rule: str) -> None:
    recipe = read_recipe(text, "metric")
    assert recipe.claim is not None
    assert str(recipe.claim.strength) == claim
    assert [str(line.strength or "") for line in recipe.lines if line.material.id == "water"] == [""]
    assert rule not in {one.rule for one in findings_of(recipe)}


SPOONS = [
    (
        "2 c. à soupe de bicarbonate, 1 c. à café de sel, 1 L d'eau",
        {"baking-soda": "2 tbsp", "salt": "1 tsp", "water": "1 L"},
    ),
    (
        "1 cda de glicerina, 2 cdtas de bicarbonato, 1 litro de agua",
        {"glycerol": "1 tbsp", "baking-soda": "2 tsp", "water": "1 L"},
    ),
    ("250 ml Wasser, 10 Tropfen Glycerin", {"water": "250 mL", "glycerol": "10 drop"}),
    ("water q.s. 100%, glycerol 5 %, preservative 1 %", {"water": "q.s.", "glycerol": "5 %", "preservative": "1 %"}),
]


@pytest.mark.parametrize(("text", "amounts"), SPOONS)
def test_neighbours_spoons_are_no_cups_and_no_materials(text: str, amounts: dict[str, str]) -> None:
    read = {line.material.id: str(line.amount).replace("_metric", "") for line in read_recipe(text, "metric").lines}
    assert {key: read.get(key, "not read") for key in amounts} == amounts
    assert "cocamide-dea" not in read


def test_a_share_is_no_strength_where_another_strength_was_passed_on() -> None:
    """The lines of which a strength stood alone are gone by then; what is decided of the others must hold."""
    told = "Isopropyl alcohol, 99 %. Take 300 ml of isopropyl alcohol and 200 ml of water 40 %."
    lines = read_recipe(told, "metric").lines
    assert [(str(line.strength or ""), line.claims.share_pct) for line in lines] == [("99 % v/v", None), ("", 40.0)]


def test_what_stood_alone_and_was_passed_on_takes_no_decision_with_it() -> None:
    told = "Sulphonic acid, 96 %. SLES 300 g. Sulphonic acid 500 g. Water 40 %, 2 L."
    lines = read_recipe(told, "metric").lines
    assert [(one.material.id, str(one.strength or ""), one.claims.share_pct) for one in lines] == [
        ("sles", "", None), ("labsa", "96 % w/w", None), ("water", "", 40.0),
    ]  # fmt: skip
