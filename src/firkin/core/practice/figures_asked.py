"""Problems that are answered by a figure. Every answer comes from the questions of core; nothing is reckoned here."""

from collections.abc import Callable
from random import Random
from typing import Any

from firkin.core.catalogue import find
from firkin.core.formula import Formula, Line, reckon
from firkin.core.measures import figures, read_quantity
from firkin.core.practice import wrong_ways as wrong
from firkin.core.practice.problem import Problem
from firkin.core.questions import QUESTIONS, Answer

_STOCKS = (70, 75, 80, 85, 90, 91, 95, 96, 99)


def asked(name: str, **written: Any) -> Answer:
    """The answer of core to one of its questions."""
    question = next(one for one in QUESTIONS.values() if name in one.asks)
    return question.solve(question.read(written, ask=name))


def _worked(answer: Answer) -> tuple[str, ...]:
    return tuple(line.text for line in answer.working)


def proof(random: Random, seed: int) -> Problem:
    """From US proof to per cent by volume."""
    told = random.choice((80, 100, 120, 140, 151, 160, 180, 190))
    answer = asked("convert", active="ethanol", **{"from": f"{told} proof", "to": "% v/v"})
    text = f"A bottle says {told} proof (US). How many per cent by volume is that?"
    ways = (wrong.took_proof_as_per_cent(told), wrong.doubled_the_proof(told))
    return Problem("proof", seed, text, answer.values["value"], "%", working=_worked(answer), wrong=ways)


def parts(random: Random, seed: int) -> Problem:
    """The label strength of parts."""
    larger, smaller = random.choice(((2, 1), (3, 1), (4, 1), (3, 2), (5, 2)))
    stock = random.choice(_STOCKS)
    ethanol, gel = find("ethanol"), find("aloe-gel")
    mix = Formula(
        "Parts",
        (
            Line(ethanol, read_quantity(f"{larger} parts"), ethanol.read_strength(f"{stock} % v/v")),
            Line(gel, read_quantity(f"{smaller} parts")),
        ),
    )
    label = reckon(mix).actives[0].label
    text = (
        f"{larger} parts of alcohol of {stock} % v/v and {smaller} part{'s' * (smaller > 1)} of aloe gel."
        " How strong is the mix, by the label?"
    )
    whole = larger + smaller
    working = (f"{stock} % × {larger} ÷ ({larger} + {smaller}) = {figures(stock * larger / whole)} %",)
    ways = (
        wrong.divided_by_the_larger_part(stock, larger, smaller),
        wrong.forgot_to_thin(stock),
        wrong.took_the_middle(stock),
    )
    return Problem("parts", seed, text, label, "%", working=working, wrong=ways)


def room(random: Random, seed: int) -> Problem:
    """How much gel a stock bears."""
    target = random.choice((60, 65, 70))
    stock = random.choice([one for one in _STOCKS if one > target + 4])
    answer = asked("max-additive", stock=f"{stock} %", target=f"{target} %")
    text = f"Alcohol of {stock} % v/v is mixed with gel and is to hold {target} %. How many per cent of it may be gel?"
    ways = (wrong.subtracted_the_per_cents(stock, target), wrong.took_the_share_that_stays(stock, target))
    return Problem("room", seed, text, answer.values["additive_share_pct"], "%", working=_worked(answer), wrong=ways)


def dilute(random: Random, seed: int) -> Problem:
    """How much stock makes a size of a strength."""
    target = random.choice((60, 70, 75, 80))
    stock = random.choice([one for one in _STOCKS if one > target + 3])
    make = random.choice((250, 500, 750, 1000, 2000, 5000))
    answer = asked("dilute", active="ethanol", stock=f"{stock} %", target=f"{target} %", make=f"{make} mL")
    text = f"You make {figures(make)} mL of {target} % v/v from ethanol of {stock} %. How many mL of the ethanol?"
    ways = (wrong.took_the_target_as_share(make, target), wrong.multiplied_by_the_stock(make, stock))
    return Problem("dilute", seed, text, answer.values["stock_mL"], "mL", working=_worked(answer), wrong=ways)


def lift(random: Random, seed: int) -> Problem:
    """How much lifts a weak batch."""
    now, target = random.choice(((50, 60), (52, 60), (55, 62), (58, 65), (60, 70)))
    stock, batch = random.choice((90, 96, 99)), random.choice((500, 1000, 2000, 4000))
    answer = asked(
        "strengthen",
        active="ethanol",
        batch=f"{batch} mL",
        now=f"{now} %",
        target=f"{target} %",
        **{"with": f"{stock} %"},
    )
    text = (
        f"A batch of {figures(batch)} mL came out at {now} % v/v. How many mL of {stock} % ethanol lift it to"
        f" {target} %, with shrinking counted?"
    )
    ways = (wrong.forgot_that_it_grows(batch, now, target, stock), wrong.slipped_a_zero(answer.values["add_mL"]))
    return Problem("lift", seed, text, answer.values["add_mL"], "mL", working=_worked(answer), wrong=ways)


def chlorine(random: Random, seed: int) -> Problem:
    """How much bleach makes a solution for surfaces."""
    stock, target = random.choice((4, 5, 6)), random.choice(("0.05", "0.1", "0.5"))
    make = random.choice((500, 1000, 2000, 5000))
    answer = asked("chlorine", stock=f"{stock} %", target=f"{target} %", make=f"{make} mL")
    size = f"{figures(make)} mL"
    text = f"Fresh bleach of {stock} % is thinned to {target} % in {size} of plain water. How many mL of bleach?"
    mL = answer.values["bleach_mL"]
    ways = (wrong.slipped_a_zero(mL), wrong.lost_a_zero(mL), wrong.multiplied_by_the_stock(make, stock))
    return Problem("chlorine", seed, text, mL, "mL", working=_worked(answer), wrong=ways)


def by_weight(random: Random, seed: int) -> Problem:
    """From per cent by weight to by volume."""
    told = random.choice((50, 60, 70, 80, 85, 90))
    answer = asked("convert", active="ethanol", **{"from": f"{told} % w/w", "to": "% v/v"})
    text = f"Ethanol of {told} % by weight: how many per cent by volume, at 20 °C?"
    ways = (wrong.took_weight_as_volume(told),)
    return Problem("by-weight", seed, text, answer.values["value"], "%", working=_worked(answer), wrong=ways)


def neutralise(random: Random, seed: int) -> Problem:
    """How much caustic an acid takes."""
    acid, pct = random.choice((50, 80, 100, 150, 200, 500)), random.choice((96, 98))
    written = {
        "acid": {"material": "labsa", "strength": f"{pct} % w/w", "amount": f"{acid} g"},
        "base": {"material": "caustic-soda", "strength": "99 % w/w", "amount": "0.001 g"},
    }
    answer = asked("neutralise", **written)
    pure = asked(
        "neutralise",
        acid={**written["acid"], "strength": "100 % w/w"},
        base={**written["base"], "strength": "100 % w/w"},
    )
    grams = answer.values["base_g_missing"]
    text = (
        f"How many g of caustic soda of 99 % neutralise {acid} g of LABSA of {pct} %, by moles"
        " (LABSA 320 g/mol, caustic soda 40.0)?"
    )
    working = tuple(line for line in _worked(answer) if "0.001 g" not in line)
    ways = (wrong.took_equal_weights(acid), wrong.forgot_the_strengths(pure.values["base_g_missing"]))
    return Problem("neutralise", seed, text, grams, "g", working=working, wrong=ways)


def ferment(random: Random, seed: int) -> Problem:
    """How much sugar a container of ferment takes."""
    litres = random.choice((1, 1.5, 2, 3, 5, 10))
    answer = asked("ferment", container=f"{figures(litres)} L")
    values = answer.values
    grams = values["sugar_g"]
    filled = 1.0 - values["gas_space_mL"] / (1000.0 * litres)
    text = (
        f"A citrus ferment in a container of {figures(litres)} L: 1 part sugar, 3 peel, 10 water, 1 left for gas."
        " How many g of sugar?"
    )
    ways = (wrong.filled_to_the_brim(grams / filled), wrong.slipped_a_zero(grams))
    return Problem("ferment", seed, text, grams, "g", working=_worked(answer), wrong=ways)


def loads(random: Random, seed: int) -> Problem:
    """How many loads a batch makes."""
    batch, dose = random.choice((1, 2, 4, 5, 10)), random.choice((40, 50, 60, 80, 100, 120))
    answer = asked("loads", batch=f"{batch} L", dose=f"{dose} mL")
    text = f"{batch} L of laundry soap, {dose} mL a load. How many loads?"
    ways = (wrong.divided_the_other_way(dose / (1000.0 * batch)), wrong.lost_a_zero(answer.values["loads"]))
    return Problem("loads", seed, text, answer.values["loads"], "loads", working=_worked(answer), wrong=ways)


def hardness(random: Random, seed: int) -> Problem:
    """From degrees of hardness to mg/L."""
    unit, called = random.choice((("dH", "German degrees"), ("fH", "French degrees"), ("gpg", "grains per gallon")))
    value = random.choice((3, 6, 8, 12, 15, 20))
    answer = asked("hardness", value=value, **{"from": unit, "to": "mg/L"})
    back = asked("hardness", value=value, **{"from": "mg/L", "to": unit})
    text = f"Water of {value} {called}: how many mg/L as calcium carbonate?"
    ways = (wrong.converted_the_other_way(back.values["value"]),)
    return Problem("hardness", seed, text, answer.values["value"], "mg/L", working=_worked(answer), wrong=ways)


#: Each skill with its name and what draws a problem of it.
FIGURES: dict[str, tuple[str, Callable[[Random, int], Problem]]] = {
    "proof": ("Proof to per cent", proof),
    "parts": ("Parts", parts),
    "room": ("Room for gel", room),
    "dilute": ("Thin a stock", dilute),
    "lift": ("Lift a weak batch", lift),
    "by-weight": ("By weight and by volume", by_weight),
    "chlorine": ("Bleach for surfaces", chlorine),
    "neutralise": ("Neutralise an acid", neutralise),
    "ferment": ("Fill a ferment", ferment),
    "loads": ("Count loads", loads),
    "hardness": ("Water hardness", hardness),
}
