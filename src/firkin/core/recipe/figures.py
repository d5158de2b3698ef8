"""Figures in a recipe's text: amounts, strengths, ratios, times and the like, each put together from its spans."""

from collections.abc import Iterator, Sequence
from dataclasses import replace

from firkin.core.errors import CannotReckon
from firkin.core.measures import Quantity, maker_unit, read_number, size_of
from firkin.core.recipe.household import in_household
from firkin.core.recipe.merging import merged
from firkin.core.recipe.numbers import RANGE, Number, Numbers
from firkin.core.recipe.said import Amount, Lasting, Percent
from firkin.core.recipe.spans import Span

_BASES = {
    "vol": "v/v",
    "abv": "v/v",
    "volume": "v/v",
    "weight": "w/w",
    "mass": "w/w",
    "m/m": "w/w",
    "m/v": "w/v",
    "inpm": "w/w",
}
_SO_BIG = frozenset(
    {"good", "big", "generous", "healthy", "small", "tiny", "large", "huge", "decent", "nice", "long", "quick", "fair"}
)
_COUNTS = frozenset(
    {"#", "no", "nr", "number", "version", "phase", "step", "recipe", "formula", "trial", "try", "take"}
)
_MOST_PARTS = 4  # in a ratio
_WARM_FROM = 15.0  # "20 C" is a temperature, "2 C" is two cups


#: What a figure begins with: kinds of spans, and words.
_BEGINS = frozenset({"figure", "number", "fraction", "article", "hundred", "thousand", "unit", "counted"})
_BEGIN_WORDS = frozenset({"$", "£", "€", "one", "ph", "third", "quarter", "eighth"})


def _may_begin(span: Span) -> bool:
    return span.kind in _BEGINS or span.text in _BEGIN_WORDS or not _BEGINS.isdisjoint(span.also)


def compose(spans: Sequence[Span], written: str, whose: str) -> list[Span]:
    """The spans of a sentence with its figures put together; ``whose`` cups they are.

    >>> from firkin.core.recipe.spans import spans_of
    >>> said = "a cup and a half of 90 to 91 % alcohol"
    >>> str(compose(spans_of(said, said, 0, 40), said, "us")[0].value.quantity)
    '1.5 cup'
    """
    return merged(list(_Composer(spans, written, whose).read()))


class _Composer(Numbers):
    """Goes through the spans once, and puts together what begins with a number."""

    def read(self) -> Iterator[Span]:
        at = 0
        while at < len(self.spans):
            found = None
            if _may_begin(self.spans[at]):  # most words of a talk can't
                found = self._money(at) or self._figure(at) or self._bare_unit(at) or self._ph(at)
            if found is None:
                yield self.spans[at]
                at += 1
            else:
                span, at = found
                yield span

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

    def _plain(self, first: int, number: Number) -> tuple[Span, int]:
        """A number and no unit."""
        if self._text(first - 1) in _COUNTS and not self._is(number.after, "figure"):
            return self._span(first, number.after, "portions", 1.0)  # "gel #4", "version 2"
        if (
            self._text(first) == "one"
            and number.after == first + 1
            and self._text(number.after) not in ("of", "to", ":")
        ):
            return Span(*self._place(first), "plain", "one"), number.after  # "the WHO one", "one thing"
        said = self._words(first, number.after)
        of_a_whole = self._is(number.after - 1, "fraction") or "/" in said or said[-1:] in "½¼¾⅓⅔⅛"
        kind = "fraction" if of_a_whole and number.low < 1 else "number"
        return self._span(first, number.after, "share" if kind == "fraction" else "bare", number.low)

    def _unit(self, first: int, number: Number) -> tuple[Span, int] | None:
        after = number.after
        if after < len(self.spans) and self.spans[after].kind == "figure" and not self.spans[after].also:
            return None  # another figure measures nothing
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
        own = (self._is(of_a, "counted") or self._is(of_a, "container")) and self._size_at(of_a) is not None
        after = of_a if own or self._is(of_a, "unit") else after
        strong = self._strength(first, number, after)
        if strong is not None:
            return strong
        if self._is(after, "each_load") and self._text(after) == "each":
            return None
        if self._is(after, "unit"):
            return self._amount(first, number, after, filled)
        if self._is(after, "volumes") and self._text(after + 1) == "of":
            parts = self._measured(number, ("part", 1.0), self._words(first, after + 1), "")
            return self._span(first, after + 1, "amount", parts)
        many = self._of_what(first, number, after)
        if many is not None:
            return many
        if self._is(after, "counted"):
            return self._span(first, after + 1, "amount", self._counted_in_own(number, first, after))
        held = self._is(after, "container") or self._is(after, "containers")
        if held and self._text(after + 1) in ("of", "(") and (own or number.low == int(number.low)):
            return self._span(first, after + 1, "amount", self._counted_in_own(number, first, after))
        return self._cup_or_warmth(first, number, after)

    def _of_what(self, first: int, number: Number, after: int) -> tuple[Span, int] | None:
        """A number of loads, of minutes or of portions, or of times as much."""
        middle = (number.low + number.high) / 2.0
        for kind, value in (
            ("loads", middle),
            ("time", Lasting(middle, self._text(after))),
            ("as_much", (middle, 1.0)),  # "three times as much water as vinegar"
            ("times", 1.0),
            ("portions", middle),
        ):
            if self._is(after, kind):
                named = {"as_much": "ratio", "times": "portions"}.get(kind, kind)
                return self._span(first, after + 1, named, value)
        return None

    def _cup_or_warmth(self, first: int, number: Number, after: int) -> tuple[Span, int] | None:
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

    def _strength(self, first: int, number: Number, after: int) -> tuple[Span, int] | None:
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
            degrees = self._is(after, "degree")
            return self._span(first, end, "strength", Percent(number.low, number.high, unit, degrees))
        degree = self._is(after, "degree")
        if self._is(after + degree, "proof_uk"):
            return self._span(first, after + degree + 1, "strength", Percent(number.low, number.high, "proof_uk"))
        if self._is(after + degree, "proof"):
            return self._span(first, after + degree + 1, "strength", Percent(number.low, number.high, "proof"))
        if self._is(after, "ppm"):
            return self._span(first, after + 1, "strength", Percent(number.low, number.high, "ppm"))
        if self._is(after, "volumes") and self._text(after + 1) == "of":
            return None
        if self._is(after, "volumes") and not self._is(after, "unit"):
            return self._span(first, after + 1, "strength", Percent(number.low, number.high, "vol"))
        per_litre = [self.spans[at].as_("unit") for at in (after, after + 2) if self._is(at, "unit")]
        if per_litre == [("g", 1.0), ("L", 1.0)] and self._text(after + 1) == "/":
            return self._span(first, after + 3, "strength", Percent(number.low, number.high, "g/L"))
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

    def _amount(self, first: int, number: Number, unit: int, filled: str) -> tuple[Span, int]:
        after = unit + 1
        if self._text(after) == "." and self._touching(after) and len(self._text(unit)) <= 4:
            after += 1
        more = after + 1
        part = self._text(after) == "and" and self._is(more, "article") and self._is(more + 1, "fraction")
        its_own = self._is(more + 2, "unit") or (self._text(more + 2) == "of" and self._is(more + 3, "article"))
        if part and not its_own:
            extra = self.spans[more + 1].as_("fraction")
            number, after = replace(number, low=number.low + extra, high=number.high + extra), more + 2
        amount = self._measured(number, self.spans[unit].as_("unit"), self._words(first, after), filled)
        return self._span(first, after, "amount", amount)

    def _measured(self, number: Number, unit: tuple[str, float], words: str, filled: str) -> Amount:
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
        after += bool(article) and self._text(after) in _SO_BIG and self._is(after + 1, "counted")
        if article and self._is(after, "filled"):
            after += 1
        if article and self._is(after, "unit"):
            filled = self._text(after - 1) if after > at + 1 else ""
            return self._amount(at, Number(1.0, 1.0, after), after, filled)
        if self._is(after, "counted") and (article or self._text(after) in ("few", "few drops", "some")):
            end = after + 1
            if self._text(end) == "at" and self._text(end + 1) in ("a", "one"):
                return None  # "a little at a time" is how, and not how much
            if self._text(after) == "few" and self._is(end, "unit"):
                end += 1
            known = self.spans[after].kind == "counted" or self._text(end) == "of" or self._is(end, "material")
            if self._text(after) == "some" and not self._is(end, "material") and not self._is(end, "word"):
                return None
            one = self._counted_in_own(Number(1.0, 1.0, after), at, after) if article else None
            return self._span(at, end, "amount", one or Amount(None, self._words(at, end))) if known else None
        if article and self._is(after, "container") and self._text(after + 1) == "of" and self._size_at(after):
            return self._span(at, after + 1, "amount", self._counted_in_own(Number(1.0, 1.0, after), at, after))
        return None

    def _counted_in_own(self, number: Number, first: int, after: int) -> Amount:
        """So many capfuls, scoops, bars: an amount where whoever asks has said how much theirs is."""
        size, words = self._size_at(after), self._words(first, after + 1)
        each = self._text(after + 1) in ("of", "at") and self._is(after + 2, "figure") and self._is(after + 3, "unit")
        return Amount(None, words) if size is None or each else self._measured(number, size, words, "")

    def _size_at(self, at: int) -> tuple[str, float] | None:
        """The size of a unit of the maker's own that stands here."""
        unit = maker_unit(self._text(at))
        return size_of(unit) if unit else None

    def _bare_unit(self, at: int) -> tuple[Span, int] | None:
        """ "per litre", "for every tablespoon": one of it."""
        if self._is(at, "unit") and self._is(at - 1, "per"):
            return self._amount(at, Number(1.0, 1.0, at), at, "")
        return None

    def _ratio(self, at: int) -> tuple[Span, int] | None:
        """ "3:1", "1 to 4", "1:3:10", "50/50"."""
        if self._text(at + 1) == "/" and self._is(at, "figure") and self._is(at + 2, "figure"):
            try:
                halves = tuple(read_number(self._text(place)) for place in (at, at + 2))
            except CannotReckon:
                return None
            shared = all(halves) and (abs(sum(halves) - 100.0) < 1e-6 or (halves[1] == 1.0 < halves[0]))
            shared = shared and not self._counted(at + 3)
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
            "be",
            "should",
            "should be",
            "must",
            "must be",
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
        if self._text(end) in RANGE and (other := self._number(end + 1)) is not None:
            end = other.after
        return self._span(at, end, "ph", number.low)
