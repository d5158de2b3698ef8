"""Tables for a spreadsheet: shelf, containers, batches, readings, costs; with commas, UTF-8, decimals with a point.

A cell of text that a spreadsheet would run as a formula is given a ' in front (OWASP, CSV Injection).
"""

import csv
import io
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from django.utils import timezone

from firkin.accounts.models import Workshop
from firkin.batches.costs import cost_of_batch
from firkin.batches.making import Making
from firkin.batches.models import Batch, Bottle
from firkin.core.bench import READINGS, readings_of
from firkin.shelf.models import Movement, Stock, Tool, Vessel

Cells = tuple[Any, ...]
#: What a spreadsheet takes for the beginning of a formula, or skips before one.
_RUNS = ("=", "+", "-", "@", "\t", "\r", "\n")


@dataclass(frozen=True, slots=True)
class Table:
    """A table: its name in words, its columns with units, and its rows of a workshop."""

    name: str
    columns: tuple[str, ...]
    rows: Callable[[Workshop], Iterable[Cells]]


def csv_of(table: Table, workshop: Workshop) -> str:
    """The table as text, with the mark by which spreadsheets know UTF-8."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(table.columns)
    for row in table.rows(workshop):
        writer.writerow([_cell(value) for value in row])
    return "\ufeff" + out.getvalue()


def _cell(value: Any) -> str:
    """A value as a cell holds it; an hour on the workshop's clock.

    >>> _cell("=1+1"), _cell(-0.5), _cell(None), _cell("Tall can")
    ("'=1+1", '-0.5', '', 'Tall can')
    """
    if value is None:
        return ""
    if isinstance(value, datetime):
        return timezone.localtime(value).strftime("%Y-%m-%d %H:%M")
    if isinstance(value, date):
        return value.isoformat()
    if isinstance(value, float):
        return f"{value:.6g}"
    text = str(value)
    return f"'{text}" if isinstance(value, str) and text.startswith(_RUNS) else text


def _shelf(workshop: Workshop) -> Iterator[Cells]:
    for stock in Stock.objects.filter(workshop=workshop).prefetch_related("movements"):
        strength = stock.strength
        ends = (None, None, None) if strength is None else (strength.low, strength.high, f"% {strength.basis}")
        left = stock.left_as_bought
        yield (
            stock.name, stock.material, *ends, stock.amount.value, left.value, stock.amount.unit,
            stock.price, workshop.currency if stock.price is not None else "", stock.bought_on, stock.opened_on,
            stock.best_before, stock.lot, stock.shop, stock.grade, stock.stands,
            "yes" if stock.used_up else "no", stock.note, stock.tare_g,
            "" if stock.tare_g is None else "guessed" if stock.tare_guessed else "weighed",
        )  # fmt: skip


def _containers(workshop: Workshop) -> Iterator[Cells]:
    for vessel in Vessel.objects.filter(workshop=workshop):
        yield (
            vessel.name, vessel.get_kind_display(), vessel.volume_mL, vessel.inner_diameter_mm, vessel.empty_g,
            vessel.get_top_display(), vessel.get_made_of_display(), vessel.count, None,
            vessel.to_wash,
        )  # fmt: skip
    for tool in Tool.objects.filter(workshop=workshop):
        brim = None if tool.weighs else tool.amount.mL
        yield (tool.name, "scale" if tool.weighs else "measure", brim, None, None, "", "", 1, tool.error_pct, None)


def _makings(workshop: Workshop) -> Iterator[tuple[Batch, Making]]:
    for batch in Batch.objects.filter(workshop=workshop).whole().order_by("number"):
        yield batch, Making(batch)


def _batches(workshop: Workshop) -> Iterator[Cells]:
    for batch, making in _makings(workshop):
        cost, made = cost_of_batch(making), batch.made_at is not None
        yield (
            batch.code, batch.name, batch.family, batch.get_state_display(), batch.created_at, batch.made_at,
            batch.keep_by, making.progress.made_mL if made else None, making.progress.to_fill_mL if made else None,
            batch.strength_pct, batch.strength_of, batch.verdict,
            None if cost is None else round(cost.total, 2), workshop.currency if cost else "",
            "; ".join(cost.unpriced) if cost else "", sum(filling.count for filling in batch.fillings.all()),
        )  # fmt: skip


def _readings(workshop: Workshop) -> Iterator[Cells]:
    for batch, making in _makings(workshop):
        for reading in readings_of(making.progress):
            judged = reading.judged
            yield (
                batch.code, batch.name, reading.at, reading.name, reading.value, READINGS[reading.what].unit,
                reading.words, judged.verdict.value if judged else "", judged.text if judged else "",
            )  # fmt: skip


def _costs(workshop: Workshop) -> Iterator[Cells]:
    for batch, making in _makings(workshop):
        progress = making.progress
        for line, grams, row in zip(progress.formula.lines, progress.masses_g, making.lines, strict=True):
            price = None if row.stock is None else row.stock.price_of_a_gram
            yield (
                batch.code, batch.name, line.material.name, grams, row.stock.name if row.stock else "",
                None if price is None else price * 1000.0, None if price is None else round(grams * price, 2),
                workshop.currency if price is not None else "",
            )  # fmt: skip


def _movements(workshop: Workshop) -> Iterator[Cells]:
    rows = Movement.objects.filter(stock__workshop=workshop).select_related("stock").order_by("at", "pk")
    for one in rows:
        yield (
            one.at,
            one.stock.name,
            one.stock.material,
            one.stock.lot,
            one.get_kind_display(),
            one.mass_g,
            one.reason,
        )


def _bottles(workshop: Workshop) -> Iterator[Cells]:
    for one in Bottle.objects.of_workshop(workshop).order_by("pk"):
        yield (
            one.code, one.filling.batch.name, one.filling.container, one.filling.fill_mL, one.get_place_display(),
            str(one.holder) if one.holder else "", one.given_at, one.opened_at, one.ended_at,
            "yes" if one.used else "no", one.loads or None,
        )  # fmt: skip


#: Every table there is, by the name of its file.
TABLES = {
    "shelf": Table(
        "What stands on the shelf",
        (
            "what the label says", "material", "strength from, %", "strength to, %", "basis", "size", "left", "unit",
            "price", "currency", "bought on", "opened on", "best before", "lot", "shop", "grade", "where it stands",
            "used up", "note", "empty bottle, g", "which was",
        ),
        _shelf,
    ),
    "containers": Table(
        "Vessels, bottles, measures and scales",
        (
            "name", "kind", "brim, mL", "inner diameter, mm", "empty, g", "top", "made of", "how many",
            "measures within, %", "to be washed",
        ),
        _containers,
    ),
    "batches": Table(
        "Batches",
        (
            "batch", "name", "family", "state", "planned at", "made at", "keep by", "made, mL", "into bottles, mL",
            "strength, %", "strength of", "verdict", "cost", "currency", "without a price", "bottles filled",
        ),
        _batches,
    ),
    "readings": Table(
        "Readings",
        ("batch", "name", "at", "what", "value", "unit", "as shown", "stands", "which means"),
        _readings,
    ),
    "costs": Table(
        "Costs, line by line",
        ("batch", "name", "material", "weight, g", "out of", "price of a kg", "cost", "currency"),
        _costs,
    ),
    "movements": Table(
        "What went in and out of each stock",
        ("at", "stock", "material", "lot", "what", "weight, g", "reason"),
        _movements,
    ),
    "bottles": Table(
        "Bottles that something happened to",
        (
            "bottle", "name", "container", "filled, mL", "where", "with", "given at", "opened at", "ended at",
            "used up", "loads",
        ),
        _bottles,
    ),
}  # fmt: skip
