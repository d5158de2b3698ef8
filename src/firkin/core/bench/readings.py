"""Judging what was read and seen of a batch: pH against its family's window, and plain scales for the rest."""

from dataclasses import dataclass

from firkin.core.catalogue import families
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
    "separation": ("Separation", ("none", "a thin layer", "two layers")),
}


@dataclass(frozen=True, slots=True)
class Judged:
    """How a reading stands: "within", "low" or "high", the sentence, and what to do."""

    verdict: str
    text: str
    advice: str = ""


def judge_ph(family: str, value: float) -> Judged | None:
    """A pH against the window of a family; None for a family that has none.

    >>> judge_ph("dish-liquid", 9.6).verdict, judge_ph("ferment", 3.7).verdict
    ('high', 'within')
    """
    window = families()[family].ph
    if not window:
        return None
    low, high = window
    span = f"{figures(low)} to {figures(high)}"
    if low <= value <= high:
        return Judged("within", f"pH {figures(value)} is within {span}.")
    if value < low:
        return Judged("low", f"pH {figures(value)} is below {span}.", families()[family].ph_low)
    return Judged("high", f"pH {figures(value)} is above {span}.", families()[family].ph_high)


def in_words(aspect: str, level: int) -> str:
    """A level of an aspect in its own words.

    >>> in_words("colour", 2)
    'yellow'
    """
    return ASPECTS[aspect][1][level]


def drifting(aspect: str, levels: list[int]) -> str:
    """What a series of levels over the days says, or nothing: yellowing, thinning, separating.

    >>> drifting("colour", [0, 1, 2]), drifting("colour", [0, 0])
    ('It yellows: check the pH. Too alkaline, it yellows in days.', '')
    """
    if len(levels) < 2 or levels[-1] == levels[0]:
        return ""
    worse = levels[-1] > levels[0]
    said = {
        ("colour", True): "It yellows: check the pH. Too alkaline, it yellows in days.",
        ("thickness", False): "It thins: salt over its peak, or a gel that alcohol breaks down.",
        ("thickness", True): "It thickens; gels do overnight.",
        ("separation", True): "It separates: shake before use, and look for oil or a thickener that does not hold.",
        ("clarity", True): "It clouds: hard water, or something that comes out of solution.",
        ("smell", True): "Its smell changes: what smells off has spoilt. Pour it away.",
        ("clumps", True): "It clumps: moist air got to it.",
    }
    return said.get((aspect, worse), "")
