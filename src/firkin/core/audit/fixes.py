"""What would bring a mix to its rule line, solved for this mix and the stocks on the shelf.

Each change is tried out: the mix with it done is reckoned, at its own temperature, with every range and error at its
worst, and what is written is rounded to the safe side.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace

from firkin.core.catalogue import Standing, Stock, Verdict, find, materials
from firkin.core.errors import CannotReckon
from firkin.core.formula import Active, Formula, Line, Reckoning, reckon, scaled_lines
from firkin.core.measures import QS, Quantity, Strength, amount_words, figures, rounded, rounded_down, rounded_up
from firkin.core.texts import uncapped

_MOST_STOCKS = 3
_ROUNDS = 8
_EXACT = 12  # figures, while a change is solved for
#: The most figures a fix is written in, and so much less of what may be more where that is still not enough.
_LAST, _NUDGED = 6, 0.9999
_HAIR = 1e-6  # points: less is rounding of floats
#: A change smaller than this share of the batch is no change a bench can make.
_LEAST_SHARE = 1e-3


@dataclass(frozen=True, slots=True)
class Fix:
    """One change that would do: the sentence, and the formula with it done where that needs no other stock."""

    text: str
    formula: Formula | None = None

    def __str__(self) -> str:
        return self.text


def fixes(result: Reckoning, verdict: Standing, stocks: Sequence[Stock] = ()) -> Iterator[Fix]:
    """Changes that would each do, with their numbers; none where none is needed, or none can be found.

    Args:
        result: a formula that was reckoned: masses in g, strengths in per cent.
        verdict: the verdict that is to be cured.
        stocks: bottles at hand that may be used instead.

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
    if active is None or verdict.verdict is Verdict.MEETS or active.lower <= 0.0:
        return
    mix = _Mix(result, verdict, active)
    if mix.falls_short:
        yield from _stronger(mix, stocks)
    elif verdict.maximum is not None:
        yield from _thinner(mix)


class _Mix:
    """A mix that is off its line, and how it stands once changed."""

    def __init__(self, result: Reckoning, verdict: Standing, active: Active) -> None:
        self.result, self.formula, self.active = result, result.formula, active
        self.verdict = verdict
        self.stock_lines = self.formula.lines_of(active.active)
        self.other_lines = [i for i in range(len(self.formula.lines)) if i not in self.stock_lines]
        self.own = sum(result.lines[i].volume_mL for i in self.stock_lines)
        self.topped = self.formula.topped_up is not None

    @property
    def falls_short(self) -> bool:
        """True where its low end does not hold the minimum, and its high end is within the maximum."""
        low, high = self.verdict.minimum, self.verdict.maximum
        return low is not None and self.active.low < low and (high is None or self.active.high <= high)

    def stands(self, formula: Formula) -> Active | None:
        """The active of the changed mix; None where it cannot be reckoned."""
        try:
            return reckon(formula).active(self.active.active)
        except CannotReckon:
            return None

    def meets(self, formula: Formula | None) -> bool:
        """True when the changed mix meets the line, worst case and all."""
        active = None if formula is None else self.stands(formula)
        if active is None:
            return False
        low, high = self.verdict.minimum, self.verdict.maximum
        return (low is None or active.low >= low - _HAIR) and (high is None or active.high <= high + _HAIR)

    def solve(
        self, changed: Callable[[float], Formula], start: float, end: float, wanted: float, high: bool = False
    ) -> float | None:
        """Where between two changes the worst case comes to ``wanted``: secant on its reciprocal, nearly straight."""

        def gap(x: float) -> float | None:
            active = self.stands(changed(x))
            worst = 0.0 if active is None else (active.high if high else active.low)
            return None if worst <= 0.0 else 1.0 / worst - 1.0 / wanted

        before, gap_before, now, gap_now = start, gap(start), end, gap(end)
        for _ in range(_ROUNDS):
            if gap_before is None or gap_now is None or gap_now == gap_before:
                break
            if abs(gap_now) * wanted < 1e-7:
                return now
            step = gap_now * (now - before) / (gap_now - gap_before)
            before, gap_before, now = now, gap_now, now - step
            gap_now = gap(now)
        return now if gap_now is not None and abs(gap_now) * wanted < 1e-4 else None

    def surely(self, x: float, tidy: Callable[[float], float], changed: Callable[[float], Formula]) -> float | None:
        """A change rounded to the safe side that does meet the line; a little more where rounding was not enough."""
        down = tidy is rounded_down
        near = rounded(x)  # a figure that just does is not rounded away from
        for tried in (near, *(tidy(x * (1.0 - more if down else 1.0 + more)) for more in (0.0, 2e-4, 1e-3, 4e-3))):
            if tried > 0.0 and self.meets(changed(tried)):
                return tried
        return None

    def written(self, changed: Callable[[int], Formula]) -> Formula:
        """The changed mix in as few figures as still meet the line."""
        return next((formula for formula in map(changed, (4, 5, _LAST)) if self.meets(formula)), changed(_EXACT))


def _stronger(mix: _Mix, stocks: Sequence[Stock]) -> Iterator[Fix]:
    minimum = mix.verdict.minimum
    assert minimum is not None
    if mix.topped:
        yield from _more_stock(mix, minimum)
    else:
        yield from _less_of_the_rest(mix, minimum)
    if mix.active.is_alcohol:
        yield from _stronger_label(mix, minimum)
        yield from _from_the_shelf(mix, minimum, stocks)
        if not mix.topped and mix.active.true >= minimum > mix.active.label:
            yield from _to_the_mark(mix)


def _less_of_the_rest(mix: _Mix, minimum: float) -> Iterator[Fix]:
    """Everything that is not the stock brought down, to so many mL beside this much of the stock."""
    now = sum(mix.result.lines[i].volume_mL for i in mix.other_lines)
    if not now or not mix.own:
        return

    def changed(volume_mL: float, digits: int = _EXACT) -> Formula:
        return scaled_lines(mix.formula, mix.other_lines, volume_mL / now, digits)

    found = mix.solve(changed, now, now / 2.0, minimum)
    room = None if found is None or not 0.0 < found < now else mix.surely(found, rounded_down, changed)
    if room is None or room < _LEAST_SHARE * mix.own:
        return
    yield Fix(
        f"Keep everything else to {amount_words(room)} with this much {uncapped(mix.active.name)}: "
        f"1 part to {figures(rounded_up(mix.own / room, 3), 3)}.",
        mix.written(lambda digits: changed(room if digits < _LAST else room * _NUDGED, digits)),
    )


def _more_stock(mix: _Mix, minimum: float) -> Iterator[Fix]:
    """More of the stock in a batch that is topped up; less of the top-up goes in."""
    if not mix.own or mix.formula.topped_up in mix.stock_lines:
        return

    def changed(volume_mL: float, digits: int = _EXACT) -> Formula:
        return scaled_lines(mix.formula, mix.stock_lines, volume_mL / mix.own, digits)

    found = mix.solve(changed, mix.own, mix.own * 1.02, minimum)
    more = None if found is None or found <= mix.own else mix.surely(found, rounded_up, changed)
    if more is not None:
        name = uncapped(mix.active.name)
        yield Fix(
            f"Use {amount_words(more)} of the {name} instead, and top up with less.",
            mix.written(lambda digits: changed(more, digits)),
        )


def _stronger_label(mix: _Mix, minimum: float) -> Iterator[Fix]:
    """The weakest stock that would do in the same amounts."""

    def changed(pct: float) -> Formula:
        lines = list(mix.formula.lines)
        for i in mix.stock_lines:
            lines[i] = replace(lines[i], strength=Strength.of(min(pct, 100.0), "v/v"))
        return replace(mix.formula, lines=tuple(lines))

    found = mix.solve(changed, 90.0, 99.0, minimum)
    pct = None if found is None or found > 100.0 else mix.surely(found, rounded_up, changed)
    if pct is not None and pct <= 100.0:
        yield Fix(f"Use a stock of at least {figures(pct)} % v/v in the same amounts.")


def _from_the_shelf(mix: _Mix, minimum: float, stocks: Sequence[Stock]) -> Iterator[Fix]:
    """So much of a stronger bottle into the batch as it is."""
    alcohol = find(mix.active.active).alcohol
    if alcohol is None:
        return
    whole = mix.result.total.volume_mL
    usable = [
        (stock, alcohol.as_volume(stock.strength))
        for stock in stocks
        if stock.material == mix.active.active and alcohol.as_volume(stock.strength).low > minimum + 0.5
    ]
    batch = _as_it_is(mix)
    for stock, by_volume in sorted(usable, key=lambda one: -one[1].low)[:_MOST_STOCKS]:

        def changed(volume_mL: float, stock: Stock = stock) -> Formula:
            extra = Line(find(stock.material), Quantity(volume_mL, "mL"), stock.strength)
            return replace(batch, lines=(*batch.lines, extra))

        guess = whole * (minimum - mix.active.low) / (by_volume.low - minimum)
        found = mix.solve(changed, max(guess, 1e-3 * whole), max(guess, 1e-3 * whole) * 1.5, minimum)
        add = None if found is None or found <= 0.0 else mix.surely(found, rounded_up, changed)
        if add is not None:
            now = mix.stands(changed(add))
            size = reckon(changed(add)).total.volume_mL if now is not None else whole + add
            yield Fix(
                f"Add {amount_words(add)} of {stock.name} ({figures(by_volume.low)} %"
                f" {uncapped(materials()[stock.material].name)}): it comes to about {amount_words(size)}."
            )


def _as_it_is(mix: _Mix) -> Formula:
    """The batch as it stands, each line by the amount worked out, so that something can join it."""
    lines = []
    for line, worked in zip(mix.formula.lines, mix.result.lines, strict=True):
        by_volume = line.amount.kind in ("volume", "qs") or (
            line.amount.kind in ("part", "percent") and mix.formula.basis == "volume"
        )
        amount = Quantity(worked.loose_mL, "mL") if by_volume else Quantity(worked.mass_g, "g")
        lines.append(replace(line, amount=amount))
    return replace(mix.formula, lines=tuple(lines), make=None)


def _to_the_mark(mix: _Mix) -> Iterator[Fix]:
    water = mix.formula.water
    if water is None or mix.formula.lines[water].material.id != "water":
        return
    volume = mix.result.total.volume_mL
    batch = _as_it_is(mix)
    lines = list(batch.lines)
    lines[water] = replace(lines[water], amount=Quantity(0.0, QS))
    topped = replace(batch, lines=tuple(lines), make=Quantity(rounded_down(volume), "mL"))
    if mix.meets(topped):
        yield Fix(
            f"Top up to the mark instead of adding measured water: made up to {amount_words(rounded_down(volume))} it "
            f"is {figures(mix.active.true)} % by label and true."
        )


def _thinner(mix: _Mix) -> Iterator[Fix]:
    maximum = mix.verdict.maximum
    assert maximum is not None
    if mix.active.high <= maximum:
        return
    if mix.topped:
        yield from _less_stock(mix, maximum)
        return
    whole, plain = mix.result.total.volume_mL, mix.formula.make is None
    batch = mix.formula if plain and _by_amounts(mix.formula) else _as_it_is(mix)

    def changed(volume_mL: float) -> Formula:
        return replace(batch, lines=(*batch.lines, Line(find("water"), Quantity(volume_mL, "mL"))))

    guess = max(whole * (mix.active.high / maximum - 1.0), 1e-3 * whole)
    found = mix.solve(changed, guess, guess * 1.3, maximum, high=True)
    add = None if found is None or found <= 0.0 else mix.surely(found, rounded_up, changed)
    if add is not None:
        size = reckon(changed(add)).total.volume_mL
        yield Fix(f"Add {amount_words(add)} of water: it comes to about {amount_words(size)}.", changed(add))


def _by_amounts(formula: Formula) -> bool:
    return all(line.amount.kind in ("volume", "mass") for line in formula.lines)


def _less_stock(mix: _Mix, maximum: float) -> Iterator[Fix]:
    """Less of the stock in a batch that is topped up; more of the top-up goes in."""
    if not mix.own or mix.formula.topped_up in mix.stock_lines:
        return

    def changed(volume_mL: float, digits: int = _EXACT) -> Formula:
        return scaled_lines(mix.formula, mix.stock_lines, volume_mL / mix.own, digits)

    found = mix.solve(changed, mix.own, mix.own * 0.98, maximum, high=True)
    less = None if found is None or not 0.0 < found < mix.own else mix.surely(found, rounded_down, changed)
    if less is not None:
        name = uncapped(mix.active.name)
        yield Fix(
            f"Use {amount_words(less)} of the {name} instead, and top up with more.",
            mix.written(lambda digits: changed(less, digits)),
        )
