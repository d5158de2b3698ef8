"""What stands beside a name and is no line of its own: a strength, a topping up, a cup to mix in."""

import pytest

from firkin.core.recipe import read_recipe


@pytest.mark.parametrize(
    ("text", "lines"),
    [
        (
            "91% isopropyl: 751 ml, 3% hydrogen peroxide: 42 ml, 15 ml glycerol.",
            [("isopropanol", "751 mL"), ("hydrogen-peroxide", "42 mL"), ("glycerol", "15 mL")],
        ),
        ("70% alcohol: 500 ml ethanol 96 %, 186 ml water.", [("ethanol", "500 mL"), ("water", "186 mL")]),
        ("1 L water, 50 g citric acid. Fill the water into the jug.", [("water", "1 L"), ("citric-acid", "50 g")]),
        ("700 ml ethanol 96 %. Fill up with water to 1 L.", [("ethanol", "700 mL"), ("water", "q.s.")]),
        (
            "200 ml aloe gel, 5 ml lavender oil. Top it off with the oil.",
            [("aloe-gel", "200 mL"), ("lavender-oil", "5 mL")],
        ),
        ("700 ml ethanol 96 %. Top it off with water.", [("ethanol", "700 mL"), ("water", "q.s.")]),
        (
            "700 ml ethanol 96 %, 100 ml water. Top it up with the water to 1 L.",
            [("ethanol", "700 mL"), ("water", "100 mL"), ("water", "q.s.")],
        ),
        (
            "240 ml water, 45 ml castile soap. Fill to the neck with the water.",
            [("water", "240 mL"), ("castile-soap", "45 mL")],
        ),
        ("700 ml ethanol 96 %. Fill the alcohol into the jug.", [("ethanol", "700 mL")]),
        (
            "700 ml ethanol 96 %, 100 ml water. Rest of water to 1 L.",
            [("ethanol", "700 mL"), ("water", "100 mL"), ("water", "q.s.")],
        ),
        ("Carbomer gel, 1 kg\nCarbomer 4 g, water 280 g", [("carbomer", "4 g"), ("water", "280 g")]),
        ("Carbomer 4 g\nGlycerol 20 g", [("carbomer", "4 g"), ("glycerol", "20 g")]),
        ("4 L water, 90 g borax. Half the water. Borax. Rest of water in.", [("water", "4 L"), ("borax", "90 g")]),
        ("700 ml ethanol 96 %, the rest water", [("ethanol", "700 mL"), ("water", "q.s.")]),
        (
            "6 g gum arabic, 24 g glycerol. In a teacup I mix the glycerol.",
            [("gum arabic", "6 g"), ("glycerol", "24 g")],
        ),
        ("630 g ethanol 96 %. Add the alcohol in 4 parts, stirring well.", [("ethanol", "630 g")]),
        ("Soap: 1 part castile soap in 4 parts water", [("castile-soap", "1 part"), ("water", "4 part")]),
    ],
)
def test_no_line_is_lost_and_none_is_made_up(text: str, lines: list[tuple[str, str]]) -> None:
    """Common practice, no source; a rub whose alcohol was lost this way has no verdict."""
    assert [(line.material.written, str(line.amount)) for line in read_recipe(text, "metric").lines] == lines
