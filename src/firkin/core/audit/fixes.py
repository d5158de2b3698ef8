"""What would bring a mix to its rule line, computed for this mix and the stocks on the shelf.

Label arithmetic, which errs low for a minimum; by density for a maximum.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from firkin.core.catalogue import Standing, Stock, Verdict, materials
from firkin.core.formula import Active, Formula, Reckoning, added, scaled_lines
from firkin.core.measures import Strength, amount_words, figures, rounded_down, rounded_up
from firkin.core.questions import WATER, weaken

_MOST_STOCKS = 3


@dataclass(frozen=True, slots=True)
class Fix:
    """One change that would do: the sentence, and the formula with it done where that needs no other stock."""

    text: str
    formula: Formula | None = None

    def __str__(self) -> str:
        return self.text


def fixes(result: Reckoning, verdict: Standing, stocks: Sequence[Stock] = ()) -> tuple[Fix, ...]:
    """Changes that would each do, with their numbers; empty when none is needed.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.formula import Formula, Line
    >>> from firkin.core.measures import read_quantity
    >>> from firkin.core.formula import reckon
    >>> weak = reckon(Formula("Weak", (
    ...     Line(find("isopropanol"), read_quantity("300 mL"), Strength.of(70.0, "v/v")),
    ...     Line(find("aloe-gel"), read_quantity("100 mL"))), guidelines=("cdc-alcohol-60",)))
    >>> for fix in fixes(weak, weak.verdicts[0]): print(fix)
    Keep everything else to 50 mL with this much isopropanol: 1 part to 6.
    Use a stock of at least 80 % v/v in the same amounts.
    """
    active = result.active(verdict.active)
    if active is None or not active.is_alcohol or verdict.verdict == Verdict.MEETS:
        return ()
    if verdict.verdict == Verdict.TOO_STRONG:
        return _thinner(result, active, verdict)
    if verdict.minimum is None or active.low >= verdict.minimum:
        return _thinner(result, active, verdict)
    return _stronger(result, active, verdict.minimum, stocks)


def _stronger(result: Reckoning, active: Active, minimum: float, stocks: Sequence[Stock]) -> tuple[Fix, ...]:
    formula = result.formula
    topped = formula.topped_up is not None
    whole = result.total.volume_mL if topped else result.total.sum_of_volumes_mL
    doubt = active.low / active.lower  # the worst case counts
    pure = active.label / 100.0 * whole * doubt
    own = sum(
        amount.volume_mL
        for line, amount in zip(formula.lines, result.lines, strict=True)
        if line.material.id == active.active
    )
    stocks_in = [i for i, line in enumerate(formula.lines) if line.material.id == active.active]
    found = []
    room = 100.0 * pure / minimum - own
    if not topped and 0.0 < room < whole - own:
        others = [i for i in range(len(formula.lines)) if i not in stocks_in]
        found.append(
            Fix(
                f"Keep everything else to {amount_words(rounded_down(room))} with this much {active.name.lower()}: "
                f"1 part to {figures(rounded_up(own / room, 3), 3)}.",
                scaled_lines(formula, others, rounded_down(room, 3) / (whole - own)),
            )
        )
    more = rounded_up(100.0 * own * minimum / (100.0 * pure / whole) / 100.0) if topped else 0.0
    if topped and more < whole - _others(result, stocks_in):
        found.append(
            Fix(
                f"Use {amount_words(more)} of the {active.name.lower()} instead, and top up with less.",
                scaled_lines(formula, stocks_in, rounded_up(more / own)),
            )
        )
    needed = minimum * whole / own / doubt
    if needed <= 100.0:
        found.append(Fix(f"Use a stock of at least {figures(rounded_up(needed))} % v/v in the same amounts."))
    for stock in _stronger_stocks(active, minimum, stocks):
        strength = stock.strength.low
        add = (minimum * whole - 100.0 * pure) / (strength - minimum)
        found.append(
            Fix(
                f"Add {amount_words(rounded_up(add))} of {stock.name} ({figures(strength)} %"
                f" {materials()[stock.material].name.lower()}): it comes to about {amount_words(whole + add)}."
            )
        )
    if not topped and active.true >= minimum > active.label:
        found.append(
            Fix(
                f"Top up to the mark instead of adding measured water: made up to "
                f"{amount_words(result.total.volume_mL)} it is {figures(active.true)} % by label and true."
            )
        )
    return tuple(found)


def _others(result: Reckoning, stocks_in: Sequence[int]) -> float:
    """mL of what is neither the stock nor the top-up."""
    apart = {*stocks_in, result.formula.topped_up}
    return sum(amount.volume_mL for i, amount in enumerate(result.lines) if i not in apart)


def _stronger_stocks(active: Active, minimum: float, stocks: Sequence[Stock]) -> list[Stock]:
    """The stocks of the same active above the line by their weakest end, strongest first."""
    usable = [
        stock
        for stock in stocks
        if stock.material == active.active and stock.strength.basis == "v/v" and stock.strength.low > minimum + 0.5
    ]
    return sorted(usable, key=lambda stock: -stock.strength.low)[:_MOST_STOCKS]


def _thinner(result: Reckoning, active: Active, verdict: Standing) -> tuple[Fix, ...]:
    if verdict.maximum is None or active.high <= verdict.maximum:
        return ()
    now = Strength.of(active.high, "v/v")
    thin = weaken(materials()[active.active], result.total.volume_mL, now, WATER, Strength.of(verdict.maximum, "v/v"))
    return (
        Fix(
            f"Add {amount_words(rounded_up(thin.add_mL))} of water: it comes to about "
            f"{amount_words(thin.new_volume_mL)}.",
            _with_water(result, rounded_up(thin.add_mL)),
        ),
    )


def _with_water(result: Reckoning, volume_mL: float) -> Formula | None:
    """The formula with that much water more; where it is topped up, the stock is what has to give."""
    if result.formula.topped_up is not None or result.formula.make is not None:
        return None
    return added(result, "water", volume_mL * materials()["water"].density)
