"""One line off a bottle's label or a till slip: what it is, how strong, how much, how many, and what was paid.

What a shop writes (a price, a lot, a date, a grade, how many) is taken out by its form; the rest is read as a line of a
recipe. What was not understood is named.
"""

import calendar
import re
from dataclasses import dataclass
from datetime import date
from decimal import Decimal

from firkin.core.measures import Quantity, Strength
from firkin.core.recipe.reader import read_recipe
from firkin.core.recipe.recipe import HeardLine


@dataclass(frozen=True, slots=True)
class Label:
    """A purchase as read: ``count`` bottles of one kind, and what was paid for all of them, or with ``each`` for one.

    ``unread`` are the words and figures that were not understood.
    """

    line: HeardLine | None
    count: int = 1
    price: Decimal | None = None
    each: bool = False
    lot: str = ""
    shop: str = ""
    grade: str = ""
    best_before: date | None = None
    unread: tuple[str, ...] = ()

    @property
    def material(self) -> str:
        """What it is, by its id; empty where that was not read."""
        return self.line.material.written if self.line is not None else ""

    @property
    def strength(self) -> Strength | None:
        """How strong it is by its label."""
        return self.line.strength if self.line is not None else None

    @property
    def amount(self) -> Quantity | None:
        """How much one bottle holds."""
        return self.line.amount if self.line is not None else None

    @property
    def price_each(self) -> Decimal | None:
        """What one bottle cost; None without a price."""
        if self.price is None or self.each:
            return self.price
        return (self.price / self.count).quantize(Decimal("0.01"))


_FIGURE = r"\d{1,6}(?:[.,]\d{1,2})?"
_SIGN = r"(?:[£€$]|\b(?:EUR|GBP|USD|CHF|AUD|CAD|NZD)\b)"
_UNIT = (
    r"(?:[cdm]?l|lit(?:re|er)s?|m?g|kg|kilos?|grams?|oz|ounces?|lbs?|pounds?|fl|gal(?:lon)?s?|pints?|pt|quarts?|qt|proof"
    r"|vol|ppm|per ?cent|pct|cups?|tsp|tbsp|degrees?|x|×)"
)
_PRICES = (
    re.compile(rf"{_SIGN}\s*(?P<price>{_FIGURE})(?!\d)", re.IGNORECASE),
    re.compile(rf"(?P<price>{_FIGURE})\s*{_SIGN}", re.IGNORECASE),
    re.compile(r"\b(?P<pence>\d{1,3})\s?[pc]\b", re.IGNORECASE),
    re.compile(rf"\b(?:for|paid|price|cost)\s+(?P<price>{_FIGURE})\b(?!\s*(?:%|[a-z]))", re.IGNORECASE),
    # a bare figure with two places, or at the very end: what a unit follows is an amount
    re.compile(rf"(?<![\w.,/-])(?P<price>\d{{1,5}}[.,]\d{{2}})(?![\d.,]|\s*(?:%|{_UNIT}\b))", re.IGNORECASE),
    re.compile(r"(?<=[a-z%)] )(?P<price>\d{1,4}(?:[.,]\d{1,2})?)\s*$", re.IGNORECASE),
)  # fmt: skip
_EACH = re.compile(r"\b(?:each|apiece|a piece|per (?:bottle|bag|box|tub|can|pack|bar|tin))\b", re.IGNORECASE)
_FOR_ALL = re.compile(r"\b(?:for (?:all|both|the lot|the (?:two|three|four|six|pair))|altogether|in all|total)\b", re.I)
_LOT = re.compile(
    r"\b(?:lot|batch|charge|LOT)\b\.?\s*(?:no\b\.?|number|nr\b\.?|#)?\s*:?\s*(?P<lot>(?=[\w/-]*\d)[A-Za-z0-9][\w/-]{0,29})",
    re.IGNORECASE,
)
_BEST = re.compile(
    r"\b(?:best (?:before|by)(?: end)?|use by|bbe?|exp(?:iry|ires|\.)?(?: date)?)\b\.?\s*:?\s*"
    r"(?:(?P<y1>20\d\d)[-/.](?P<m1>\d{1,2})(?:[-/.](?P<d1>\d{1,2}))?"
    r"|(?:(?P<d2>\d{1,2})[-/.])?(?P<m2>\d{1,2})[-/.](?P<y2>20\d\d))(?!\d)",
    re.IGNORECASE,
)
_GRADE = re.compile(
    r"\b(?:(?:USP|BP|EP|Ph\.? ?Eur\.?|FCC|ACS|food|technical|tech|cosmetic|lab(?:oratory)?|reagent|pharma(?:ceutical)?"
    r"|industrial)(?:[ -]grade)|USP|BP|FCC)\b",
    re.IGNORECASE,
)
_SHOP = re.compile(
    r"[,;]?\s*\b(?:bought (?:at|from|in)|from|at)\s+(?P<shop>[^,;\d]{2,60}?)\s*(?=$|[,;]|\d)", re.IGNORECASE
)
_NUMBERS = ("two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve")
_WORDS = {word: number for number, word in enumerate(_NUMBERS, 2)}
_THING = (
    r"(?:bottles?|bags?|boxes|box|tubs?|cans?|tins?|packs?|jars?|cartons?|canisters?|pieces?|of (?:them|these)|off)"
)
_MANY = rf"(?:\d{{1,3}}|{'|'.join(_WORDS)})"
_COUNTS = (
    re.compile(rf"(?<![\w.,])(?P<count>{_MANY})\s*[x×]\s*(?=[\d½¼¾a-z])", re.IGNORECASE),
    re.compile(rf"\s[x×]\s*(?P<count>{_MANY})\b(?!\s*(?:%|mL\b|L\b|g\b|kg\b))", re.IGNORECASE),
    re.compile(rf"(?<![\w.,])(?P<count>{_MANY})\s+{_THING}\b(?:\s+of\b)?", re.IGNORECASE),
    # "two 500 g bags of", "12 bars of soap 100 g each": a number word before an amount, or of bars
    re.compile(rf"^\s*(?P<count>{'|'.join(_WORDS)})\s+(?=\d)", re.IGNORECASE),
    re.compile(rf"(?<![\w.,])(?P<count>{_MANY})\s+(?=bars?\b)", re.IGNORECASE),
)
_PACKED = re.compile(rf"\b{_THING}\b(?:\s+of\b)?", re.IGNORECASE)
_BARS = re.compile(r"\bbars? of (?:\w+ )?soap\b", re.IGNORECASE)
_EMPTY = re.compile(r"^[\s,;:()·-]*$")


def read_label(text: str, household: str = "metric") -> Label:
    """A line as written on a label or a slip. What cannot be read is left out, and named in ``unread``.

    ``household`` says whose cups, pints and ounces they are (kitchens: metric, us, imperial, australian).

    Args:
        text: one line of a label or a slip.
        household: one of household.measures().

    >>> label = read_label("2 x 1 kg washing soda 3.40")
    >>> label.material, label.amount.words, label.count, str(label.price_each)
    ('washing-soda', '1 kg', 2, '1.70')
    """
    rest = f" {text.strip()[:300]} "
    best, rest = _taken(_BEST, rest)
    lot, rest = _taken(_LOT, rest)
    grade, rest = _taken(_GRADE, rest)
    shop, rest = _taken(_SHOP, rest)
    price, rest = _first(_PRICES, rest)
    for_all, rest = _taken(_FOR_ALL, rest)
    each, rest = _taken(_EACH, rest)
    count, rest = _first(_COUNTS, rest)
    rest = _PACKED.sub(" ", _BARS.sub("bar soap", rest))
    read = read_recipe(re.sub(r"(?:\s*[,;])+\s*(?=$)|\s{2,}", " ", rest).strip(" ,;"), household)
    line = read.lines[0] if read.lines else None
    more = [said for one in read.lines[1:] if (said := one.said or one.material.name)]
    unread = [words for words in (*read.unread, *more) if not _EMPTY.match(words)]
    return Label(
        line,
        _many(count["count"]) if count else 1,
        _money(price) if price else None,
        each is not None and count is not None and price is not None and for_all is None,
        lot["lot"] if lot else "",
        " ".join(shop["shop"].split()) if shop else "",
        grade[0] if grade else "",
        _day(best) if best else None,
        tuple(unread),
    )


def _taken(form: re.Pattern[str], text: str) -> tuple[re.Match[str] | None, str]:
    """The first piece of a form, and the text without it."""
    found = form.search(text)
    return found, text if found is None else f"{text[: found.start()].rstrip()} {text[found.end() :].lstrip()}"


def _first(forms: tuple[re.Pattern[str], ...], text: str) -> tuple[re.Match[str] | None, str]:
    for form in forms:
        found, rest = _taken(form, text)
        if found is not None:
            return found, rest
    return None, text


def _many(word: str) -> int:
    return max(1, int(word) if word.isascii() and word.isdigit() else _WORDS.get(word.lower(), 1))


def _money(found: re.Match[str]) -> Decimal:
    groups = found.groupdict()
    if groups.get("pence"):
        return Decimal(groups["pence"]) / 100
    return Decimal(groups["price"].replace(",", "."))


def _day(found: re.Match[str]) -> date | None:
    """The last day that is meant: of a month, its last; None for what is no day."""
    year, month = int(found["y1"] or found["y2"]), int(found["m1"] or found["m2"])
    day = found["d1"] or found["d2"]
    if not 1 <= month <= 12:
        return None
    last = calendar.monthrange(year, month)[1]
    return date(year, month, int(day)) if day and 1 <= int(day) <= last else None if day else date(year, month, last)
