"""An account told at length: which of the things it names are the recipe, and which are only talked of.

Somebody at a stove tells a thing in a list, again while doing it, and once more in a story about a friend. A short
recipe names each thing once, and nothing of it is settled here.
"""

import re
from bisect import bisect_left
from collections import Counter
from dataclasses import replace
from functools import cache
from itertools import chain

from firkin.core.catalogue import find, is_unfit, must_not_meet, names_of_materials
from firkin.core.measures import Quantity
from firkin.core.recipe.dangers import without_told
from firkin.core.recipe.recipe import FEWEST, HeardLine, Recipe

#: What stands within so many letters is told together.
_NEAR = 400
#: What stands alone within so many letters is apart, where so many things stand together elsewhere.
_TOGETHER, _LEAST = 600, 2
#: A price beside an amount: it is what a bottle holds.
_PRICE = re.compile(
    r"[$£€]|\b(?:dollars?|bucks?|(?<!per )cents?|pence|pounds? (?:a|for|each)|quid|euros?|fr(?:an)?cs?|costs?|paid)\b"
)
_HOLDS = re.compile(
    r"\b(?:pot|bucket|jug|bowl|jar|drum|pan|bottle|tub|bin|can|tin|box),?(?: this one.?s| that.?s| is| holds| it.?s)\b"
)
_KIN = (
    r"mother|father|sister|brother|aunt|uncle|husband|wife|friend|neighbou?r|daughter|son|gran\w*|nan|cousin|boss|mate|dad|mum|mom"
    r"|stepdad|niece|nephew|colleague"
)
#: Another size of the same, or another batch: what was tried first, what to do for more, what others do.
_TRIAL = re.compile(
    r"\b(?:tiny|to try|try (?:it|this)|trial|test(?: one| batch)?|sample|small(?:er)? (?:one|jar|bottle|batch)"
    r"|little one|divide|half of (?:it|that|everything)|in half|double|twice|for the whole|bigger|whole bucket"
    r"|if you(?:.d)? (?:want|like|only|just|need)|by the (?:quart|litre|gallon)|(?:last|first|other) times?"
    r"|last (?:week|month|year)|used to|i (?:had|did|made|tried|took)"
    r"|(?:she|he|they|people|some|somebody|someone|a (?:man|woman|lady|chap|neighbou?r))"
    r" (?:had|did|made|puts?|uses?|adds?|told|says?|likes?|wrote)"
    r"|(?:some|many|most|lots) of (?:you|them)|swears by"
    rf"|my (?:\w+ )?(?:{_KIN})(?:-in-law)? "
    r"(?:did|made|makes?|puts?|uses?|used|had|adds?|added|takes?|took|says?|told|tells|likes?))\b"
)
_BESIDE, _TRIED = 25, 90
#: What a thing is called by what it is for.
_ROLES = {
    **dict.fromkeys(("preservative", "preserver"), "preservative"),
    **dict.fromkeys(("scent", "smell", "perfume"), "fragrance"),
    **dict.fromkeys(("thickener", "gelling agent", "gum"), "thickener"),
    **dict.fromkeys(("neutraliser", "neutralizer"), "neutraliser"),
}
#: What somebody who talks tops up with; all else is measured.
_TOPS_UP = frozenset({"water", "hydrosol"})
#: A size so many times off what the lines come to is of another batch.
_FAR = 3.5


def settled(recipe: Recipe, plain: str) -> Recipe:
    """The recipe without what is told again, and without what is named and never measured; those become talk.

    ``plain`` is its text in small letters, place for place. Dangers stay heard: what is named as going in stands among
    ``dangers`` where it is no line any more.

    >>> from firkin.core.recipe.reader import read_recipe
    >>> list_ = "You need 500 ml of ethanol 96 % and 10 ml of glycerol. " + "It was a lovely day at the quay. " * 50
    >>> recipe = read_recipe(list_ + "So I pour the 500 ml of ethanol into the jug, and add the glycerol.")
    >>> [line.words() for line in recipe.lines]
    [('ethanol', '96 % v/v', '500 ml'), ('glycerol', '', '10 ml')]
    """
    if not recipe.at_length:
        return recipe
    recipe = replace(recipe, lines=tuple(_by_role(line, plain) for line in recipe.lines))
    kept = _told_best(plain, recipe.lines)
    if len(kept) < FEWEST:
        return recipe
    lines = tuple(_as_strong(line, recipe.lines) if place in kept else line for place, line in enumerate(recipe.lines))
    kept -= _apart(recipe.lines, kept)
    kept -= _what_is_made(recipe.lines, kept)
    again = [place for place in range(len(lines)) if place not in kept]
    return _without_others_sizes(without_told(replace(recipe, lines=lines), again))


def _apart(lines: tuple[HeardLine, ...], kept: set[int]) -> set[int]:
    """What was told once, far from everything else: another recipe, a price, what a neighbour does.

    Water and a base are never only talked of, nor what must not meet the others, nor a part where the others are parts.
    """
    often = Counter(_called(line) for line in lines)
    starts = {place: lines[place].at[0] for place in kept}
    apart = {
        place
        for place, start in starts.items()
        if often[_called(lines[place])] == 1
        and not any(place != other and abs(there - start) < _TOGETHER for other, there in starts.items())
        and not {"base", "water"} & {*lines[place].material.roles, lines[place].material.id}
        and not any(must_not_meet(lines[place].material, lines[other].material) for other in kept - {place})
        and not _all_parts(lines, kept - {place}, place)
    }
    return apart if len(kept) - len(apart) >= _LEAST else set()


def _what_is_made(lines: tuple[HeardLine, ...], kept: set[int]) -> set[int]:
    """Where a soap is named, "soap" alone is what is made of it: "half of the bottle with the soap"."""
    soaps = {place for place in kept if "soap" in lines[place].material.roles}
    alone = {place for place in soaps if lines[place].said.lower() in ("soap", "liquid soap", "the soap")}
    return alone if soaps - alone else set()


def _all_parts(lines: tuple[HeardLine, ...], others: set[int], place: int) -> bool:
    here = lines[place].amount
    kinds = [amount.kind for other in others if (amount := lines[other].amount) is not None]
    return here is not None and here.kind == "parts" and kinds.count("parts") * 2 >= len(kinds)


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


def _told_best(plain: str, lines: tuple[HeardLine, ...]) -> set[int]:
    """Of each thing that is measured the place where it is told best.

    That is no price and no trial; an amount told more than once; else the one among most other things that are
    measured, near it in the text.
    """
    groups: dict[str, list[int]] = {}
    for place, line in enumerate(lines):
        tops = line.amount is not None and line.amount.kind == "qs" and line.material.id not in _TOPS_UP
        if line.amount is not None and not tops and (line.material.known or is_unfit(line.material.name)):
            groups.setdefault(_called(line), []).append(place)
    measured = sorted((lines[place].at[0], name) for name, places in groups.items() for place in places)
    amounts = Counter((_called(lines[place]), str(lines[place].amount)) for place in chain(*groups.values()))

    def told(place: int) -> tuple[bool, bool, int, bool, int, bool, int]:
        line = lines[place]
        often = amounts[_called(line), str(line.amount)]
        first = bisect_left(measured, (line.at[0] - _NEAR + 1,))
        last = bisect_left(measured, (line.at[0] + _NEAR,))
        near = {name for _, name in measured[first:last]} - {_called(line)}
        bought, tried = _bought(plain, line), _tried(plain, line)
        return not bought, not tried, min(often, 2), bool(near), len(near), line.strength is not None, -place

    best = {max(places, key=told) for places in groups.values()}
    alone = {places[0] for places in groups.values() if len(places) == 1}
    return {
        place
        for place in best
        if not _bought(plain, lines[place]) and not (place in alone and _tried(plain, lines[place]))
    }


def _bought(plain: str, line: HeardLine) -> bool:
    """True for what a bottle holds and costs, or a pot: "a gallon of it is a dollar", "this one's five litres"."""
    before = re.split(r"[.;!?]", plain[max(0, line.at[0] - _BESIDE) : line.at[0]])[-1]
    behind = re.split(r"[.;!?]", plain[line.at[1] : line.at[1] + _BESIDE])[0]
    said = plain[line.at[0] : line.at[1]]
    return _PRICE.search(before + said + behind) is not None or _HOLDS.search(before + said) is not None


def _tried(plain: str, line: HeardLine) -> bool:
    """True for what is told of another size or of somebody else's batch."""
    return _TRIAL.search(re.split(r"[.!?\n]", plain[max(0, line.at[0] - _TRIED) : line.at[0]])[-1]) is not None


def _by_role(line: HeardLine, plain: str) -> HeardLine:
    """A measured line named by what it is for, as the only thing of that role that is named: "the preservative"."""
    role = _ROLES.get(line.material.name.lower())
    if role is None or line.material.known or line.amount is None:
        return line
    named = {one.id: one for one in (find(name) for name in _of_role(role) if name in plain)}
    return replace(line, material=next(iter(named.values()))) if len(named) == 1 else line


@cache
def _of_role(role: str) -> tuple[str, ...]:
    """The names of everything that has a role, but for the role's own."""
    return tuple(name for name in names_of_materials() if role in find(name).roles and name not in _ROLES)


def _called(line: HeardLine) -> str:
    """What a line is told of: its material, by whatever name."""
    return "unfit" if is_unfit(line.material.name) and not line.material.known else line.material.written


def _as_strong(line: HeardLine, lines: tuple[HeardLine, ...]) -> HeardLine:
    """A line with its strength where that was told elsewhere, and only one was."""
    if line.strength is not None or line.material.solid or line.material.id == "water":
        return line
    same = [one for one in lines if one.material.written == line.material.written and one.strength is not None]
    if len({str(one.strength) for one in same}) != 1:
        return line
    claims = replace(line.claims, assumed=False)
    return replace(line, strength=same[0].strength, strength_said=same[0].strength_said, claims=claims)
