"""Numbers in a recipe's text: in figures and words, with fractions, thousands and ranges."""

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace

from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.measures import doubt_points, figures, read_number
from firkin.core.recipe.spans import Span

RANGE = frozenset({"-", "–", "—", "to", "or", "till", "bis", "and"})


@dataclass(frozen=True, slots=True)
class Number:
    """A number, or a range from ``low`` to ``high``; ``after`` is the span behind it.

    ``ambiguous`` says that it can be read two ways.
    """

    low: float
    high: float
    after: int
    ambiguous: bool = False


class Numbers:
    """The spans of a sentence, and the numbers among them."""

    def __init__(self, spans: Sequence[Span], written: str, whose: str) -> None:
        self.spans, self.written, self.whose = spans, written, whose
        self._found: dict[int, Number | None] = {}

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

    def _number(self, at: int) -> Number | None:
        """A number at a place: figures, words, a fraction, a mixed number; looked for once."""
        if at not in self._found:
            self._found[at] = self._number_at(at)
        return self._found[at]

    def _number_at(self, at: int) -> Number | None:
        if self._is(at, "article"):
            half_of = at + 1 if self._is(at + 1, "fraction") else at + 2 if self._text(at + 1) == "-" else 0
            if half_of and self._is(half_of, "fraction"):
                return self._number(half_of)
            if self._text(at + 1) in ("dozen", "couple", "hundred", "thousand"):
                return replace(self._number(at + 1) or Number(1, 1, at + 1))
            return None
        ordinal = self._text(at) in ("third", "quarter", "eighth") and self._is(at + 1, "time")
        if ordinal and self._text(at - 1) in ("and", "the", "or", ",", "every", "each"):
            return None  # "in the second and third week"
        rare = self._text(at) in ("fifth", "sixth", "tenth") and self._text(at + 1) != "of"
        common = ("half", "quarter", "third", "eighth", "fifth", "sixth", "tenth")
        if self._is(at, "fraction") and self._text(at).rstrip("s") in common and not rare:
            if self._text(at + 1) == "a" and self._text(at + 2) == "dozen":
                return Number(6.0, 6.0, at + 3)
            value = self.spans[at].as_("fraction")
            return Number(value, value, at + 1)
        if self._is(at, "number"):
            value, after = self._worded(at)
        elif self._is(at, "figure"):
            return self._written_number(at)
        elif self._is(at, "hundred") or self._is(at, "thousand"):
            value, after = self._with_tail(100.0 if self._is(at, "hundred") else 1000.0, at + 1)
        else:
            return None
        if self._text(after) == "(" and self._text(after + 2) == ")" and self._text(after + 1) == figures(value):
            after += 3  # "two (2) cups"
        value, after = self._with_fraction(value, after)
        return Number(value, value, after)

    def _worded(self, at: int) -> tuple[float, int]:
        """A number in words: "twenty-five", "two hundred and fifty"."""
        value = self.spans[at].as_("number")
        after = at + 1
        joint = after + (self._text(after) == "-")
        if value % 10 == 0 and 20 <= value < 100 and self._is(joint, "number") and self.spans[joint].as_("number") < 10:
            value, after = value + self.spans[joint].as_("number"), joint + 1
        if self._is(after, "hundred"):
            value, after = self._with_tail(value * 100, after + 1)
        if self._is(after, "thousand"):
            value, after = self._with_tail(value * 1000, after + 1)
        return self._with_decimals(value, after)

    def _with_tail(self, value: float, after: int) -> tuple[float, int]:
        """Hundreds or thousands with what is left of them: "hundred and ninety"."""
        more = after + (self._text(after) == "and")
        if self._is(more, "number") and self.spans[more].as_("number") < value:
            tail, behind = self._worded(more)
            if tail < value:
                return value + tail, behind
        return value, after

    def _with_decimals(self, value: float, after: int) -> tuple[float, int]:
        """A number with its decimals in words: "point three", "comma one five", "point seventy-five"."""
        if self._text(after) not in ("point", "comma", "dot") or value != int(value):
            return value, after
        at, digits = after + 1, ""
        while self._is(at, "number") and self.spans[at].as_("number") < (10 if digits else 100):
            number, at = int(self.spans[at].as_("number")), at + 1
            joint = at + (self._text(at) == "-")
            if number >= 20 and self._is(joint, "number") and self.spans[joint].as_("number") < 10:
                number, at = number + int(self.spans[joint].as_("number")), joint + 1
            digits += str(number)
        return (float(f"{int(value)}.{digits}"), at) if digits else (value, after)

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

    def _written_number(self, at: int) -> Number | None:
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
                return Number(0.0, 0.0, after + 2, ambiguous=True)
            text, after = f"{first}/{self._text(after + 1)}", after + 2
        else:
            text, after = self._with_tail_of(first, text, after)
        try:
            doubt_points(text)
            value = read_number(text)
        except CannotReckon:
            return Number(0.0, 0.0, after, ambiguous=True)
        if self._text(after) == "(" and (self._text(after + 1) == first or self._is(after + 1, "number")):
            again, behind = (value, after + 2) if self._text(after + 1) == first else self._worded(after + 1)
            if again == value and self._text(behind) == ")":
                after = behind + 1  # "2 (two) cups"
        if "/" not in text and self._is(after, "hundred"):
            value, after = value * 100, after + 1
        if "/" not in text:
            value, after = self._with_fraction(value, after)
        return Number(value, value, after)

    def _with_tail_of(self, first: str, text: str, after: int) -> tuple[str, int]:
        """Figures with the fraction ("1 1/2", "1-½") or the thousands ("1 500") behind them."""
        joint = after + (self._text(after) == "-" and self._touching(after))
        tail = self._text(joint)
        if tail and tail[0] in "½¼¾⅐⅑⅒⅓⅔⅕⅖⅗⅘⅙⅚⅛⅜⅝⅞":
            return f"{first} {tail}", joint + 1
        if tail.isdigit() and self._text(joint + 1) == "/" and self._text(joint + 2).isdigit() and first.isdigit():
            return f"{first} {tail}/{self._text(joint + 2)}", joint + 3
        return (first + tail, after + 1) if self._thousands(after) else (text, after)

    def _behind_digit(self, at: int) -> bool:
        return at > 0 and self._touching(at) and self._is(at - 1, "figure")

    def _thousands(self, at: int) -> bool:
        """True for the "500" of "1 500 mL", but not of "1 500 mL bottle"."""
        before, here = self._text(at - 1), self._text(at)
        apart = at < len(self.spans) and self.spans[at].start == self.spans[at - 1].end + 1
        if not (apart and re.fullmatch(r"[1-9]\d?\d?", before) and re.fullmatch(r"\d{3}", here)):
            return False
        if self._is_grade(at - 2, float(before)):
            return False  # "Ethanol 96 730 ml" is 730 mL of 96 %
        return self._is(at + 1, "unit") and not (self._is(at + 2, "container") or self._is(at + 2, "containers"))

    def _is_grade(self, at: int, number: float) -> bool:
        """True where a material stands at a place, and the number is a strength it is sold in."""
        return self._is(at, "material") and find(str(self.spans[at].as_("material"))).sold_as(number)

    def _ranged(self, at: int) -> Number | None:
        """A number, or a range of two."""
        one = self._number(at)
        if one is None or one.ambiguous:
            return one
        joint = one.after
        unit = joint if self._is(joint, "percent") or self._is(joint, "unit") else None
        joint += unit is not None
        if self._text(joint) not in RANGE:
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
        if self._is_grade(at - 1, one.low) and not self._is_grade(at - 1, other.low):
            return one  # "EtOH 96 - 730 ml"
        return Number(min(one.low, other.low), max(one.low, other.low), other.after)
