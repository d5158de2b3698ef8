"""The maker's own curve: nothing but own batches, and how few they are is said."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.bench import FEW, THICKNESS, WANTED, EntryKind, Made, next_day_level, own_curve, soap_g_per_L
from firkin.core.formula import house_formulas
from journals import BEGUN, Journal

BATCHES = st.lists(st.tuples(st.floats(10, 300), st.integers(0, len(THICKNESS) - 1)), min_size=1, max_size=8)


def made(points) -> list[Made]:
    return [Made("olive", grams, level, f"26-{i:03d}") for i, (grams, level) in enumerate(points)]


@given(BATCHES)
def test_what_is_suggested_lies_on_the_side_that_is_wanted(points) -> None:
    curve = own_curve("olive", made(points))
    hits = [grams for grams, level in points if level == WANTED]
    thin = [grams for grams, level in points if level < WANTED]
    thick = [grams for grams, level in points if level > WANTED]
    if hits:
        assert min(hits) - 1e-9 <= curve.suggested <= max(hits) + 1e-9
    elif thin and thick:
        low, high = sorted((max(thin), min(thick)))
        assert low - 1e-9 <= curve.suggested <= high + 1e-9
        assert ("contradict" in curve.says[0]) == (max(thin) >= min(thick))
    elif thin:
        assert curve.suggested > max(thin)
    else:
        assert curve.suggested < min(thick)
    assert any("an indication" in said for said in curve.says) == (len(points) < FEW)


@given(BATCHES)
def test_another_bar_says_nothing_of_this_one(points) -> None:
    curve = own_curve("tallow", made(points))
    assert curve.made == ()
    assert "No batch with this bar" in curve.says[0]
    assert curve.suggested == own_curve("tallow", []).suggested


def test_between_thin_and_a_gel() -> None:
    """By hand: level 1 at 60 and level 4 at 100 g a litre; level 3 lies two thirds of the way, 86.7."""
    curve = own_curve("olive", made([(60.0, 1), (100.0, 4)]))
    assert curve.suggested == pytest.approx(60 + 40 * 2 / 3)
    assert "87 g a litre next" in curve.says[0]


def test_a_batch_gives_its_grams_and_its_look_after_a_night() -> None:
    journal = Journal(house_formulas()["bar-soap-liquid"].formula)
    journal.finish()
    assert soap_g_per_L(journal.progress) == pytest.approx(75.0)
    assert next_day_level(journal.progress, BEGUN) is None
    for hours, level in ((1, 0), (14, 3), (60, 2)):
        entry = journal.write(EntryKind.OBSERVE, data={"seen": {"thickness": level}})
        journal.entries[-1] = type(entry)(
            entry.number, entry.kind, BEGUN.replace(day=1 + hours // 24, hour=(9 + hours) % 24), "", data=entry.data
        )
    assert next_day_level(journal.progress, BEGUN) == 3
    assert soap_g_per_L(Journal(house_formulas()["who-one"].formula).progress) is None


@pytest.mark.parametrize(
    ("points", "suggested", "batches"),
    [
        ([(60.0, 1), (100.0, 4)], 86.67, 2),  # by hand: two thirds of the way from 60 to 100
        ([(60.0, 1)], 75.0, 1),
        ([(100.0, 4)], 80.0, 1),
        ([(80.0, 3), (90.0, 3), (20.0, 0)], 85.0, 3),
    ],
)
def test_a_curve_by_hand(points, suggested: float, batches: int) -> None:
    """Another bar's batches are no points of it; its own stand in their order."""
    curve = own_curve("olive", [*reversed(made(points)), Made("tallow", 10.0, 4, "26-999")])
    assert curve.suggested == pytest.approx(suggested, abs=0.01)
    assert [(one.g_per_L, one.level) for one in curve.made] == sorted(points)
    assert (f"{batches} batches" in curve.says[-1] or "one batch" in curve.says[-1]) is (batches < FEW)
