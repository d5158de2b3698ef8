"""What is seen of a batch over the days: scales of words, what a series says, what stands against filling."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime

from firkin.core.bench.method import cautions_for
from firkin.core.bench.progress import Progress
from firkin.core.bench.readings import Stands, measured_of
from firkin.core.catalogue import families, rule_lines
from firkin.core.measures import figures

#: What is looked at, each on a scale of words; the first word of each is as it should be for most products.
ASPECTS: dict[str, tuple[str, tuple[str, ...]]] = {
    "thickness": ("Thickness", ("like water", "thin", "flows", "thick", "a firm gel")),
    "clarity": ("Clarity", ("clear", "hazy", "cloudy")),
    "colour": ("Colour", ("as made", "a shade darker", "yellow", "brown")),
    "smell": ("Smell", ("as it should", "faint", "off")),
    "foam": ("Foam", ("none", "little", "good")),
    "residue": ("Residue", ("none", "a film", "much")),
    "clumps": ("Clumps", ("none", "a few", "many")),
    "gas": ("Gas when vented", ("none", "a little", "strong")),
    "mould": ("Mould", ("none", "a white film", "green, black or fuzzy")),
    "separation": ("Separation", ("none", "a thin layer", "two layers")),
}
_DRIFTS = {
    ("colour", True): "It is turning yellow. Check the pH: too alkaline, it yellows in days.",
    ("thickness", False): "It is getting thinner. Too much salt does that, and so does alcohol in a gel.",
    ("thickness", True): "It is getting thicker. Gels do that overnight.",
    ("separation", True): "It is separating. Shake it before use. Oil does that, or a thickener that doesn't hold.",
    ("clarity", True): "It is going cloudy. Hard water does that, or something that no longer dissolves.",
    ("smell", True): "It smells different. If it smells off it has spoilt: pour it away.",
    ("gas", False): "Less gas. A ferment slows down towards its end.",
    (
        "mould",
        True,
    ): "Something is growing on it. Take a white film off, push the peel under, and look again in two days.",
    ("clumps", True): "It is clumping. Moist air got in.",
}
#: What a single look says, whatever was seen before.
_ALARMS = {
    ("mould", 2): "Coloured or fuzzy mould: it has gone wrong. Pour it away, and do not breathe it in.",
    ("smell", 2): "It smells off: it has spoilt. Pour it away.",
}
#: Drifts that are as they should be.
_WANTED = {("thickness", True), ("gas", False), ("gas", True)}
_DAY_S = 86_400.0


def in_words(aspect: str, level: int) -> str:
    """A level of an aspect in its own words.

    >>> in_words("colour", 2)
    'yellow'
    """
    return ASPECTS[aspect][1][level]


def seen_words(seen: Mapping[str, int]) -> str:
    """A look in words.

    Args:
        seen: level of each aspect that was looked at, from 0.

    >>> seen_words({"thickness": 1, "colour": 2})
    'thickness: thin, colour: yellow'
    """
    return ", ".join(f"{ASPECTS[aspect][0].lower()}: {in_words(aspect, level)}" for aspect, level in seen.items())


def drifting(aspect: str, levels: list[int]) -> str:
    """What a series of levels over the days says, or nothing: yellowing, thinning, separating.

    >>> drifting("colour", [0, 1, 2]), drifting("colour", [0, 0])
    ('It is turning yellow. Check the pH: too alkaline, it yellows in days.', '')
    """
    if levels and (aspect, levels[-1]) in _ALARMS:
        return _ALARMS[aspect, levels[-1]]
    if len(levels) < 2 or levels[-1] == levels[0]:
        return ""
    return _DRIFTS.get((aspect, levels[-1] > levels[0]), "")


@dataclass(frozen=True, slots=True)
class Series:
    """One aspect over the days: day and level of each look, its words, what the whole says, and whether it worries."""

    aspect: str
    name: str
    points: tuple[tuple[float, int], ...]
    words: tuple[str, ...]
    says: str
    worries: bool


def looked_at(family: str) -> tuple[str, ...]:
    """What is looked at of a family's products, the likeliest to change first.

    Args:
        family: id of a family, such as "liquid-rub"; one that is not known counts as "other".

    >>> looked_at("dishwasher-powder")
    ('clumps', 'residue', 'colour')
    """
    return families()[family].looks


def series_of(progress: Progress, begun: datetime) -> list[Series]:
    """The aspects looked at, each over the days since the batch was made.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.
        begun: when the batch was made, with its time zone.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> made = house_formulas()["bar-soap-liquid"].formula
    >>> progress = Progress(made, plan_of(made), ())
    >>> from datetime import UTC, datetime
    >>> series_of(progress, datetime(2026, 5, 1, tzinfo=UTC))
    []
    """
    usual = families()[progress.formula.family].usual_drifts
    looks: dict[str, list[tuple[float, int]]] = {}
    for entry in progress.standing:
        day = max(0.0, (entry.at - begun).total_seconds() / _DAY_S)
        for aspect, level in entry.seen.items():
            if aspect in ASPECTS:
                looks.setdefault(aspect, []).append((day, level))
    found = []
    for aspect, (name, words) in ASPECTS.items():
        if aspect in looks:
            levels = [level for _, level in looks[aspect]]
            says = "" if aspect in usual else drifting(aspect, levels)
            worries = bool(says) and (aspect, levels[-1] > levels[0]) not in _WANTED
            found.append(Series(aspect, name, tuple(looks[aspect]), words, says, worries))
    return found


def worries(progress: Progress, begun: datetime) -> list[str]:
    """What stands against bottling a batch: a verdict it fails, the last reading out of its window, a drift.

    Args:
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.
        begun: when the batch was made, with its time zone.

    >>> from firkin.core.bench.planned import plan_of
    >>> from firkin.core.formula import house_formulas
    >>> made = house_formulas()["bar-soap-liquid"].formula
    >>> progress = Progress(made, plan_of(made), ())
    >>> from datetime import UTC, datetime
    >>> worries(progress, datetime(2026, 5, 1, tzinfo=UTC))
    ['The pH was not read; it should be 8.5 to 10.5. Read it first.']
    """
    said = [
        f"{rule_lines()[judged.guideline].name}: {judged.verdict.replace('-', ' ')}."
        for judged in progress.result.verdicts
        if judged.verdict.fails
    ]
    last = {reading.what: reading.judged for reading in measured_of(progress) if reading.what != "mass"}
    said += [
        f"{judged.text} {judged.advice}".strip()
        for judged in last.values()
        if judged is not None and judged.verdict in (Stands.LOW, Stands.HIGH)
    ]
    if progress.strained and progress.yield_mL is None:
        went_in = figures(progress.made_mL)
        said.append(f"What came of straining it was not measured: {went_in} mL is what went in, peel and all.")
    said += [one.text for one in cautions_for(progress.formula) if one.id == "oxygen-bleach-closed"]
    window = families()[progress.formula.family].ph
    if window and "ph" not in last:
        said.append(f"The pH was not read; it should be {figures(window[0])} to {figures(window[1])}. Read it first.")
    return said + [series.says for series in series_of(progress, begun) if series.worries]
