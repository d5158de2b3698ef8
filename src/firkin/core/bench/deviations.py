"""Too much or too little of a line: how far it is off, and the ways to go on."""

from dataclasses import dataclass

from firkin.core.bench.approach import approach_of
from firkin.core.bench.journal import Entry, EntryKind
from firkin.core.bench.progress import Progress
from firkin.core.formula import Reckoning, overflows
from firkin.core.kitchen import TOLERANCE
from firkin.core.measures import Quantity, amount_words, figures, weight_words
from firkin.core.texts import uncapped

#: Of more than so many times the plan a batch is not scaled up: that is a slip, not another size (common practice, no
#: source).
_SCALED_MOST = 2.0


@dataclass(frozen=True, slots=True)
class Choice:
    """One way to go on after too much or too little: its word, what it comes to, whether it can be, what it adds."""

    key: str
    words: str
    result: Reckoning
    trouble: str = ""
    adds: str = ""


@dataclass(frozen=True, slots=True)
class Deviation:
    """A line measured otherwise than planned, and not decided on yet.

    ``factor`` is measured over planned, of a top-up that of the marks; ``scale`` by how much the whole batch would be
    scaled to match: of a top-up what was poured up to the mark over what was meant to be, None where none was.
    """

    entry: Entry
    line: int
    target: Quantity
    factor: float
    scale: float | None

    @property
    def over(self) -> bool:
        """True when it was too much."""
        return self.factor > 1.0

    @property
    def measured(self) -> Quantity:
        """What was measured."""
        assert self.entry.amount is not None
        return self.entry.amount

    @property
    def planned(self) -> Quantity:
        """What was planned, in the unit it was measured in."""
        return self.measured.times(1.0 / self.factor)

    @property
    def off_pct(self) -> float:
        """How far it is off, in per cent of the target."""
        return abs(self.factor - 1.0) * 100.0


@dataclass(frozen=True, slots=True)
class Vessel:
    """The vessel a batch is made in: its name, and what it holds in mL."""

    name: str
    volume_mL: float


def deviation_of(progress: Progress) -> Deviation | None:
    """The last line measured, when it is off by more than the tolerance and nothing was decided on it yet.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.

    >>> from datetime import UTC, datetime
    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> rub = house_formulas()["who-one"].formula
    >>> plan = plan_of(rub)
    >>> poured = Entry(1, EntryKind.POUR, datetime(2026, 5, 1, tzinfo=UTC), line=0,
    ...                amount=Quantity(916.6, "mL"), data={"planned": plan[0].g})
    >>> round(deviation_of(Progress(rub, plan, (poured,))).off_pct)
    10
    """
    kinds = (EntryKind.POUR, EntryKind.LEFT_OUT, EntryKind.DECIDE)
    last = next((e for e in reversed(progress.standing) if e.kind in kinds), None)
    if last is None or last.kind is not EntryKind.POUR or last.line is None or last.amount is None:
        return None
    found = _topped(progress, last) if last.level else _poured(progress, last)
    return found if found is not None and abs(found.factor - 1.0) > TOLERANCE else None


def _poured(progress: Progress, entry: Entry) -> Deviation | None:
    """An amount against what was planned for its line."""
    if entry.by_reading or entry.asked is None or entry.line is None or entry.amount is None:
        return None
    target = Quantity(progress.grams_asked(entry.line, entry), "g")
    factor = progress.grams(entry.line, entry.amount) / target.value if target.value else 1.0
    return Deviation(entry, entry.line, target, factor, factor)


def _topped(progress: Progress, entry: Entry) -> Deviation | None:
    """The mark that was topped up to, against the one to reach."""
    line, amount, make = progress.topping, entry.amount, progress.formula.make
    if line is None or amount is None or make is None or make.kind != amount.kind:
        return None
    target = make.times(progress.factor)
    value, asked = (amount.mL, target.mL) if amount.kind == "volume" else (amount.g, target.g)
    planned_g = progress.masses_of(progress.as_planned())[line]
    scale = progress.masses_g[line] / planned_g if planned_g and value > asked else None
    return Deviation(entry, line, target, value / asked, scale)


def choices(progress: Progress, deviation: Deviation, vessel: Vessel | None = None) -> list[Choice]:
    """The ways to go on, each with what the batch would come to.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.
        deviation: the line that is off, as deviation_of gives it.
        vessel: what it is made in; a fix that does not fit into it is not offered.

    >>> from datetime import UTC, datetime
    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> rub = house_formulas()["who-one"].formula
    >>> plan = plan_of(rub)
    >>> poured = Entry(1, EntryKind.POUR, datetime(2026, 5, 1, tzinfo=UTC), line=0,
    ...                amount=Quantity(916.6, "mL"), data={"planned": plan[0].g})
    >>> progress = Progress(rub, plan, (poured,))
    >>> [choice.key for choice in choices(progress, deviation_of(progress))]
    ['accept', 'scale']
    """
    found = [Choice("accept", "Leave it, and go on as planned", progress.result)]
    if not deviation.over:
        adds = ""
        if deviation.line != progress.topping:
            lacking = deviation.target.g - progress.grams(deviation.line, deviation.measured)
            adds = f"{_words(progress, deviation.line, lacking)} more"
        found.insert(0, Choice("add", "Add what is lacking", _with_the_rest(progress, deviation), adds=adds))
    others = progress.measured.keys() - {deviation.line}
    wanted = (deviation.over and others) or (progress.unfinished and not others)
    if deviation.scale is not None and wanted and _worth_scaling(progress, deviation):
        scaled = progress.reckoned(progress.as_planned(deviation.scale))
        size = scaled.total.volume_mL
        trouble = ""
        if vessel is not None and overflows(size, vessel.volume_mL):
            trouble = f"It comes to {figures(size)} mL, more than {vessel.name} holds."
        words = "Scale the whole batch to match" if others else "Scale everything still to come"
        found.append(
            Choice("scale", words, scaled, trouble, _additions(progress, deviation, deviation.scale) if others else "")
        )
    return found


def _worth_scaling(progress: Progress, deviation: Deviation) -> bool:
    """False for many times the plan, and for what goes in until a reading says enough: neither tells a size."""
    if deviation.line == progress.topping:
        return True
    before = progress.without(deviation.line)
    by_reading = approach_of(before, before.task_of(deviation.line)) is not None
    return deviation.factor <= _SCALED_MOST and not by_reading


def decided(choice: str, deviation: Deviation) -> dict[str, object]:
    """A decision as its entry's data holds it.

    Args:
        choice: the key of a choice.
        deviation: the line that is off, as deviation_of gives it.

    >>> from datetime import UTC, datetime
    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> rub = house_formulas()["who-one"].formula
    >>> plan = plan_of(rub)
    >>> poured = Entry(1, EntryKind.POUR, datetime(2026, 5, 1, tzinfo=UTC), line=0,
    ...                amount=Quantity(916.6, "mL"), data={"planned": plan[0].g})
    >>> decided("keep", deviation_of(Progress(rub, plan, (poured,))))
    {'factor': 1.0, 'whole': False}
    """
    if choice == "add":
        return {"factor": 1.0, "whole": False, "add": deviation.line}
    scaled = choice == "scale" and deviation.scale is not None
    return {"factor": deviation.scale if scaled else 1.0, "whole": scaled}


def _with_the_rest(progress: Progress, deviation: Deviation) -> Reckoning:
    """What the batch comes to when what is lacking is added."""
    last = progress.standing[-1]
    data = decided("add", deviation)
    return progress.after(Entry(last.number + 1, EntryKind.DECIDE, last.at, data=data)).result


def _additions(progress: Progress, deviation: Deviation, scale: float) -> str:
    """What scaling the whole batch puts in once more: "160 mL more ethanol"."""
    said = []
    for position, entry in progress.measured.items():
        if position in (deviation.line, progress.topping) or entry.amount is None or entry.asked is None:
            continue
        wanted = progress.grams_asked(position, entry) * progress.scaled_since[position] * scale
        missing = wanted - progress.grams(position, entry.amount)
        if missing > TOLERANCE * wanted:
            name = uncapped(progress.formula.lines[position].material.name)
            said.append(f"{_words(progress, position, missing)} more {name}")
    return ", ".join(said)


def _words(progress: Progress, position: int, grams: float) -> str:
    """So many grams of a line as it is measured."""
    planned = progress.plan[position]
    if progress.formula.lines[position].solid or planned.weighed or not planned.g:
        return weight_words(grams)
    return amount_words(grams * planned.mL / planned.g)
