"""Problems that are answered by choosing: what must never meet, which bottle takes gel, which line is wrong."""

from collections.abc import Callable
from dataclasses import replace
from random import Random

from firkin.core.audit import Severity, audit
from firkin.core.catalogue import find, meeting, must_not_meet
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Line, house_formulas, reckon
from firkin.core.measures import Strength, figures, read_quantity
from firkin.core.practice.figures_asked import asked
from firkin.core.practice.problem import Problem, WrongWay
from firkin.core.texts import uncapped

_MEET = ("They must never meet", "They may meet")
#: What is kept in a wash-house; pairs of it are asked about.
_ABOUT = (
    *("sodium-hypochlorite", "white-vinegar", "ammonia", "ethanol", "isopropanol", "hydrogen-peroxide", "water"),
    *("washing-soda", "baking-soda", "citric-acid", "salt", "glycerol", "castile-soap", "caustic-soda", "borax"),
)


def never_meet(random: Random, seed: int) -> Problem:
    """Is this pair dangerous."""
    pairs = [(one, other) for i, one in enumerate(_ABOUT) for other in _ABOUT[i + 1 :]]
    danger = [pair for pair in pairs if _stops(*pair)]
    chosen = random.choice(danger if random.random() < 0.5 else [pair for pair in pairs if pair not in danger])
    one, other = (find(key) for key in random.sample(chosen, 2))
    met, stops = meeting(one, other), must_not_meet(one, other)
    text = f"{one.name} and {uncapped(other.name)} in one bucket?"
    said = (
        f"{one.name} with {uncapped(other.name)}: {met.harm}. {met.more}".strip()
        if met is not None and stops
        else f"{one.name} and {uncapped(other.name)} do no harm together that Firkin knows of."
    )
    wrong = WrongWay("took_it_for_harmless" if stops else "took_it_for_a_danger", 1.0 if stops else 0.0, said)
    return Problem("never-meet", seed, text, 0.0 if stops else 1.0, choices=_MEET, working=(said,), wrong=(wrong,))


def _stops(one: str, other: str) -> bool:
    return must_not_meet(find(one), find(other))


def takes_gel(random: Random, seed: int) -> Problem:
    """Which bottle can take gel, of four: the weakest that holds the rule."""
    larger, target = random.choice((2, 3, 4)), 60
    needed = asked("required-stock", target=f"{target} %", parts={"stock": larger, "additive": 1}).values[
        "stock_pct_vv"
    ]
    holds = [one for one in (75, 80, 85, 90, 91, 95, 96, 99) if one >= needed - 1e-9]
    falls = [one for one in (50, 60, 63, 68, 70, 75, 80, 85, 88) if one < needed - 1.0]
    weakest = random.choice(holds)
    offered = sorted({weakest, *random.sample(falls, 2), *[one for one in holds if one > weakest][:1]})
    place = offered.index(weakest)
    text = (
        f"Isopropanol goes {larger} parts to 1 of aloe gel and is to hold {target} % v/v by the label."
        " Which is the weakest bottle that will do?"
    )
    working = (f"{target} % × {larger + 1} ÷ {larger} = {figures(needed)} %: weaker falls short, stronger holds too.",)
    wrong = tuple(
        WrongWay(
            "forgot_the_gel",
            float(at),
            f"With gel {larger} to 1 it comes to {figures(pct * larger / (larger + 1))} %: short.",
        )
        if pct < needed
        else WrongWay("took_a_stronger_one", float(at), "It holds, and a weaker one does too.")
        for at, pct in enumerate(offered)
        if at != place
    )
    choices = tuple(f"{pct} %" for pct in offered)
    return Problem("takes-gel", seed, text, float(place), choices=choices, working=working, wrong=wrong)


#: What may be wrong; of a recipe without it the others are wrong answers.
_WEAK = "The alcohol is too weak for its rule."
_BLEACH = "There is bleach in it, and bleach goes into plain water only."
_OIL = "There is far too much essential oil in it."
_POISON = "Methanol is a poison, through skin too."


def _thin(formula: Formula) -> tuple[Formula, str] | None:
    """A weaker bottle than the formula asks for."""
    for at, line in enumerate(formula.lines):
        if line.material.alcohol is not None and formula.guidelines:
            weak = Line(line.material, line.amount, Strength.of(50.0, "v/v"))
            return _with(formula, at, weak), _WEAK
    return None


def _bleach(formula: Formula) -> tuple[Formula, str] | None:
    """Bleach among acid, ammonia, alcohol or peroxide."""
    bleach = Line(find("sodium-hypochlorite"), read_quantity("50 mL"))
    if not any(_stops("sodium-hypochlorite", line.material.id) for line in formula.lines if line.material.known):
        return None
    return _more(formula, bleach), _BLEACH


def _oil(formula: Formula) -> tuple[Formula, str] | None:
    """Far too much essential oil."""
    if formula.dry or not formula.make:
        return None
    share = reckon(formula).total.volume_mL * 0.1
    return _more(formula, Line(find("lavender-oil"), read_quantity(f"{share:.0f} mL"))), _OIL


def _methanol(formula: Formula) -> tuple[Formula, str] | None:
    """An alcohol that is a poison."""
    for at, line in enumerate(formula.lines):
        if line.material.alcohol is not None:
            return _with(formula, at, Line(find("methanol"), line.amount)), _POISON
    return None


def _with(formula: Formula, at: int, line: Line) -> Formula:
    return replace(formula, lines=tuple(line if i == at else one for i, one in enumerate(formula.lines)))


def _more(formula: Formula, line: Line) -> Formula:
    place = len(formula.lines) - 1 if formula.topped_up == len(formula.lines) - 1 else len(formula.lines)
    return replace(formula, lines=(*formula.lines[:place], line, *formula.lines[place:]))


_PLANTED: tuple[Callable[[Formula], tuple[Formula, str] | None], ...] = (_thin, _bleach, _oil, _methanol)
_NOTHING = "Nothing is wrong with it."


def spot(random: Random, seed: int) -> Problem:
    """A recipe with one planted fault, or none: what is wrong with it."""
    keys = (
        "who-one",
        "who-two",
        "aloe-seventy",
        "xanthan-gel",
        "crosspolymer-gel",
        "alcohol-surfaces",
        "peroxide-surfaces",
    )
    clean = [one for key in keys if not _speaks(one := house_formulas()[key].formula)]
    formula = random.choice(clean)
    planted = [found for plant in _PLANTED if (found := plant(formula)) is not None and _speaks(found[0])]
    if random.random() < 0.2 or not planted:
        made, right = formula, _NOTHING
    else:
        made, right = random.choice(planted)
    answers = [_NOTHING, _WEAK, _BLEACH, _OIL, _POISON]
    random.shuffle(answers)
    lines = "; ".join(_told(line) for line in made.lines)
    said = [one for one in audit(reckon(made)) if one.severity in (Severity.STOP, Severity.WARN)]
    working = tuple(f"{one.text} {one.fix}".strip() for one in said) or ("Every line and the strength hold.",)
    wrong = tuple(
        WrongWay("took_another_fault", float(at), f"It is something else: {right[0].lower()}{right[1:]}")
        for at, words in enumerate(answers)
        if words != right
    )
    make = f", made up to {made.make}" if made.make is not None else ""
    text = f"What is wrong with this? {lines}{make}."
    return Problem(
        "spot", seed, text, float(answers.index(right)), choices=tuple(answers), working=working, wrong=wrong
    )


def _told(line: Line) -> str:
    """A line as a recipe has it: "Ethanol 96 % v/v 833 mL", "Water to top up"."""
    name = line.material.name[:1].upper() + line.material.name[1:]
    stock = name if line.strength is None else f"{name} {line.strength}"
    if line.amount is None:
        return stock
    return f"{stock} to top up" if line.amount.kind == "qs" else f"{stock} {line.amount.words}"


def _speaks(formula: Formula) -> bool:
    """True where the audit finds what was planted: what it does not find is no problem of ours."""
    try:
        found = audit(reckon(formula))
    except CannotReckon:  # there is no room for it in that size
        return False
    return any(one.severity in (Severity.STOP, Severity.WARN) for one in found)


CHOICES: dict[str, tuple[str, Callable[[Random, int], Problem]]] = {
    "never-meet": ("What must never meet", never_meet),
    "takes-gel": ("Which bottle takes gel", takes_gel),
    "spot": ("Spot the mistake", spot),
}
