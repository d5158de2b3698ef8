"""Batches side by side: of several formulas, with what a maker would call a difference and no more."""

import re
from pathlib import Path

import icalendar
import pytest
from django.test import Client
from django.urls import reverse

from firkin.batches.calendar import events_of, folded
from firkin.batches.comparison import Cell, Side, numbers_of, rows_of
from firkin.batches.models import Batch
from firkin.core.bench import EntryKind
from firkin.core.formula import house_formulas
from firkin.core.measures import Quantity
from firkin.shelf.models import Stock
from kept import same_as_kept
from quay import lantern_quay
from steps import begin, make_as_planned, make_at_once, said


@pytest.mark.parametrize(
    ("one", "other", "differs"),
    [(2.0, 2.01, False), (2.0, 2.03, False), (2.0, 2.05, True), (80.0, 81.5, False), (0.0, 0.0, False)],
)
def test_what_nobody_can_measure_is_no_difference(one: float, other: float, differs: bool) -> None:
    """2.01 against 2: within 2 % it is the same."""
    assert Cell("", "", one).differs(Cell("", "", other), 0.02 * one) is differs


@pytest.fixture
def two(workshop, maker) -> list[Batch]:
    found = []
    for key in ("who-one", "dish-gentle"):
        batch = begin(house_formulas()[key].formula, workshop, maker, "1 kg" if "dish" in key else "1 L")
        make_at_once(batch, maker)
        found.append(batch)
    return found


def test_batches_of_different_formulas_are_compared(bench: Client, workshop, two: list[Batch]) -> None:
    page = bench.get(reverse("batches:compare_any"), {"b": [batch.number for batch in two]})
    rows = {row.name: row for row in page.context["rows"]}
    assert rows["Formula"].differs
    assert rows["Ethanol"].values[1] == "—"
    assert rows["Strength"].values[0].startswith("80 % v/v meets")
    assert "quarantine" in rows["Rested"].values[0]
    assert rows["Measured with"].values == ("exact amounts", "exact amounts")


def test_it_opens_on_what_is_made_and_not_on_what_is_planned(bench: Client, workshop, maker, two: list[Batch]) -> None:
    first = two[0]
    for _ in range(2):
        Batch.objects.start(first.version, first.version.as_core(), maker)
    page = bench.get(reverse("batches:compare_any"))
    assert page.context["chosen"] == {batch.pk for batch in two}


def test_what_has_no_price_is_named_beside_the_cost(bench: Client, workshop, two: list[Batch]) -> None:
    """By hand: 833.3 mL out of 10 L for 80: 6.67, a litre of the rub too."""
    can = Stock(workshop=workshop, material="ethanol", name="Can", amount_value=10, amount_unit="L", price=80)
    can.strength = two[0].formula().lines[0].strength
    can.save()
    two[0].lines.filter(material="ethanol").update(stock=can)
    record = said(bench.get(reverse("batches:record", args=[two[0].pk])))
    assert "Costs more than <b>6.67 EUR</b>, 6.67 EUR a litre" in record
    assert "Without a price, and not counted: hydrogen peroxide, glycerol." in record
    sheet = said(bench.get(reverse("formulas:sheet", args=[two[0].version.formula_id])))
    assert "Costs more than <b>6.67 EUR</b>" in sheet
    rows = {row.name: row for row in rows_of([Side(batch) for batch in two], "EUR", {})}
    assert rows["Cost of a litre"].values == ("over 6.67 EUR", "not known")
    assert not rows["Cost of a litre"].differs


def test_a_ferments_ventings_stand_in_one_row_and_carry_alarms_and_links(bench: Client, workshop, maker) -> None:
    batch = begin(house_formulas()["citrus-ferment"].formula, workshop, maker, "2 kg")
    make_as_planned(bench, batch, up_to_the_wait=True)
    rows = folded(events_of(workshop, None, None, batch))
    vents = [row for row in rows if row.next.what == "Vent it"]
    assert [(row.more, (row.until - row.next.at).days) for row in vents] == [(20, 84)]
    file = bench.get(reverse("batches:ics", args=[batch.pk])).content
    events = icalendar.Calendar.from_ical(file).walk("VEVENT")
    assert all(len(event.walk("VALARM")) == 1 for event in events)
    assert {str(event["URL"]) for event in events} == {f"http://testserver/batches/{batch.pk}/"}


def test_a_batch_cut_with_water_costs_less_a_litre(workshop, two: list[Batch]) -> None:
    """By hand: 6.67 for 1187 mL in bottles (OIML R 22: a litre of the rub and 200 mL of water) is 5.62 a litre."""
    can = Stock(workshop=workshop, material="ethanol", name="Can", amount_value=10, amount_unit="L", price=80)
    can.strength = two[0].formula().lines[0].strength
    can.save()
    two[0].lines.filter(material="ethanol").update(stock=can)
    two[0].frozen = {**two[0].frozen, "cut_parts_water": 0.2}
    side = Side(two[0])
    assert side.cost.of_a_litre == pytest.approx(5.62, abs=0.01)
    assert side.cost_of_a_litre is None  # glycerol and peroxide have no price
    for line in two[0].lines.exclude(material__in=("ethanol", "water")):
        free = Stock(workshop=workshop, material=line.material, name=f"A gift of {line.material}", price=0)
        free.amount = Quantity(1.0, "L")
        free.save()
        two[0].lines.filter(pk=line.pk).update(stock=free)
    assert Side(two[0]).cost_of_a_litre == pytest.approx(5.62, abs=0.01)


@pytest.mark.long
def test_the_batches_of_the_demo_side_by_side_are_as_kept(db) -> None:
    """Days and waits that go on are not of the demo but of the day it is laid down, and are masked."""
    lantern_quay()
    everything = [Side(batch) for batch in Batch.objects.whole().order_by("number")]
    groups = {
        "all": everything,
        "rubs": everything[:2],
        "soaps": everything[-2:],
        "one formula": [everything[0], everything[4]],
    }

    def masked(value: str) -> str:
        return re.sub(r"\d+ \w{3} \d{4}|[\d.]+ (days?|h|hours?|min|weeks?)\b( \d+ \w+)?", "#", value)

    sections = {
        name: "\n".join(
            [
                *(f"{'≠' if row.differs else '='} {row.name}: {' | '.join(map(masked, row.values))}" for row in rows_of(sides, "EUR", {"own": "my measures"})),
                *(f"{one.name}, {one.unit}: {[round(value, 3) for _, value in one.points]}" for one in numbers_of(sides, "EUR")),
            ]
        )
        for name, sides in groups.items()
    }  # fmt: skip
    same_as_kept(Path(__file__).parent / "comparisons.txt", sections)


def test_what_is_looked_at_and_not_read_differs_from_nothing(bench: Client, workshop, maker, two: list[Batch]) -> None:
    """A batch nobody looked at says nothing, and nothing is no difference."""
    for what in ({"what": "ph", "value": 7.0}, {"what": "ph", "value": 7.3}):
        two[1].write(EntryKind.READING, maker, data=what)
    two[1].write(EntryKind.OBSERVE, maker, data={"seen": {"thickness": 2}})
    rows = {row.name: row for row in rows_of([Side(batch) for batch in two], "EUR", {})}
    assert (rows["pH"].values, rows["pH"].differs) == (("—", "7.3"), False)
    assert (rows["Thickness"].values, rows["Thickness"].differs) == (("—", "flows"), False)
    assert numbers_of([Side(two[0])], "EUR") == []
