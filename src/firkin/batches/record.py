"""A batch's record as a document to print and keep: what its page says, in the same figures."""

from collections.abc import Iterator
from textwrap import wrap

from django.utils import timezone

from firkin.batches.costs import cost_of_batch
from firkin.batches.making import Making
from firkin.batches.models import Batch
from firkin.core.bench import cautions_for, readings_of
from firkin.core.catalogue import families, rule_lines
from firkin.core.measures import amount_words, figures, weight_words
from firkin.core.texts import uncapped
from firkin.drawings.document import Grid, Heading, Paragraph, Part, Picture, document_pdf
from firkin.shelf.costs import costs_of_a_dose
from firkin.ui.templatetags.ui import money

#: A row of a table is on one page; a longer entry has several, in characters.
_A_ROW = 800


def record_pdf(batch: Batch) -> bytes:
    """The record of a batch as PDF, A4."""
    making = Making(batch)
    under = f"{families()[batch.family].name}, {batch.get_state_display()}, at {batch.workshop.name}"
    parts = [*_amounts(making), *_after(making), *_journal(batch), *_mind(making), *_photos(batch)]
    return document_pdf(str(batch), under, parts, timezone.now())


def _day(at: object) -> str:
    return f"{timezone.localtime(at):%-d %b %Y, %H:%M}"  # type: ignore[arg-type]


def _amounts(making: Making) -> Iterator[Part]:
    progress, result = making.progress, making.progress.result
    yield Heading("Amounts")
    rows = []
    for row, recorded in making.rows():
        planned, entry = recorded.planned, recorded.entry
        said = [str(planned.strength)] if planned.strength else []
        said += [row.stock.name] if row.stock else []
        said += [f"good to {recorded.line.good_to}"] if recorded.line.good_to else []
        name = recorded.line.material.name + (f" ({', '.join(said)})" if said else "")
        measure = amount_words(planned.mL) if planned.loose_mL is None else f"{figures(planned.loose_mL, 2)} mL, loose"
        topped = "topped up to " if row.position == progress.topping else ""
        measured = f"{topped}{entry.amount.words}" if entry and entry.amount else "—"
        rows.append((name, measure, weight_words(planned.g), measured))
    yield Grid(("Material", "Planned", "or weigh", "Measured"), tuple(rows), (46, 18, 18, 18), frozenset({1, 2, 3}))
    for active in result.actives:
        yield Paragraph(f"{figures(active.lower)} {active.basis} {uncapped(active.name)}", strong=active.is_alcohol)
    for judged in result.verdicts:
        line = rule_lines()[judged.guideline]
        yield Paragraph(f"{judged.verdict.value.capitalize()}: {line.name}. {judged.words}. ({line.source})")


def _after(making: Making) -> Iterator[Part]:
    batch, progress = making.batch, making.progress
    cut = f", cut with water to {amount_words(progress.to_fill_mL)} in bottles" if batch.cut else ""
    yield Paragraph(f"Comes to {amount_words(progress.result.total.volume_mL)}{cut}.")
    fillings = list(batch.fillings.all())
    for filling in fillings:
        yield Paragraph(f"Filled {filling.count} × {filling.container}, {amount_words(filling.fill_mL)} each.")
    cost, currency = cost_of_batch(making), batch.workshop.currency
    if cost is not None:
        without = f" Without a price, and not counted: {', '.join(cost.unpriced)}." if cost.unpriced else ""
        known = "more than" if cost.unpriced else "about"
        yield Paragraph(
            f"Costs {known} {money(cost.total)} {currency}, {money(cost.of_a_litre)} {currency} a litre, "
            f"by the prices on the shelf.{without}"
        )
        for each, what in costs_of_a_dose(cost, making.progress.result):
            yield Paragraph(f"{what.capitalize()}: {money(each)} {currency}.")
        for filling in fillings:
            yield Paragraph(f"{filling.container}: {money(cost.of_mL(filling.fill_mL))} {currency} each.")
    if batch.keep_by:
        yield Paragraph(f"Keep by {timezone.localtime(batch.keep_by):%-d %b %Y}.")
    readings = readings_of(progress)
    if readings:
        yield Heading("Readings")
        rows = [(_day(one.at), one.name, one.words, one.judged.text if one.judged else "") for one in readings]
        yield Grid(("When", "What", "Read", "Which means"), tuple(rows), (22, 18, 18, 42))


def _journal(batch: Batch) -> Iterator[Part]:
    yield Heading("Journal")
    rows = []
    for entry in batch.entries.select_related("by", "undone_by"):
        amount = f" {entry.amount.words}" if entry.amount_value else ""
        undone = " (undone)" if getattr(entry, "undone_by", None) else ""
        by = entry.author
        first, *more = wrap(f"{entry.text}{amount}{undone}", _A_ROW) or [""]
        rows.append((_day(entry.at), entry.get_kind_display(), first, by))
        rows += [("", "", words, "") for words in more]
    yield Grid(("When", "What", "Written", "By"), tuple(rows), (22, 14, 50, 14))


def _mind(making: Making) -> Iterator[Part]:
    cautions = cautions_for(making.progress.formula)
    if cautions:
        yield Heading("Mind")
    for caution in cautions:
        yield Paragraph(f"{caution.signal}. {caution.text}" if caution.signal else caution.text)
    yield Paragraph("Firkin advises; it does not certify. Local codes, and people licensed in them, come first.")


def _photos(batch: Batch) -> Iterator[Part]:
    photos = list(batch.photos.all())
    if photos:
        yield Heading("Photos")
    for photo in photos:
        yield Picture(bytes(photo.jpeg), f"{timezone.localtime(photo.at):%-d %b %Y} {photo.caption}".strip())
