"""Amounts that are one: added up, or said twice."""

import re
from dataclasses import replace

from firkin.core.measures import Quantity
from firkin.core.recipe.said import Amount
from firkin.core.recipe.spans import Span

_SMALLER = {
    "lb": ("oz",),
    "kg": ("g",),
    "L": ("mL",),
    "gal": ("quart", "pint", "cup"),
    "quart": ("pint", "cup"),
    "pint": ("floz",),
}


def merged(spans: list[Span]) -> list[Span]:
    """Amounts that are one: "1 lb 2 oz", "1 cup plus 2 tbsp", "2 cups (480 mL)", "1.5 cups = 12 oz"."""
    merged: list[Span] = []
    at = 0
    while at < len(spans):
        span = spans[at]
        last = merged[-1] if merged else None
        ahead = spans[at + 1] if at + 1 < len(spans) else None
        if last is not None and last.kind == "amount":
            bottles = _bottles(last, spans[at : at + 2])
            if bottles is not None:
                merged[-1], at = bottles, at + 2
                continue
            if span.kind == "amount" and _smaller(last, span):
                merged[-1] = _sum(last, span)
                at += 1
                continue
            if ahead is not None and ahead.kind == "amount" and span.text in ("+", "plus", "and"):
                alone = not (at + 2 < len(spans) and span.text != "and" and spans[at + 2].kind == "amount")
                if alone and _summable(last, ahead, span.text):
                    merged[-1] = _sum(last, ahead)
                    at += 2
                    continue
            again = _again(spans, at, last)
            if again is not None:
                merged[-1], at = again
                continue
        merged.append(span)
        at += 1
    return merged


def _bottles(last: Span, following: list[Span]) -> Span | None:
    """ "5 bottles of 100 mL" is 500 mL."""
    count = re.match(r"(\d+)\s", last.value.wording)
    if count is None or last.value.quantity is not None or len(following) < 2 or following[0].text not in ("of", "x"):
        return None
    other = following[1]
    if other.kind != "amount" or other.value.quantity is None:
        return None
    each = other.value.quantity
    return replace(last, end=other.end, value=Amount(Quantity(each.value * int(count[1]), each.unit)))


def _smaller(one: Span, other: Span) -> bool:
    first, second = one.value.quantity, other.value.quantity
    return first is not None and second is not None and second.unit in _SMALLER.get(first.unit, ())


def _summable(one: Span, other: Span, sign: str) -> bool:
    first, second = one.value.quantity, other.value.quantity
    if first is None or second is None or first.kind != second.kind or first.kind not in ("volume", "mass"):
        return False
    sizes = (first.mL, second.mL) if first.kind == "volume" else (first.g, second.g)
    return first.unit != second.unit and sizes[1] < sizes[0] if sign == "and" else True


def _sum(one: Span, other: Span) -> Span:
    first, second = one.value.quantity, other.value.quantity
    more = second.mL / first.mL if first.kind == "volume" else second.g / first.g
    total = Quantity(first.value * (1.0 + more), first.unit)
    return replace(one, end=other.end, text="", value=Amount(total, "", one.value.filled))


#: How far an amount said twice may be off: spoons and cups are rounded, and differ from house to house.
_AGAIN = 0.15


def about(one: Quantity, other: Quantity) -> bool:
    """True where two amounts can be one said twice: about as much, or of kinds that cannot be compared.

    >>> about(Quantity(1.0, "cup"), Quantity(240.0, "mL")), about(Quantity(500.0, "mL"), Quantity(0.75, "L"))
    (True, False)
    """
    if one.kind != other.kind or one.kind not in ("volume", "mass"):
        return one.kind != other.kind
    share = one.mL / other.mL if one.kind == "volume" else one.g / other.g
    return abs(share - 1.0) <= _AGAIN


_SAME = frozenset({"(", "=", "/", "or"})
_LIKE = frozenset(
    {"about", "approx", "approximately", "roughly", "or", "=", "~", "around", "ca", "circa", "i.e.", "that's", "."}
)


def _again(spans: list[Span], at: int, last: Span) -> tuple[Span, int] | None:
    """An amount said over again in other units, behind a sign; which of the two counts, and the span behind it."""
    if spans[at].text not in _SAME:
        return None
    if spans[at].text == "=" and at >= 3 and spans[at - 2].text == "of":
        return None  # "1 % of 5 L = 5 mL"
    ahead = at + 1
    while ahead < len(spans) and spans[ahead].text in _LIKE:
        ahead += 1
    if ahead >= len(spans) or spans[ahead].kind != "amount":
        return None
    other = spans[ahead]
    first, second = last.value.quantity, other.value.quantity
    if first is not None and second is not None and (first.unit == second.unit or not about(first, second)):
        return None
    after = ahead + 1
    if spans[at].text == "(":
        if after >= len(spans) or spans[after].text != ")":
            return None
        after += 1
    elif spans[at].text == "/" or (spans[at].text == "=" and after < len(spans) and spans[after].kind == "product"):
        return None
    end = spans[after - 1].end
    if second is None:
        return None
    fluid = first is not None and first.unit == "oz" and second.kind == "volume"
    counts = other.value if first is None or fluid or first.kind == "part" else last.value
    return replace(last, end=end, value=replace(counts, filled=last.value.filled)), after
