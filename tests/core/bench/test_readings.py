"""What readings and looks mean."""

from pathlib import Path

import pytest

from firkin.core.bench import (
    ASPECTS,
    EntryKind,
    asked_at,
    before_preserving,
    drifting,
    judge_mass,
    judge_ph,
    judge_reading,
    judge_yield,
    reading_words,
    readings_of,
)
from firkin.core.catalogue import families
from firkin.core.formula import house_formulas, reckon
from journals import Journal
from kept import same_as_kept, told
from mixes import mix


@pytest.mark.parametrize(
    ("family", "value", "verdict"),
    [
        ("dish-liquid", 8.0, "within"),
        ("dish-liquid", 9.5, "high"),
        ("dish-liquid", 5.5, "low"),
        ("gel", 7.0, "within"),
        ("ferment", 4.5, "high"),
    ],
)
def test_a_ph_is_judged_by_its_familys_window(family: str, value: float, verdict: str) -> None:
    """Common practice, no source: dish liquid for hands 6 to 8.5, a finished ferment below about 4."""
    judged = judge_ph(family, value)
    assert judged.verdict == verdict
    assert bool(judged.advice) == (verdict != "within")


def test_powders_have_no_ph_and_scales_have_words() -> None:
    assert judge_ph("dishwasher-powder", 7) is None
    assert all(len(words) == len(set(words)) >= 3 for _, words in ASPECTS.values())
    assert "yellows" in drifting("colour", [0, 2])
    assert drifting("colour", [2, 0]) == ""
    assert "spoilt" in drifting("smell", [0, 2])


def up_to_the_preservative(formula) -> Journal:
    journal = Journal(formula)
    while (
        journal.progress.task.line is None
        or "preservative" not in journal.progress.formula.lines[journal.progress.task.line].material.roles
    ):
        journal.do()
    return journal


def reads(journal: Journal, what: str, value: float) -> None:
    journal.write(EntryKind.READING, data={"what": what, "value": value})


def test_a_preservative_follows_what_the_batch_weighs_when_it_goes_in() -> None:
    """Per cent of total weight: a tenth boiled off takes a tenth less."""
    journal = up_to_the_preservative(house_formulas()["bar-soap-liquid"].formula)
    task = journal.progress.task
    assert asked_at(journal.progress, task) == ("mass", "temperature")
    planned = journal.progress.target(task).g
    went_in = sum(journal.progress.masses_g[:-1])
    assert "was not weighed" in before_preserving(journal.progress, task).unread[0]
    reads(journal, "mass", 0.9 * went_in)
    assert journal.progress.target(task).g == pytest.approx(0.9 * planned, rel=1e-6)
    assert before_preserving(journal.progress, task).weighed
    (reading,) = readings_of(journal.progress)
    assert "10 % lost" in reading.judged.text
    journal.do()
    shares = 100 * journal.progress.masses_g[-1] / went_in
    assert shares == pytest.approx(0.9 * 100 * planned / went_in, rel=1e-6)


@pytest.mark.parametrize(("share", "followed"), [(0.499, False), (0.501, True), (1.019, True), (1.021, False)])
def test_the_least_and_the_most_that_a_batch_can_weigh(share: float, followed: bool) -> None:
    """Half of what went in, and 2 % more than it (common practice, no source)."""
    journal = up_to_the_preservative(house_formulas()["bar-soap-liquid"].formula)
    task = journal.progress.task
    planned = journal.progress.target(task).g
    reads(journal, "mass", share * sum(journal.progress.masses_g[:-1]))
    assert journal.progress.target(task).g == pytest.approx(planned * (share if followed else 1.0), rel=1e-6)


@pytest.mark.parametrize(
    ("mass_g", "stands"),
    [(970.01, "within"), (969.99, "low"), (1029.99, "within"), (1030.01, "high"), (1000, "within")],
)
def test_three_per_cent_more_or_less_is_the_scale(mass_g: float, stands: str) -> None:
    assert judge_mass(1000.0, mass_g).verdict == stands


@pytest.mark.parametrize(("share", "stands"), [(0.749, "low"), (0.751, "within"), (1.0, "within")])
def test_three_quarters_of_the_water_come_back_from_the_peel(share: float, stands: str) -> None:
    result = reckon(house_formulas()["citrus-ferment"].formula)
    wet = sum(one.volume_mL for one in result.lines if not one.material.solid)
    assert judge_yield(result, share * wet).verdict == stands
    assert judge_yield(result, result.total.volume_mL * 1.001).verdict == "high"


@pytest.mark.parametrize("share", [1.4, 0.3])
def test_a_weight_that_cannot_be_is_said_and_not_followed(share: float) -> None:
    journal = up_to_the_preservative(house_formulas()["bar-soap-liquid"].formula)
    task = journal.progress.task
    planned = journal.progress.target(task).g
    reads(journal, "mass", share * sum(journal.progress.masses_g[:-1]))
    assert journal.progress.target(task).g == pytest.approx(planned)
    assert "cannot be what went in" in before_preserving(journal.progress, task).against[0]


def test_warmth_and_ph_are_held_against_its_window_and_what_was_read_before_the_last_line_is_old() -> None:
    sorbate = mix(("water", "900 g"), ("labsa", "50 g"), ("potassium-sorbate", "3 g"), family="dish-liquid")
    journal = Journal(sorbate)
    for what, value in (("ph", 5.0), ("temperature", 20.0), ("mass", 900.0)):
        reads(journal, what, value)
    while journal.progress.task.line != 2:
        journal.do()
    task = journal.progress.task
    assert len(before_preserving(journal.progress, task).unread) == 3  # they were read of something else
    assert asked_at(journal.progress, task) == ("mass", "ph", "temperature")
    reads(journal, "temperature", 55.0)
    reads(journal, "ph", 8.0)
    said = before_preserving(journal.progress, task)
    assert [any(words in one for one in said.against) for words in ("too warm", "does nothing")] == [True, True]
    assert len(said.unread) == 1  # the weight


def test_a_weight_read_while_making_is_held_against_what_is_in_by_then() -> None:
    journal = Journal(mix(("water", "500 g"), ("glycerol", "500 g"), family="other"))
    journal.do()
    reads(journal, "mass", 480.0)
    journal.finish()
    (reading,) = readings_of(journal.progress)
    assert "500 g went in: 4 % lost" in reading.judged.text


def test_what_readings_mean_is_as_kept() -> None:
    """Of every family a pH in steps; of every house formula what a stem, a scale and a jug may show at its end."""
    sections = {
        f"pH, {family}": "\n".join(
            f"{ph:g}: {told(judged)}"
            for ph in (1.5, 3.0, 4.2, 6.0, 7.5, 8.6, 9.9, 12.0)
            if (judged := judge_ph(family, ph))
        )
        for family in families()
        if families()[family].ph
    }
    for key, house in house_formulas().items():
        journal = Journal(house.formula)
        journal.finish()
        progress = journal.progress
        shown = [("mass", progress.result.total.mass_g * share) for share in (0.6, 0.96, 0.98, 1.0, 1.02, 1.2)]
        shown += [("volume", progress.result.total.volume_mL * share) for share in (0.5, 0.74, 0.8, 1.01)]
        shown += [("alcoholmeter", value) for value in (40.0, 58.0, 71.0, 79.0, 88.0)] + [("temperature", 25.0)]
        said = []
        for what, value in shown:
            for celsius in (None, 12.0, 31.0) if what == "alcoholmeter" else (None,):
                data = {"what": what, "value": round(value, 3)} | ({} if celsius is None else {"celsius": celsius})
                judged = judge_reading(progress, data)
                said.append(
                    f"{reading_words(data)}: {f'{judged.verdict}. {judged.text} {judged.advice}' if judged else 'nothing'}"
                )
        sections[key] = "\n".join(said)
    same_as_kept(Path(__file__).parent / "readings.txt", sections)
