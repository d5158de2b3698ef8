"""Figures in a recipe's text: amounts, strengths, ratios, times and the like, each put together from its spans."""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from firkin.core.catalogue import Material
from firkin.core.errors import CannotReckon
from firkin.core.measures import Quantity, Strength, figures, read_number
from firkin.core.recipe.household import in_household
from firkin.core.recipe.spans import Span

_RANGE = frozenset({"-", "–", "—", "to", "or", "till", "bis", "and"})
_SMALLER = {
    "lb": ("oz",),
    "kg": ("g",),
    "L": ("mL",),
    "gal": ("quart", "pint", "cup"),
    "quart": ("pint", "cup"),
    "pint": ("floz",),
}
_BASES = {"vol": "v/v", "abv": "v/v", "volume": "v/v", "weight": "w/w", "mass": "w/w", "m/m": "w/w", "m/v": "w/v"}
_MOST_PARTS = 4  # in a ratio
_WARM_FROM = 15.0  # "20 C" is a temperature, "2 C" is two cups


@dataclass(frozen=True, slots=True)
class Amount:
    """So much of something. ``quantity`` is None where that cannot be said in a unit, or can be read two ways."""

    quantity: Quantity | None
    wording: str = ""
    filled: str = ""


@dataclass(frozen=True, slots=True)
class Percent:
    """A strength, or a share: a number or a range, and what it is counted in."""

    low: float
    high: float
    unit: str = "%"

    @property
    def middle(self) -> float:
        """The number, of a range its middle."""
        return (self.low + self.high) / 2.0

    @property
    def words(self) -> str:
        """As it reads back: "90-91 % v/v", "190 proof"."""
        ends = figures(self.low, 10) if self.low == self.high else f"{figures(self.low, 10)}-{figures(self.high, 10)}"
        return f"{ends} {self.unit}"

    def strength(self, material: Material) -> Strength:
        """The strength it is of a material; CannotReckon where it can be none."""
        return material.read_strength(self.words)


@dataclass(frozen=True, slots=True)
class Lasting:
    """How long something takes: a number, and of what."""

    number: float
    unit: str


@dataclass(frozen=True, slots=True)
class _Number:
    low: float
    high: float
    after: int
    ambiguous: bool = False


def compose(spans: Sequence[Span], written: str, whose: str) -> list[Span]:
    """The spans of a sentence with its figures put together; ``whose`` cups they are.

    >>> from firkin.core.recipe.spans import spans_of
    >>> said = "a cup and a half of 90 to 91 % alcohol"
    >>> str(compose(spans_of(said, said, 0, 40), said, "us")[0].value.quantity)
    '1.5 cup'
    """
    return _merged(list(_Composer(spans, written, whose).read()))


class _Composer:
    """Goes through the spans once, and puts together what begins with a number."""

    def __init__(self, spans: Sequence[Span], written: str, whose: str) -> None:
        self.spans, self.written, self.whose = spans, written, whose

    def read(self) -> Iterator[Span]:
        at = 0
        while at < len(self.spans):
            found = self._money(at) or self._figure(at) or self._bare_unit(at) or self._ph(at)
            if found is None:
                yield self.spans[at]
                at += 1
            else:
                span, at = found
                yield span

    # looking around

    def _is(self, at: int, kind: str) -> bool:
        return 0 <= at < len(self.spans) and self.spans[at].may_be(kind)

    def _text(self, at: int) -> str:
        return self.spans[at].text if 0 <= at < len(self.spans) else ""

    def _place(self, at: int) -> tuple[int, int]:
        return self.spans[at].start, self.spans[at].end

    def _touching(self, at: int) -> bool:
        """True where a span follows the one before it without a space."""
        return 0 < at < len(self.spans) and self.spans[at].start == self.spans[at - 1].end

    def _span(self, first: int, after: int, kind: str, value: object) -> tuple[Span, int]:
        start, end = self.spans[first].start, self.spans[after - 1].end
        guessed = any(span.guessed for span in self.spans[first:after])
        return Span(start, end, kind, self.written[start:end], value, guessed=guessed), after

    # numbers

    def _number(self, at: int) -> _Number | None:
        """A number at a place: figures, words, a fraction, a mixed number."""
        if self._is(at, "article"):
            half_of = at + 1 if self._is(at + 1, "fraction") else at + 2 if self._text(at + 1) == "-" else 0
            if half_of and self._is(half_of, "fraction"):
                return self._number(half_of)
            if self._text(at + 1) in ("dozen", "couple", "hundred", "thousand"):
                return replace(self._number(at + 1) or _Number(1, 1, at + 1))
            return None
        if self._is(at, "fraction") and self._text(at).rstrip("s") in ("half", "quarter", "third", "eighth"):
            if self._text(at + 1) == "a" and self._text(at + 2) == "dozen":
                return _Number(6.0, 6.0, at + 3)
            value = self.spans[at].as_("fraction")
            return _Number(value, value, at + 1)
        if self._is(at, "number"):
            value, after = self._worded(at)
        elif self._is(at, "figure"):
            return self._written_number(at)
        elif self._is(at, "hundred") or self._is(at, "thousand"):
            value, after = (100.0 if self._is(at, "hundred") else 1000.0), at + 1
        else:
            return None
        if self._text(after) == "(" and self._text(after + 2) == ")" and self._text(after + 1) == figures(value):
            after += 3  # "two (2) cups"
        value, after = self._with_fraction(value, after)
        return _Number(value, value, after)

    def _worded(self, at: int) -> tuple[float, int]:
        """A number in words: "twenty-five", "two hundred and fifty"."""
        value = self.spans[at].as_("number")
        after = at + 1
        joint = after + (self._text(after) == "-")
        if value % 10 == 0 and 20 <= value < 100 and self._is(joint, "number") and self.spans[joint].as_("number") < 10:
            value, after = value + self.spans[joint].as_("number"), joint + 1
        if self._is(after, "hundred"):
            value, after = value * 100, after + 1
            more = after + (self._text(after) == "and")
            if self._is(more, "number"):
                tail, after = self._worded(more)
                value += tail
        if self._is(after, "thousand"):
            value, after = value * 1000, after + 1
            if self._is(after, "number"):
                tail, after = self._worded(after)
                value += tail
        return value, after

    def _with_fraction(self, value: float, after: int) -> tuple[float, int]:
        """A number with what follows of it: "two thirds", "one and a half"."""
        joint = after
        if self._text(joint) == "and":
            joint += 1
            if self._is(joint, "article") or self._text(joint) == "one":
                joint += 1
            if self._is(joint, "fraction") and not self._of_a_unit(joint + 1):
                return value + self.spans[joint].as_("fraction"), joint + 1
            return value, after
        joint += self._text(joint) == "-"
        if self._is(joint, "fraction") and self.spans[joint].kind == "fraction":
            return value * self.spans[joint].as_("fraction"), joint + 1
        return value, after

    def _of_a_unit(self, at: int) -> bool:
        """True for "a cup" or "cup" behind "and half", which is then an amount of its own."""
        return self._is(at, "article") and self._is(at + 1, "unit")

    def _written_number(self, at: int) -> _Number | None:
        """A number in figures, with the fraction and the thousands that belong to it."""
        first, after = self.spans[at].text, at + 1
        text = first
        if self._text(at) == "," or not first:
            return None
        if (
            self._text(at - 1) in (".", ",")
            and self._touching(at)
            and first.isdigit()
            and not self._behind_digit(at - 1)
        ):
            text = "." + first
        if self._text(after) == "/" and self._is(after + 1, "figure") and self._text(after + 1).isdigit():
            if self._text(after + 1) == "0":
                return _Number(0.0, 0.0, after + 2, ambiguous=True)
            text, after = f"{first}/{self._text(after + 1)}", after + 2
        else:
            joint = after + (self._text(after) == "-" and self._touching(after))
            tail = self._text(joint)
            if tail and tail[0] in "½¼¾⅐⅑⅒⅓⅔⅕⅖⅗⅘⅙⅚⅛⅜⅝⅞":
                text, after = f"{first} {tail}", joint + 1
            elif (
                tail.isdigit() and self._text(joint + 1) == "/" and self._text(joint + 2).isdigit() and first.isdigit()
            ):
                text, after = f"{first} {tail}/{self._text(joint + 2)}", joint + 3
            elif self._thousands(after):
                text, after = first + tail, after + 1
        try:
            value = read_number(text)
        except CannotReckon:
            return _Number(0.0, 0.0, after, ambiguous=True)
        if self._text(after) == "(" and self._text(after + 2) == ")" and self._text(after + 1) == first:
            after += 3
        if "/" not in text and self._is(after, "hundred"):
            value, after = value * 100, after + 1
        if "/" not in text:
            value, after = self._with_fraction(value, after)
        return _Number(value, value, after)

    def _behind_digit(self, at: int) -> bool:
        return at > 0 and self._touching(at) and self._is(at - 1, "figure")

    def _thousands(self, at: int) -> bool:
        """True for the "500" of "1 500 mL", but not of "1 500 mL bottle"."""
        before, here = self._text(at - 1), self._text(at)
        apart = at < len(self.spans) and self.spans[at].start == self.spans[at - 1].end + 1
        if not (apart and re.fullmatch(r"[1-9]\d?\d?", before) and re.fullmatch(r"\d{3}", here)):
            return False
        return self._is(at + 1, "unit") and not (self._is(at + 2, "container") or self._is(at + 2, "containers"))

    def _ranged(self, at: int) -> _Number | None:
        """A number, or a range of two."""
        one = self._number(at)
        if one is None or one.ambiguous:
            return one
        joint = one.after
        unit = joint if self._is(joint, "percent") or self._is(joint, "unit") else None
        joint += unit is not None
        if self._text(joint) not in _RANGE:
            return one
        if self._text(joint) == "and" and self._text(at - 1) != "between":
            return one
        joint += 1 + (self._text(joint + 1) == "-" and self._text(joint) == "-")
        other = self._number(joint)
        if other is None or other.ambiguous:
            return one
        ends = (other.after, other.after + (self._text(other.after) == "-"))
        counted = any(
            self._is(end, kind)
            for end in ends
            for kind in ("unit", "percent", "counted", "time", "loads", "proof", "degree", "portions")
        )
        if not counted or (
            unit is not None and self.spans[unit].text.rstrip("s") != self._text(other.after).rstrip("s")
        ):
            return one
        if self._text(one.after) in ("-", "–") and other.low < one.low and one.low == int(one.low) and other.low < 1:
            return one
        if other.low < one.low and self._text(joint - 1) in ("to", "and"):
            return one
        return _Number(min(one.low, other.low), max(one.low, other.low), other.after)

    # what is counted

    def _figure(self, at: int) -> tuple[Span, int] | None:
        ratio = self._ratio(at)
        if ratio is not None:
            return ratio
        number = self._ranged(at)
        if number is None:
            return self._vague(at)
        first = at
        if (
            self._text(at - 1) in (".", ",")
            and self._touching(at)
            and self._is(at, "figure")
            and not self._behind_digit(at - 1)
        ):
            first = at - 1
        return self._unit(first, number) or self._plain(first, number)

    def _plain(self, first: int, number: _Number) -> tuple[Span, int]:
        """A number and no unit."""
        if (
            self._text(first) == "one"
            and number.after == first + 1
            and self._text(number.after) not in ("of", "to", ":")
        ):
            return Span(*self._place(first), "plain", "one"), number.after  # "the WHO one", "one thing"
        kind = "fraction" if self._is(number.after - 1, "fraction") and number.low < 1 else "number"
        return self._span(first, number.after, "share" if kind == "fraction" else "bare", number.low)

    def _unit(self, first: int, number: _Number) -> tuple[Span, int] | None:
        after = number.after
        after += self._text(after - 1) == "couple" and self._text(after) == "of"
        after += self._is(after, "more") and self._is(after + 1, "unit")
        after += self._text(after) == "-" and not self._is(after + 1, "figure")
        filled = ""
        if self._is(after, "filled") and self._is(after + 1, "unit"):
            filled, after = self._text(after), after + 1
        of_a = after
        if number.low < 1 or self._is(number.after - 1, "fraction"):
            of_a += self._text(of_a) == "of"
            of_a += self._is(of_a, "article") or self._text(of_a) == "the"
        after = of_a if self._is(of_a, "unit") else after
        strong = self._strength(first, number, after)
        if strong is not None:
            return strong
        if self._is(after, "each_load") and self._text(after) == "each":
            return None
        if self._is(after, "unit"):
            return self._amount(first, number, after, filled)
        middle = (number.low + number.high) / 2.0
        if self._is(after, "loads"):
            return self._span(first, after + 1, "loads", middle)
        if self._is(after, "time"):
            return self._span(first, after + 1, "time", Lasting(middle, self._text(after)))
        if self._is(after, "portions"):
            return self._span(first, after + 1, "portions", middle)
        if self._is(after, "counted"):
            return self._span(first, after + 1, "amount", Amount(None, self._words(first, after + 1)))
        if self._is(after, "container") or self._is(after, "containers"):
            if self._text(after + 1) == "of" and number.low == int(number.low):
                return self._span(first, after + 1, "amount", Amount(None, self._words(first, after + 1)))
        return self._cup_or_warmth(first, number, after)

    def _cup_or_warmth(self, first: int, number: _Number, after: int) -> tuple[Span, int] | None:
        letter = self._written(after)
        if self._is(after, "fahrenheit") and self._text(after) != "f":
            return self._span(first, after + 1, "heat_at", (number.low - 32.0) / 1.8)
        if letter == "F":
            return self._span(first, after + 1, "heat_at", (number.low - 32.0) / 1.8)
        if self._is(after, "celsius") or (letter == "C" and number.low >= _WARM_FROM):
            return self._span(first, after + 1, "heat_at", number.low)
        if self._is(after, "degree"):
            warm = self._is(after + 1, "celsius") or self._written(after + 1) == "C"
            return self._span(first, after + 1 + warm, "heat_at", number.low)
        unit = {"c": "cup", "C": "cup", "T": "tbsp", "t": "tsp"}.get(letter)
        if unit is None:
            return None
        end = after + 1 + (self._text(after + 1) == "." and self._touching(after + 1))
        return self._span(first, end, "amount", self._measured(number, (unit, 1.0), self._words(first, end), ""))

    def _written(self, at: int) -> str:
        return self.written[self.spans[at].start : self.spans[at].end] if at < len(self.spans) else ""

    def _strength(self, first: int, number: _Number, after: int) -> tuple[Span, int] | None:
        """Per cent, proof, ppm, volumes of oxygen, grams in a litre."""
        if self._is(after, "percent") or (
            self._is(after, "degree")
            and not self._is(after + 1, "proof")
            and not self._is(after + 1, "celsius")
            and not self._is(after + 1, "fahrenheit")
            and self._written(after + 1) not in ("C", "F")
            and self._text(after) in ("°", "º")
            and 30 <= number.low <= 100
            and self.spans[after].text != "degrees"
        ):
            unit, end = self._basis(after + 1)
            return self._span(first, end, "strength", Percent(number.low, number.high, unit))
        degree = self._is(after, "degree")
        if self._is(after + degree, "proof_uk"):
            return self._span(first, after + degree + 1, "strength", Percent(number.low, number.high, "proof_uk"))
        if self._is(after + degree, "proof"):
            return self._span(first, after + degree + 1, "strength", Percent(number.low, number.high, "proof"))
        if self._is(after, "ppm"):
            return self._span(first, after + 1, "strength", Percent(number.low, number.high, "ppm"))
        if self._is(after, "volumes") and not self._is(after, "unit"):
            return self._span(first, after + 1, "strength", Percent(number.low, number.high, "vol"))
        grams = self._is(after, "unit") and self.spans[after].as_("unit")[0] == "g"
        litre = after + 2
        if grams and self._text(after + 1) in ("/", "per") and self._is(litre, "unit"):
            if self.spans[litre].as_("unit") == ("L", 1.0) and self._text(after + 1) == "/":
                return self._span(first, litre + 1, "strength", Percent(number.low, number.high, "g/L"))
        return None

    def _basis(self, at: int) -> tuple[str, int]:
        """ "% v/v", "% (w/w)", "% by volume", "% vol": the unit, and the span behind it."""
        inside = at + (self._text(at) == "(")
        if not self._is(inside, "basis"):
            return "%", at
        said = self._text(inside)
        basis = (
            said
            if "/" in said and "m" not in said
            else next(b for word, b in _BASES.items() if word in said.replace(".", ""))
        )
        end = inside + 1
        end += end < len(self.spans) and self._text(end) == "." and self._touching(end) and said == "vol"
        return f"% {basis}".replace(" / ", "/"), end + (inside > at and self._text(end) == ")")

    def _amount(self, first: int, number: _Number, unit: int, filled: str) -> tuple[Span, int]:
        after = unit + 1
        if self._text(after) == "." and self._touching(after) and len(self._text(unit)) <= 4:
            after += 1
        more = after + 1
        if (
            self._text(after) == "and"
            and self._is(more, "article")
            and self._is(more + 1, "fraction")
            and not self._is(more + 2, "unit")
        ):
            if not (self._text(more + 2) == "of" and self._is(more + 3, "article")):
                extra = self.spans[more + 1].as_("fraction")
                number, after = replace(number, low=number.low + extra, high=number.high + extra), more + 2
        amount = self._measured(number, self.spans[unit].as_("unit"), self._words(first, after), filled)
        return self._span(first, after, "amount", amount)

    def _measured(self, number: _Number, unit: tuple[str, float], words: str, filled: str) -> Amount:
        key, many = unit
        value = (number.low + number.high) / 2.0 * many
        negative = False
        if number.ambiguous or value <= 0 or negative:
            return Amount(None, words, filled)
        return Amount(in_household(Quantity(value, key), self.whose), words, filled)

    def _words(self, first: int, after: int) -> str:
        return self.written[self.spans[first].start : self.spans[after - 1].end].strip()

    def _vague(self, at: int) -> tuple[Span, int] | None:
        """ "a splash", "a few drops", "a cup", "each litre": an amount without a number."""
        article = self._is(at, "article") or self._text(at) in ("one",)
        after = at + article
        if article and self._is(after, "filled"):
            after += 1
        if article and self._is(after, "unit"):
            filled = self._text(after - 1) if after > at + 1 else ""
            return self._amount(at, _Number(1.0, 1.0, after), after, filled)
        if self._is(after, "counted") and (article or self._text(after) in ("few", "few drops", "some")):
            end = after + 1
            if self._text(after) == "few" and self._is(end, "unit"):
                end += 1
            known = self.spans[after].kind == "counted" or self._text(end) == "of" or self._is(end, "material")
            if self._text(after) == "some" and not self._is(end, "material") and not self._is(end, "word"):
                return None
            return self._span(at, end, "amount", Amount(None, self._words(at, end))) if known else None
        return None

    def _bare_unit(self, at: int) -> tuple[Span, int] | None:
        """ "per litre", "for every tablespoon": one of it."""
        if self._is(at, "unit") and self._is(at - 1, "per"):
            return self._amount(at, _Number(1.0, 1.0, at), at, "")
        return None

    def _ratio(self, at: int) -> tuple[Span, int] | None:
        """ "3:1", "1 to 4", "1:3:10", "50/50"."""
        if self._text(at + 1) == "/" and self._is(at, "figure") and self._is(at + 2, "figure"):
            try:
                halves = tuple(read_number(self._text(place)) for place in (at, at + 2))
            except CannotReckon:
                return None
            shared = abs(sum(halves) - 100.0) < 1e-6 and all(halves)
            return self._span(at, at + 3, "ratio", halves) if shared else None
        parts: list[float] = []
        after = at
        sign = ""
        while len(parts) <= _MOST_PARTS:
            one = self._number(after) if not parts or self._is(after, "figure") or self._is(after, "number") else None
            if one is None or one.ambiguous:
                break
            parts.append(one.low)
            after = one.after
            joint = self._text(after)
            dashed = joint == "-" and self._text(after + 1) == "to" and self._text(after + 2) == "-"
            if (joint not in (":", "to") and not dashed) or (sign and joint != sign):
                break
            sign = joint
            follows = after + (3 if dashed else 1)
            if self._number(follows) is None or (joint == ":" and self._text(after + 1) == ":"):
                break
            after = follows
        if not 2 <= len(parts) <= _MOST_PARTS or self._counted(after) or self._text(after - 1) in (":", "to"):
            return None
        return self._span(at, after, "ratio", tuple(parts)) if all(parts) else None

    def _counted(self, at: int) -> bool:
        at += self._text(at) == "-"
        return any(
            self._is(at, kind)
            for kind in ("unit", "percent", "loads", "time", "counted", "ppm", "proof", "degree", "celsius")
        ) and not self._is(at, "material")

    def _money(self, at: int) -> tuple[Span, int] | None:
        if self._text(at) in ("$", "£", "€"):
            number = self._number(at + 1)
            return self._span(at, number.after, "money", number.low) if number is not None else None
        number = self._number(at)
        if number is None:
            return None
        if self._is(number.after, "currency"):
            return self._span(at, number.after + 1, "money", number.low)
        if self._is(number.after, "cents") and self._text(number.after) != "p":
            return self._span(at, number.after + 1, "money", number.low / 100.0)
        return None

    def _ph(self, at: int) -> tuple[Span, int] | None:
        """ "pH 7", "a pH of about 5.5 to 6"."""
        if self._text(at) != "ph":
            return None
        after = at + 1
        while self._text(after) in (
            "of",
            "is",
            "to",
            "about",
            "around",
            "near",
            ":",
            "=",
            "below",
            "above",
            "between",
            "under",
        ):
            after += 1
        number = self._number(after)
        if number is None:
            return None
        end = number.after
        if self._text(end) in _RANGE and (other := self._number(end + 1)) is not None:
            end = other.after
        return self._span(at, end, "ph", number.low)


def _merged(spans: list[Span]) -> list[Span]:
    """Amounts that are one: "1 lb 2 oz", "1 cup plus 2 tbsp", "2 cups (480 mL)", "1.5 cups = 12 oz"."""
    merged: list[Span] = []
    at = 0
    while at < len(spans):
        span = spans[at]
        last = merged[-1] if merged else None
        ahead = spans[at + 1] if at + 1 < len(spans) else None
        if last is not None and last.kind == "amount":
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
    if first is not None and second is not None and first.unit == second.unit:
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
