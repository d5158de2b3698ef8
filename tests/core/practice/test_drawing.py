"""Problems: each right answer is right, each wrong way is told by its name, and figures from outside hold."""

from datetime import UTC, datetime, timedelta
from fractions import Fraction

import pytest

from firkin.core.catalogue import find, must_not_meet
from firkin.core.errors import CannotRead, CannotReckon
from firkin.core.practice import SKILLS, Problem, WrongWay, draw, due_at, mark, reviewed
from firkin.core.practice.wrong_ways import divided_by_the_larger_part, forgot_that_it_grows
from often import some

SEEDS = some(range(80), 12)
#: Of recipes with something wrong, or nothing.
MANY = some(range(200), 40)


def as_written(problem: Problem, value: float) -> str:
    return str(int(value)) if problem.choices else f"{value:.8g} {problem.unit}".strip()


@pytest.mark.parametrize("skill", sorted(SKILLS))
def test_the_worked_answer_is_right_and_every_wrong_way_says_its_words(skill: str) -> None:
    told = set()
    for seed in SEEDS:
        problem = draw(skill, seed)
        assert problem == draw(skill, seed)
        assert problem.text.strip().endswith(("?", "."))
        assert problem.working
        assert mark(problem, as_written(problem, problem.answer)).right
        for way in problem.wrong:
            marked = mark(problem, as_written(problem, way.value))
            assert (marked.right, marked.words) == (False, way.words)
        told.add(problem.text + str(problem.choices))
    assert len(told) >= 5


@pytest.mark.parametrize("seed", SEEDS)
def test_answers_that_anybody_can_work_out(seed: int) -> None:
    """27 CFR 5.1 (proof); parts, loads and room by fractions; 1 dH is 17.85 mg/L (unit definitions)."""
    proof = draw("proof", seed)
    assert proof.answer == pytest.approx(float(proof.text.split(" says ")[1].split(" ")[0]) / 2.0)
    parts = draw("parts", seed)
    words = parts.text.split()
    larger, stock, smaller = int(words[0]), int(words[5]), int(words[9])
    assert parts.answer == pytest.approx(float(Fraction(stock * larger, larger + smaller)))
    loads = draw("loads", seed)
    batch, dose = int(loads.text.split(" L ")[0]), int(loads.text.split(", ")[1].split(" ")[0])
    assert loads.answer == pytest.approx(1000.0 * batch / dose)
    room = draw("room", seed)
    stock, target = int(room.text.split(" of ")[1].split(" ")[0]), int(room.text.split("hold ")[1].split(" ")[0])
    assert room.answer == pytest.approx(100.0 * (1.0 - target / stock))
    water = draw("hardness", seed)
    per = {"German": 17.85, "French": 10.0, "grains": 17.12}[water.text.split()[3]]
    assert water.answer == pytest.approx(float(water.text.split()[2]) * per, rel=2e-3)


def test_what_must_never_meet_is_what_the_matrix_says() -> None:
    """WHO and CDC on bleach (the catalogue's sourced matrix); both answers come up."""
    seen = set()
    for seed in SEEDS:
        problem = draw("never-meet", seed)
        one, other = problem.text.removesuffix(" in one bucket?").split(" and ")
        danger = must_not_meet(find(one.split(" (")[0]), find(other.split(" (")[0]))
        assert (problem.answer == 0.0) is danger
        seen.add(danger)
    assert seen == {True, False}


def test_every_planted_fault_comes_up_and_so_does_none() -> None:
    right = {draw("spot", seed).answer_words for seed in MANY}
    assert len(right) == 5
    assert all(len(draw("spot", seed).choices) == 5 for seed in range(20))
    assert "Nothing is wrong with it." in right


def test_a_recipe_with_nothing_wrong_has_no_stop_in_its_working() -> None:
    clean = [problem for seed in MANY if (problem := draw("spot", seed)).answer_words.startswith("Nothing")]
    assert clean
    assert not any("never" in line or "poison" in line.lower() for one in clean for line in one.working)


TWELVE = Problem("dilute", 1, "How much?", 123.4, "mL", working=("w",), wrong=(WrongWay("ten", 1234.0, "Ten times."),))


@pytest.mark.parametrize(
    ("given", "right"),
    [
        ("123.4", True),
        ("123", True),
        ("124.6", True),  # within 1 %
        ("124.7", False),
        ("120 mL", True),  # to two figures
        ("0.1234 L", True),
        ("0.12 L", True),
        ("100", False),  # to one figure is no answer
        ("130", False),
        ("123,4 mL", True),
        ("1234", False),
        ("-123.4", False),
    ],
)
def test_honest_rounding_is_right_and_no_more(given: str, right: bool) -> None:
    try:
        marked = mark(TWELVE, given)
    except CannotReckon:
        assert not right
        return
    assert marked.right is right
    if given == "1234":
        assert marked.words == "Ten times."


@pytest.mark.parametrize("given", ["", "  ", "much", "12 g", "12 kg", "5 bananas", "%"])
def test_what_is_no_answer_is_said_and_not_marked(given: str) -> None:
    with pytest.raises(CannotReckon):
        mark(TWELVE, given)


@pytest.mark.parametrize("given", ["", "2", "-1", "x", "1.0", "99"])
def test_what_is_no_choice_is_said(given: str) -> None:
    with pytest.raises(CannotReckon, match="Choose one"):
        mark(Problem("never-meet", 1, "?", 0.0, choices=("a", "b")), given)


def test_the_wrong_ways_of_the_trade() -> None:
    way = divided_by_the_larger_part(91.0, 3.0, 1.0)
    assert (round(way.value, 2), way.words) == (60.67, "You divided by 3: 3 parts and 1 are 4.")
    assert forgot_that_it_grows(1000.0, 55.0, 65.0, 96.0).value == pytest.approx(104.17, abs=0.01)


def test_what_was_wrong_comes_back_sooner_and_what_was_right_later_each_time() -> None:
    now = datetime(2026, 5, 1, tzinfo=UTC)
    right = reviewed(None, right=True, at=now)
    wrong = reviewed(None, right=False, at=now)
    assert now < due_at(wrong) < due_at(right)
    gaps, at, card = [], now, None
    for _ in range(5):
        card = reviewed(card, right=True, at=at)
        gaps.append(due_at(card) - at)
        at = due_at(card)
    assert gaps == sorted(gaps)
    assert gaps[-1] > timedelta(days=7)
    assert reviewed(card, right=True, at=at) == reviewed(card, right=True, at=at)


def test_a_skill_that_is_none_is_refused() -> None:
    with pytest.raises(CannotRead, match="is no skill"):
        draw("juggling", 1)
