"""A formula: lines, rule lines and size; and working out what each line comes to in grams."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from firkin.core.catalogue import Material
from firkin.core.errors import CannotReckon
from firkin.core.formula.claims import UNCLAIMED, UNCLAIMED_LINE, Claims, LineClaims
from firkin.core.formula.mixture import Pot, nature
from firkin.core.measures import Quantity, Side, Strength, error_words, figures

#: Size of one part when nothing says how much to make, mL or g; and of the whole when per cents alone.
PART = 100.0
WHOLE = 1000.0
#: Per cents that sum to 100 within this much are proportions of a whole batch.
PERCENT_SLACK = 0.05
#: What a batch may come to, in mL or g.
SMALLEST_BATCH, LARGEST_BATCH = 1.0, 1e7


@dataclass(frozen=True, slots=True)
class Line:
    """One thing that goes in. ``strength`` None means the material's usual one.

    ``error`` is how far the measured amount may be off, as a fraction of it; ``claims`` what a recipe heard
    says of the line.
    """

    material: Material
    amount: Quantity
    strength: Strength | None = None
    phase: str = ""
    note: str = ""
    error: float = 0.0
    claims: LineClaims = UNCLAIMED_LINE

    @property
    def counted_strength(self) -> Strength | None:
        """The strength given, or else the usual one."""
        return self.strength or self.material.usual_strength

    @property
    def good_to(self) -> str:
        """How well the amount is measured, in words; empty where nothing is said of it."""
        return error_words(self.error)

    @property
    def solid(self) -> bool:
        """True for a powder, gratings or peel; a solid of a strength that water holds is a solution."""
        return self.material.solid_at(self.counted_strength)

    @property
    def bulk(self) -> float | None:
        """The density in g/mL by which a cup measures it loose; None for a liquid."""
        return self.material.bulk_at(self.counted_strength)

    def at_end(self, side: Side) -> "Line":
        """This line with its strength at an end of its range."""
        if self.strength is None or self.strength.exact:
            return self
        return replace(self, strength=self.strength.end(side))


#: So many additions are laid out where a text only says "a little at a time" (common practice, no source).
SEVERAL = 5


@dataclass(frozen=True, slots=True)
class Step:
    """One thing to do. ``lines`` are positions in the formula, ``wait_h`` and ``timer_h`` in hours.

    A wait lets the batch rest; a timer runs while the maker stays with it. ``temperature`` in degC is that of
    what is mixed; ``caution`` is said at this step. ``vessel`` is the cup it is done in, ``source`` the cup that is
    poured out by it; the main vessel has no name.
    """

    do: str
    text: str
    lines: tuple[int, ...] = ()
    wait_h: float | None = None
    portions: int = 1
    timer_h: float | None = None
    temperature: float | None = None
    caution: str = ""
    vessel: str = ""
    source: str = ""


@dataclass(frozen=True, slots=True)
class Claim:
    """What somebody says this formula makes."""

    active: str
    strength: Strength


@dataclass(frozen=True, slots=True)
class Formula:
    """A recipe. ``make`` is the finished quantity, ``temperature`` of the bench in degC.

    ``keep_days`` is how long a batch keeps, where it differs from the family's; ``cut`` the parts of water to one
    of the batch while bottling. ``made_up`` says that its amounts come to a made-up volume, contraction counted,
    though no line tops it up any more: label arithmetic divides by that volume, as it did when they were worked out.
    ``dose`` is what one load or wash takes, ``dose_of`` its word, ``loads`` how many it makes; None: as is usual.
    """

    name: str
    lines: tuple[Line, ...]
    family: str = "other"
    basis: str = "volume"
    make: Quantity | None = None
    temperature: float = 20.0
    guidelines: tuple[str, ...] = ()
    claim: Claim | None = None
    steps: tuple[Step, ...] = ()
    keep_days: float | None = None
    cut: float = 0.0
    made_up: bool = False
    claims: Claims = UNCLAIMED
    dose: Quantity | None = None
    dose_of: str = ""
    loads: float | None = None

    @property
    def topped_up(self) -> int | None:
        """The position of the q.s. line, if there is one."""
        return next((i for i, line in enumerate(self.lines) if line.amount.kind == "qs"), None)

    def by_weight(self, at: int) -> bool:
        """True where the amount of a line is a weight: in g, or a share of a formula by weight."""
        amount = self.lines[at].amount
        return amount.kind == "mass" or (amount.kind in ("part", "percent") and self.basis == "weight")

    def weighed(self, at: int) -> bool:
        """True where a line is weighed out at the bench: its amount is a weight, or it is a solid."""
        return self.by_weight(at) or self.lines[at].solid

    def lines_with(self, *roles: str) -> tuple[int, ...]:
        """Positions of the lines whose material has any of these roles."""
        wanted = set(roles)
        return tuple(i for i, line in enumerate(self.lines) if wanted & line.material.roles)

    def lines_of(self, *ids: str) -> tuple[int, ...]:
        """Positions of the lines of these materials."""
        return tuple(i for i, line in enumerate(self.lines) if line.material.id in ids)

    @property
    def water(self) -> int | None:
        """The position of the first line of water, or else of what is mostly water, if there is one."""
        return next(iter((*self.lines_of("water"), *self.lines_with("water"))), None)

    @property
    def dry(self) -> bool:
        """True when everything that is known in it is a solid."""
        known = [line.solid for line in self.lines if line.material.known]
        return bool(known) and all(known)

    @property
    def has_range(self) -> bool:
        """True when any strength is a range or any amount has a measuring error."""
        return any(line.error or (line.strength is not None and not line.strength.exact) for line in self.lines)

    def at_end(self, side: Side) -> "Formula":
        """This formula with every strength at an end of its range."""
        return replace(self, lines=tuple(line.at_end(side) for line in self.lines))

    def scaled_to(self, make: Quantity) -> "Formula":
        """This formula for another finished quantity, every strength unchanged.

        Amounts in mL and g grow in proportion, q.s. still tops up, parts and per cent stay.
        Raises CannotReckon when the formula itself cannot be worked out.
        """
        if make.kind not in ("volume", "mass"):
            raise CannotReckon("Scale to a volume or a weight, such as 1.5 L.")
        if not SMALLEST_BATCH <= (make.mL if make.kind == "volume" else make.g) <= LARGEST_BATCH:
            raise CannotReckon("A batch is between 1 mL and 10 000 L, or 1 g and 10 000 kg.").at("make")
        pot, masses = work_out(self)
        now = pot.volume(masses) if make.kind == "volume" else sum(masses)
        factor = (make.mL if make.kind == "volume" else make.g) / now
        lines = tuple(replace(line, amount=line.amount.times(factor)) for line in self.lines)
        return replace(self, lines=lines, make=make, loads=None if self.loads is None else self.loads * factor)


def claim_for(lines: Sequence[Line], written: str) -> Claim | None:
    """A strength somebody says a mix has, as a claim about its alcohol or else its first active.

    None without an active.

    Args:
        lines: the lines of the mix.
        written: what was said, such as "70 %".

    Raises:
        CannotRead: when the text is no strength.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.measures import read_quantity
    >>> str(claim_for([Line(find("ethanol"), read_quantity("1 L"))], "70 %").strength)
    '70 % v/v'
    """
    there = [line.material for line in lines if line.material.reports == "active"]
    active = next(iter([material for material in there if material.alcohol] or there), None)
    return None if active is None else Claim(active.id, active.read_strength(written))


def work_out(formula: Formula) -> tuple[Pot, list[float]]:
    """What each line comes to, in grams, in the order of the lines; and the pot they make.

     without a size, amounts that already
    exceed it, or ratios that leave nothing to fix a size by.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    Raises:
        CannotReckon: with the path of the culprit, for q.s.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.measures import read_quantity
    >>> rub = Formula("Rub", (Line(find("ethanol"), read_quantity("700 mL"), Strength.of(100.0, "v/v")),
    ...                       Line(find("water"), read_quantity("q.s."))), make=read_quantity("1 L"))
    >>> [round(mass, 1) for mass in work_out(rub)[1]]
    [552.5, 333.1]
    """
    pot = pot_of(formula)
    if formula.topped_up is not None:
        return pot, _made_up(formula, pot)
    kinds = {line.amount.kind for line in formula.lines}
    if kinds <= {"volume", "mass"}:
        masses = _literal(formula, pot)
        return pot, _times(masses, _factor(formula, pot, masses, 1.0))
    if kinds == {"part"}:
        shares = _shares(formula, pot, "part")
        return pot, _times(shares, _factor(formula, pot, shares, PART))
    if kinds == {"percent"}:
        shares = _shares(formula, pot, "percent")
        total = percent_total(formula)
        reach = 1.0 if abs(total - 100.0) <= PERCENT_SLACK else total / 100.0
        return pot, _times(shares, _factor(formula, pot, shares, WHOLE / 100.0, reach))
    return pot, _mixed(formula, pot)


def pot_of(formula: Formula) -> Pot:
    """The pot of a formula's stocks at its bench temperature, before any amount is worked out.

    Raises CannotReckon for no lines, or a strength that cannot be.
    """
    if not formula.lines:
        raise CannotReckon("Nothing goes in yet. Add at least one line.").at("lines")
    natures = []
    for i, line in enumerate(formula.lines):
        try:
            fraction = line.material.mass_fraction(line.counted_strength)
        except CannotReckon as error:
            raise error.at("lines", i, "strength") from None
        natures.append(nature(line.material, fraction, formula.temperature))
    return Pot(natures, formula.temperature, formula.dry)


def percent_total(formula: Formula) -> float:
    """The sum of the per cent lines.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.

    >>> percent_total(Formula("Empty", ()))
    0
    """
    return sum(line.amount.value for line in formula.lines if line.amount.kind == "percent")


def _times(masses: Sequence[float], factor: float) -> list[float]:
    return [mass * factor for mass in masses]


def _literal(formula: Formula, pot: Pot) -> list[float]:
    """Grams of the lines given in units of volume or mass; 0 for the others."""
    masses = []
    for line, stock in zip(formula.lines, pot.natures, strict=True):
        amount = line.amount
        if amount.kind == "volume":
            masses.append(amount.mL * stock.measured)
        else:
            masses.append(amount.g if amount.kind == "mass" else 0.0)
    return masses


def _shares(formula: Formula, pot: Pot, kind: str) -> list[float]:
    """Grams of the lines of one ratio kind when a part, or a per cent, is 1 mL or 1 g."""
    by_volume = formula.basis == "volume"
    return [
        line.amount.value * (stock.measured if by_volume else 1.0) if line.amount.kind == kind else 0.0
        for line, stock in zip(formula.lines, pot.natures, strict=True)
    ]


def _size(pot: Pot, masses: list[float], kind: str) -> float:
    return pot.volume(masses) if kind == "volume" else sum(masses)


def _target(make: Quantity) -> float:
    return make.mL if make.kind == "volume" else make.g


def _factor(formula: Formula, pot: Pot, masses: list[float], bare: float, reach: float = 1.0) -> float:
    """What to multiply ``masses`` by so that the batch comes to ``make``; ``bare`` without one."""
    if formula.make is None:
        return bare
    size = _size(pot, masses, formula.make.kind)
    if size <= 0:
        raise CannotReckon("These amounts come to nothing.").at("lines")
    return _target(formula.make) * reach / size


def _made_up(formula: Formula, pot: Pot) -> list[float]:
    """Grams when one line tops the batch up to ``make``."""
    index = formula.topped_up
    assert index is not None
    line = formula.lines[index]
    if sum(other.amount.kind == "qs" for other in formula.lines) > 1:
        raise CannotReckon("Only one line can top the batch up.").at("lines", index, "amount")
    if line.solid:
        raise CannotReckon(f"{line.material.name} is a solid; only a liquid can top a batch up. Give it an amount.").at(
            "lines", index, "amount"
        )
    if formula.make is None:
        raise CannotReckon("q.s. tops the batch up to a size, so say how much to make, such as 1 L.").at("make")
    if any(other.amount.kind == "part" for other in formula.lines):
        raise CannotReckon(
            "Parts and q.s. leave nothing to fix the ratio by. Give the q.s. line its parts, or the others amounts."
        ).at("lines", index, "amount")
    return _settle(formula, pot, lambda masses: _top_up(formula, pot, masses, index))


def _top_up(formula: Formula, pot: Pot, masses: list[float], index: int) -> list[float]:
    make = formula.make
    assert make is not None
    target = _target(make)
    if make.kind == "volume":
        added = pot.top_up(masses, index, target)
    else:
        added = target - sum(masses)
    if added < -1e-6 * target:
        raise _too_much(pot, masses, make)
    masses[index] = max(0.0, added)
    return masses


def _too_much(pot: Pot, masses: list[float], make: Quantity) -> CannotReckon:
    unit = "mL" if make.kind == "volume" else "g"
    size = _size(pot, masses, make.kind)
    return CannotReckon(
        f"The amounts already come to {figures(size)} {unit}, more than the {figures(_target(make))} {unit} "
        f"to make. Make at least {figures(size)} {unit}, or use less."
    ).at("make")


def _mixed(formula: Formula, pot: Pot) -> list[float]:
    """Grams when amounts, parts and per cent stand in one formula: parts share what is left."""
    parts = _shares(formula, pot, "part")
    literal = _literal(formula, pot)
    make = formula.make
    total = percent_total(formula)
    if make is None and not total:
        return [a + PART * b for a, b in zip(literal, parts, strict=True)]
    if make is None:
        if any(parts) or total >= 100.0:
            raise CannotReckon("Say how much to make, such as 1 L: the amounts leave the size open.").at("make")
        size = (
            sum(literal)
            if formula.basis == "weight"
            else sum(pot.line_volume(i, mass) for i, mass in enumerate(literal))
        )
        whole = size / (1.0 - total / 100.0)
        shares = _shares(formula, pot, "percent")
        return [a + whole / 100.0 * b for a, b in zip(literal, shares, strict=True)]

    def share_out(masses: list[float]) -> list[float]:
        if not any(parts):
            return masses
        target = _target(make)
        if make.kind == "volume":
            times = pot.fill(masses, parts, target)
        else:
            times = (target - sum(masses)) / sum(parts)
        if times <= 0.0:
            raise _too_much(pot, masses, make)
        return [a + times * b for a, b in zip(masses, parts, strict=True)]

    return _settle(formula, pot, share_out)


def _settle(formula: Formula, pot: Pot, finish: Callable[[list[float]], list[float]]) -> list[float]:
    """Amounts and per cents of ``make``, then ``finish``; repeated while the batch's density settles.

    Only a per cent by weight of a volume, or by volume of a weight, needs more than one round.
    """
    make = formula.make
    assert make is not None
    literal = _literal(formula, pot)
    shares = _shares(formula, pot, "percent")
    same = make.kind == ("volume" if formula.basis == "volume" else "mass")
    target = _target(make)
    density = 1.0
    masses: list[float] = []
    for _ in range(60):
        whole = target if same else (target * density if make.kind == "volume" else target / density)
        masses = finish([a + whole / 100.0 * b for a, b in zip(literal, shares, strict=True)])
        if same or not any(shares):
            break
        settled = sum(masses) / pot.volume(masses)
        if abs(settled - density) < 1e-12:
            break
        density = settled
    return masses
