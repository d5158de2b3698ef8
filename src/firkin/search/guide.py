"""What the guide and the house know by name, found by the same words: rules, cautions, materials, house formulas."""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache

from django.urls import reverse

from firkin.core.catalogue import cautions, families, materials, rule_lines
from firkin.core.formula import house_formulas
from firkin.core.questions import QUESTIONS
from firkin.guide import contents

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
    return (*_to_do(), *_guide())


def _to_do() -> Iterator[Known]:
    for key, asked in QUESTIONS.items():
        words = f"{asked.title} {asked.short} {asked.lead}"
        yield Known("question", asked.title, reverse("reckoner:question", args=[key]), words)
    for key, house in house_formulas().items():
        name = house.formula.name
        yield Known("house formula", name, reverse("formulas:house", args=[key]), f"{name} {house.family}")


def _guide() -> Iterator[Known]:
    for one in families().values():
        yield Known("to make", one.name, reverse("guide:family", args=[one.id]), one.name)
    for trouble in contents.troubles():
        words = " ".join((trouble.name, *trouble.advice))
        yield Known("trouble", trouble.name, f"{reverse('guide:troubles')}#{trouble.id}", words)
    for material in materials().values():
        words = " ".join((material.name, *material.names))
        yield Known("material", material.name, reverse("guide:material", args=[material.id]), words)
    for rule in rule_lines().values():
        yield Known("rule", rule.name, f"{reverse('guide:rules')}#{rule.id}", f"{rule.name} {rule.source}")
    for word in contents.words():
        words = f"{word.name} {word.terms} {word.text}"
        yield Known("word", word.name, f"{reverse('guide:words')}#{word.id}", words)
    for caution in cautions().values():
        yield Known("caution", caution.text, f"{reverse('guide:cautions')}#{caution.id}", caution.text)


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
