"""How a question is declared, and read from what somebody wrote.

One declaration holds a question's words, its fields and what it gives; the page, the text command, both schemas and
their documentation come from it. What is written is plain data under the keys of firkin-question/1: text, or a number
where the format has one.
"""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Any

from firkin.core.catalogue import Material, Stock, find
from firkin.core.errors import CannotRead, CannotReckon
from firkin.core.formula import Formula
from firkin.core.measures import (
    NUMBER,
    Strength,
    Working,
    figures,
    read_number,
    read_quantity,
    read_strength,
    read_temperature,
    read_volume,
    read_volume_or_mass,
)
from firkin.core.questions.pictures import Picture
from firkin.core.texts import quoted, uncapped

Choices = Iterable[tuple[str, str]]


class Kind(StrEnum):
    """What a field holds, once read."""

    ACTIVE = "active"  # a Material that has a strength
    MATERIAL = "material"  # any Material
    STRENGTH = "strength"  # a Strength, on the usual basis of the material asked about
    READING = "reading"  # a Strength in % v/v; a bare number is one too
    VOLUME = "volume"  # a Quantity
    SIZE = "size"  # a Quantity: volume or weight
    TEMPERATURE = "temperature"  # degrees Celsius
    NUMBER = "number"  # a float
    GRAMS = "grams"  # a float: a bare number, or weights such as "3 bars of 100 g"
    COUNT = "count"  # a whole number
    CHOICE = "choice"  # one of the choices
    NAME = "name"  # text as it stands
    GROUP = "group"  # several fields together, a dictionary


@dataclass(frozen=True, slots=True)
class Field:
    """One thing a question takes.

    ``opens`` is what its page opens with, ``hint`` what an empty input shows, ``help`` a sentence below it.
    ``least`` and ``most`` bound a number, ``above`` and ``below`` without the bound itself. ``rows`` makes it a list
    of so few to so many, the page naming each by ``row_labels``. ``on_page`` and ``in_ask`` say where it is asked.
    ``fallback`` is counted where nothing is written.
    """

    key: str
    kind: Kind
    label: str
    opens: str | tuple[str, ...] = ""
    hint: str = ""
    help: str = ""
    optional: bool = False
    choices: Callable[[], Choices] = tuple
    least: float | None = None
    most: float | None = None
    above: float | None = None
    below: float | None = None
    fields: "tuple[Field, ...]" = ()
    rows: tuple[int, int] | None = None
    row_labels: tuple[str, ...] = ()
    on_page: bool = True
    in_ask: bool = True
    fallback: str = ""


@dataclass(frozen=True, slots=True)
class Given:
    """One thing an answer gives: its key, what it is, and its type in the format.

    ``kind``: "number", "integer", "text", "boolean", "numbers" (a list) or "rows" (a list of objects of ``fields``).
    """

    key: str
    what: str
    kind: str = "number"
    optional: bool = False
    or_null: bool = False
    choices: tuple[str, ...] = ()
    fields: "tuple[Given, ...]" = ()


@dataclass(frozen=True, slots=True)
class Answer:
    """An answer: ``values`` by the keys of ``gives``, and what a page shows of it.

    The page has the big figure first, then rows of name and value, sentences, warnings, a picture and perhaps another
    ``beside`` it, the arithmetic.
    ``cautions`` are ids of the catalogue's cautions; ``formula`` can be kept in the book.
    """

    values: Mapping[str, Any]
    working: Working
    big: str
    unit: str
    rows: tuple[tuple[str, str], ...] = ()
    says: tuple[str, ...] = ()
    warns: tuple[str, ...] = ()
    picture: Picture | None = None
    cautions: tuple[str, ...] = ()
    formula: Formula | None = None
    beside: Picture | None = None


@dataclass
class Asked:
    """A question as it was read: values by key, the stocks that could be named, and what could not be read."""

    ask: str
    values: dict[str, Any] = field(default_factory=dict)
    stocks: tuple[Stock, ...] = ()
    errors: list[CannotReckon] = field(default_factory=list)

    def __getitem__(self, key: str) -> Any:
        """The value of a field; None where nothing was written."""
        return self.values.get(key)

    @property
    def active(self) -> Material:
        """The material the question is about."""
        material: Material = self.values["active"]
        return material


@dataclass(frozen=True, slots=True)
class Question:
    """A question: its name in the text command and in addresses, its words, fields, what it gives, and its function.

    ``also`` are further names of the text command that take and give the same; ``answer`` learns by which one it was
    asked. ``about`` is the material its strengths are of where no field asks for one.
    """

    ask: str
    short: str
    title: str
    lead: str
    group: str
    fields: tuple[Field, ...]
    gives: tuple[Given, ...]
    answer: Callable[[Asked], Answer]
    also: tuple[str, ...] = ()
    about: str = "ethanol"

    @property
    def asks(self) -> tuple[str, ...]:
        """Every name it goes by in the text command."""
        return (self.ask, *self.also)

    @property
    def opening(self) -> dict[str, Any]:
        """What its page opens with, as it would be written."""
        return _opening(self.fields)

    def read(self, written: Mapping[str, Any], stocks: Sequence[Stock] = (), ask: str = "") -> Asked:
        """Read what was written under the keys of the fields; what cannot be read stands in ``errors`` with its path.

        ``ask`` is the name of the text command, empty on a page.

        >>> from firkin.core.questions import QUESTIONS
        >>> asked = QUESTIONS["max-additive"].read({"stock": "70 %", "target": "sixty"})
        >>> str(asked["stock"]), asked.errors[0].path
        ('70 % v/v', ('target',))
        """
        asked = Asked(ask, stocks=tuple(stocks))
        asked.values = _Reading(asked).group(self.fields, written, (), find(self.about))
        return asked

    def solve(self, asked: Asked) -> Answer:
        """Its answer. Raises CannotReckon, with the path of the field at fault, for what is impossible or unread."""
        if asked.errors:
            raise asked.errors[0]
        return self.answer(asked)


def _opening(fields: Iterable[Field]) -> dict[str, Any]:
    opening: dict[str, Any] = {}
    for one in fields:
        if one.fields and one.rows:
            opening[one.key] = [
                {part.key: part.opens[i] if i < len(part.opens) else "" for part in one.fields}
                for i in range(max(one.rows[0], *(len(part.opens) for part in one.fields)))
            ]
        elif one.fields:
            opening[one.key] = _opening(one.fields)
        else:
            opening[one.key] = list(one.opens) if one.rows else one.opens
    return opening


class _Reading:
    """Reads fields one by one, keeping what goes wrong."""

    def __init__(self, asked: Asked) -> None:
        self.asked = asked

    def group(
        self, fields: Iterable[Field], written: Mapping[str, Any], path: tuple[str | int, ...], about: Material
    ) -> dict[str, Any]:
        """The values of fields that stand together; strengths are read as of the material among them."""
        values: dict[str, Any] = {}
        for one in sorted(fields, key=lambda one: one.kind not in (Kind.ACTIVE, Kind.MATERIAL)):
            raw = written.get(one.key)
            here = (*path, one.key)
            if one.rows is not None:
                values[one.key] = list(self._rows(one, raw or [], here, about))
            else:
                values[one.key] = self._value(one, raw, here, about)
            if one.kind in (Kind.ACTIVE, Kind.MATERIAL) and values[one.key] is not None:
                about = values[one.key]
        return values

    def _rows(self, one: Field, raw: Sequence[Any], path: tuple[str | int, ...], about: Material) -> Iterator[Any]:
        assert one.rows is not None
        for i, row in enumerate(raw):
            if not _empty(row):
                yield self._value(one, row, (*path, i), about)
        if sum(not _empty(row) for row in raw) < one.rows[0]:
            wanted = f"Fill in {one.rows[0]} of these at least."
            self.asked.errors.append(CannotRead(wanted).at(*path, next((i for i, r in enumerate(raw) if _empty(r)), 0)))

    def _value(self, one: Field, raw: Any, path: tuple[str | int, ...], about: Material) -> Any:
        if one.kind is Kind.GROUP:
            if isinstance(raw, str):  # a bare text stands for the one field that must be there, and is its name
                raw = {part.key: raw for part in one.fields if not part.optional or part.kind is Kind.NAME}
            return self.group(one.fields, raw or {}, path, about)
        raw = raw.strip() if isinstance(raw, str) else raw
        if raw in ("", None):
            if one.fallback:
                raw = one.fallback
            elif one.optional:
                return None
            else:
                self.asked.errors.append(CannotRead(_missing(one)).at(*path))
                return None
        try:
            return _bounded(one, _READ[one.kind](raw, one, about, self.asked.stocks))
        except CannotReckon as error:
            self.asked.errors.append(error.at(*path))
            return None


def _empty(raw: Any) -> bool:
    if isinstance(raw, Mapping):
        return all(_empty(value) for value in raw.values())
    return not raw.strip() if isinstance(raw, str) else raw is None


def _missing(one: Field) -> str:
    example = one.hint or (one.opens if isinstance(one.opens, str) else one.opens[0] if one.opens else "")
    return f"Fill this in, such as {example}." if example else "Fill this in."


def _bounded(one: Field, value: Any) -> Any:
    if not isinstance(value, int | float):
        return value
    for wrong, words, bound in (
        (one.least is not None and value < one.least, "at least", one.least),
        (one.most is not None and value > one.most, "at most", one.most),
        (one.above is not None and value <= one.above, "more than", one.above),
        (one.below is not None and value >= one.below, "less than", one.below),
    ):
        if wrong:
            raise CannotRead(f"{figures(value)} is out of bounds: {words} {figures(bound or 0.0)} here.")
    return value


def _active(raw: str, one: Field, about: Material, stocks: Sequence[Stock]) -> Material:
    material = find(raw)
    if material.reports != "active" and material.strength is None and material.solution is None:
        raise CannotRead(f"{raw[:40]}; expected an active such as ethanol, isopropanol or hydrogen-peroxide")
    return material


def _strength(raw: str, one: Field, about: Material, stocks: Sequence[Stock]) -> Strength:
    named = next((stock for stock in stocks if stock.name.lower() == raw.lower()), None)
    if named is not None:
        if named.material != about.id:
            raise CannotReckon(f"{named.name} is {uncapped(find(named.material).name)}, not {uncapped(about.name)}.")
        return named.strength
    strength = about.read_strength(raw)
    about.mass_fraction(strength)
    about.check_dissolves(strength)
    return strength


def _reading(raw: str | float, one: Field, about: Material, stocks: Sequence[Stock]) -> Strength:
    if isinstance(raw, str):
        try:
            raw = read_number(raw)
        except CannotReckon:
            strength = read_strength(str(raw))
            if strength.basis != "v/v":
                raise CannotRead(f"{strength}; expected a reading in % v/v") from None
            return strength
    return Strength.of(_bounded(one, float(raw)), "v/v")


def _number(raw: str | float, one: Field, about: Material, stocks: Sequence[Stock]) -> float:
    try:
        return read_number(raw) if isinstance(raw, str) else float(raw)
    except OverflowError:
        raise CannotRead("That number has more digits than anyone can measure.") from None


def _grams(raw: str | float, one: Field, about: Material, stocks: Sequence[Stock]) -> float:
    if not isinstance(raw, str) or NUMBER.fullmatch(raw):
        return _number(raw, one, about, stocks)
    weight = read_quantity(raw)
    if weight.kind != "mass":
        raise CannotRead(f"{quoted(raw)} is not a weight. Write grams, or such as 3 bars of 100 g.")
    return weight.g


def _count(raw: str | int, one: Field, about: Material, stocks: Sequence[Stock]) -> int:
    value = _number(raw, one, about, stocks)
    if value != int(value):
        raise CannotRead(f"{figures(value)} is not a whole number.")
    return int(value)


def _choice(raw: str, one: Field, about: Material, stocks: Sequence[Stock]) -> str:
    known = [key for key, _ in one.choices()]
    if raw not in known:
        raise CannotRead(f"{quoted(raw)} is not one of {', '.join(key for key in known if key)}.")
    return raw


def _temperature(raw: str | float, one: Field, about: Material, stocks: Sequence[Stock]) -> float:
    return read_temperature(raw if isinstance(raw, str) else f"{raw} degC")


_READ: dict[Kind, Callable[[Any, Field, Material, Sequence[Stock]], Any]] = {
    Kind.ACTIVE: _active,
    Kind.MATERIAL: lambda raw, *_: find(raw),
    Kind.STRENGTH: _strength,
    Kind.READING: _reading,
    Kind.VOLUME: lambda raw, *_: read_volume(raw),
    Kind.SIZE: lambda raw, *_: read_volume_or_mass(raw),
    Kind.TEMPERATURE: _temperature,
    Kind.NUMBER: _number,
    Kind.GRAMS: _grams,
    Kind.COUNT: _count,
    Kind.CHOICE: _choice,
    Kind.NAME: lambda raw, *_: raw,
}
