"""Procedures put together by chance out of phrases.toml: what they tell is known, because it was made up first."""

import random
import tomllib
from dataclasses import dataclass, field
from pathlib import Path

_PHRASES = tomllib.loads((Path(__file__).parent / "phrases.toml").read_text("utf-8"))
_PAIRS = _PHRASES.pop("pairs")
VOICES = tuple(_PHRASES)

#: What a list calls a material, and what the doing calls it.
_NAMES = {
    "ethanol": (("96 % ethanol", "ethanol (96%)"), ("the ethanol", "the alcohol")),
    "isopropanol": (("99% isopropyl alcohol", "isopropanol 99 %", "91% isopropyl"), ("the isopropyl", "the alcohol")),
    "hydrogen-peroxide": (("3% hydrogen peroxide", "hydrogen peroxide 3 %"), ("the peroxide", "the hydrogen peroxide")),
    "glycerol": (("glycerine", "glycerol"), ("the glycerine", "the glycerol")),
    "water": (("water", "distilled water", "boiled water, cooled"), ("the water",)),
    "xanthan-gum": (("xanthan gum", "xanthan"), ("the xanthan", "the gum")),
    "aloe-gel": (("aloe vera gel", "aloe gel"), ("the aloe", "the gel")),
    "essential-oil": (("lavender oil", "lavender essential oil"), ("the oil", "the lavender", "the lavender oil")),
    "washing-soda": (("washing soda",), ("the washing soda", "the soda")),
    "borax": (("borax",), ("the borax",)),
    "bar-soap": (("grated bar soap", "bar soap, grated"), ("the soap", "the grated soap")),
    "castile-soap": (("liquid castile soap", "castile soap"), ("the castile", "the soap")),
    "citric-acid": (("citric acid",), ("the citric acid", "the citric")),
    "salt": (("salt", "table salt"), ("the salt",)),
    "caustic-soda": (("caustic soda", "lye"), ("the caustic soda", "the lye")),
    "labsa": (("sulfonic acid 96 %", "labsa 96%"), ("the sulfonic acid", "the labsa")),
    "sles": (("SLES 70 %", "SLES 70%"), ("the SLES",)),
    "phenoxyethanol": (("phenoxyethanol",), ("the preservative", "the phenoxyethanol")),
    "sodium-hypochlorite": (("bleach 5 %", "household bleach, 5%"), ("the bleach",)),
}
#: Each made with its lines and what is done with them: a word for how, and the line, or hours.
_MADE = (
    (
        "Hand rub",
        (("isopropanol", "751 ml"), ("hydrogen-peroxide", "42 ml"), ("glycerol", "15 ml"), ("water", "192 ml")),
        (("first", 0), ("next", 1), ("next", 2), ("last", 3), ("rests", 72)),
    ),
    (
        "Gel",
        (("glycerol", "24 g"), ("xanthan-gum", "6 g"), ("water", "340 g"), ("ethanol", "630 g")),
        (("cup", 1), ("joins", 2), ("rests", 12), ("additions", 3)),
    ),
    (
        "Aloe rub",
        (("aloe-gel", "200 ml"), ("isopropanol", "400 ml"), ("essential-oil", "20 drops")),
        (("first", 0), ("slowly", 1), ("last", 2)),
    ),
    (
        "Laundry soap",
        (("water", "4 L"), ("bar-soap", "150 g"), ("washing-soda", "100 g"), ("borax", "90 g")),
        (("half", 0), ("next", 1), ("next", 2), ("next", 3), ("rest", 0), ("rests", 24)),
    ),
    (
        "Dish liquid",
        (
            *(("water", "1400 g"), ("caustic-soda", "38 g"), ("labsa", "260 g")),
            *(("sles", "180 g"), ("phenoxyethanol", "15 g"), ("salt", "30 g")),
        ),
        (("first", 0), ("slowly", 1), ("slowly", 2), ("next", 3), ("next", 4), ("additions", 5)),
    ),
    (
        "Foaming soap",
        (("castile-soap", "250 ml"), ("water", "750 ml"), ("glycerol", "15 ml"), ("essential-oil", "15 drops")),
        (("first", 1), ("next", 0), ("next", 2), ("last", 3)),
    ),
    (
        "Bathroom spray",
        (("water", "1 L"), ("citric-acid", "50 g"), ("phenoxyethanol", "10 g"), ("essential-oil", "2 ml")),
        (("first", 0), ("next", 1), ("next", 2), ("last", 3), ("rests", 24)),
    ),
    ("Disinfecting spray", (("water", "950 ml"), ("sodium-hypochlorite", "50 ml")), (("first", 0), ("last", 1))),
)
_NUMBERS = {3: "three", 4: "four", 5: "five"}


@dataclass
class Made:
    """A text with what it tells: lines in the order they go in, additions, parts, rests, and what has a cup of its own."""

    text: str = ""
    order: list[str] = field(default_factory=list)
    portions: dict[str, int] = field(default_factory=dict)
    halved: list[str] = field(default_factory=list)
    waits: list[float] = field(default_factory=list)
    aside: list[str] = field(default_factory=list)


class _Teller:
    def __init__(self, seed: int, voice: str) -> None:
        self.chance, self.voice = random.Random(seed), voice
        self.title, self.lines, self.deeds = self.chance.choice(_MADE)
        self.made = Made()
        #: Half of all texts tell the amounts in the doing, and have no list.
        self.inline = voice == "everyday" and self.chance.random() < 0.4
        self.listed = [self.chance.choice(_NAMES[material][0]) for material, _ in self.lines]
        self.named: set[int] = set()

    def name(self, line: int) -> str:
        """What a line is called where it goes in; with its amount where no list told that."""
        material, amount = self.lines[line]
        if self.inline and line not in self.named:
            self.named.add(line)
            return f"{amount} {self.chance.choice(('', 'of '))}{self.listed[line]}"
        said = self.chance.choice(_NAMES[material][1])
        return said.removeprefix("the ") if self.voice == "notes" else said

    def sentence(self, how: str, line: int) -> str:
        """One deed told, and kept as what is to be read."""
        phrases, made = _PHRASES[self.voice], self.made
        if how == "rests":
            made.waits.append(float(line))
            return self.chance.choice(phrases[f"rests_{line}"])
        material = self.lines[line][0]
        if how == "cup":
            made.aside = [self.lines[0][0], self.lines[1][0]]
            gum, glycerol = self.name(1), self.name(0)
            told = self.chance.choice(phrases["cup"])
            return told.format(a=gum, b=glycerol, A=_capital(gum), B=_capital(glycerol))
        if how != "rest":
            made.order.append(material)
        if how in ("half", "rest", "joins"):
            made.halved += [material] if how == "half" else []
            words = self.chance.choice(phrases[how])
            if self.inline and line not in self.named:
                whole = self.name(line)
                words = words.replace("half the water", f"half of {whole}").replace("the water", whole)
            return words
        many = self.chance.choice(list(_NUMBERS)) if how == "additions" else 0
        if how in ("additions", "slowly"):
            made.portions[material] = many
        name, number = self.name(line), self.chance.choice((_NUMBERS.get(many, ""), str(many)))
        return self.chance.choice(phrases[how]).format(r=name, R=_capital(name), n=number)

    def pair(self, one: int, other: int) -> str:
        """Two that are told beside each other."""
        self.made.order += [self.lines[one][0], self.lines[other][0]]
        return self.chance.choice(_PAIRS["in_turn"] + _PAIRS["together"]).format(i=self.name(one), j=self.name(other))

    def tell(self) -> Made:
        """All of it, in sentences, steps, lines or one breath."""
        said, deeds = [], list(self.deeds)
        while deeds:
            how, line = deeds.pop(0)
            beside = self.voice == "everyday" and not self.inline and how in ("first", "next") and deeds
            if beside and deeds[0][0] in ("next", "last") and self.chance.random() < 0.3:
                said.append(self.pair(line, deeds.pop(0)[1]))
            else:
                said.append(self.sentence(how, line))
        style = self.chance.choice(("sentences", "sentences", "steps", "lines"))
        if style == "steps":
            doing = "\n".join(f"{number}. {_capital(one)}." for number, one in enumerate(said, 1))
        elif style == "lines":
            doing = "\n".join(map(_capital, said))
        else:
            doing = ("; " if self.voice == "notes" else ". ").join(map(_capital, said)) + "."
        self.made.text = f"{self.title}\n\n{doing}" if self.inline else f"{self.title}\n\n{self.list()}\n\n{doing}"
        return self.made

    def list(self) -> str:
        """The list of what goes in."""
        way = self.chance.choice(("{a} {n}", "{n}: {a}", "{n} ({a})", "{n} - {a}", "{a} of {n}"))
        items = [way.format(a=amount, n=name) for (_, amount), name in zip(self.lines, self.listed, strict=True)]
        sign = self.chance.choice(("- ", "* ", ""))
        return "\n".join(sign + item for item in items) if self.chance.random() < 0.7 else "; ".join(items) + "."


def _capital(words: str) -> str:
    return words[:1].upper() + words[1:]


def told(seed: int, voice: str) -> Made:
    """A procedure told in a voice, always the same for the same seed."""
    return _Teller(seed, voice).tell()
