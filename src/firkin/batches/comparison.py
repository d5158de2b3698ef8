"""What two or more batches of a formula say side by side."""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property

from django.utils import timezone

from firkin.batches.making import Making
from firkin.batches.models import Batch, State
from firkin.core.bench import EntryKind, readings_of, series_of
from firkin.core.measures import amount_words, figures, weight_words


@dataclass(frozen=True, slots=True)
class Cell:
    """What one batch says: as shown, and what of it is compared (a share, not an amount)."""

    shown: str
    compared: str


class Side:
    """One batch, with everything that is compared of it."""

    def __init__(self, batch: Batch) -> None:
        self.batch = batch
        self.making = Making(batch)
        self.progress = self.making.progress

    @cached_property
    def cost(self) -> float | None:
        """What its stocks cost, as far as their prices are known; None when none is."""
        known = [
            float(row.stock.price) * worked.mass_g / row.stock.grams_of(row.stock.amount)
            for row, worked in zip(self.making.lines, self.progress.result.lines, strict=False)
            if row.stock is not None and row.stock.price is not None
        ]
        return sum(known) if known else None

    @cached_property
    def cost_of_a_litre(self) -> float | None:
        """What a litre of it cost, as far as prices are known."""
        return None if self.cost is None else self.cost / self.progress.result.total.volume_mL * 1000.0

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
            found[name, nth] = Cell(f"{amount}{strength}, {share}", f"{share}{strength}")
        return found


@dataclass(frozen=True, slots=True)
class Row:
    """One thing compared: its name, what each batch says, and whether they differ where it tells something."""

    name: str
    values: tuple[str, ...]
    differs: bool


def rows_of(sides: Sequence[Side], currency: str) -> list[Row]:
    """Everything compared, in the order of the work. Amounts differ when their shares do: sizes may vary."""
    rows: list[Row] = []

    def told(name: str, values: Iterable[str], compared: Iterable[str] | None = None) -> None:
        said = tuple(values)
        rows.append(Row(name, said, len(set(said if compared is None else compared)) > 1))

    told("Made on", (_day(side) for side in sides), ())
    told("Version", (str(side.batch.version.number) for side in sides))
    missing = Cell("—", "")
    for key in dict.fromkeys(key for side in sides for key in side.lines):
        cells = [side.lines.get(key, missing) for side in sides]
        told(key[0], (cell.shown for cell in cells), (cell.compared for cell in cells))
    told("Strength", (_strength(side) for side in sides))
    told("Comes to", (amount_words(side.progress.result.total.volume_mL) for side in sides))
    readings = [{one.name: one.words for one in readings_of(side.progress)} for side in sides]
    series = [series_of(side.progress, side.batch.begun) for side in sides]
    looks = [{one.name: one.words[one.points[-1][1]] for one in seen} for seen in series]
    for noted in (readings, looks):
        for name in dict.fromkeys(name for one in noted for name in one):
            told(name, (one.get(name, "—") for one in noted))
    told("Rescues", (str(sum(e.kind == EntryKind.RESCUE for e in side.progress.standing)) for side in sides))
    told("Cost", (_money(side.cost, currency) for side in sides), ())
    told("Cost of a litre", (_money(side.cost_of_a_litre, currency) for side in sides))
    told("Into bottles", (_bottled(side) for side in sides), ())
    told("Lasted", ("—" if side.lasted_days is None else f"{side.lasted_days} days" for side in sides))
    told("Now", (side.batch.get_state_display() for side in sides), ())
    return rows


def _day(side: Side) -> str:
    made = side.batch.made_at
    return f"{timezone.localtime(made):%-d %b %Y}" if made else "not yet"


def _strength(side: Side) -> str:
    active = side.progress.result.main
    return f"{figures(active.lower)} {active.basis}" if active else "—"


def _money(value: float | None, currency: str) -> str:
    return "not known" if value is None else f"{value:.2f} {currency}"


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
        ("Lasted", "days", lambda side: side.lasted_days),
    ]
    found = []
    for name, unit, number in told:
        points = tuple((side.batch.code, value) for side in sides if (value := number(side)) is not None)
        if len(points) > 1:
            found.append(Numbers(name, unit, points))
    return found
