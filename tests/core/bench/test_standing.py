"""A batch left half made: from which hour on it is said, of what, and what becomes of it."""

from datetime import UTC, datetime, timedelta

import pytest

from firkin.core.bench import Entry, EntryKind, Progress, Standing, left_standing, plan_of
from firkin.core.formula import Formula, Step, formula_from_dict, house_formulas
from firkin.core.measures import Quantity

BEGUN = datetime(2026, 11, 20, 8, tzinfo=UTC)


def mix(*lines: tuple[str, str, str], family: str = "liquid-rub", steps: tuple[Step, ...] = ()) -> Formula:
    listed = [{"material": name, "amount": amount, **({"strength": pct} if pct else {})} for name, amount, pct in lines]
    made = formula_from_dict({"format": "firkin-formula/1", "name": "Mix", "family": family, "lines": listed})
    return Formula(made.name, made.lines, made.family, made.basis, steps=steps)


def stood(formula: Formula, hours: float, poured: int = 0, more: tuple[Entry, ...] = ()) -> Standing | None:
    """What is said so many hours after the first lines went in, the last of them at the beginning."""
    pours = [
        Entry(n + 1, EntryKind.POUR, BEGUN, line=n, amount=formula.lines[n].amount)
        for n in range(poured or len(formula.lines))
    ]
    return left_standing(Progress(formula, plan_of(formula), (*pours, *more)), BEGUN + timedelta(hours=hours))


RUB = mix(("ethanol", "800 mL", "96 %"), ("water", "150 mL", ""))
CHLORINE = mix(("water", "900 mL", ""), ("bleach", "20 mL", "5 %"), family="surface")
SOAP = mix(("water", "900 mL", ""), ("castile-soap", "100 mL", ""), family="liquid-soap")
LYE = mix(("water", "200 g", ""), ("caustic-soda", "50 g", ""), family="dish-liquid")
KEPT = mix(("water", "900 mL", ""), ("phenoxyethanol", "9 g", ""), family="liquid-soap")

#: 12 h and 24 h: WHO (May 2020) for chlorine, made anew each day; the others common practice, no source.
LIMITS = [
    (RUB, 12.0, "Alcohol leaves", False),
    (LYE, 12.0, "Caustic takes up air", False),
    (KEPT, 12.0, "Look at it", False),
    (CHLORINE, 24.0, "Mixed chlorine is made anew", True),
    (SOAP, 24.0, "nothing in it keeps germs down", True),
]


@pytest.mark.parametrize(
    ("formula", "from_h", "says", "spoilt"), LIMITS, ids=["rub", "lye", "kept", "chlorine", "soap"]
)
def test_from_its_hour_on_it_is_said_and_not_before(formula: Formula, from_h: float, says: str, spoilt: bool) -> None:
    before, after = stood(formula, from_h - 0.01), stood(formula, from_h + 0.01)
    assert before is None or says not in " ".join(before.says)
    assert after is not None and says in " ".join(after.says)
    assert after.spoilt is spoilt
    assert before is None or not before.spoilt


@pytest.mark.parametrize(("spirit", "spoilt"), [("165 mL", True), ("215 mL", False)])
def test_so_much_alcohol_keeps_it_and_less_does_not(spirit: str, spoilt: bool) -> None:
    """15 % by mass, from memory: 165 mL of 96 % in a litre are 13 %, 215 mL are 17 %."""
    weak = mix(("water", "800 mL", ""), ("ethanol", spirit, "96 %"), family="liquid-soap")
    after = stood(weak, 30)
    assert after is not None and after.spoilt is spoilt


def test_nothing_is_in_or_it_is_meant_to_stand() -> None:
    ferment = house_formulas()["citrus-ferment"].formula
    assert left_standing(Progress(RUB, plan_of(RUB), ()), BEGUN + timedelta(days=30)) is None
    assert stood(ferment, 24 * 30) is None
    assert (
        stood(mix(("washing-soda", "500 g", ""), ("borax", "200 g", ""), family="dishwasher-powder"), 24 * 30) is None
    )


def test_what_is_in_counts_and_not_what_is_yet_to_come() -> None:
    """The water alone is in: the preservative that comes later keeps nothing yet."""
    waiting = stood(KEPT, 30, poured=1)
    assert waiting is not None and waiting.spoilt


@pytest.mark.parametrize(("hours", "said"), [(36, False), (47.9, False), (48.1, True)])
def test_a_rest_the_recipe_asks_for_is_not_counted(hours: float, said: bool) -> None:
    """A gel told to swell for 36 hours has stood from their end on."""
    swelling = mix(
        ("ethanol", "800 mL", "96 %"),
        ("water", "150 mL", ""),
        steps=(Step("pour", "Add all.", (0, 1)), Step("rest", "Leave it.", wait_h=36.0), Step("mix", "Stir.")),
    )
    began = Entry(3, EntryKind.STEP, BEGUN, step=1)
    assert (stood(swelling, hours, more=(began,)) is not None) is said


@pytest.mark.parametrize("kind", [EntryKind.NOTE, EntryKind.STATE, EntryKind.OBSERVE])
def test_a_note_or_a_look_makes_it_no_fresher(kind: EntryKind) -> None:
    looked = Entry(9, kind, BEGUN + timedelta(hours=29))
    assert stood(SOAP, 30, more=(looked,)) == stood(SOAP, 30)


@pytest.mark.parametrize(("gap_h", "spoilt"), [(11, False), (23, False), (25, True)])
def test_what_went_in_last_counts_but_what_was_spoilt_stays_so(gap_h: float, spoilt: bool) -> None:
    """Soap poured into water that stood for a day mends nothing; into water of this morning it begins anew."""
    first = Entry(1, EntryKind.POUR, BEGUN, line=0, amount=Quantity(900.0, "mL"))
    late = Entry(9, EntryKind.POUR, BEGUN + timedelta(hours=gap_h), line=1, amount=Quantity(100.0, "mL"))
    progress = Progress(SOAP, plan_of(SOAP), (first, late))
    for since_h in (1, 11):
        found = left_standing(progress, late.at + timedelta(hours=since_h))
        assert (found is not None and found.spoilt) is spoilt, since_h
        assert found is None or found.hours == gap_h


def test_a_rest_that_outlasts_what_was_done_in_it_counts_to_its_end() -> None:
    """A gel swells for 36 hours, and something goes in after one of them: at hour 40 it has stood for four."""
    swelling = mix(
        ("ethanol", "800 mL", "96 %"),
        ("water", "150 mL", ""),
        steps=(Step("pour", "Add it.", (0,)), Step("rest", "Leave it.", wait_h=36.0), Step("pour", "Add it.", (1,))),
    )
    first = Entry(1, EntryKind.POUR, BEGUN, line=0, amount=Quantity(800.0, "mL"))
    rest = Entry(2, EntryKind.STEP, BEGUN, step=1)
    early = Entry(3, EntryKind.POUR, BEGUN + timedelta(hours=1), line=1, amount=Quantity(150.0, "mL"))
    progress = Progress(swelling, plan_of(swelling), (first, rest, early))
    assert left_standing(progress, BEGUN + timedelta(hours=40)) is None
    assert left_standing(progress, BEGUN + timedelta(hours=49)).hours == 13


def test_a_preservative_that_comes_too_late_mends_nothing() -> None:
    water = Entry(1, EntryKind.POUR, BEGUN, line=0, amount=Quantity(900.0, "mL"))
    late = Entry(2, EntryKind.POUR, BEGUN + timedelta(hours=30), line=1, amount=Quantity(9.0, "g"))
    found = left_standing(Progress(KEPT, plan_of(KEPT), (water, late)), late.at + timedelta(hours=1))
    assert found is not None and found.spoilt
