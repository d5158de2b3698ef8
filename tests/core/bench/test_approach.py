"""Small additions to a pH or a thickness, against curves that the code does not know."""

from dataclasses import replace
from math import exp

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.bench import Approach, Dose, EntryKind, Reads, Stand, approach_of, deviation_of, last_excess
from firkin.core.catalogue import find
from firkin.core.formula import Line, house_formulas
from firkin.core.measures import Quantity
from journals import Journal
from mixes import mix

TEA = Line(find("triethanolamine"), Quantity(4.0, "mL"))
GEL = Approach(TEA, Reads.PH, 4.0, "mL", (6.0, 7.5), rises=True, portions=4)


def following(start: Approach, curve) -> Approach:
    """The maker does what is suggested and reads each time."""
    now = start
    for _ in range(60):
        if now.stand in (Stand.THERE, Stand.PAST):
            break
        total = now.so_far + now.next_dose
        now = replace(now, doses=(*now.doses, Dose(total, curve(total))))
    return now


def sigmoid(x0: float, width: float):
    """A titration as textbooks draw it, from pH 3 to 10 (general chemistry, from memory)."""
    return lambda x: 3.0 + 7.0 / (1.0 + exp(-(x - x0) / width))


@given(st.floats(2.4, 6.0), st.floats(0.25, 1.5))
def test_following_what_is_suggested_ends_within_the_window_and_not_past_it(x0: float, width: float) -> None:
    """Polymers differ: the plan may be off by half, the curve flat or steep."""
    ended = following(GEL, sigmoid(x0, width))
    assert ended.stand is Stand.THERE
    assert len(ended.doses) <= 40


@given(st.floats(2.4, 5.0), st.floats(0.25, 1.0))
def test_downwards_with_an_acid_as_upwards_with_a_base(x0: float, width: float) -> None:
    acid = replace(GEL, line=Line(find("citric-acid"), Quantity(4.0, "g")), unit="g", window=(6.0, 8.5), rises=False)
    curve = sigmoid(x0, width)
    assert following(acid, lambda x: 13.0 - curve(x)).stand is Stand.THERE


@given(st.floats(0.2, 3.0), st.floats(0.1, 2.0))
def test_the_excess_is_what_went_in_after_the_window_was_left(inside: float, more: float) -> None:
    """On a straight line, by hand: from pH 7 at 3 mL, 1 pH a mL, 7.5 is left at 3.5."""
    last = 3.5 + more
    past = replace(GEL, doses=(Dose(3.0 - inside, 7.0 - inside), Dose(3.0, 7.0), Dose(last, 4.0 + last)))
    assert past.stand is Stand.PAST
    assert past.excess == pytest.approx(more)


def test_an_excess_is_taken_back_by_mole() -> None:
    """By hand: 0.5 mL of triethanolamine is 0.562 g, 3.767 mmol; a third of that of citric acid is 0.2412 g."""
    past = replace(GEL, doses=(Dose(3.0, 7.0), Dose(4.0, 8.0)))
    assert past.excess == pytest.approx(0.5)
    assert past.taken_back_g == pytest.approx(0.2412, abs=0.0005)
    assert "0.24 g of citric acid" in past.words
    assert "2.5 mL of a solution" in past.words


def test_salt_past_its_peak_is_recognised() -> None:
    """Common practice, no source: salt thickens a detergent to a peak, then thins it."""
    salt = Approach(
        Line(find("salt"), Quantity(60.0, "g")), Reads.THICKNESS, 60.0, "g", (3.0, 4.0), rises=True, portions=6
    )
    stands = []
    for level in (1, 2, 3, 2):
        salt = replace(salt, doses=(*salt.doses, Dose(salt.so_far + 10.0, level)))
        stands.append(salt.stand)
    assert stands == [Stand.ON, Stand.ON, Stand.THERE, Stand.PAST]
    assert salt.next_dose == 0
    assert "the peak is past" in salt.words


@pytest.mark.parametrize(
    ("key", "approached"),
    [("crosspolymer-gel", {"triethanolamine": "ph"}), ("dish-gentle", {"labsa": "ph", "salt": "thickness"}), ("who-one", {}),
     ("powder-soft", {}), ("bar-soap-liquid", {}), ("citrus-ferment", {}), ("xanthan-gel", {}), ("laundry-concentrate", {})],
)  # fmt: skip
def test_which_lines_are_approached(key: str, approached: dict[str, str]) -> None:
    journal = Journal(house_formulas()[key].formula)
    found = {}
    while (task := journal.progress.task) is not None:
        one = approach_of(journal.progress, task)
        if one is not None:
            found[one.line.material.id] = one.reads.value
        journal.do()
    assert found == approached


def test_what_was_enough_by_its_reading_is_no_deviation_and_its_excess_is_known_afterwards() -> None:
    gel = mix(("water", "900 mL"), ("carbomer", "4 g"), ("triethanolamine", "5 mL"), family="gel")
    journal = Journal(gel)
    while approach_of(journal.progress, journal.progress.task) is None:
        journal.do()
    task = journal.progress.task
    place = journal.progress.tasks.index(task)
    for amount, reading in ((2.0, 6.0), (1.5, 7.5), (0.5, 8.5)):
        journal.write(EntryKind.PORTION, data={"task": place, "amount": amount, "reading": reading})
    journal.write(
        EntryKind.POUR, line=task.line, amount=Quantity(4.0, "mL"),
        data={"planned": journal.progress.target_g(task), "approach": True},
    )  # fmt: skip
    assert deviation_of(journal.progress) is None
    assert last_excess(journal.progress).excess == pytest.approx(0.5)
