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
    """Amounts that are one: "2 x 500 mL", "1 lb 2 oz", "1 cup plus 2 tbsp", "2 cups (480 mL)", "1.5 cups = 12 oz"."""
    if all(span.kind != "amount" for span in spans):
        return spans
    spans = _multiplied(spans)
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


_TIMES = frozenset({"x", "×", "*"})
_HOLDS = frozenset({"container", "containers", "counted"})


def _multiplied(spans: list[Span]) -> list[Span]:
    """ "2 x 500 mL", "500 mL x 2", "three 500 mL bottles": how often an amount is taken, in the amount."""
    found: list[Span] = []
    at = 0
    while at < len(spans):
        one = _counted_before(spans, at) or _counted_behind(spans, at) or _in_its_bottle(spans, at)
        if one is None:
            found.append(spans[at])
            at += 1
        else:
            span, at = one
            found.append(span)
    return found


def _counted_before(spans: list[Span], at: int) -> tuple[Span, int] | None:
    count = _whole_count(spans, at)
    if count is None:
        return None
    signed = _text(spans, at + 1) in _TIMES
    amount = at + 1 + signed
    if not _is_measured(spans, amount):
        return None
    held = amount + 1 < len(spans) and spans[amount + 1].kind in _HOLDS
    if not (signed or held):
        return None
    last = amount + (held and _full_of_something(spans, amount + 2))
    return _taken(spans[amount], count, spans[at], spans[last], last + 1)


#: Before a bottle it says that something goes into it.
_INTO = frozenset({"in", "into", "to", "with", "from", "fill", "using", "inside"})


def _in_its_bottle(spans: list[Span], at: int) -> tuple[Span, int] | None:
    """ "One 32 oz bottle isopropyl": a bottle that was bought, with its name behind it and no "of"."""
    if not _is_measured(spans, at):
        return None
    held = at + 1 < len(spans) and spans[at + 1].kind in ("container", "containers")
    before = {_text(spans, place) for place in range(max(0, at - 2), at)}
    if not held or before & _INTO or not _full_of_something(spans, at + 2):
        return None
    return replace(spans[at], end=spans[at + 1].end), at + 2


def _full_of_something(spans: list[Span], at: int) -> bool:
    """True for "(bottles) of 91 % alcohol": they were bought, and are not what it is filled into."""
    at += _text(spans, at) == "of"
    at += at < len(spans) and spans[at].kind == "strength"
    return at < len(spans) and spans[at].kind == "material"


def _counted_behind(spans: list[Span], at: int) -> tuple[Span, int] | None:
    count = _whole_count(spans, at + 2)
    if count is None or not _is_measured(spans, at) or _text(spans, at + 1) not in _TIMES:
        return None
    return None if _is_measured(spans, at + 3) else _taken(spans[at], count, spans[at], spans[at + 2], at + 3)


def _taken(amount: Span, count: int, first: Span, last: Span, after: int) -> tuple[Span, int]:
    """An amount so many times, from the first span to the last; and what stands behind it."""
    each = amount.value.quantity
    total = Amount(Quantity(each.value * count, each.unit), "", amount.value.filled)
    return replace(amount, start=first.start, end=last.end, text="", value=total), after


def _text(spans: list[Span], at: int) -> str:
    return spans[at].text if at < len(spans) else ""


def _whole_count(spans: list[Span], at: int) -> int | None:
    """The whole number that stands here by itself, from 1; None for anything else."""
    alone = at < len(spans) and (
        spans[at].kind == "bare" or (spans[at].kind == "portions" and " " not in spans[at].text)
    )
    if not alone or not isinstance(spans[at].value, int | float):
        return None
    value = spans[at].value
    return int(value) if value >= 1 and value == int(value) else None


def _is_measured(spans: list[Span], at: int) -> bool:
    if at >= len(spans) or spans[at].kind != "amount":
        return False
    quantity = spans[at].value.quantity
    return quantity is not None and quantity.kind in ("volume", "mass")


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
