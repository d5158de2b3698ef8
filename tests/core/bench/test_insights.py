"""What a family is looked at for first, held against the questions that answer the same."""

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.audit import audit
from firkin.core.bench import EntryKind, Held, insights, left_out, so_far
from firkin.core.catalogue import find
from firkin.core.formula import house_formulas, reckon
from firkin.core.measures import Strength, figures, read_quantity
from firkin.core.questions import QUESTIONS, neutralise
from journals import Journal
from kept import same_as_kept, told
from mixes import mix

HOUSE = {key: reckon(one.formula) for key, one in house_formulas().items()}


def titled(result, title: str, **options):
    return next(one for one in insights(result, **options) if one.title == title)


@pytest.mark.parametrize(
    ("key", "titles"),
    [
        ("who-one", []),
        ("dish-classic", ["Acid against caustic", "What cleans in it"]),
        ("powder-soft", ["In the jar"]),
        ("foam-plain", ["The foam"]),
        ("bar-soap-liquid", ["Soap in a litre"]),
        ("laundry-concentrate", ["What it washes"]),
        ("citrus-ferment", ["The container"]),
        ("chlorine-surfaces", ["As it is used"]),
    ],
)
def test_each_family_has_its_own(key: str, titles: list[str]) -> None:
    assert [one.title for one in insights(HOUSE[key])] == titles


def test_five_kilograms_by_per_cent_and_four_grams_of_caustic_missing() -> None:
    """By division: 0.9 % of 5 kg are 45 g, 8 % 400 g, 16 % 800 g. By mole, LABSA 98 % at 320 g/mol (from memory)
    1.225 mol of acid against 45 g of NaOH, 39.997 g/mol (atomic weights): 1.125 mol, so 4.0 g are missing."""
    dish = mix(
        ("water", "69 %"), ("caustic-soda", "0.9 %", "100 %"), ("labsa", "8 %", "98 %"), ("sles", "16 %", "70 %"),
        ("urea", "1.5 %"), ("glycerol", "1 %"), ("fragrance", "1 %"), ("phenoxyethanol", "0.6 %"), ("salt", "1 %"),
        ("propylene-glycol", "1 %"), family="dish-liquid", basis="weight", make="5 kg",
    )  # fmt: skip
    result = reckon(dish)
    assert [round(result.lines[i].mass_g, 6) for i in (1, 2, 3)] == [45.0, 400.0, 800.0]
    found = titled(result, "Acid against caustic")
    assert [round(bar.value, 3) for bar in found.picture.bars] == [1.225, 1.125]
    assert "ends acid: 3.99" in found.says[0] or "ends acid: 4" in found.says[0]
    cleans = titled(result, "What cleans in it")
    assert [bar.words for bar in cleans.picture.bars] == ["19.04 %"]  # 8 x 0.98 + 16 x 0.70, all of it anionic
    assert result.actives[0].label == pytest.approx(8 * 0.98 + 16 * 0.7)


@given(st.floats(1.0, 500.0), st.floats(0.5, 200.0))
def test_sheet_question_and_finding_say_the_same_of_acid_and_caustic(acid_g: float, base_g: float) -> None:
    result = reckon(
        mix(("water", "2 L"), ("caustic-soda", f"{base_g} g", "50 %"), ("labsa", f"{acid_g} g"), family="dish-liquid")
    )
    asked = neutralise(
        (find("labsa"), None, read_quantity(f"{acid_g} g")),
        (find("caustic-soda"), Strength.of(50.0, "w/w"), read_quantity(f"{base_g} g")),
    )
    found = titled(result, "Acid against caustic")
    assert dict(found.rows)["It ends"] == asked.ends
    for grams in (asked.base_g_missing, asked.base_g_spare):
        assert not grams or asked.ends == "neutral" or f"{figures(grams)} g" in found.says[0]
    rules = {one.rule for one in audit(result)}
    assert ("acid-left" in rules) == (asked.ends == "acid")


def test_what_is_measured_moves_the_moles() -> None:
    planned, poured = (
        titled(
            reckon(mix(("water", "2 L"), ("caustic-soda", f"{g} g"), ("labsa", "100 g"), family="dish-liquid")),
            "Acid against caustic",
        )
        for g in (12.4, 20.0)
    )
    assert dict(planned.rows) != dict(poured.rows)


def test_a_foaming_bottle_has_its_two_marks() -> None:
    """1 to 3 in 250 mL with a tenth free: 225 mL, of which 56.25 mL are soap."""
    soap = reckon(mix(("castile-soap", "1 part"), ("water", "3 parts"), family="foaming-soap", make="500 mL"))
    found = titled(soap, "The foam", bottles=[Held("Pump", 250.0)])
    assert dict(found.rows)["Pump, 250 mL"] == "soap to 56.25 mL, then to 225 mL"
    assert dict(found.rows)["Scent, if any"] == "10 to 12 drops"
    assert "dense foam" in found.says[0]


def test_loads_follow_the_cut() -> None:
    """Half of 37.85 L, cut with as much water: 37.85 L at 108 mL are 350 loads."""
    soap = mix(("bar-soap", "300 g"), ("water", "q.s."), make="18.925 L", family="laundry-soap", cut=1.0)
    assert dict(titled(reckon(soap), "What it washes").rows)["Loads"] == "315 to 350"


def test_chlorine_is_told_in_ppm() -> None:
    """0.1 % are 1000 ppm (WHO, May 2020)."""
    assert "1000 ppm" in dict(titled(HOUSE["chlorine-surfaces"], "As it is used").rows)["Available chlorine"]


def test_while_doses_go_in_it_is_told_what_is_in_by_now() -> None:
    """By hand: 100 g of NaOH at 39.997 g/mol take up 2.5 mol; 64 g of LABSA, 98 % at 320 g/mol, give 0.196 mol."""
    journal = Journal(
        mix(("water", "2 L"), ("caustic-soda", "100 g", "100 %"), ("labsa", "800 g", "98 %"), family="dish-liquid")
    )
    journal.do()
    journal.do()
    task = journal.progress.task
    assert so_far(journal.progress, task) is None
    place = journal.progress.tasks.index(task)
    for grams in (40.0, 24.0):
        journal.write(EntryKind.PORTION, data={"task": place, "amount": grams, "reading": None})
    found = so_far(journal.progress, task)
    assert [round(bar.value, 3) for bar in found.picture.bars] == [0.196, 2.5]
    assert dict(found.rows)["It ends"] == "alkaline"


def test_sheet_and_question_say_the_same_of_a_powder_jar() -> None:
    """By hand: 124.3 g of citric acid at 192.12 g/mol give 1.941 mol of protons (three each), by atomic weights."""
    result = HOUSE["powder-hard"]
    rows = [
        {"material": line.material.id, "parts": line.amount.value}
        for line in house_formulas()["powder-hard"].formula.lines
    ]
    jar = {"jar": f"{sum(line.loose_mL for line in result.lines)} mL", "powders": rows}
    answer = QUESTIONS["powder"].solve(QUESTIONS["powder"].read(jar))
    found = titled(result, "In the jar")
    assert [bar.value for bar in found.picture.bars] == pytest.approx([bar.value for bar in answer.beside.bars])
    assert found.picture.bars[0].value == pytest.approx(3 * 124.3 / 192.12, rel=1e-3)
    assert dict(found.rows)["If damp gets at it"] == dict(answer.rows)["If damp gets at it"]


def test_what_cleans_is_summed_and_told_by_kind() -> None:
    """By hand: 10 % of LABSA at 98 % is 9.8 % anionic, 5 % of SLES at 70 % 3.5 %, 4 % of betaine at 30 % 1.2 %."""
    dish = mix(
        ("labsa", "10 g", "98 %"), ("sles", "5 g", "70 %"), ("betaine", "4 g", "30 %"), ("water", "81 g"),
        family="dish-liquid",
    )  # fmt: skip
    cleans = titled(reckon(dish), "What cleans in it")
    assert cleans.rows == (("Active matter in all", "14.5 % of the batch, by weight"),)
    assert [(bar.name, round(bar.value, 3)) for bar in cleans.picture.bars] == [
        ("Anionic, which cleans", pytest.approx(13.3)),
        ("Amphoteric, milder", pytest.approx(1.2)),
    ]


def test_soap_is_told_in_grams_a_litre_and_what_usually_comes_of_it() -> None:
    soap = reckon(house_formulas()["bar-soap-liquid"].formula)
    grams = 1000.0 * soap.lines[0].mass_g / soap.total.volume_mL
    told = titled(soap, "Soap in a litre")
    assert told.rows[0] == ("Bar soap in a litre", f"{figures(grams)} g")
    assert told.rows[1][0] == "Next day, usually"
    assert told.rows[1][1]


@pytest.mark.parametrize("out", ["topping", "other"])
def test_what_would_go_in_late_is_an_amount_as_it_is_measured(out: str) -> None:
    """Of a top-up the volume it was planned to be, of anything else as it was asked for."""
    journal = Journal(house_formulas()["who-one"].formula)
    at = journal.progress.topping if out == "topping" else 2
    asked = {} if out == "topping" else {"planned": 18.28, "asked_mL": 14.5}
    journal.write(EntryKind.LEFT_OUT, line=at, data=asked)
    (told,) = left_out(journal.progress)
    assert (told.line, told.amount.unit) == (at, "mL")
    assert told.amount.value == pytest.approx(14.5 if out == "other" else journal.progress.planned[at].mL)


def test_what_is_looked_at_first_is_as_kept() -> None:
    """Of every house formula, and of a dish liquid as its acid goes in: every row, sentence and bar."""
    bottles = (Held("Foamer", 275.0), Held("Small foamer", 120.0))
    journal = Journal(
        mix(("water", "2 L"), ("caustic-soda", "100 g", "100 %"), ("labsa", "800 g", "98 %"), family="dish-liquid")
    )
    journal.do()
    journal.do()
    task = journal.progress.task
    dose = {"task": journal.progress.tasks.index(task), "amount": 64.0, "reading": 12.0}
    journal.write(EntryKind.PORTION, data=dose)
    sections = {key: told(insights(result, bottles)) for key, result in HOUSE.items()}
    sections["as the acid goes in"] = told(so_far(journal.progress, task))
    same_as_kept(Path(__file__).with_name("insights.txt"), {name: text for name, text in sections.items() if text})
