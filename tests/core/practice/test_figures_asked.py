"""The figures problems are made of are those of bottles and recipes, and each wrong way comes to what it says.

What bottles say: 151 and 190 proof, 91 and 99 % isopropanol, 96 % ethanol and round ones (common practice, no source);
bleach for surfaces of 0.05 to 0.5 % (CDC, WHO).
"""

import re

import pytest

from firkin.core.practice import SKILLS, draw, wrong_ways

ALL_OF = range(200)
ASKED = {
    "by-weight": "20 50 60 70 80 85 90",
    "chlorine": "0.05 0.1 0.5 4 5 6 500 1000 2000 5000",
    "dilute": "60 70 75 80 85 90 91 95 96 99 250 500 750 1000 2000 5000",
    "ferment": "1 1.5 2 3 5 10",
    "hardness": "3 6 8 12 15 20",
    "lift": "50 52 55 58 60 62 65 70 90 96 99 500 1000 2000 4000",
    "loads": "1 2 4 5 10 40 50 60 80 100 120",
    "neutralise": "40.0 50 80 96 98 99 100 150 200 320 500",
    "parts": "1 2 3 4 5 70 75 80 85 90 91 95 96 99",
    "proof": "80 100 120 140 151 160 180 190",
    "room": "60 65 70 75 80 85 90 91 95 96 99",
    "takes-gel": "1 2 3 4 50 60 63 68 70 75 80 85 88 90 91 95 96 99",
}


@pytest.mark.parametrize("skill", sorted(ASKED))
def test_the_figures_are_those_of_bottles_and_recipes(skill: str) -> None:
    found = set()
    for seed in ALL_OF:
        problem = draw(skill, seed)
        said = " ".join([problem.text, *(problem.choices if skill == "takes-gel" else ())])
        found |= {one.replace(",", "") for one in re.findall(r"\d[\d,]*(?:\.\d+)?", said)}
    assert " ".join(sorted(found, key=float)) == ASKED[skill]


@pytest.mark.parametrize("skill", sorted(SKILLS))
def test_a_problem_knows_its_seed_and_a_wrong_way(skill: str) -> None:
    drawn = [draw(skill, seed) for seed in range(40, 50)]
    assert [(one.skill, one.seed) for one in drawn] == [(skill, seed) for seed in range(40, 50)]
    assert any(one.wrong for one in drawn)


@pytest.mark.parametrize(
    ("name", "given", "comes_to"),
    [
        ("took_proof_as_per_cent", (151.0,), 151.0),
        ("doubled_the_proof", (80.0,), 160.0),
        ("divided_by_the_larger_part", (90.0, 3.0, 2.0), 30.0),  # 90 × (1 − 2/3)
        ("forgot_to_thin", (91.0,), 91.0),
        ("took_the_middle", (91.0,), 45.5),
        ("subtracted_the_per_cents", (96.0, 60.0), 36.0),
        ("took_the_share_that_stays", (96.0, 60.0), 62.5),  # 60 of 96
        ("took_the_target_as_share", (500.0, 70.0), 350.0),
        ("multiplied_by_the_stock", (2000.0, 96.0), 1920.0),
        ("forgot_that_it_grows", (1000.0, 50.0, 60.0, 96.0), 104.1666667),  # 1,000 × 10 / 96
        ("slipped_a_zero", (12.5,), 125.0),
        ("lost_a_zero", (12.5,), 1.25),
    ],
)
def test_a_wrong_way_comes_to_what_it_says(name: str, given: tuple[float, ...], comes_to: float) -> None:
    way = getattr(wrong_ways, name)(*given)
    assert (way.name, pytest.approx(way.value)) == (name, comes_to)


def test_what_may_meet_is_said_to_and_what_may_not_says_the_harm() -> None:
    for seed in ALL_OF:
        problem = draw("never-meet", seed)
        harmless = "do no harm together that Firkin knows of" in problem.working[0]
        assert harmless is (problem.answer == 1.0)


def test_a_recipe_to_look_at_says_what_it_is_made_up_to_and_what_it_is_if_not_that() -> None:
    said = [draw("spot", seed) for seed in range(30)]
    parts = "parts" in "".join(one.text for one in said)
    sized = [one for one in said if "parts" not in one.text]
    assert parts and sized and all(re.search(r", made up to [\d.,]+ (?:L|mL)\.$", one.text) for one in sized)
    assert all(len(one.wrong) == 4 and one.answer not in {way.value for way in one.wrong} for one in said)
    assert not any("None" in one.text or re.search(r"\d part\b", one.text) for one in said)
