"""Of which lines a reading is not sure: they are asked about, with the second way to read them where there is one."""

import re
from collections.abc import Iterator
from contextlib import suppress
from dataclasses import replace

from firkin.core.audit import GOES_IN, Finding, Severity
from firkin.core.catalogue import Material
from firkin.core.errors import CannotReckon
from firkin.core.formula import LineClaims
from firkin.core.measures import Quantity, Strength
from firkin.core.recipe.dangers import without_told
from firkin.core.recipe.figures import compose
from firkin.core.recipe.recipe import HeardLine, MarkKind, Recipe
from firkin.core.recipe.said import Amount, Percent
from firkin.core.recipe.spans import spans_of
from firkin.core.texts import uncapped

#: What parts two sentences, and what a figure does not reach over.
_PARTED = re.compile(r"[.!?;]\s|\n")
#: A piece that was not understood and is longer than this is no strength alone.
_A_STRENGTH = 60
BOTH_GO_IN = ("Both go in", "Only one of them")
COUNTED_LIKE = "No unit given. Firkin used the one before:"
AS_COUNTED = ("It is right", "It is not")
ITS_STRENGTH = ("It is its strength", "It is not")


def doubted(recipe: Recipe) -> Recipe:
    """The recipe with its doubtful lines marked: told twice in two amounts, or with a strength or an
    amount beside it left over.

    >>> from firkin.core.recipe.reader import read_recipe
    >>> text = "Surface spray: water 1 L, bleach 5 % 50 ml. Edit: bleach 25 ml."
    >>> [line.claims.twice for line in read_recipe(text, "metric").lines]
    [False, True, True]
    """
    left = list(_left(recipe))
    others = _others(recipe, left)
    lines = tuple(replace(line, claims=_claims(recipe, at, left, others)) for at, line in enumerate(recipe.lines))
    return replace(recipe, lines=lines)


def in_two_strengths(recipe: Recipe) -> Recipe:
    """The recipe with a stock that is told in a second strength, and no second amount, as one doubtful line.

    >>> from firkin.core.recipe.reader import read_recipe
    >>> recipe = read_recipe("ethanol 96 % 800 ml, water 40 ml. So I take the 90 % ethanol.", "metric")
    >>> [(line.words(), str(line.claims.beside)) for line in recipe.lines][0]
    (('ethanol', '96 % v/v', '800 ml'), '90 % v/v')
    """
    lines, gone = list(recipe.lines), []
    for place, one in enumerate(recipe.lines):
        measured = [at for at, line in enumerate(lines) if _told_stronger(line, one, recipe.text)]
        if len(measured) == 1:
            line = lines[measured[0]]
            lines[measured[0]] = replace(line, claims=replace(line.claims, beside=one.strength))
            gone.append(place)
    return without_told(replace(recipe, lines=tuple(lines)), gone) if gone else recipe


def _told_stronger(line: HeardLine, one: HeardLine, text: str) -> bool:
    """True where a sentence of its own tells another strength of a stock that is measured, and no amount."""
    first, second = sorted((line.at, one.at))
    if _PARTED.search(text, first[1] - 1, second[0]) is None:
        return False
    same = line.material.written == one.material.written and line.amount is not None and one.amount is None
    return same and not one.wording and None not in (line.strength, one.strength) and line.strength != one.strength


def is_sure(recipe: Recipe, at: int) -> bool:
    """True for a line that is taken as read: nothing of it was guessed, missed, or told in two ways.

    A long account is asked about as a whole, so none of its lines is sure.

    Args:
        recipe: a recipe as read_recipe gives it.
        at: position of the line, from 0.

    >>> from firkin.core.recipe.reader import read_recipe
    >>> recipe = read_recipe("ethanol 96 % 800 ml, a splash of glycerol", "metric")
    >>> is_sure(recipe, 0), is_sure(recipe, 1)
    (True, False)
    """
    line = recipe.lines[at]
    claims = line.claims
    doubts = (claims.talked, claims.guessed, claims.twice, claims.beside, claims.unitless, claims.another)
    return not recipe.at_length and not any(doubts) and line.amount is not None and line.material.known


def second_reading(recipe: Recipe, at: int) -> HeardLine | None:
    """The other way to read a doubtful line; None where there is none to tell.

    Args:
        recipe: a recipe as read_recipe gives it.
        at: position of the line, from 0.

    >>> from firkin.core.recipe.reader import read_recipe
    >>> recipe = read_recipe("water 1 L, bleach 5 % 50 ml. Edit: bleach 25 ml.", "metric")
    >>> str(second_reading(recipe, 1).amount), second_reading(recipe, 0)
    ('25 mL', None)
    """
    line = recipe.lines[at]
    if line.claims.beside is not None:
        return replace(line, strength=line.claims.beside)
    if line.claims.another is not None:
        return replace(line, amount=line.claims.another, wording="")
    if line.claims.twice:
        other = next(one for i, one in enumerate(recipe.lines) if i != at and _is_other(line, one))
        return replace(line, amount=other.amount, strength=other.strength or line.strength)
    return None


def unsure_lines(recipe: Recipe) -> Iterator[Finding]:
    """A question for each doubtful line that only its maker can answer."""
    yield from _unitless(recipe)
    asked: set[str] = set()
    for at, line in enumerate(recipe.lines):
        name = line.material.name
        there = tuple(i for i, one in enumerate(recipe.lines) if one is line or _is_other(line, one))
        if line.claims.twice and len(there) > 1 and line.material.written not in asked:
            asked.add(line.material.written)
            amounts = " and ".join(recipe.lines[i].words()[2] for i in there)
            text = f"{name} stands here twice: {amounts}. Do both go in?"
            yield Finding("line-unsure", Severity.ASK, text, "Take out the one that does not.", there, None, BOTH_GO_IN)
        beside = line.claims.beside
        if beside is not None and line.strength != beside:
            instead = f", not {line.strength}" if line.strength is not None else ""
            text = f"“{beside}” stands near the {uncapped(name)}. Is that how strong it is{instead}?"
            yield Finding("line-unsure", Severity.ASK, text, "", (at,), None, ITS_STRENGTH)
        if line.claims.another is not None and line.amount is not None:
            text = f"“{line.claims.another.words}” stands near the {uncapped(name)} too. Is {line.words()[2]} right?"
            yield Finding("line-unsure", Severity.ASK, text, "If not, type the amount.", (at,), None, AS_COUNTED)
        if line.claims.talked:
            text = f"The text may not mean the {uncapped(name)}. Does it go in?"
            yield Finding("line-unsure", Severity.ASK, text, "If not, take the line out.", (at,), None, GOES_IN)


def _unitless(recipe: Recipe) -> Iterator[Finding]:
    """One question for all figures that were told without a unit."""
    there = tuple(at for at, line in enumerate(recipe.lines) if line.claims.unitless)
    if there:
        lines = [recipe.lines[at] for at in there]
        read = ", ".join(as_counted(one.material, one.amount, recipe.make) for one in lines if one.amount is not None)
        text = f"{COUNTED_LIKE} {read}. Is that right?"
        yield Finding("line-unsure", Severity.ASK, text, "If not, type the amount.", there, None, AS_COUNTED)


def as_counted(material: Material, amount: Quantity, make: Quantity | None) -> str:
    """An amount that was told without a unit, as it was counted.

    Args:
        material: what it is an amount of.
        amount: the amount; q.s. where it is the mark that has no unit.
        make: what the whole is made up to, or None.

    >>> from firkin.core.catalogue import find
    >>> as_counted(find("glycerol"), Quantity(15.0, "mL"), None)
    '15 mL of glycerol'
    >>> as_counted(find("water"), Quantity(0.0, "q.s."), Quantity(500.0, "mL"))
    'water up to 500 mL'
    """
    name = uncapped(material.name)
    if amount.kind == "qs":
        return f"{name} up to {make.words if make is not None else 'the mark'}"
    return f"{amount.words} of {name}"


def _claims(
    recipe: Recipe, at: int, left: list[tuple[int, Percent | Amount]], others: dict[int, Quantity]
) -> LineClaims:
    line = recipe.lines[at]
    twice = any(_is_other(line, one) for i, one in enumerate(recipe.lines) if i != at)
    beside = line.claims.beside or _beside(recipe, line, left)
    return replace(line.claims, twice=twice, beside=beside, another=None if twice else others.get(at))


#: An amount left over is near what it may be of within so many letters.
_NEAR = 60


def _others(recipe: Recipe, left: list[tuple[int, Percent | Amount]]) -> dict[int, Quantity]:
    """By line: an amount left over right behind it, of its kind and of another size."""
    found: dict[int, Quantity] = {}
    for place, said in left:
        before = [at for at, line in enumerate(recipe.lines) if line.at[0] <= place]
        last = max(before, key=lambda at: recipe.lines[at].at[0], default=None)
        if last is None or not isinstance(said, Amount) or said.quantity is None:
            continue
        line = recipe.lines[last]
        alike = line.amount is not None and line.amount.kind == said.quantity.kind in ("mass", "volume")
        near = place - line.at[1] <= _NEAR and line.amount != said.quantity
        if alike and near and not _is_sum(recipe, said.quantity):
            found.setdefault(last, said.quantity)
    return found


#: A total is rounded, and what is told in other kinds of measures is not in it.
_ROUNDED = 0.05


def _is_sum(recipe: Recipe, said: Quantity) -> bool:
    """True for what all lines of its kind come to."""
    alike = [line.amount for line in recipe.lines if line.amount is not None and line.amount.kind == said.kind]
    total, one = (
        (sum(each.g for each in alike), said.g) if said.kind == "mass" else (sum(each.mL for each in alike), said.mL)
    )
    return len(alike) > 1 and abs(total / one - 1.0) <= _ROUNDED if one > 0 else False


def _is_other(line: HeardLine, one: HeardLine) -> bool:
    """True for two lines of one thing, each with an amount; bottles of two strengths are two things."""
    amounts = line.amount is not None and one.amount is not None
    strengths = line.strength is not None and one.strength is not None and line.strength != one.strength
    return line.material.written == one.material.written and amounts and not strengths and not _rest(line, one)


def _rest(line: HeardLine, one: HeardLine) -> bool:
    """True where one of the two tops the batch up: the other went in before."""
    topped: list[Quantity] = [each for each in (line.amount, one.amount) if each is not None and each.kind == "qs"]
    return bool(topped)


def _left(recipe: Recipe) -> Iterator[tuple[int, Percent | Amount]]:
    """Strengths and amounts in the text that nothing was found for: where each stands."""
    for mark in recipe.marks:
        if mark.kind is not MarkKind.UNREAD or mark.end - mark.start > _A_STRENGTH:
            continue
        said = recipe.text[mark.start : mark.end]
        for span in compose(spans_of(said, said.lower(), 0, len(said)), said, "metric"):
            if isinstance(span.value, Percent | Amount):
                yield mark.start + span.start, span.value


def _beside(recipe: Recipe, line: HeardLine, left: list[tuple[int, Percent | Amount]]) -> Strength | None:
    """A strength left over in the sentence of a line that has none, and that its material is sold in."""
    if line.strength is not None:
        return None
    for place, said in left:
        first, last = sorted(((place, place), line.at))
        if not isinstance(said, Percent):
            continue
        if line.material.sold_as(said.middle) and not _PARTED.search(recipe.text, first[1], last[0]):
            with suppress(CannotReckon):
                return said.strength(line.material)
    return None
