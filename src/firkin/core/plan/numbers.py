"""Numbers and times as people say them in prose: "half an hour", "an hour and a half", "a day and a night"."""

import re
from dataclasses import dataclass

_UNITS = {
    "second": 1 / 3600, "sec": 1 / 3600, "minute": 1 / 60, "min": 1 / 60, "hour": 1.0, "hr": 1.0, "h": 1.0, "std": 1.0,
    "stunde": 1.0, "day": 24.0, "d": 24.0, "tag": 24.0, "night": 12.0, "week": 168.0, "fortnight": 336.0,
    "month": 720.0, "year": 8766.0,
}  # fmt: skip
_WORDS = (
    "nought", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve",
    "thirteen", "fourteen", "fifteen", "sixteen", "seventeen", "eighteen", "nineteen",
)  # fmt: skip
_TENS = ("twenty", "thirty", "forty", "fifty", "sixty", "seventy", "eighty", "ninety")
NUMBERS: dict[str, float] = {
    **{word: float(value) for value, word in enumerate(_WORDS)},
    **{word: 10.0 * value for value, word in enumerate(_TENS, 2)},
    "a": 1.0, "an": 1.0, "half": 0.5, "couple": 2.0, "dozen": 12.0, "few": 3.0, "hundred": 100.0, "too": 2.0,
    "for": 4.0, "quarter": 0.25, "half a": 0.5, "half an": 0.5, "a couple of": 2.0, "a few": 3.0, "a dozen": 12.0,
    "three quarters of an": 0.75, "a quarter of an": 0.25, "quarter of an": 0.25,
}  # fmt: skip
#: Dictation writes "two" as "too" and "four" as "for"; "too" before a unit can be nothing else.
_SPELT = "|".join(sorted((re.escape(word) for word in NUMBERS if word not in ("for", "too")), key=len, reverse=True))
_ONES = "|".join(_WORDS[1:10])
_FIGURE = r"\d{1,6}(?:[.,]\d{1,4})?"
_NUMBER = rf"(?:{_FIGURE}(?:\s*(?:-|–|to)\s*{_FIGURE})?|½|(?:{_SPELT}|too)(?:[- ](?:{_ONES}))?)"
_UNIT = (
    r"(?:seconds?|secs?|minutes?|mins?|hours?|hrs?|stunden?|days?|tagen?|tage|nights?|weeks?|fortnights?|months?"
    r"|years?)"
)
_TIME = re.compile(
    rf"(?P<figure>{_FIGURE})\s*(?P<short>h|d|std)\b"
    rf"|(?P<number>{_NUMBER})(?:\s+(?:full|whole|more|good|long|solid|entire))?[\s-]*(?P<unit>{_UNIT})\b"
    r"(?P<half>\s+and a half)?(?P<night>\s+and a night)?"
)
_WHOLE = {
    "overnight": 12.0, "over night": 12.0, "über nacht": 12.0, "till tomorrow": 24.0, "until tomorrow": 24.0,
    "to tomorrow": 24.0, "till the next day": 24.0, "until the next day": 24.0,
    "until tomorrow morning": 12.0, "till tomorrow morning": 12.0,
    "the next day": 24.0, "next day": 24.0,
    "till morning": 12.0, "until morning": 12.0, "until the morning": 12.0, "till the morning": 12.0,
    "the whole night": 12.0, "for the night": 12.0, "it the night": 12.0, "all night": 12.0, "through the night": 12.0,
    "fortnight": 336.0, "a fortnight": 336.0, "day two": 24.0,
    "by morning": 12.0, "by the morning": 12.0, "by the next morning": 12.0,
    "the same time tomorrow": 24.0, "this time tomorrow": 24.0, "go to bed": 12.0,
}  # fmt: skip
_SAID_WHOLE = re.compile("|".join(rf"\b{word}\b" for word in sorted(_WHOLE, key=len, reverse=True)))


@dataclass(frozen=True, slots=True)
class Time:
    """A time told in a text: from ``start`` to ``end``, in hours."""

    start: int
    end: int
    hours: float


def number_of(text: str) -> float:
    """A number in figures or words; 0 for what is none.

    Args:
        text: a number, below a hundred where it is in words.

    >>> number_of("forty-five"), number_of("half an"), number_of("1.5"), number_of("10-12")
    (45.0, 0.5, 1.5, 10.0)
    """
    text = text.strip().lower()
    if text == "½":
        return 0.5
    figure = re.match(r"\d+(?:[.,]\d+)?", text)
    if figure is not None:
        return float(figure.group().replace(",", "."))
    if text in NUMBERS:
        return NUMBERS[text]
    tens, _, ones = text.replace("-", " ").rpartition(" ")
    return NUMBERS.get(tens, 0.0) + NUMBERS.get(ones, 0.0)


def times_in(plain: str, start: int, end: int) -> list[Time]:
    """The times a stretch of a text tells, in their order.

    >>> [(time.hours) for time in times_in("leave it an hour and a half, then overnight", 0, 43)]
    [1.5, 12.0]
    """
    found = [Time(one.start(), one.end(), _WHOLE[one.group()]) for one in _SAID_WHOLE.finditer(plain, start, end)]
    for one in _TIME.finditer(plain, start, end):
        if (one.start() and plain[one.start() - 1].isalnum()) or any(t.start <= one.start() < t.end for t in found):
            continue
        unit = one["short"] or one["unit"].rstrip("s")
        unit = {"stunden": "stunde", "tagen": "tag", "tage": "tag"}.get(unit, unit)
        hours = (number_of(one["figure"] or one["number"]) + (0.5 if one["half"] else 0.0)) * _UNITS[unit]
        found.append(Time(one.start(), one.end(), 24.0 if one["night"] and unit == "day" else hours))
    return sorted(found, key=lambda time: time.start)
