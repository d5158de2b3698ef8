"""What a batch's label says."""

from dataclasses import dataclass, replace
from datetime import datetime

from django.utils import timezone

from firkin.batches.models import Batch, Filling, Wait
from firkin.core.bench import EntryKind, Progress, began, below_its_line, cautions_of, taken_up, usual_label_words
from firkin.core.catalogue import families
from firkin.core.measures import amount_words, figures, weight_words
from firkin.core.questions import dose_of
from firkin.core.texts import uncapped
from firkin.drawings.label import FORMATS, USUAL, LabelFormat, LabelText


def label_format(text: str) -> LabelFormat:
    """The label format asked for; the usual one for anything else."""
    return FORMATS.get(text, FORMATS[USUAL])


@dataclass(frozen=True, slots=True)
class LabelChoices:
    """What the maker chose for a batch's label: words of their own, and a line for the day it is opened."""

    words: str
    opened: bool = False


def choices_of(batch: Batch, progress: Progress) -> LabelChoices:
    """What was written down last for its label; else what is usual for such a product."""
    for entry in reversed(progress.standing):
        if entry.kind is EntryKind.NOTE and "label_words" in entry.data:
            return LabelChoices(str(entry.data["label_words"]), bool(entry.data.get("opened")))
    return LabelChoices(" ".join(usual_label_words(progress.result.formula)))


def label_of(batch: Batch, progress: Progress, filling: Filling | None, address: str = "") -> LabelText:
    """The label of one bottle: product, strength with its basis, amounts, dates, number, cautions.

    The strength is the lower of label arithmetic and true strength, as measured.
    """
    result, chosen = progress.in_bottles, choices_of(batch, progress)
    strengths = [
        f"{active.name} {figures(active.lower)} {active.basis}" for active in result.actives if active.on_label
    ]
    cautions = cautions_of(progress)
    wait = next(reversed(batch.waits.all()), None)
    facts = [
        ("Made on", _day(batch.made_at)),
        ("Batch", batch.code),
        ("Keep by", _day(batch.keep_by)),
        ("Ready from", _hour(_ready(wait) if wait else batch.made_at)),
    ]
    if (start := began(progress)) is not None:
        facts.insert(0, ("Began on", _day(start)))
    dose = dose_of(progress.formula, progress.result)
    if dose is not None and filling is not None and (dose.said or batch.family == "laundry-soap"):
        fewest, _ = dose.times_in(filling.fill_mL)
        facts.append((f"{dose.of.capitalize()}s", f"about {int(fewest + 1e-9)}"))
    if chosen.opened:
        facts.append(("Opened on", "_" * 9))
    return LabelText(
        product=batch.name,
        strength=", ".join(strengths) or _unjudged(progress),
        contents=amount_words(filling.fill_mL if filling else result.total.volume_mL),
        facts=tuple(facts),
        cautions=tuple(caution.short for caution in cautions if caution.short),
        signal=next((caution.signal for caution in cautions if caution.signal), ""),
        address=address,
        notice=below_its_line(result),
        words=chosen.words,
        more=f"More: record of batch {batch.code}.",
        ingredients=f"Contents: {_contents(progress)}.",
    )


def _ready(wait: Wait) -> datetime:
    """When a rest was over: at its hour, or when it was ended before that."""
    return min(wait.free_at, wait.ended_at) if wait.ended_at else wait.free_at


def _unjudged(progress: Progress) -> str:
    """What stands in place of a strength: for a rub that there is none, for anything else what it is."""
    family = families()[progress.formula.family]
    return "No active counted" if family.rub or family.lines else family.name


def _contents(progress: Progress) -> str:
    """What is in it; of a ferment how much of each went in, as it is told apart by that."""
    lines = [line for i, line in enumerate(progress.in_bottles.formula.lines) if i not in taken_up(progress)]
    if progress.formula.family != "ferment":
        return ", ".join(dict.fromkeys(uncapped(line.material.name) for line in lines))
    worked = progress.result.lines
    return ", ".join(f"{weight_words(one.mass_g)} {uncapped(one.material.name)}" for one in worked)


def _day(moment: datetime | None) -> str:
    return f"{timezone.localtime(moment):%-d %b %Y}" if moment else "not yet"


def _hour(moment: datetime | None) -> str:
    return f"{timezone.localtime(moment):%-d %b %Y %H:%M}" if moment else "not yet"


def numbered(label: LabelText, batch: Batch, number: int, address: str) -> LabelText:
    """A label for one bottle: with its number, and a code that leads to its own page. Without a number as it is."""
    if not number:
        return label
    facts = tuple((name, f"{batch.code}-{number}" if name == "Batch" else value) for name, value in label.facts)
    return replace(label, facts=facts, address=address)
