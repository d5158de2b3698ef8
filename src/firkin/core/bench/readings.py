"""What an instrument's reading means for a batch: in its window, the strength it stands for, what was lost."""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from typing import Any

from firkin.core.bench.journal import EntryKind
from firkin.core.bench.progress import Progress
from firkin.core.bench.tasks import Task
from firkin.core.catalogue import families
from firkin.core.errors import CannotReckon
from firkin.core.formula import Reckoning
from firkin.core.measures import figures, read_number
from firkin.core.questions import stands_against, true_strength

#: How far an alcoholmeter may be off what was measured out, in points, before a slip is more likely than glycerol.
STEM_SLACK = 3.0  # common practice, no source
#: How much of a batch's weight may be missing before it is worth a word, in per cent.
MASS_SLACK_PCT = 3.0  # common practice, no source
#: Less of the water than this out of the cloth, in per cent, is not pressed out (common practice, no source).
YIELD_LOW_PCT = 75.0


@dataclass(frozen=True, slots=True)
class Readable:
    """What can be read: its name, its unit, the range of what an instrument shows, and an example."""

    name: str
    unit: str
    least: float
    most: float
    example: str = "7.2"


READINGS = {
    "ph": Readable("pH", "", 0.0, 14.0),
    "alcoholmeter": Readable("Alcoholmeter", "% v/v", 0.0, 100.0),
    "temperature": Readable("Temperature", "°C", -20.0, 120.0, "25"),
    "mass": Readable("Weight of the batch", "g", 0.1, 1_000_000.0, "1750"),
    "volume": Readable("Liquid that came of it", "mL", 1.0, 1_000_000.0, "1450"),
}


_SHOWN = re.compile(r"\s*(?:ph)?\s*([^a-z%°]*?)\s*(%(?:\s*v/v|\s*vol\.?)?|g|kg|ml|l|°?\s*c|degc)?\s*", re.IGNORECASE)


def read_shown(text: str) -> float:
    """What an instrument shows, in its own unit; kg become g, and L mL.

    Args:
        text: a number with or without its unit.

    Raises:
        CannotRead: for anything else.

    >>> [read_shown(text) for text in ("78 %", "490 g", "pH 6.5", "0.49 kg", "27 °C", "7,2", "1.4 L")]
    [78.0, 490.0, 6.5, 490.0, 27.0, 7.2, 1400.0]
    """
    found = _SHOWN.fullmatch(text)
    if found is None:
        return read_number(text)
    return read_number(found[1]) * (1000.0 if (found[2] or "").lower() in ("kg", "l") else 1.0)


_ASKED = {
    "ph": re.compile(r"\bpH\b"),
    "mass": re.compile(r"\bweigh the batch\b", re.IGNORECASE),
    "volume": re.compile(r"\bmeasure the liquid\b", re.IGNORECASE),
}


def asked_at(progress: Progress, task: Task) -> tuple[str, ...]:
    """What a task asks to be read while it is done: a pH or the weight its words speak of, a temperature it names.

    Before a preservative the batch is weighed, and what its window asks for is read.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.
        task: one of ``progress.tasks``.

    >>> from firkin.core.formula import house_formulas
    >>> from firkin.core.bench.planned import plan_of
    >>> soap = house_formulas()["bar-soap-liquid"].formula
    >>> progress = Progress(soap, plan_of(soap), ())
    >>> asked_at(progress, progress.tasks[-1])
    ('mass', 'temperature')
    """
    asked = [what for what, words in _ASKED.items() if words.search(task.text)]
    asked += ["temperature"] if task.temperature is not None else []
    material = None if task.line is None else progress.formula.lines[task.line].material
    if material is not None and "preservative" in material.roles:
        asked += ["mass"]
        asked += ["ph"] if material.preserves_to_ph is not None else []
        asked += ["temperature"] if material.preserves_below_C is not None else []
    return tuple(dict.fromkeys(asked))


@dataclass(frozen=True, slots=True)
class BeforePreserving:
    """What stands before a preservative goes in: against it, not read yet, and how it was weighed."""

    against: tuple[str, ...]
    unread: tuple[str, ...]
    weighed: str


def before_preserving(progress: Progress, task: Task) -> BeforePreserving | None:
    """What the readings since the last line went in say of the preservative a task adds; None for any other task.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.
        task: one of ``progress.tasks``.

    >>> from firkin.core.formula import house_formulas
    >>> from firkin.core.bench.planned import plan_of
    >>> soap = house_formulas()["bar-soap-liquid"].formula
    >>> progress = Progress(soap, plan_of(soap), ())
    >>> len(before_preserving(progress, progress.tasks[-1]).unread)
    2
    """
    if task.line is None or task.line in progress.measured:
        return None
    material = progress.formula.lines[task.line].material
    if "preservative" not in material.roles:
        return None
    against, unread = stands_against(
        material, progress.read_since_poured("ph"), progress.read_since_poured("temperature")
    )
    mass, share = progress.read_since_poured("mass"), progress.by_weighing(task.line)
    if mass is None:
        return BeforePreserving(against, ("The batch was not weighed: what is asked for is the plan’s.", *unread), "")
    if share is None:
        wrong = f"{figures(mass)} g cannot be what went in: was the vessel weighed with it? The plan’s amount is kept."
        return BeforePreserving((wrong, *against), unread, "")
    return BeforePreserving(against, unread, f"For the {figures(mass)} g it weighs now.")


class Stands(StrEnum):
    """How a reading stands."""

    WITHIN = "within"
    LOW = "low"
    HIGH = "high"
    UNSURE = "unsure"


@dataclass(frozen=True, slots=True)
class Judged:
    """How a reading stands, the sentence, and what to do."""

    verdict: Stands
    text: str
    advice: str = ""


def judge_ph(family: str, value: float) -> Judged | None:
    """A pH against the window of a family; None for a family that has none.

    >>> judge_ph("dish-liquid", 9.6).verdict.value, judge_ph("ferment", 3.7).verdict.value
    ('high', 'within')
    """
    window = families()[family].ph
    if not window:
        return None
    low, high = window
    span = f"{figures(low)} to {figures(high)}"
    if low <= value <= high:
        return Judged(Stands.WITHIN, f"pH {figures(value)} is within {span}.")
    if value < low:
        return Judged(Stands.LOW, f"pH {figures(value)} is too low ({span}).", families()[family].ph_low)
    return Judged(Stands.HIGH, f"pH {figures(value)} is too high ({span}).", families()[family].ph_high)


def judge_stem(result: Reckoning, reading_pct: float, celsius: float) -> Judged:
    """An alcoholmeter's reading against the strength of what was measured out.

    >>> from firkin.core.formula import house_formulas, reckon
    >>> rub = reckon(house_formulas()["who-one"].formula)
    >>> judge_stem(rub, 81.9, 25.0).verdict.value, judge_stem(rub, 70.0, 20.0).verdict.value
    ('within', 'low')
    """
    try:
        true, _ = true_strength(reading_pct, celsius)
    except CannotReckon as error:
        return Judged(Stands.UNSURE, str(error))
    active = result.active("ethanol")
    said = f"{figures(true, 3)} % v/v at 20 °C"
    if active is None:
        text = f"{said}. The stem is for ethanol and water; there is no ethanol in this batch."
        return Judged(Stands.UNSURE, text)
    text = f"{said}; computed {figures(active.true, 3)} %."
    gap = true - active.true
    if abs(gap) <= STEM_SLACK:
        return Judged(Stands.WITHIN, text, "Glycerol and gels bias it: it reads a little low.")
    advice = f"More than {STEM_SLACK:g} points off what was measured out: look for a slip, or read it again at rest."
    return Judged(Stands.HIGH if gap > 0 else Stands.LOW, text, advice)


def judge_mass(made: float, mass_g: float) -> Judged:
    """What a batch weighs against the grams that went in.

    >>> judge_mass(870.0, 800.0).verdict.value
    'low'
    """
    lost = made - mass_g
    share = 100.0 * lost / made
    within = abs(share) <= MASS_SLACK_PCT
    verdict = Stands.WITHIN if within else Stands.LOW if lost > 0 else Stands.HIGH
    return Judged(verdict, f"{figures(made)} g went in: {figures(abs(share), 2)} % {'lost' if lost >= 0 else 'more'}.")


def judge_yield(result: Reckoning, volume_mL: float) -> Judged:
    """What came of straining a batch against what went in: peel keeps some of the water, and gives none.

    >>> from firkin.core.formula import house_formulas, reckon
    >>> peel = reckon(house_formulas()["citrus-ferment"].formula)
    >>> judge_yield(peel, 1500.0).verdict.value, judge_yield(peel, 900.0).verdict.value
    ('within', 'low')
    """
    wet = sum(one.volume_mL for one in result.lines if not one.material.solid)
    share = 100.0 * volume_mL / wet if wet else 100.0
    text = f"{figures(volume_mL)} mL of liquid came of it, {figures(share, 2)} % of the water that went in."
    if volume_mL > result.total.volume_mL:
        return Judged(Stands.HIGH, text, f"That is more than all that went in, {figures(result.total.volume_mL)} mL.")
    if share < YIELD_LOW_PCT:
        return Judged(Stands.LOW, text, "The peel holds much of it still: press it out in the cloth.")
    return Judged(Stands.WITHIN, text)


def judge_reading(progress: Progress, data: Mapping[str, Any], number: int | None = None) -> Judged | None:
    """What a reading, as its entry's data holds it, means for its batch; None where it means nothing by itself.

    A weight is held against what had gone in before the entry of that number, without what stood in a cup then.
    """
    what, value = data["what"], float(data["value"])
    if what == "ph":
        return judge_ph(progress.formula.family, value)
    if what == "alcoholmeter":
        return judge_stem(progress.result, value, float(data.get("celsius", 20.0)))
    if what == "volume":
        return judge_yield(progress.result, value)
    if what != "mass":
        return None
    by_then = [entry for entry in progress.standing if number is None or entry.number < number]
    aside = Progress(progress.formula, progress.planned, by_then).aside
    went_in = sum(
        progress.masses_g[i]
        for i, entry in progress.measured.items()
        if (number is None or entry.number < number) and i not in aside
    )
    lost_since = 1.0 if number is None else progress.left_of(number)
    return judge_mass(went_in / lost_since, value) if went_in else None


def reading_words(data: Mapping[str, Any]) -> str:
    """A reading as the journal says it.

    Args:
        data: a reading as its entry holds it: ``what``, ``value`` in the instrument's own unit, ``celsius``.

    >>> reading_words({"what": "alcoholmeter", "value": 78.0, "celsius": 27.0})
    'Alcoholmeter 78 % v/v at 27 °C'
    """
    readable = READINGS[data["what"]]
    return f"{readable.name} {_shown(data)}"


def _shown(data: Mapping[str, Any]) -> str:
    warm = f" at {figures(float(data['celsius']))} °C" if "celsius" in data else ""
    return f"{figures(float(data['value']))} {READINGS[data['what']].unit}".strip() + warm


@dataclass(frozen=True, slots=True)
class Reading:
    """One reading as shown: what, when, the number with its unit, and what it means."""

    what: str
    at: datetime
    value: float
    words: str
    judged: Judged | None = None
    simulated: bool = False

    @property
    def name(self) -> str:
        """What was read, in words."""
        return READINGS[self.what].name


def readings_of(progress: Progress) -> list[Reading]:
    """Every reading that stands, in order, with what it means.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.

    >>> from datetime import UTC, datetime
    >>> from firkin.core.bench.journal import Entry, EntryKind
    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> soap = house_formulas()["dish-gentle"].formula
    >>> read = Entry(1, EntryKind.READING, datetime(2026, 5, 1, tzinfo=UTC), data={"what": "ph", "value": 7.0})
    >>> [(one.what, one.value) for one in readings_of(Progress(soap, plan_of(soap), [read]))]
    [('ph', 7.0)]
    """
    return [
        Reading(
            entry.data["what"],
            entry.at,
            float(entry.data["value"]),
            _shown(entry.data) + (" (simulated)" if entry.simulated else ""),
            SIMULATED if entry.simulated else judge_reading(progress, entry.data, entry.number),
            entry.simulated,
        )
        for entry in progress.standing
        if entry.kind is EntryKind.READING
    ]


def measured_of(progress: Progress) -> list[Reading]:
    """Every reading that stands and was really measured."""
    return [one for one in readings_of(progress) if not one.simulated]


def ph_within(progress: Progress) -> float | None:
    """The last measured pH, where it lies in the window of the family and nothing went in since; else None.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.

    >>> from datetime import UTC, datetime
    >>> from firkin.core.bench.journal import Entry, EntryKind
    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> soap = house_formulas()["dish-gentle"].formula
    >>> day = datetime(2026, 5, 1, tzinfo=UTC)
    >>> read = [Entry(1, EntryKind.READING, day, data={"what": "ph", "value": ph}) for ph in (7.0, 11.0)]
    >>> [ph_within(Progress(soap, plan_of(soap), [one])) for one in read]
    [7.0, None]
    """
    value = progress.read_since_poured("ph")
    judged = judge_ph(progress.formula.family, value) if value is not None else None
    return value if judged is not None and judged.verdict is Stands.WITHIN else None


#: Findings by mole that a measured pH answers.
BY_MOLE = frozenset({"acid-left", "caustic-left", "acid-not-neutralised"})


#: What is said of what a simulated instrument showed.
SIMULATED = Judged(Stands.UNSURE, "Simulated, so it counts for nothing.", "Read it with a real instrument.")
