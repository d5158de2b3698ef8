"""An account told at length: which of the things it names are the recipe, and which are only talked of.

Somebody at a stove tells a thing in a list, again while doing it, and once more in a story about a friend. A short
recipe names each thing once, and nothing of it is settled here.
"""

from bisect import bisect_left
from collections import Counter
from dataclasses import replace
from itertools import chain

from firkin.core.catalogue import is_unfit
from firkin.core.measures import Quantity
from firkin.core.recipe.dangers import without_told
from firkin.core.recipe.recipe import FEWEST, HeardLine, Recipe

#: What stands within so many letters is told together.
_NEAR = 400
#: A size so many times off what the lines come to is of another batch.
_FAR = 3.5


def settled(recipe: Recipe) -> Recipe:
    """The recipe without what is told again, and without what is named and never measured; those become talk.

    Dangers stay heard: what is named as going in stands among ``dangers`` where it is no line any more.

    >>> from firkin.core.recipe.reader import read_recipe
    >>> list_ = "You need 500 ml of ethanol 96 % and 10 ml of glycerol. " + "It was a lovely day at the quay. " * 50
    >>> recipe = read_recipe(list_ + "So I pour the 500 ml of ethanol into the jug, and add the glycerol.")
    >>> [line.words() for line in recipe.lines]
    [('ethanol', '96 % v/v', '500 ml'), ('glycerol', '', '10 ml')]
    """
    kept = _told_best(recipe.lines) if recipe.at_length else set()
    if len(kept) < FEWEST:
        return recipe
    lines = tuple(_as_strong(line, recipe.lines) if place in kept else line for place, line in enumerate(recipe.lines))
    again = [place for place in range(len(lines)) if place not in kept]
    return _without_others_sizes(without_told(replace(recipe, lines=lines), again))


def _without_others_sizes(recipe: Recipe) -> Recipe:
    """The recipe without a size or a claim of something else that was talked about: far from what its lines come to."""
    told = [line.amount for line in recipe.lines if line.amount is not None]
    whole = sum(
        amount.mL if amount.kind == "volume" else amount.g for amount in told if amount.kind in ("volume", "mass")
    )
    if any(amount.kind not in ("volume", "mass") for amount in told):
        return recipe
    make, size, claim = recipe.make, recipe.claims.size, recipe.claim
    if claim is not None and claim.active not in {line.material.id for line in recipe.lines}:
        claim = None
    make = make if make is not None and _near(make, whole) else None
    size = size if size is not None and _near(size, whole) else None
    return replace(recipe, make=make, claims=replace(recipe.claims, size=size), claim=claim)


def _near(size: Quantity, whole: float) -> bool:
    """True for a size that a batch of so many mL or g may have been told as."""
    told = size.mL if size.kind == "volume" else size.g if size.kind == "mass" else whole
    return whole / _FAR <= told <= whole * _FAR


def _told_best(lines: tuple[HeardLine, ...]) -> set[int]:
    """Of each thing that is measured the place where it is told best.

    That is an amount told more than once; else the one among most other things that are measured, near it in the text.
    """
    groups: dict[str, list[int]] = {}
    for place, line in enumerate(lines):
        if line.amount is not None and (line.material.known or is_unfit(line.material.name)):
            groups.setdefault(line.material.written, []).append(place)
    measured = sorted((lines[place].at[0], name) for name, places in groups.items() for place in places)
    amounts = Counter((lines[place].material.written, str(lines[place].amount)) for place in chain(*groups.values()))

    def told(place: int) -> tuple[int, int, bool, int]:
        line = lines[place]
        often = amounts[line.material.written, str(line.amount)]
        first = bisect_left(measured, (line.at[0] - _NEAR + 1,))
        last = bisect_left(measured, (line.at[0] + _NEAR,))
        near = {name for _, name in measured[first:last]} - {line.material.written}
        return min(often, 2), len(near), line.strength is not None, -place

    return {max(places, key=told) for places in groups.values()}


def _as_strong(line: HeardLine, lines: tuple[HeardLine, ...]) -> HeardLine:
    """A line with its strength where that was told elsewhere, and only one was."""
    if line.strength is not None:
        return line
    same = [one for one in lines if one.material.written == line.material.written and one.strength is not None]
    if len({str(one.strength) for one in same}) != 1:
        return line
    claims = replace(line.claims, assumed=False)
    return replace(line, strength=same[0].strength, strength_said=same[0].strength_said, claims=claims)
