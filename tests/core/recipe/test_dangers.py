"""Dangers in a recipe's text: heard under any name, told from what is only talked about, never in kitchen words."""

import itertools
import random
import time
import tomllib
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.audit import Severity, audit
from firkin.core.catalogue import danger_names, find, kinds_of, meeting, must_not_meet
from firkin.core.formula import reckon
from firkin.core.recipe import Recipe, findings_of, read_recipe
from firkin.core.recipe.dangers import danger_findings, weighed
from mixes import mix
from often import tries

HERE = Path(__file__).parent
#: What must never meet, as kinds of hazards.toml (WHO, May 2020; CDC; Bretherick, from memory).
PAIRS = [
    ("chlorine", "acid"),
    ("chlorine", "ammonia"),
    ("chlorine", "alcohol"),
    ("chlorine", "ketone"),
    ("chlorine", "peroxide"),
    ("peroxide", "vinegar"),
    ("peroxide", "ketone"),
    ("caustic", "strong-acid"),
    ("caustic", "aluminium"),
]
SHAPES = [
    "{one} 50 ml, {other} 50 ml",
    "Mix {one} and {other}.",
    "I pour {one} in the bucket, then {other} on top",
    "half a cup of {one}\na cup of {other}\n2 L water",
    "For the bathroom: {one} with {other}, leave it an hour",
    "| {one} | 100 ml |\n| {other} | 50 ml |",
]
NAMES = {kind: [name for name, key in danger_names().items() if kind in kinds_of(find(key))] for pair in PAIRS for kind in pair}  # fmt: skip


def stops(text: str, household: str = "us") -> set[str]:
    return {one.rule for one in findings_of(read_recipe(text, household)) if one.severity is Severity.STOP}


def asks(text: str) -> set[str]:
    return {one.rule for one in findings_of(read_recipe(text)) if one.severity is Severity.ASK}


@pytest.mark.parametrize(("kind", "other"), PAIRS)
@pytest.mark.long
def test_every_name_of_the_one_with_every_name_of_the_other_stops(kind: str, other: str) -> None:
    """All of them as the text is listened to; the shapes take turns."""
    for at, (one, two) in enumerate(itertools.product(NAMES[kind], NAMES[other])):
        if find(danger_names()[one]).written == find(danger_names()[two]).written:
            continue
        text = SHAPES[at % len(SHAPES)].format(one=one, other=two)
        wanted = meeting(find(danger_names()[one]), find(danger_names()[two]))
        found = {(say.rule, say.severity) for say in danger_findings((), weighed(Recipe(text=text)).dangers)}
        assert wanted is not None and (wanted.rule, Severity.STOP) in found, text


@tries(60)
@given(st.sampled_from(PAIRS), st.sampled_from(SHAPES), st.randoms(use_true_random=False))
def test_the_reader_stops_it_too_whatever_it_makes_of_the_lines(pair, shape: str, chance: random.Random) -> None:
    one, two = (chance.choice(NAMES[kind]) for kind in pair)
    materials = [find(danger_names()[name]) for name in (one, two)]
    if materials[0].written == materials[1].written:
        return
    if chance.random() < 0.5:
        one, two = two, one
    met = meeting(*materials)
    assert met is not None and met.rule in stops(shape.format(one=one, other=two)), (one, two)


@tries(20)
@given(st.sampled_from(PAIRS), st.randoms(use_true_random=False))
@pytest.mark.long
def test_two_ends_of_a_long_text_are_heard_together(pair, chance: random.Random) -> None:
    """20,000 characters between them."""
    one, two = (chance.choice(NAMES[kind]) for kind in pair)
    met = meeting(find(danger_names()[one]), find(danger_names()[two]))
    if met is None or not met.harm:
        return
    talk = "We talked about the garden, the weather and the tea for a good while. " * 290
    found = findings_of(read_recipe(f"A glug of {one} goes in first. {talk}Now pour in {two}."))
    assert met.rule in {say.rule for say in found if say.severity is Severity.STOP}


def test_listening_takes_as_long_again_for_a_text_twice_as_long() -> None:
    """Linear up to 50 kB: four times the text, at most seven times the time."""
    piece = "Half a cup of javel and then we talked on about bleach, vinegar and the weather, never about ammonia; "

    def seconds(times: int) -> float:
        text = piece * times
        took = []
        for _ in range(3):
            start = time.perf_counter()
            weighed(Recipe(text=text))
            took.append(time.perf_counter() - start)
        return min(took)

    weighed(Recipe(text=piece))
    assert seconds(480) < 7.0 * seconds(120)


KITCHEN = [word.strip() for word in (HERE / "kitchen_words.txt").read_text().split(",")]


def test_kitchen_words_are_no_danger() -> None:
    """400 of them, many of which look like one, beside a real danger of each kind."""
    assert len(set(KITCHEN)) >= 400
    for word in KITCHEN:
        for beside in ("chlorine", "vinegar", "peroxide", "caustic soda"):
            text = f"The {word} is here. Take 50 ml of {beside}."
            assert not list(danger_findings((), weighed(Recipe(text=text)).dangers)), text
        assert not stops(f"A cup of water. Mind the {word}."), word


@pytest.mark.parametrize(
    "text",
    [
        "20 ml bleach in 2 L of water. NEVER with vinegar.",
        "Ammonia-free window wash: bleach 20 ml, water 2 L.",
        "Bleach 20 ml, water 2 L, no vinegar, no lemon juice.",
        "Don't add ammonia or vinegar to this. Bleach 20 ml, water 2 L.",
        "Instead of ammonia use bleach: 20 ml in 2 L water.",
        "Chlorreiniger 20 ml, Wasser 2 L. Niemals mit Essig.",
        "Javel 20 ml, eau 2 L. Jamais de vinaigre.",
        "Lejía 20 ml, agua 2 L, sin amoníaco.",
        "Bleekwater 20 ml, water 2 L, geen azijn erbij.",
    ],
)
def test_what_is_warned_of_does_not_go_in(text: str) -> None:
    assert "bleach-mixed" not in stops(text) | asks(text)


@pytest.mark.parametrize(
    "text",
    [
        "My neighbour adds ammonia. I take 20 ml bleach and 2 L of water.",
        "20 ml bleach in 2 L water. If you have vinegar down there, rinse first.",
        "Never more than 20 ml of vinegar in it. Bleach 20 ml, water 2 L.",
        "Bleach 20 ml, water 2 L. The vinegar lives in another bottle.",
    ],
)
def test_what_may_only_be_talked_about_is_asked(text: str) -> None:
    assert "bleach-mixed" in asks(text) - stops(text)
    choices = [one.choices for one in findings_of(read_recipe(text)) if one.severity is Severity.ASK]
    assert all(len(some) == 2 for some in choices)


@pytest.mark.parametrize(
    "text",
    [
        "No idea how much, bleach and vinegar.",
        "Don't be shy with the bleach, then a cup of vinegar.",
        "Never fails: bleach 50 ml, vinegar 50 ml.",
        "No measuring cup here, so mix bleach and vinegar by eye.",
        "The old boy swore by this: 50 ml bleach, 50 ml vinegar.",
        "My gran puts half a cup of bleach and a cup of vinegar in hers, and so do I.",
        "Not only bleach but vinegar too, half a cup of each.",
    ],
)
def test_a_no_that_denies_nothing_hides_no_danger(text: str) -> None:
    assert "bleach-mixed" in stops(text)


@pytest.mark.parametrize(
    ("text", "rule"),
    [
        ("2 cups Brennspiritus and 1 cup aloe gel", "unfit-alcohol"),
        ("Warm the ethanol in a pan, 500 ml of it, then 200 ml water.", "heated-alcohol"),
        ("250 g caustic crystals in the bucket, pour two litres o' water ower the top.", "water-onto-caustic"),
        ("10 ml bleach in 1 L water and a good glug of malt vinegar", "bleach-mixed"),
        ("a litre of water, equal bleach and household ammonia", "bleach-mixed"),
        ("200 ml aloe gel, top it with surgical spirit", "unfit-alcohol"),
        ("1 kg water, caustic soda 40 g, SLES 70 % 200 g. Dish liquid.", "caustic-left"),
        ("1 kg water, caustic soda 27 g, sulfonic acid 96 % 100 g. Dish liquid.", "caustic-left"),
    ],
)
def test_what_hurts_by_itself_stops(text: str, rule: str) -> None:
    assert rule in stops(text)


@pytest.mark.parametrize(
    ("text", "rule"),
    [
        ("Warm the water in a pan, then add 500 ml ethanol when cool.", "heated-alcohol"),
        ("Never warm the ethanol. 500 ml ethanol 96 %, 100 ml water.", "heated-alcohol"),
        ("Two litres of water, then 250 g caustic soda; never pour water onto it.", "water-onto-caustic"),
        ("1 kg water, caustic soda 13 g, sulfonic acid 96 % 100 g. Dish liquid.", "caustic-left"),
        ("It comes out thinner than the shop sort: 2 cups isopropyl 91 %, half a cup aloe.", "unfit-alcohol"),
    ],
)
def test_what_only_sounds_like_it_does_not_stop(text: str, rule: str) -> None:
    assert rule not in stops(text)


@pytest.mark.parametrize(
    ("litres", "caustic_g", "severity"),
    [
        (10.0, 0.150, Severity.WARN),  # 0.25 mmol/L beyond doubt is about pH 9.4
        (0.1, 0.150, Severity.STOP),  # a hundred times as much: about pH 11.4
        (100.0, 0.170, Severity.WARN),  # 1.39 times what the acid takes
        (100.0, 0.200, Severity.STOP),  # 1.63 times: half as much again
    ],
)
def test_caustic_left_is_a_stop_above_ph_11_or_half_as_much_again(litres, caustic_g, severity) -> None:
    """1 g of LABSA 98 % takes 0.1225 g of caustic: 0.98 / 320 mol x 39.997 g/mol (from memory)."""
    liquid = mix(
        *(("water", f"{litres} L"), ("caustic soda", f"{caustic_g} g", "99 %"), ("labsa", "1 g", "98 %")),
        family="dish-liquid",
    )
    found = {one.rule: one.severity for one in audit(reckon(liquid))}
    assert found["caustic-left"] == severity


def test_a_question_of_the_same_rule_waits_until_its_stop_is_dealt_with() -> None:
    text = "100 ml javel, a glug of vinegar. My neighbour adds ammonia, I never do."
    assert "bleach-mixed" in stops(text)
    assert "bleach-mixed" not in asks(text)
    assert "bleach-mixed" in asks(text.replace(", a glug of vinegar", ""))


@pytest.mark.parametrize(
    ("name", "low", "high"),
    [
        ("calcium hypochlorite", 60, 70),  # WHO, Guidelines for Drinking-water Quality: 65 to 70 %
        ("pool chlorine", 10, 12.5),  # common practice: 10 to 12.5 %
        ("bleaching powder", 25, 37),  # handbook, from memory
        ("bleach", 3, 9),  # household bleach by label: CDC
    ],
)
def test_each_kind_of_chlorine_counts_at_its_own_strength(name: str, low: float, high: float) -> None:
    strength = find(name).usual_strength
    assert strength is not None and low <= strength.value <= high


def test_two_bleach_tablets_are_no_strength_of_two_per_cent() -> None:
    recipe = read_recipe("2 bleach tablets in 10 L of water")
    assert all(line.strength is None for line in recipe.lines)
    assert recipe.lines[0].material.written == "chlorine-tablets"


def test_a_danger_is_never_dropped_nor_taken_for_something_harmless() -> None:
    """Each name, alone with an amount, is a line of its material, or is carried as a danger."""
    for name, key in danger_names().items():
        recipe: Recipe = read_recipe(f"100 ml {name}")
        there = [*recipe.lines, *recipe.dangers]
        assert any(one.material.written == key or kinds_of(one.material) >= kinds_of(find(key)) for one in there), name


BLIND = tomllib.loads((HERE / "dangers_blind.toml").read_text("utf-8"))["text"]


@pytest.mark.parametrize("half", ["a", "b"])
def test_dangers_of_many_voices_are_stopped_and_sound_texts_are_not(half: str) -> None:
    texts = [one for one in BLIND if one["half"] == half]
    missed = [one["said"] for one in texts if one["rules"] and not stops(one["said"], "metric") & set(one["rules"])]
    hazards = {"bleach-mixed", "peroxide-mixed", "peroxide-vinegar", "caustic-mixed", "unfit-alcohol"}
    alarmed = [one["said"] for one in texts if not one["rules"] and stops(one["said"], "metric") & hazards]
    assert (missed, alarmed) == ([], [])


def test_what_must_not_meet_is_the_same_either_way_round() -> None:
    names = sorted(set(danger_names().values()) | {"water", "salt", "aloe-gel", "castile-soap"})
    for one, other in itertools.combinations(names, 2):
        assert must_not_meet(find(one), find(other)) == must_not_meet(find(other), find(one))
