"""Tables of any layout as plain lines: nothing is lost, what is left out is marked, and dangers are read wherever they stand."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.recipe import findings_of, read_recipe
from firkin.core.recipe.tables import in_plain_lines

TABLES = [
    ("Ingredient | g\nwater | 500\nsalt | 20", ["500 g water", "20 g salt"]),
    ("water;500;g\nsalt;20;g", ["500 g water", "20 g salt"]),
    ("qty,unit,item,price\n500,g,water,0.10\n20,g,salt,0.40", ["500 g water", "20 g salt"]),
    ("water ....... 500 g\nsalt ........ 20 g", ["500 g water", "20 g salt"]),
    ("water      500 g\nsalt        20 g\ntotal      520 g", ["500 g water", "20 g salt", "Total: 520 g"]),
    ("Wasser;1,5;L\nSalz;0,2;kg", ["1.5 L Wasser", "0.2 kg Salz"]),  # decimal commas
    ("| water | salt |\n|---|---|\n| 500 g | 20 g |", ["500 g water", "20 g salt"]),  # on its side
    ("Mix, g: water 500 / salt 20", ["Mix, g", "500 g water", "20 g salt"]),
    ("1 | 2\nwater | 1 kg 200 g\nsalt | 20 g", None),  # a first row of figures names no columns
    ("water | 1 kg 200 g\nsalt | 20 g\nborax | 5 g", ["water 1 kg 200 g", "20 g salt", "5 g borax"]),
    ("bleach + water = 1 : 9", ["1 part bleach, 9 parts water"]),
    ("water | to 1 L\nsalt | 20 g", ["water up to 1 L", "20 g salt"]),
    ("Soap 230 ml, water 20 ml.\nStir well and bottle it.", None),  # prose is left alone
]


@pytest.mark.parametrize(("table", "lines"), TABLES, ids=[table[:25] for table, _ in TABLES])
def test_a_table_becomes_its_lines(table: str, lines: list[str] | None) -> None:
    plain = in_plain_lines(table)
    if lines is None:
        assert plain is None or "water" in plain.text
    else:
        assert plain is not None
        assert [re.sub(r" +", " ", line).strip() for line in plain.text.split("\n") if line.strip()] == lines


@pytest.mark.parametrize("table", [table for table, _ in TABLES])
def test_every_word_and_figure_keeps_its_place(table: str) -> None:
    plain = in_plain_lines(table)
    if plain is None:
        return
    for word in re.finditer(r"[a-z]{4,}", plain.text):
        start, end = plain.span(*word.span())
        if word.group() in table:  # and not one that was put in
            assert table[start:end] == word.group() or start == end or word.group() in ("part", "parts")
    assert all(0 <= start < end <= len(table) for start, end, _ in plain.left)


@given(
    st.sampled_from(["|", ";", "\t"]),
    st.lists(st.tuples(st.sampled_from(["water", "salt", "borax", "glycerol"]), st.integers(2, 900)), min_size=2, unique_by=lambda x: x[0]),
    st.permutations(["name", "amount", "unit", "price"]),
)  # fmt: skip
def test_whatever_the_order_of_its_columns(sign: str, rows: list[tuple[str, int]], order: list[str]) -> None:
    heads = {"name": "what", "amount": "qty", "unit": "unit", "price": "price"}
    cells = [{"name": name, "amount": str(grams), "unit": "g", "price": "1.20"} for name, grams in rows]
    table = "\n".join(sign.join(row[column] for column in order) for row in [heads, *cells])
    read = read_recipe(table, "metric")
    assert [(line.material.id, line.amount.value, line.amount.unit) for line in read.lines] == [
        (name, float(grams), "g") for name, grams in rows
    ]


@pytest.mark.parametrize("where", ["note", "head"])
def test_a_danger_in_a_column_that_is_not_counted_is_stopped(where: str) -> None:
    note = "with a glug of bleach" if where == "note" else "cold"
    head = "add bleach" if where == "head" else "note"
    table = f"what | ml | {head}\nwhite vinegar | 200 | {note}\nwater | 800 | cold"
    assert "bleach-mixed" in {one.rule for one in findings_of(read_recipe(table, "metric"))}


def test_a_slip_of_copying_is_read_and_said_to_be_a_guess() -> None:
    """A wrong figure can hurt: what was O and is counted as 0 is shown as unsure."""
    told = "White vinegar .... l00 ml\nWater .... 900 ml"
    recipe = read_recipe(told, "metric")
    assert [line.words() for line in recipe.lines] == [("white-vinegar", "", "100 ml"), ("water", "", "900 ml")]
    assert [bool(line.claims.guessed) for line in recipe.lines] == [True, False]
    assert "name-guessed" in {one.rule for one in findings_of(recipe)}
    assert not any(line.claims.guessed for line in read_recipe(told.replace("l00", "100"), "metric").lines)
