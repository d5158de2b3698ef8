"""Recipe texts put together by chance: so much of this and that, written in one of many manners."""

import random
from collections.abc import Callable
from dataclasses import dataclass

from firkin.core.catalogue import find
from firkin.core.measures import Quantity, read_quantity

#: What it is called, and its strengths as a label says them ("" for none).
STOCKS = (
    ("isopropyl alcohol", ("70 %", "91 %", "99 %", "")),
    ("rubbing alcohol", ("70%", "91%")),
    ("ethanol", ("96 %", "96 % v/v", "70%")),
    ("grain alcohol", ("190 proof",)),
    ("hydrogen peroxide", ("3 %", "3%", "6 %")),
    ("bleach", ("5 %", "6%", "")),
    ("SLES", ("70 %", "28 %", "")),
    ("water", ("",)),
    ("distilled water", ("",)),
    ("aloe vera gel", ("",)),
    ("glycerin", ("",)),
    ("castile soap", ("",)),
    ("white vinegar", ("",)),
    ("lavender oil", ("",)),
    ("tea tree oil", ("",)),
    ("washing soda", ("",)),
    ("baking soda", ("",)),
    ("borax", ("",)),
    ("citric acid", ("",)),
    ("table salt", ("",)),
    ("xanthan gum", ("",)),
    ("caustic soda", ("",)),
    ("cocamide DEA", ("",)),
    ("phenoxyethanol", ("",)),
    ("triethanolamine", ("",)),
    ("grated soap", ("",)),
    ("moringa paste", ("",)),
)
NUMBERS = {
    "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "ten": 10, "twelve": 12, "twenty": 20, "twenty-five": 25, "half a": 0.5,
    "one and a half": 1.5, "two and a half": 2.5, "three quarters of a": 0.75, "a quarter": 0.25, "a third of a": 1 / 3,
    "a couple of": 2, "one": 1, "a": 1,
}  # fmt: skip
FIGURES = {
    "1": 1,
    "2": 2,
    "3": 3,
    "250": 250,
    "41.7": 41.7,
    "14,5": 14.5,
    "0.75": 0.75,
    "1/2": 0.5,
    "2 1/4": 2.25,
    "1½": 1.5,
    "¼": 0.25,
    "8-10": 9,
    "1-1/2": 1.5,
    "833.3": 833.3,
}
#: Units as they are written, singular and plural.
UNITS = (
    ("mL", "mL", "mL"), ("ml", "ml", "mL"), ("litre", "litres", "L"), ("L", "L", "L"), ("g", "g", "g"), ("kg", "kg", "kg"),
    ("gram", "grams", "g"), ("cup", "cups", "cup"), ("tablespoon", "tablespoons", "tbsp"), ("tbsp", "tbsp", "tbsp"), ("tsp", "tsp", "tsp"),
    ("teaspoon", "teaspoons", "tsp"), ("part", "parts", "part"), ("drop", "drops", "drop"), ("fl oz", "fl oz", "floz"), ("pint", "pints", "pint"),
    ("quart", "quarts", "quart"), ("gallon", "gallons", "gal"), ("pound", "pounds", "lb"),
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Item:
    """One thing that goes in: its name, strength and amount as written, and the amount meant."""

    name: str
    strength: str
    amount: str
    meant: Quantity
    worded: bool

    @property
    def line(self) -> tuple[str, str, str]:
        """What it must be read as: material, strength, amount."""
        material = find(self.name)
        strength = str(material.read_strength(self.strength)) if self.strength else ""
        return material.written if material.known else self.name, strength, str(read_quantity(str(self.meant)))


def item(chance: random.Random, taken: set[str], worded: bool) -> Item:
    """A thing drawn by chance, none twice."""
    name, strengths = chance.choice([stock for stock in STOCKS if find(stock[0]).id not in taken])
    taken.add(find(name).id)
    singular, plural, unit = chance.choice(UNITS)
    number = chance.choice(tuple(NUMBERS if worded else FIGURES))
    value = (NUMBERS if worded else FIGURES)[number]
    written = f"{number} {singular if value <= 1 or number.endswith(' a') else plural}"
    return Item(name, chance.choice(strengths), written, Quantity(float(value), unit), worded)


def _of(one: Item, chance: random.Random) -> str:
    of = chance.choice((" of ", " "))
    if not one.strength:
        return f"{one.amount}{of}{one.name}"
    manners = (
        f"{one.amount}{of}{one.strength} {one.name}", f"{one.amount}{of}{one.name} {one.strength}",
        f"{one.amount}{of}{one.name} ({one.strength})", f"{one.amount}{of}{one.name}, {one.strength}",
        f"{one.amount}{of}{one.name} at {one.strength}",
    )  # fmt: skip
    return chance.choice(manners)


def _named(one: Item, chance: random.Random) -> str:
    strength = f" {one.strength}" if one.strength else ""
    sign = chance.choice((" ", ": ", " - ", ", ", " ..... ", " = "))
    return f"{one.name}{strength}{sign}{one.amount}"


def _list(items: list[Item], chance: random.Random) -> str:
    bullet = chance.choice(("- ", "* ", "", "• "))
    title = chance.choice(("", "Ingredients:\n", "My recipe\n", "What you need:\n"))
    return title + "\n".join(bullet + _of(one, chance) for one in items)


def _numbered(items: list[Item], chance: random.Random) -> str:
    verbs = ("Add", "Pour in", "Stir in", "Weigh out", "Measure")
    return "\n".join(f"{i}. {chance.choice(verbs)} {_of(one, chance)}." for i, one in enumerate(items, 1))


def _sheet(items: list[Item], chance: random.Random) -> str:
    return "\n".join(_named(one, chance) for one in items)


def _sentence(items: list[Item], chance: random.Random) -> str:
    lead = chance.choice(("Mix ", "Take ", "You need ", "I use ", "So you're gonna take ", "Combine ", "It's "))
    *most, last = [_of(one, chance) for one in items]
    tail = chance.choice(("", ". Shake well.", " and stir.", ". That's it!"))
    return f"{lead}{', '.join(most)} and {last}{tail}"


def _spoken(items: list[Item], chance: random.Random) -> str:
    joints = (", then ", " and ", " and then ", ", add ", " plus ", ". Then add ", ", stir in ")
    text = "okay so you start with " + _of(items[0], chance)
    for one in items[1:]:
        text += chance.choice(joints) + _of(one, chance)
    return text


def _run_on(items: list[Item], chance: random.Random) -> str:
    return " ".join(f"{one.amount} {one.strength + ' ' if one.strength else ''}{one.name}" for one in items)


def _table(items: list[Item], chance: random.Random) -> str:
    head = chance.choice(("| What | How much |\n|---|---|\n", "", "material | amount\n"))
    return head + "\n".join(f"| {one.name} {one.strength} | {one.amount} |" for one in items)


def _csv(items: list[Item], chance: random.Random) -> str:
    return "material,strength,amount\n" + "\n".join(f'"{one.name}","{one.strength}","{one.amount}"' for one in items)


MANNERS: tuple[Callable[[list[Item], random.Random], str], ...] = (
    _list, _numbered, _sheet, _sentence, _spoken, _run_on, _table, _csv,
)  # fmt: skip


def composition(seed: int) -> tuple[str, str, list[Item]]:
    """A text, its manner, and what goes in."""
    chance = random.Random(seed)
    manner = chance.choice(MANNERS)
    worded = manner in (_spoken, _sentence, _run_on) and chance.random() < 0.5
    taken: set[str] = set()
    items = [item(chance, taken, worded) for _ in range(chance.randint(2, 6))]
    return manner(items, chance), manner.__name__.strip("_"), items
