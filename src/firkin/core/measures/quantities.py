"""Quantities: a number and a unit, read from what people write."""

import re
from dataclasses import dataclass
from difflib import get_close_matches
from functools import cache
from typing import Any

from firkin.core import datafiles
from firkin.core.errors import CannotRead, CannotReckon
from firkin.core.measures.counted import counted_out
from firkin.core.measures.maker_units import maker_unit, maker_units, size_of
from firkin.core.measures.numerals import NUMBER, doubt_points, figures, plain_figures, read_number
from firkin.core.texts import quoted

QS = "q.s."
_QS_SPELLINGS = {
    "q.s.", "qs", "q.s", "q. s.", "top up", "top-up", "to make up", "to the brim", "up to the brim", "to the mark",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Unit:
    """A unit of volume (factor in mL), of mass (factor in g), a part, or a per cent."""

    id: str
    kind: str
    factor: float
    label: str


@dataclass(frozen=True, slots=True)
class Quantity:
    """A number and the id of its unit; "q.s." has the number 0.

    >>> round(Quantity(2.25, "cup").mL, 3)
    532.324
    """

    value: float
    unit: str

    @property
    def kind(self) -> str:
        """One of "volume", "mass", "part", "percent", "qs"."""
        return "qs" if self.unit == QS else units()[self.unit].kind

    @property
    def mL(self) -> float:
        """The volume in mL; CannotReckon when this is not a volume."""
        return self._in("volume", "a volume")

    @property
    def g(self) -> float:
        """The mass in g; CannotReckon when this is not a mass."""
        return self._in("mass", "a weight")

    def _in(self, kind: str, words: str) -> float:
        if self.kind != kind:
            raise CannotReckon(f"{self} is not {words}.")
        return self.value * units()[self.unit].factor

    def times(self, factor: float) -> "Quantity":
        """This quantity ``factor`` times; parts, per cent and q.s. are ratios and stay as they are.

        >>> str(Quantity(833.3, "mL").times(1.5)), str(Quantity(2, "part").times(1.5))
        ('1249.95 mL', '2 part')
        """
        return Quantity(self.value * factor, self.unit) if self.kind in ("volume", "mass") else self

    def __str__(self) -> str:
        return QS if self.unit == QS else f"{plain_figures(self.value, 10)} {self.unit}"

    @property
    def words(self) -> str:
        """As shown on a page: "2.25 cup (US)"; never finer than what measures it.

        >>> Quantity(1.15e-6, "mL").words, Quantity(2 / 3, "part").words, Quantity(0.9997, "cup").words
        ('less than 0.01 mL', '0.667 parts', '1 cup (US)')
        """
        if self.unit == QS:
            return "top up"
        unit = units()[self.unit]
        least = _LEAST.get(self.unit)
        if least is not None and 0.0 < self.value < least / 2.0:
            return f"less than {figures(least)} {unit.label}"
        return f"{figures(self.value, 4 if self.unit in _FINE else 3)} {unit.label}"


#: What a kitchen can show at the least: a dropper, a pocket scale.
_LEAST = {"mL": 0.01, "g": 0.01}
#: Units of scales and cylinders, read to four figures; a cup or a part is good to three.
_FINE = frozenset({"mL", "L", "g", "kg", "mg", "%"})


@cache
def units() -> dict[str, Unit]:
    """Every unit by id, in the order of the data file.

    >>> units()["L"].kind, units()["L"].factor
    ('volume', 1000.0)
    """
    table: dict[str, Any] = datafiles.toml("measures/units.toml")
    return {key: Unit(key, u["kind"], u["factor"], u["label"]) for key, u in table.items()}


@cache
def names_of_units() -> dict[str, tuple[str, ...]]:
    """Every spelling of each unit in small letters, singular, its id first.

    >>> names_of_units()["mL"][:2]
    ('ml', 'millilitre')
    """
    table: dict[str, Any] = datafiles.toml("measures/units.toml")
    return {key: tuple(dict.fromkeys((key.lower(), *unit["names"]))) for key, unit in table.items()}


@cache
def spellings() -> dict[str, tuple[str, float]]:
    """What every spelling of a unit stands for: a unit, and how many of it.

    >>> spellings()["cl"], spellings()["teaspoons"]
    (('mL', 10.0), ('tsp', 1.0))
    """
    spelt: dict[str, tuple[str, float]] = {}
    table: dict[str, Any] = datafiles.toml("measures/units.toml")
    for key, names in names_of_units().items():
        for name, many in (*((name, 1.0) for name in names), *table[key].get("multiples", {}).items()):
            for ending in ("", "s", "es"):
                spelt[name + ending] = key, float(many)
    return spelt


#: Said of a spoon or cup; it is counted level.
FILLED = re.compile(r"^(?:heaped|heaping|level|rounded|scant|generous|full) (?=\w)", re.IGNORECASE)


def read_unit(text: str) -> tuple[str, float]:
    """The id of the unit a word stands for, and how many of it; plurals and usual spellings are read.

    Args:
        text: a unit as somebody writes it.

    Raises:
        CannotRead: for a word that is no unit; a near one is named.

    >>> read_unit("Teaspoons"), read_unit("fl. oz."), read_unit("cl")
    (('tsp', 1.0), ('floz', 1.0), ('mL', 10.0))
    """
    word = FILLED.sub("", re.sub(r"\s+", " ", text.strip().lower()).rstrip("."))
    found = spellings().get(word) or _own(word)
    if found is None:
        raise CannotRead(
            f"{quoted(text)} is not a unit Firkin knows.{_meant(word)} Write mL, L, g, kg, tsp, tbsp, cup, "
            "floz, pint, quart, gal, oz, lb, drop, part or %."
        )
    return found


def _own(word: str) -> tuple[str, float] | None:
    """A unit of the maker's own, in mL or g; CannotRead where its size was never said."""
    unit = maker_unit(word)
    if unit is None:
        return None
    size = size_of(unit)
    if size is None:
        one = maker_units()[unit]
        raise CannotRead(
            f"How much is {one.name[0].lower()}{one.name[1:]}? Say it once in the settings of the workshop, or write "
            f"{'mL' if one.kind == 'volume' else 'g'}; about {one.about} is usual, and nothing is guessed."
        )
    return size


def _meant(word: str) -> str:
    """A question that names the unit whose spelling is nearest, if one is near."""
    near = get_close_matches(word, spellings(), n=1, cutoff=0.75)
    return f" Did you mean {near[0]}?" if near else ""


def read_quantity(text: str) -> Quantity:
    """Read an amount: "833.3 mL", "2 1/4 cup", "½ tsp", "3,45 L", "12 drops", "2 parts", "69 %", "q.s.",
    "1/2 cup + 2 tbsp", "2 x 1 L + 500 mL", "3 bars of 100 g".

    Args:
        text: an amount with its unit.

    Raises:
        CannotRead: when it is empty, has no unit or an unknown one, or is not more than 0.

    >>> read_quantity("2¼ cups"), read_quantity("q.s.")
    (Quantity(value=2.25, unit='cup'), Quantity(value=0.0, unit='q.s.'))
    """
    stripped = text.strip()
    if not stripped:
        raise CannotRead("An amount is missing. Write one such as 250 mL, 2 parts or q.s.")
    if stripped.lower() in _QS_SPELLINGS:
        return Quantity(0.0, QS)
    counted = counted_out(stripped)
    if counted != [("1", stripped)]:
        return _summed([(read_number(count), read_quantity(each)) for count, each in counted], stripped)
    match = NUMBER.match(stripped)
    if match is None:
        raise CannotRead(f"{quoted(stripped)} is not an amount. Write a number and a unit, such as 250 mL.")
    rest = stripped[match.end() :].strip()
    doubt_points(match.group(), round_only=True)
    value = read_number(match.group())
    if not rest:
        raise CannotRead(f"{stripped} of what? Add a unit: mL, g, cup, part or %.")
    unit, many = read_unit(rest)
    if value <= 0:
        raise CannotRead(f"{stripped[:40]}: an amount must be more than 0.")
    return Quantity(value * many, unit)


def _summed(amounts: list[tuple[float, Quantity]], written: str) -> Quantity:
    """Amounts of one kind, each so often, as one in the unit of the first."""
    first = amounts[0][1]
    alone = len(amounts) == 1 and first.kind != "qs"
    if not alone and (first.kind not in ("volume", "mass") or any(one.kind != first.kind for _, one in amounts)):
        raise CannotRead(f"{quoted(written)} adds what cannot be added. Write one amount, such as 1.5 cup.")
    total = sum(count * one.value * units()[one.unit].factor for count, one in amounts) / units()[first.unit].factor
    if total <= 0:
        raise CannotRead(f"{quoted(written)} leaves nothing: an amount must be more than 0.")
    return Quantity(total, first.unit)


def read_volume_or_mass(text: str, example: str = "1.5 L") -> Quantity:
    """Read a finished quantity: a volume or a mass, not parts, per cent or q.s.

    Args:
        text: an amount with its unit.
        example: what the error names as an example.

    Raises:
        CannotRead: for parts, per cents and q.s., and as read_quantity does.

    >>> read_volume_or_mass("1,5 L").mL
    1500.0
    """
    quantity = read_quantity(text)
    if quantity.kind not in ("volume", "mass"):
        raise CannotRead(f"{quoted(text)} is not a volume or a weight. Write one such as {example}.")
    return quantity


def read_volume(text: str, example: str = "1 L") -> Quantity:
    """Read a volume; a mass is refused.

    Args:
        text: a volume with its unit.
        example: what the error names as an example.

    Raises:
        CannotRead: for anything but a volume.

    >>> round(read_volume("2 quarts").mL, 3)
    1892.706
    """
    quantity = read_quantity(text)
    if quantity.kind != "volume":
        raise CannotRead(f"{quoted(text)} is not a volume. Write one such as {example}.")
    return quantity


def read_heat(text: str) -> float:
    """Read the temperature of something on the stove or in the jug: "70 °C", "158 F".

    Args:
        text: a temperature in degC or degF.

    Raises:
        CannotRead: outside -20 to 120 degC.

    >>> read_heat("70 °C"), read_heat("158 F")
    (70.0, 70.0)
    """
    value = _degrees(text)
    if not -20.0 <= value <= 120.0:
        raise CannotRead(f"{figures(value)} °C is outside -20 to 120 °C, what a bench has to do with.")
    return value


def read_temperature(text: str) -> float:
    """Read a bench temperature in degrees Celsius: "20 degC", "27 °C", "68 F".

    Args:
        text: a temperature in degC or degF.

    Raises:
        CannotRead: outside -20 to 40 degC, the range of OIML R 22.

    >>> read_temperature("27 °C"), read_temperature("68 degF")
    (27.0, 20.0)
    """
    value = _degrees(text)
    if not -20.0 <= value <= 40.0:
        raise CannotRead(f"{figures(value)} °C is outside -20 to 40 °C, the range of the density tables.")
    return value


def _degrees(text: str) -> float:
    match = re.fullmatch(r"\s*(-?[\d.,]+)\s*(?:deg|degrees|°)?\s*([cf]|celsius|fahrenheit)?\s*", text, re.I)
    if match is None:
        raise CannotRead(f"{quoted(text)} is not a temperature. Write one such as 20 degC.")
    value = read_number(match[1])
    if (match[2] or "c").lower().startswith("f"):
        value = (value - 32.0) / 1.8
    return value
