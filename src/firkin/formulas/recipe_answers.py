"""What a maker is asked of a recipe that was read: does it go in, and of two readings of a line, which is right?"""

import json
import re
from collections.abc import Iterator
from dataclasses import dataclass, replace

from django.http import QueryDict

from firkin.core.catalogue import dangers_in
from firkin.core.measures import Quantity
from firkin.core.recipe import COUNTED_LIKE, HeardDanger, HeardLine, as_counted
from firkin.core.texts import uncapped

#: Between an amount as it was read and another that stands near it: who types one has answered.
BESIDE = " beside "
#: Answering whether something goes in: one named in the text, or a chip; and what a doubtful chip means.
_ANSWERED = re.compile(r"(in|out)-danger-(\d{1,3})|(in|both|strong|plain|sure|bare|rather|same)-chip-(\d{1,3})")


@dataclass(frozen=True, slots=True)
class Doubtful:
    """A question about a chip, and its answers: the word of each press, and what it sends."""

    asks: str
    answers: list[tuple[str, str]]


def answered(press: str) -> re.Match[str] | None:
    """The answer that a press of the page is; None where it is none."""
    return _ANSWERED.fullmatch(press)


def doubtful(lines: list[HeardLine], make: Quantity | None) -> list[Doubtful]:
    """Of lines that were read in two ways: what is asked, and the presses that answer it."""
    asked: set[str] = set()
    found = list(_unitless(lines, make))
    for i, line in enumerate(lines):
        name = line.material.name
        alike = [at for at, one in enumerate(lines) if one.material.written == line.material.written]
        if line.claims.twice and len(alike) > 1 and line.material.written not in asked:
            asked.add(line.material.written)
            outs = [(f"Not {lines[at].words()[2]}", f"drop-chip-{at}") for at in alike]
            found.append(Doubtful(f"{name}, told twice", [("Both go in", f"both-chip-{i}"), *outs]))
        if line.claims.beside is not None and line.strength != line.claims.beside:
            instead = f", not {line.strength}" if line.strength is not None else ""
            says = f"Is the {uncapped(name)} {line.claims.beside}{instead}?"
            answers = [("It is", f"strong-chip-{i}"), ("It is not", f"plain-chip-{i}")]
            found.append(Doubtful(says, answers))
        if line.claims.another is not None and line.amount is not None:
            answers = [(line.words()[2], f"same-chip-{i}"), (line.claims.another.words, f"rather-chip-{i}")]
            found.append(Doubtful(f"How much {uncapped(name)}?", answers))
    return found


def _unitless(lines: list[HeardLine], make: Quantity | None) -> Iterator[Doubtful]:
    """One question for all figures that were told without a unit."""
    bare = {i: line for i, line in enumerate(lines) if line.claims.unitless}
    said = {i: as_counted(line.material, line.amount, make) for i, line in bare.items() if line.amount is not None}
    if said:
        right = "That is right" if len(said) == 1 else "All are right"
        wrong = [(f"Not {words}", f"bare-chip-{i}") for i, words in said.items()]
        yield Doubtful(f"{COUNTED_LIKE} {', '.join(said.values())}", [(right, f"sure-chip-{min(said)}"), *wrong])


def kept_dangers(kept: list[str]) -> tuple[HeardDanger, ...]:
    """Dangers that travelled with the chips; what did not arrive whole is heard anew by its words."""
    found = []
    for words in kept:
        try:
            said, sure = json.loads(words)
            named = dangers_in(str(said)[:80])
        except (ValueError, TypeError, RecursionError):
            continue
        found += [HeardDanger(one.said, one.material, bool(sure)) for one in named[:1]]
    return tuple(found)


def with_answer(dangers: tuple[HeardDanger, ...], answer: re.Match[str] | None) -> tuple[HeardDanger, ...]:
    """The dangers with one answered: it goes in for sure, or it was only talked about."""
    if answer is None or answer[2] is None or int(answer[2]) >= len(dangers):
        return dangers
    at = int(answer[2])
    told = (replace(dangers[at], sure=True),) if answer[1] == "in" else ()
    return (*dangers[:at], *told, *dangers[at + 1 :])


def told_of_chip(data: QueryDict, answer: str, at: int) -> QueryDict:
    """The fields with a chip's question answered: it goes in, so do both, a strength is its own, a unit is right.

    An amount whose unit is not right wants to be typed.
    """
    told = data.copy()
    kept = ("material", "strength", "amount", "talked", "twice", "beside", "unitless", "another")
    fields = {key: told.getlist(key) for key in kept}
    if at >= min(map(len, fields.values())):
        return told
    if answer == "in":
        fields["talked"][at] = ""
    elif answer == "sure":
        fields["unitless"] = [""] * len(fields["unitless"])
    elif answer == "bare":
        fields["unitless"][at] = fields["amount"][at] = ""
    elif answer == "both":
        alike = [i for i, name in enumerate(fields["material"]) if name == fields["material"][at]]
        for i in alike:
            fields["twice"][i] = ""
    elif answer in ("same", "rather"):
        if answer == "rather" and fields["another"][at]:
            fields["amount"][at] = fields["another"][at].partition(BESIDE)[2]
        fields["another"][at] = ""
    else:
        if answer == "strong":
            fields["strength"][at] = fields["beside"][at]
        fields["beside"][at] = ""
    for key, values in fields.items():
        told.setlist(key, values)
    return told
