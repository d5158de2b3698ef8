"""Reckoning a formula: what each line comes to, the total, each active by label and true, verdicts."""

from dataclasses import dataclass, replace

from firkin.core.catalogue import Material, Standing, Verdict, families, find, judge, rule_line
from firkin.core.densities import freezes_at
from firkin.core.errors import CannotReckon
from firkin.core.formula.actives import Active, actives_of, with_worst_cases
from firkin.core.formula.formula import Formula, work_out
from firkin.core.formula.usual_steps import vessel_order
from firkin.core.measures import Quantity, figures
from firkin.core.texts import uncapped

#: How far a part of a published formulation may be off and still be it, as a share of it (common practice, no source).
_FORMULATION_SLACK = 0.25


@dataclass(frozen=True, slots=True)
class LineAmount:
    """One line worked out: mL, g, and its shares of the finished batch in per cent.

    ``volume_mL`` is what it takes up, loose in a dry mix. Shares by volume add up to more than 100 where the batch
    shrinks on mixing.
    """

    material: Material
    volume_mL: float
    mass_g: float
    share_v_pct: float
    share_w_pct: float
    bulk: float | None = None
    pure: float = 1.0

    @property
    def pure_g(self) -> float:
        """Grams of the material itself, where it is sold thinned: a stock of so many per cent counts so much."""
        return self.mass_g * self.pure

    @property
    def pure_share_w_pct(self) -> float:
        """Its share of the finished batch in per cent by weight, counted so."""
        return self.share_w_pct * self.pure

    @property
    def loose_mL(self) -> float:
        """What a cup measures of it, mL: a powder lies loose, by its bulk density in g/mL."""
        return self.mass_g / self.bulk if self.bulk else self.volume_mL


@dataclass(frozen=True, slots=True)
class Total:
    """The batch: mL before and after mixing, g, g/mL, and how much it shrank in per cent."""

    sum_of_volumes_mL: float
    volume_mL: float
    mass_g: float

    @property
    def density(self) -> float:
        """g/mL."""
        return self.mass_g / self.volume_mL

    @property
    def shrinks(self) -> bool:
        """True when it shrinks by so much that it is worth a word: a twentieth of a per cent."""
        return self.contraction_pct > 0.05

    @property
    def contraction_pct(self) -> float:
        """Volume lost on mixing, per cent of the sum of volumes."""
        return 100.0 * (1.0 - self.volume_mL / self.sum_of_volumes_mL)


@dataclass(frozen=True, slots=True)
class Reckoning:
    """Everything computed of a formula."""

    formula: Formula
    lines: tuple[LineAmount, ...]
    total: Total
    actives: tuple[Active, ...]
    verdicts: tuple[Standing, ...]

    @property
    def shrink_words(self) -> str:
        """Why it takes up less room than was poured in."""
        if any(active.is_alcohol for active in self.actives):
            return "alcohol and water shrink together"
        return "what dissolves takes up less room"

    @property
    def main(self) -> Active | None:
        """The active a maker asks for first: the first alcohol, or else the first of all."""
        alcohols = (active for active in self.actives if active.is_alcohol)
        return next(alcohols, self.actives[0] if self.actives else None)

    @property
    def wants_active(self) -> bool:
        """True for what is judged by an active, so that none in it is worth a word: a rub, a solution for surfaces."""
        family = families()[self.formula.family]
        return bool(family.rub or family.lines or family.line_by_active or self.formula.guidelines)

    def active(self, key: str) -> Active | None:
        """One active by id, if it is in the batch."""
        return next((active for active in self.actives if active.active == key), None)


def reckon(formula: Formula) -> Reckoning:
    """Reckon a formula: amounts, total, strengths with their worst cases, verdicts.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    Raises:
        CannotReckon: as formula.work_out does, and for an unknown rule line.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.formula.formula import Line
    >>> from firkin.core.measures import read_quantity
    >>> ethanol, water = find("ethanol"), find("water")
    >>> mix = Formula("Try", (Line(ethanol, read_quantity("2 parts"), ethanol.read_strength("95 %")),
    ...                       Line(water, read_quantity("1 part"))), guidelines=("cdc-alcohol-60",))
    >>> [round(v, 1) for v in (reckon(mix).actives[0].label, reckon(mix).actives[0].true)]
    [63.3, 65.1]
    """
    readings = read_ounces(formula)
    if readings is None:
        return _reckoned(formula)
    low, high = sorted((_reckoned(reading) for reading in readings), key=_strength_of)
    widened = tuple(
        replace(one, low=min(one.low, other.low), high=max(one.high, other.high))
        for one, other in zip(low.actives, high.actives, strict=True)
    )
    chosen = dict.fromkeys(one.guideline for one in low.verdicts)
    verdicts = tuple(one for key in chosen for one in verdicts_against(key, widened))
    verdicts = tuple(replace(one, lacks=was.lacks) for one, was in zip(verdicts, low.verdicts, strict=True))
    return Reckoning(formula, low.lines, low.total, widened, verdicts)


def _strength_of(result: Reckoning) -> float:
    return result.main.lower if result.main is not None else 0.0


def read_ounces(formula: Formula) -> tuple[Formula, Formula] | None:
    """A formula with the "oz" of its liquids read as weights, and as fluid ounces; None where it has none.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.formula.formula import Line
    >>> from firkin.core.measures import read_quantity
    >>> mix = Formula("Try", (Line(find("ethanol"), read_quantity("8 oz")), Line(find("aloe"), read_quantity("1 cup"))))
    >>> [str(one.lines[0].amount) for one in read_ounces(mix)]
    ['226.796185 g', '8 floz']
    """
    unclear = {i for i, line in enumerate(formula.lines) if line.amount.unit == "oz" and not line.solid}
    if not unclear:
        return None
    by_weight, by_volume = (
        replace(
            formula,
            lines=tuple(
                replace(line, amount=Quantity(line.amount.g, "g") if weighed else Quantity(line.amount.value, "floz"))
                if i in unclear
                else line
                for i, line in enumerate(formula.lines)
            ),
        )
        for weighed in (True, False)
    )
    return by_weight, by_volume


def _check_liquid(formula: Formula, actives: tuple[Active, ...]) -> None:
    """Refuse to measure out at a bench what is ice there; raises CannotReckon at the temperature."""
    wet = any("water" in line.material.roles for line in formula.lines)
    if formula.temperature >= 0.0 or not (wet or actives):
        return
    freezes = min([0.0, *(freezes_at(one.active, one.pct_ww / 100.0) for one in actives if one.is_alcohol)])
    if formula.temperature < freezes:
        raise CannotReckon(
            f"At {figures(formula.temperature)} °C this freezes: ice forms from {figures(freezes, 2)} °C."
        ).at("temperature")


def _reckoned(formula: Formula) -> Reckoning:
    pot, masses = work_out(formula)
    if not sum(masses) > 0.0 or not pot.volume(masses) > 0.0:
        raise CannotReckon("Nothing goes in yet: every amount is 0. Give at least one more than that.").at("lines")
    volumes = [pot.line_volume(i, mass) for i, mass in enumerate(masses)]
    total = Total(sum(volumes), pot.volume(masses), sum(masses))
    lines = tuple(
        LineAmount(
            line.material,
            volume,
            mass,
            100.0 * volume / total.volume_mL,
            100.0 * mass / total.mass_g,
            line.bulk,
            1.0 if line.strength is None else stock.active,
        )
        for line, stock, volume, mass in zip(formula.lines, pot.natures, volumes, masses, strict=True)
    )
    actives = actives_of(formula, pot, masses)
    _check_liquid(formula, actives)
    if formula.has_range:
        actives = with_worst_cases(formula, pot, masses, actives)
    there = [active.active for active in actives]
    chosen = formula.guidelines or families()[formula.family].lines_for(there)
    verdicts = tuple(
        replace(verdict, lacks=_lacks(key, formula, actives))
        for key in chosen
        for verdict in verdicts_against(key, actives)
    )
    return Reckoning(formula, lines, total, actives, verdicts)


def _lacks(guideline: str, formula: Formula, actives: tuple[Active, ...]) -> tuple[str, ...]:
    """What keeps a mix from being the whole formulation a rule line is for, in words."""
    rule = rule_line(guideline)
    if not rule.besides:
        return ()
    said = []
    for one in rule.besides:
        active = next((active for active in actives if active.active == one.material), None)
        name = uncapped(find(one.material).name)
        if active is None:
            said.append(f"no {name}")
        elif abs(active.label / one.pct - 1.0) > _FORMULATION_SLACK:
            said.append(f"{figures(active.label, 3)} % {name} for {figures(one.pct)} %")
    allowed = {"water", *(one.material for one in rule.besides), *(limit.active for limit in rule.limits)}
    other = dict.fromkeys(uncapped(line.material.name) for line in formula.lines if line.material.id not in allowed)
    return (*said, *(f"with {name}" for name in other))


def levels(formula: Formula) -> list[float]:
    """Level in mL once each line is in and mixed, by its position; they go in as the steps pour them.

    What comes out of a cup is in at once: all of it has the level that it brings the main vessel to.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.formula.formula import Line
    >>> from firkin.core.measures import read_quantity
    >>> ethanol, water = find("ethanol"), find("water")
    >>> mix = Formula("Try", (Line(ethanol, read_quantity("700 mL"), ethanol.read_strength("100 %")),
    ...                       Line(water, read_quantity("300 mL"))))
    >>> [round(level) for level in levels(mix)]
    [700, 968]
    """
    pot, masses = work_out(_as_judged(formula))
    there, found = [0.0] * len(masses), [0.0] * len(masses)
    for together in vessel_order(formula):
        for i in together:
            there[i] = masses[i]
        level = pot.volume(there)
        for i in together:
            found[i] = level
    return found


def _as_judged(formula: Formula) -> Formula:
    """The formula with its unclear ounces read as they are judged."""
    readings = read_ounces(formula)
    return formula if readings is None else min(readings, key=lambda one: _strength_of(_reckoned(one)))


def verdicts_against(guideline: str, actives: tuple[Active, ...]) -> list[Standing]:
    """The verdict of each active the rule line speaks of; short at 0 % when none of them is there."""
    rule = rule_line(guideline)
    verdicts = []
    for active in actives:
        limit = rule.limit_for(active.active)
        if limit is not None:
            verdicts.append(judge(guideline, limit, active.lower, active.higher, active.low, active.high))
    if not verdicts:
        first = rule.limits[0]
        minimum = first.minimum or 0.0
        verdicts.append(Standing(guideline, first.active, first.minimum, first.maximum, Verdict.SHORT, -minimum))
    return verdicts
