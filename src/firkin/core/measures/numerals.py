"""Reading numbers as people write them, and writing them as people read them."""

import math
import re
import unicodedata
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from decimal import ROUND_CEILING, ROUND_FLOOR, Decimal

from firkin.core.errors import CannotRead
from firkin.core.texts import quoted

_VULGAR = "¼½¾⅐⅑⅒⅓⅔⅕⅖⅗⅘⅙⅚⅛⅜⅝⅞"
_DECIMAL = r"[1-9]\d{0,2}(?:[ \u00a0\u202f\u2009]\d{3})+(?![\d/⁄])|\d+(?:[.,]\d+)*|[.,]\d+"
_FRACTION = r"\d+\s*[/⁄]\s*\d+"

#: A number at the start of a text: "2 1/4", "2¼", "½", "3,45", ".5", "1/2", "-3".
NUMBER = re.compile(rf"[-−+]?(?:(?:\d+[\s-]+)?{_FRACTION}|(?:\d+\s*)?[{_VULGAR}]|(?:{_DECIMAL}))", re.ASCII)

#: A fraction that stands close to its whole number: "11/2".
_CLOSE = re.compile(r"[1-9][1-9]/[2348]", re.ASCII)

LARGEST = 1e9
SMALLEST = 1e-9

#: How whoever reads and writes just now marks decimals: "." or ","; empty where nobody said.
_mark: ContextVar[str] = ContextVar("decimal mark", default="")


@contextmanager
def decimal_mark(mark: str) -> Iterator[None]:
    """Within it, numbers are shown with this decimal mark, and "1,500" is read by it rather than refused.

    Files keep to the point, whatever is set. An empty mark is nobody's.

    Args:
        mark: "." or ","; empty for none of its own.

    >>> with decimal_mark(","):
    ...     figures(833.3), read_number("1,500")
    ('833,3', 1.5)
    >>> with decimal_mark("."):
    ...     figures(833.3), read_number("1,500")
    ('833.3', 1500.0)
    """
    token = _mark.set(mark)
    try:
        yield
    finally:
        _mark.reset(token)


def read_number(text: str) -> float:
    """Read one number: decimals with point or comma, fractions, mixed and unicode fractions.

    A comma followed by exactly three digits ("1,500") can mean 1500 or 1.5; it is refused rather than guessed (see
    doubt_points for "1.500"). Thousands may stand apart ("1 500"), and a fraction close to its whole number ("11/2"
    for 1 1/2, as nobody measures eleven halves).

    Args:
        text: a number as somebody types it.

    Raises:
        CannotRead: for anything else.

    >>> [read_number(t) for t in ("2 1/4", "2¼", "½", "3,45", "1.000,5", "0,125")]
    [2.25, 2.25, 0.5, 3.45, 1000.5, 0.125]
    >>> [read_number(t) for t in ("1 500", "11/2", "3/4")]
    [1500.0, 1.5, 0.75]
    """
    cleaned = text.strip().replace("\u2044", "/").replace("−", "-")
    if not cleaned or not NUMBER.fullmatch(cleaned):
        raise CannotRead(f"{quoted(text)} is not a number. Write 2.5, 2,5, 2 1/2 or ½.")
    sign = -1.0 if cleaned[0] == "-" else 1.0
    cleaned = cleaned.lstrip("+-").strip()
    if cleaned[-1] in _VULGAR:
        value = float(cleaned[:-1].strip() or 0) + unicodedata.numeric(cleaned[-1])
    elif "/" in cleaned:
        value = _read_fraction(cleaned)
    else:
        value = _read_decimal(cleaned)
    if value and not SMALLEST <= value <= LARGEST:
        raise CannotRead(f"{text.strip()[:40]} is outside what a bench can hold.")
    return sign * value


_POINTED = re.compile(r"(?<![\d.,])[1-9]\d{0,2}\.\d\d0(?![\d.,])", re.ASCII)


_ROUND = re.compile(r"(?<![\d.,])[1-9]\d{0,2}\.000(?![\d.,])", re.ASCII)


def doubt_points(text: str, *, round_only: bool = False) -> None:
    """Refuse what a person types like "1.500 mL": the point can part thousands.

    In a file only "1.000" is refused (``round_only``): "1,000" is asked about there too, and "1.500" is written by
    programs.

    Args:
        text: a number with its unit, as typed.
        round_only: True for what stands in a file.

    Raises:
        CannotRead: with both ways to read it.

    >>> doubt_points("1.5 mL"), doubt_points("0.500 L"), doubt_points("1.125 lb")
    (None, None, None)
    """
    found = (_ROUND if round_only else _POINTED).search(text)
    if found is not None:
        said = found.group()
        decimal = said.rstrip("0").rstrip(".")
        raise CannotRead(f"“{said}” can be read as {said.replace('.', '')} or as {decimal}. Write which.")


def _read_fraction(text: str) -> float:
    top, bottom = text.split("/")
    if int(bottom) == 0:
        raise CannotRead(f"{text} divides by zero.")
    whole, *rest = re.split(r"[\s-]+", top.strip())
    if not rest and _CLOSE.fullmatch(text.replace(" ", "")) and int(whole[1]) < int(bottom):
        whole, rest = whole[0], [whole[1]]
    if rest:
        return int(whole) + int(rest[0]) / int(bottom)
    return int(whole) / int(bottom)


def _read_decimal(text: str) -> float:
    text = re.sub(r"\s", "", text)
    if len(text) > 24:
        raise CannotRead("That number has more digits than anyone can measure.")
    points, commas = text.count("."), text.count(",")
    if points and commas:
        decimal = max(".", ",", key=text.rfind)
        grouping = "," if decimal == "." else "."
        text = text.replace(grouping, "")
        if text.count(decimal) > 1:
            raise CannotRead(f"“{text}” has two decimal marks.")
        return float(text.replace(",", "."))
    if points > 1 or commas > 1:
        if re.fullmatch(r"\d{1,3}(?:([.,])\d{3})(?:\1\d{3})+", text):
            return float(text.replace(".", "").replace(",", ""))
        raise CannotRead(f"“{text}” has two decimal marks.")
    if re.fullmatch(r"[1-9]\d{0,2},\d{3}", text) and _mark.get() != ",":
        if _mark.get() == ".":
            return float(text.replace(",", ""))
        plain = text.replace(",", "")
        raise CannotRead(f"“{text}” can be read as {plain} or as {text.replace(',', '.')}. Write it without the comma.")
    return float(text.replace(",", "."))


def rounded_up(value: float, digits: int = 4) -> float:
    """The next number of ``digits`` significant figures that is not below ``value``: for "at least".

    Args:
        value: the number.
        digits: significant figures.

    >>> rounded_up(82.1052), rounded_up(6.0)
    (82.11, 6.0)
    """
    return _rounded(value, digits, ROUND_CEILING)


def rounded_down(value: float, digits: int = 4) -> float:
    """The next number of ``digits`` significant figures that is not above ``value``: for "at most".

    Args:
        value: the number.
        digits: significant figures.

    >>> rounded_down(0.41667), rounded_down(4.9466, 3)
    (0.4166, 4.94)
    """
    return _rounded(value, digits, ROUND_FLOOR)


def _rounded(value: float, digits: int, way: str) -> float:
    """Rounded one way; twelve figures first, so that the noise of floats does not count."""
    number = Decimal(f"{value:.12g}")
    if not number:
        return 0.0
    return float(number.quantize(Decimal(1).scaleb(number.adjusted() + 1 - digits), rounding=way))


def rounded(value: float, digits: int = 4) -> float:
    """The number that ``figures`` shows.

    Args:
        value: the number.
        digits: significant figures.

    >>> rounded(833.3333), rounded(15000.4)
    (833.3, 15000.0)
    """
    return float(plain_figures(value, digits))


def figures(value: float, digits: int = 4) -> str:
    """Write a number with at most ``digits`` significant figures, no exponent, no spare zeros.

    The decimal mark is a point, or what decimal_mark says.

    Args:
        value: the number.
        digits: significant figures.

    >>> [figures(v) for v in (833.3333, 0.125, 1020.06, 70.0, 0.00012, 15000.4)]
    ['833.3', '0.125', '1020', '70', '0.00012', '15000']
    """
    text = plain_figures(value, digits)
    return text.replace(".", ",") if _mark.get() == "," else text


def plain_figures(value: float, digits: int = 4) -> str:
    """As figures, always with a point: for files, and for what is read again.

    Args:
        value: the number.
        digits: significant figures.

    >>> with decimal_mark(","):
    ...     figures(833.33), plain_figures(833.33)
    ('833,3', '833.3')
    """
    if value == 0 or not math.isfinite(value):
        return "0" if value == 0 else "—"
    places = max(0, digits - 1 - math.floor(math.log10(abs(value))))
    text = f"{value:.{min(places, 9)}f}"
    if "." in text:
        text = text.rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text
