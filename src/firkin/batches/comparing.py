"""What two or more batches of a formula say side by side."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from django.utils import timezone

from firkin.batches.looking import readings_of, series_of
from firkin.batches.making import Making
from firkin.batches.models import Batch, Entry
from firkin.core.numerals import figures
from firkin.core.working import amount_words


class Side:
    """One batch, with everything that is compared of it."""

    def __init__(self, batch: Batch) -> None:
        self.batch = batch
        self.making = Making(batch)

    @cached_property
    def cost(self) -> float | None:
        """What its stocks cost, as far as their prices are known; None when none is."""
        known = [
            float(row.stock.price) * worked.mass_g / row.stock.grams_of(row.stock.amount)
            for row, worked in zip(self.making.lines, self.making.result.lines, strict=False)
            if row.stock is not None and row.stock.price is not None
        ]
        return sum(known) if known else None

    @cached_property
    def filled_mL(self) -> float:
        """mL in bottles."""
        return sum(filling.total_mL for filling in self.batch.fillings.all())


@dataclass(frozen=True, slots=True)
class Row:
    """One thing compared: its name, what each batch says, and whether they differ."""

    name: str
    values: tuple[str, ...]

    @property
    def differs(self) -> bool:
        """True when not all say the same."""
        return len(set(self.values)) > 1


def rows_of(sides: Sequence[Side]) -> list[Row]:
    """Everything compared, in the order of the work."""
    if not sides:
        return []
    found: list[tuple[str, list[str]]] = [
        (
            "Made on",
            [f"{timezone.localtime(s.batch.made_at):%-d %b %Y}" if s.batch.made_at else "not yet" for s in sides],
        ),
        ("Version", [str(s.batch.version.number) for s in sides]),
    ]
    most = max(len(side.making.formula.lines) for side in sides)
    for i in range(most):
        names = [s.making.formula.lines[i].material.name for s in sides if i < len(s.making.formula.lines)]
        found.append((names[0], [_line(side, i) for side in sides]))
    found.append(("Strength", [_strength(side) for side in sides]))
    found.append(("Comes to", [amount_words(side.making.result.total.volume_mL) for side in sides]))
    readings = [{one.what: one.words for one in readings_of(side.making)} for side in sides]
    for name in dict.fromkeys(name for one in readings for name in one):
        found.append((name, [one.get(name, "—") for one in readings]))
    looks = [{s.name: s.words[s.points[-1][1]] for s in series_of(side.batch, side.making)} for side in sides]
    for name in dict.fromkeys(name for one in looks for name in one):
        found.append((name, [one.get(name, "—") for one in looks]))
    found.append(("Rescues", [str(sum(e.kind == Entry.Kind.RESCUE for e in side.making.standing)) for side in sides]))
    found.append(("Cost", [f"{side.cost:.2f}" if side.cost is not None else "not known" for side in sides]))
    found.append(("Cost of a litre", [_per_litre(side) for side in sides]))
    found.append(("Into bottles", [amount_words(side.filled_mL) if side.filled_mL else "none" for side in sides]))
    found.append(("Now", [side.batch.get_state_display() for side in sides]))
    return [Row(name, tuple(values)) for name, values in found]


def _line(side: Side, at: int) -> str:
    if at >= len(side.making.result.lines):
        return "—"
    worked, row = side.making.result.lines[at], side.making.lines[at]
    strength = f" of {row.strength}" if row.strength else ""
    amount = f"{figures(worked.mass_g)} g" if worked.material.solid else amount_words(worked.volume_mL)
    return f"{amount}{strength}"


def _strength(side: Side) -> str:
    active = side.making.result.main
    return f"{figures(active.lower)} {active.basis}" if active else "—"


def _per_litre(side: Side) -> str:
    if side.cost is None:
        return "not known"
    return f"{side.cost / side.making.result.total.volume_mL * 1000:.2f}"


def strengths_of(batches: Sequence[Batch]) -> list[tuple[str, float]]:
    """The strength of each batch that has one, by its number."""
    return [(batch.code, batch.strength_pct) for batch in batches if batch.strength_pct is not None]
