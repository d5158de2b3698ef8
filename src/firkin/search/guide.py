"""What the guide and the house know by name, found by the same words: rules, cautions, materials, house formulas."""

from dataclasses import dataclass
from functools import cache

from django.urls import reverse

from firkin.core.catalogue import cautions, materials, rule_lines
from firkin.core.formula import house_formulas
from firkin.core.questions import QUESTIONS

#: So many of them are shown.
MOST = 20


@dataclass(frozen=True, slots=True)
class Known:
    """Something Firkin knows: its kind in words, its title, where it stands, and the words it is found by."""

    kind: str
    title: str
    address: str
    words: str


@cache
def known() -> tuple[Known, ...]:
    """Everything that can be found."""
    guide = reverse("guide:guide")
    rules = [Known("rule", one.name, f"{guide}#{one.id}", f"{one.name} {one.source}") for one in rule_lines().values()]
    said = [Known("caution", one.text, guide, one.text) for one in cautions().values()]
    house = [
        Known(
            "house formula", one.formula.name, reverse("formulas:house", args=[key]), f"{one.formula.name} {one.family}"
        )
        for key, one in house_formulas().items()
    ]
    asked = [
        Known("question", one.title, reverse("reckoner:question", args=[key]), f"{one.title} {one.short} {one.lead}")
        for key, one in QUESTIONS.items()
    ]
    there = [Known("material", one.name, guide, " ".join((one.name, *one.names))) for one in materials().values()]
    return (*asked, *house, *rules, *said, *there)


def found(text: str) -> list[Known]:
    """What holds a word that begins with each word of a text."""
    words = "".join(sign if sign.isalnum() else " " for sign in text[:200].lower()).split()
    if not words:
        return []
    fits = [one for one in known() if all(_begins(one.words.lower(), word) for word in words)]
    return fits[:MOST]


def _begins(text: str, word: str) -> bool:
    """True where a word of a text begins so."""
    return f" {word}" in " " + "".join(sign if sign.isalnum() else " " for sign in text)
