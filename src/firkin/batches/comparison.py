"""What two or more batches say side by side, of one formula or of several."""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import combinations

from django.utils import timezone

from firkin.batches.costs import cost_of_batch
from firkin.batches.making import Making
from firkin.batches.models import Batch, State
from firkin.core.bench import EntryKind, readings_of, series_of
from firkin.core.measures import amount_words, figures, hours_words, weight_words
from firkin.core.texts import uncapped
from firkin.shelf.costs import Cost

#: Two numbers nearer than this share of them are the same to a maker: 2.01 is no other 2 (common practice, no source).
_SAME = 0.02
#: Two strengths nearer than this, in points, are the same.
_SAME_POINTS = 0.5


@dataclass(frozen=True, slots=True)
class Cell:
    """What one batch says: as shown, and what of it is compared: words, and a number to within the tolerance.

    What was ``not_looked`` at is no difference.
    """

    shown: str
    words: str = ""
    number: float | None = None
    not_looked: bool = False

    def differs(self, other: "Cell", apart: float) -> bool:
        """True when a maker would see a difference; ``apart`` is how far numbers may lie apart."""
        if self.not_looked or other.not_looked:
            return False
        if self.number is None or other.number is None:
            return self.number is not other.number or self.words != other.words
        return self.words != other.words or abs(self.number - other.number) > apart


class Side:
    """One batch, with everything that is compared of it."""

    def __init__(self, batch: Batch) -> None:
        self.batch = batch
        self.making = Making(batch)
        self.progress = self.making.progress

    @cached_property
    def cost(self) -> Cost | None:
        """What its stocks cost, as far as their prices are known; None when none is."""
        return cost_of_batch(self.making)

    @property
    def cost_of_a_litre(self) -> float | None:
        """What a litre in bottles cost; None where something in it has no price."""
        return None if self.cost is None or self.cost.unpriced else self.cost.of_a_litre

    @cached_property
    def waited(self) -> str:
        """How long it rested, and as what."""
        said = []
        for wait in self.batch.waits.all():
            hours = ((wait.ended_at or timezone.now()) - wait.started_at).total_seconds() / 3600
            so_far = "" if wait.ended_at else " so far"
            said.append(f"{wait.get_kind_display().lower()} {hours_words(round(hours, 1) or 0.1)}{so_far}")
        return ", ".join(said) or "none"

    @cached_property
    def additions(self) -> str:
        """What went in in small additions, and what was put in besides by a rescue."""
        steps = [entry for entry in self.progress.standing if entry.kind == EntryKind.PORTION]
        rescued = [uncapped(line.material.name) for line in self.progress.formula.lines if line.note == "rescue"]
        said = [f"{len(steps)} small"] if steps else []
        return ", ".join([*said, *(f"{name} to mend it" for name in rescued)]) or "none"

    @cached_property
    def filled_mL(self) -> float:
        """mL in bottles."""
        return sum(filling.total_mL for filling in self.batch.fillings.all())

    @cached_property
    def yield_pct(self) -> float | None:
        """How much of what was made got into bottles, in per cent; None while nothing is bottled."""
        made = self.progress.in_bottles.total.volume_mL
        return 100.0 * self.filled_mL / made if self.filled_mL else None

    @cached_property
    def last_ph(self) -> float | None:
        """The pH that was read last; None where none was."""
        read = [one.read.value for one in self.progress.readings if one.read is not None and one.read.what == "ph"]
        return read[-1] if read else None

    @cached_property
    def last_thickness(self) -> float | None:
        """The thickness that was seen last, as its place on the scale; None where nobody looked."""
        seen = [entry.seen["thickness"] for entry in self.progress.standing if "thickness" in entry.seen]
        return float(seen[-1]) if seen else None

    @cached_property
    def lasted_days(self) -> int | None:
        """Days from making it until it was used up; None while it is not."""
        if self.batch.state != State.USED or self.batch.made_at is None:
            return None
        ended = [entry.at for entry in self.progress.standing if entry.kind == EntryKind.STATE]
        return (ended[-1] - self.batch.made_at).days if ended else None

    @cached_property
    def lines(self) -> "dict[tuple[str, int], Cell]":
        """What went in, by material and how often it was met before."""
        found: dict[tuple[str, int], Cell] = {}
        made = self.progress.result
        by_weight = made.formula.basis == "weight"
        for line, worked, row in zip(made.formula.lines, made.lines, self.making.lines, strict=False):
            name = worked.material.name
            strength = f" of {row.strength}" if row.strength else ""
            amount = weight_words(worked.mass_g) if line.solid else amount_words(worked.volume_mL)
            share = f"{figures(worked.share_w_pct if by_weight else worked.share_v_pct, 3)} %"
            nth = sum(known == name for known, _ in found)
            number = worked.share_w_pct if by_weight else worked.share_v_pct
            found[name, nth] = Cell(f"{amount}{strength}, {share}", strength, number)
        return found


@dataclass(frozen=True, slots=True)
class Row:
    """One thing compared: its name, what each batch says, and whether they differ where it tells something."""

    name: str
    values: tuple[str, ...]
    differs: bool


def rows_of(sides: Sequence[Side], currency: str, kitchens: Mapping[str, str]) -> list[Row]:
    """Everything compared, in the order of the work. Amounts differ when their shares do: sizes may vary.

    ``kitchens`` names what a batch may have been measured with, by id.
    """
    return [*_how_made(sides, kitchens), *_what_was_read(sides), *_what_came_of_it(sides, currency)]


def _numbers(name: str, cells: Sequence[Cell], *, compared: bool = True, points: float | None = None) -> Row:
    """A row of figures: they differ where two are further apart than ``points``, or than is worth telling."""
    first = next((cell for cell in cells if cell.number is not None), None)
    apart = points if points is not None else _SAME * abs(first.number or 0.0) if first is not None else 0.0
    differs = compared and any(one.differs(other, apart) for one, other in combinations(cells, 2))
    return Row(name, tuple(cell.shown for cell in cells), differs)


def _words(name: str, values: Iterable[str], *, compared: bool = True) -> Row:
    """A row of words."""
    return _numbers(name, [Cell(value, value) for value in values], compared=compared)


def _how_made(sides: Sequence[Side], kitchens: Mapping[str, str]) -> Iterator[Row]:
    yield _words("Made on", (_day(side) for side in sides), compared=False)
    if len({side.batch.version.formula_id for side in sides}) > 1:
        yield _words("Formula", (side.batch.version.formula.name for side in sides))
    yield _words("Version", (str(side.batch.version.number) for side in sides))
    for key in dict.fromkeys(key for side in sides for key in side.lines):
        yield _numbers(key[0], [side.lines.get(key, Cell("—")) for side in sides])
    yield _numbers("Strength", [_strength(side) for side in sides], points=_SAME_POINTS)
    yield _words("Comes to", (amount_words(side.progress.result.total.volume_mL) for side in sides), compared=False)
    yield _words("Measured with", (kitchens.get(side.batch.kitchen, "exact amounts") for side in sides))
    yield _words("Additions", (side.additions for side in sides))
    yield _words("Rested", (side.waited for side in sides), compared=False)


def _what_was_read(sides: Sequence[Side]) -> Iterator[Row]:
    unread = Cell("—", not_looked=True)
    readings = [{one.name: one for one in readings_of(side.progress)} for side in sides]
    for name in dict.fromkeys(name for one in readings for name in one):
        found = [one.get(name) for one in readings]
        yield _numbers(name, [unread if one is None else Cell(one.words, "", one.value) for one in found])
    series = [series_of(side.progress, side.batch.begun) for side in sides]
    looks = [{one.name: one.words[one.points[-1][1]] for one in seen} for seen in series]
    for name in dict.fromkeys(name for one in looks for name in one):
        yield _numbers(name, [Cell(one[name], one[name]) if name in one else unread for one in looks])
    yield _words("Rescues", (str(sum(e.kind == EntryKind.RESCUE for e in side.progress.standing)) for side in sides))


def _what_came_of_it(sides: Sequence[Side], currency: str) -> Iterator[Row]:
    yield _words("Cost", (_money(side.cost, lambda cost: cost.total, currency) for side in sides), compared=False)
    litres = [_money(side.cost, lambda cost: cost.of_a_litre, currency) for side in sides]
    cells = [Cell(words, "", side.cost_of_a_litre) for words, side in zip(litres, sides, strict=True)]
    yield _numbers("Cost of a litre", cells)
    if any(side.cost and side.cost.unpriced for side in sides):
        yield _words("Without a price", (", ".join(side.cost.unpriced) if side.cost else "all" for side in sides))
    yield _words("Into bottles", (_bottled(side) for side in sides), compared=False)
    yield _words("Lasted", ("—" if side.lasted_days is None else f"{side.lasted_days} days" for side in sides))
    yield _words("Now", (side.batch.get_state_display() for side in sides), compared=False)


def _day(side: Side) -> str:
    made = side.batch.made_at
    return f"{timezone.localtime(made):%-d %b %Y}" if made else "not yet"


def _strength(side: Side) -> Cell:
    active = side.progress.result.main
    if active is None:
        return Cell("—")
    verdicts = " ".join(dict.fromkeys(one.verdict.replace("-", " ") for one in side.progress.result.verdicts))
    return Cell(f"{figures(active.lower)} {active.basis} {verdicts}".strip(), verdicts, active.lower)


def _money(cost: Cost | None, of: Callable[[Cost], float], currency: str) -> str:
    """A cost, or how much it is at least where something in it has no price."""
    return "not known" if cost is None else f"{'over ' if cost.unpriced else ''}{of(cost):.2f} {currency}"


def _bottled(side: Side) -> str:
    return "none" if side.yield_pct is None else f"{amount_words(side.filled_mL)}, {figures(side.yield_pct, 3)} %"


@dataclass(frozen=True, slots=True)
class Numbers:
    """One number over batches: its name, its unit, and the batches that have it."""

    name: str
    unit: str
    points: tuple[tuple[str, float], ...]


def numbers_of(sides: Sequence[Side], currency: str) -> list[Numbers]:
    """The numbers that two or more batches have: strength, cost, what got into bottles, how long it lasted."""
    told: list[tuple[str, str, Callable[[Side], float | None]]] = [
        ("Strength", "%", lambda side: side.batch.strength_pct),
        ("Cost of a litre", currency, lambda side: side.cost_of_a_litre),
        ("Into bottles, of what was made", "%", lambda side: side.yield_pct),
        ("pH, last read", "", lambda side: side.last_ph),
        ("Thickness, last look, 0 is thinnest", "", lambda side: side.last_thickness),
        ("Lasted", "days", lambda side: side.lasted_days),
    ]
    found = []
    for name, unit, number in told:
        points = tuple((side.batch.code, value) for side in sides if (value := number(side)) is not None)
        if len(points) > 1:
            found.append(Numbers(name, unit, points))
    return found
