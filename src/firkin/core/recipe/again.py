"""What is told again in the doing: "stir in the flakes, four handfuls" is the soap of the list, and no more of it."""

import re
from dataclasses import replace
from functools import lru_cache

from firkin.core import datafiles
from firkin.core.catalogue import dangers_in, is_unfit, materials
from firkin.core.measures import Quantity
from firkin.core.plan import clauses_of, number_of, portion_words, told_of
from firkin.core.recipe.dangers import without_told
from firkin.core.recipe.recipe import HeardLine, Recipe

#: "Half a gallon of the water": some of what was told before; with "a" or without it, more of it.
_OF_THE = re.compile(r"\bof (?:the|that|this|your|those)\s+(?:\w+\s+)?$")
#: "Two cups of salt, not one", "3 cups instead of the 2".
_NOT_SO_MUCH = re.compile(
    r",? (?:and )?(?:not|instead of|rather than) (?:just |only |the )?(?P<number>\d+[.,]\d+|[½¼¾⅓⅔]|\w+)"
    r"(?=\s*(?:[.,;:!?)\n]|$)| (?:as|because|and|but)\b)"
)
_ANY_REST = re.compile(r"\b(?:rest|remainder|other|remaining|last)\b")
#: "The rest of the ethanol", "the remaining water"; and what makes a top-up of it all the same.
_REST_OF = re.compile(
    r"\b(?:rest|remainder) of (?:the|your|my)\b|\bthe rest \w+$|\b(?:the|your|my) (?:remaining|other half)\b"
)
_TO_A_SIZE = re.compile(r"\btop|\bfill|\bmake (?:it )?up|\bup to\b|\bto (?:the )?(?:\d|mark|line|full|brim)")
_SOMEWHAT = re.compile(r"(?:an?\s+)?(?:little\s+)?(?:bit|little|touch|tad)", re.IGNORECASE)
#: A share is no more than what it is of, as far as kitchen measures go.
_SLACK = 1.05
#: What people call an acid or an alcohol for short, once they named it in full.
_FOR_SHORT = {"acid": "acid", "the acid": "acid"}


def once_each(recipe: Recipe, plain: str) -> Recipe:
    """The recipe without lines that tell again, without an amount or as a share, what another line measures.

    What is no material and has no amount, such as "bits" or "log", is none either.

    >>> from firkin.core.catalogue import find
    >>> salt = HeardLine(find("salt"), Quantity(80.0, "g"), at=(0, 9))
    >>> again = HeardLine(find("salt"), None, wording="five pinches", at=(20, 40))
    >>> len(once_each(Recipe((salt, again), text="80 g salt"), "80 g salt").lines)
    1
    """
    recipe = replace(recipe, lines=tuple(_by_its_name(line, plain) for line in recipe.lines))
    recipe = _put_right(_with_amounts_of_tools(recipe), plain)
    alike: dict[str, list[int]] = {}
    for place, line in enumerate(recipe.lines):
        alike.setdefault(line.material.written, []).append(place)
    gone = sorted(
        place for places in alike.values() for place in places if _is_again(recipe.lines, place, places, plain)
    )
    return without_told(recipe, gone) if gone else recipe


def _by_its_name(line: HeardLine, plain: str) -> HeardLine:
    """ "The acid" of a text that names one acid is that one."""
    role = _FOR_SHORT.get(line.material.name.lower()) if not line.material.known else None
    if role is None:
        return line
    named = {
        one.id: one
        for one in materials().values()
        if {role, f"free-{role}"} & set(one.roles)
        and any(re.search(rf"\b{re.escape(name)}\b", plain) for name in (one.name.lower(), *one.names))
    }
    return replace(line, material=next(iter(named.values()))) if len(named) == 1 else line


def _is_again(lines: tuple[HeardLine, ...], place: int, alike: list[int], plain: str) -> bool:
    """True for a line that tells again what another of the same material measures, or that names nothing."""
    line = lines[place]
    measured = [lines[at] for at in alike if at != place and lines[at].amount is not None]
    before = [lines[at] for at in alike if at < place and lines[at].amount is not None]
    unknown = not line.material.known and not is_unfit(line.material.name)
    if unknown and (_no_material(line.material.name) or (line.amount is None and _says_nothing(line, plain))):
        return True  # it stays marked in the text, and is no line
    if unknown and line.amount is None:
        return _told_in_passing(line, plain) or _for_short(line, lines)
    if line.amount is None:
        other_stock = line.strength is not None and all(one.strength != line.strength for one in measured)
        again = (bool(measured) and not other_stock) or _told_in_passing(line, plain)
        return again or _refused(line, plain) or _for_short(line, lines)
    if line.amount.kind == "qs":
        some_before = any(one.amount is not None and one.amount.kind != "qs" for one in before)
        return any(one.amount is not None and one.amount.kind == "qs" for one in before) or (
            some_before and _is_the_rest(line, plain)
        )
    if not any(one.amount is not None and _is_of(line.amount, one.amount) for one in before):
        return False
    start = line.at[0] + max(0, plain[line.at[0] : line.at[1]].rfind((line.said or line.material.name).lower()))
    return _OF_THE.search(plain[line.at[0] : start]) is not None or _rest_is_told(line, plain)


def _put_right(recipe: Recipe, plain: str) -> Recipe:
    """ "1 cup salt ... I use two cups of salt, not one": so much of that line, and of its strength."""
    lines, marks, gone = list(recipe.lines), list(recipe.marks), []
    for place, later in enumerate(lines):
        found = _NOT_SO_MUCH.match(plain, later.at[1]) if later.amount is not None else None
        for at in range(place) if found is not None else ():
            line = lines[at]
            same = line.material.written == later.material.written and later.strength in (None, line.strength)
            if found and same and line.amount is not None and number_of(found["number"]) == line.amount.value:
                lines[at] = replace(line, amount=later.amount, wording=later.wording)
                marks = [replace(mark, line=at) if mark.line == place else mark for mark in marks]
                gone.append(place)
                break
    return without_told(replace(recipe, lines=tuple(lines), marks=tuple(marks)), gone) if gone else recipe


def _is_the_rest(line: HeardLine, plain: str) -> bool:
    """True for "pour in the rest of the ethanol", up to no size: of what was measured before."""
    around = plain[max(0, line.at[0] - 30) : line.at[1]]
    end = next((at for at in range(line.at[1], len(plain)) if plain[at] in ".;\n"), len(plain))
    return (
        _REST_OF.search(around) is not None
        and _TO_A_SIZE.search(plain[max(0, line.at[0] - 40) : min(end, line.at[1] + 20)]) is None
    )


@lru_cache(maxsize=4)
def _tells_a_rest(plain: str) -> bool:
    """True for a text that has a word for what is left of something; every line asks."""
    return _ANY_REST.search(plain) is not None


def _rest_is_told(line: HeardLine, plain: str) -> bool:
    """True for "in 6 L of hot water" where the rest of that water is told behind it: then both are of the whole."""
    if not _tells_a_rest(plain):
        return False
    name = re.escape((line.said or line.material.name).lower().split()[-1])
    rest = rf"\b(?:rest|remainder) of (?:the|your|my) (?:\w+ )?{name}\b"
    other = rf"\b(?:other|remaining|last) (?:[\w.,]+ ){{0,4}}{name}\b"
    return re.search(f"{rest}|{other}", plain[line.at[1] :]) is not None


def _refused(line: HeardLine, plain: str) -> bool:
    """True for a name without an amount that is refused elsewhere: "and glycerin? no glycerin in this one"."""
    said = line.said.lower()
    if not said or line.wording or dangers_in(said) or line.material.id == "water":
        return False
    return re.search(rf"\b(?:no|without(?: any)?|skip the|leave out the) {re.escape(said)}\b", plain) is not None


def _for_short(line: HeardLine, lines: tuple[HeardLine, ...]) -> bool:
    """True for a part of the name of a line that is measured: "half of the spirit" is of the surgical spirit."""
    words = set(line.said.lower().split())
    others = (set(one.said.lower().split()) for one in lines if one.amount is not None)
    return bool(words) and line.material.id != "water" and any(words < other for other in others)


def _says_nothing(line: HeardLine, plain: str) -> bool:
    """True where no amount stands beside a name, or "a bit" without "of": "it goes a bit milky"."""
    if not line.wording:
        return True
    return _SOMEWHAT.fullmatch(line.wording) is not None and " of " not in plain[line.at[0] : line.at[1]]


def _with_amounts_of_tools(recipe: Recipe) -> Recipe:
    """ "Glycerol, rinse the cylinder, 14.5 ml": the amount beside a tool is of what was told before it."""
    lines = list(recipe.lines)
    for place in range(1, len(lines)):
        tool, before = lines[place], lines[place - 1]
        if (
            before.amount is None
            and tool.amount is not None
            and not tool.material.known
            and _no_material(tool.material.name)
        ):
            lines[place - 1] = replace(before, amount=tool.amount, wording=tool.wording, at=(before.at[0], tool.at[1]))
            lines[place] = replace(tool, amount=None)
    return replace(recipe, lines=tuple(lines))


def _is_of(part: Quantity, whole: Quantity) -> bool:
    """True where an amount can be some of another."""
    if part.kind != whole.kind or part.kind not in ("volume", "mass"):
        return False
    sizes = (part.mL, whole.mL) if part.kind == "volume" else (part.g, whole.g)
    return sizes[0] <= sizes[1] * _SLACK


def _told_in_passing(line: HeardLine, plain: str) -> bool:
    """True for a name without an amount in a sentence of other times and people, or of how a thing smells."""
    clause = next((one for one in clauses_of(plain) if one.start <= line.at[0] < one.end), None)
    return clause is not None and told_of(plain, clause)


def _no_material(name: str) -> bool:
    """True for the words of measures, vessels and ways of adding, which name nothing that goes in."""
    return all(word in _words_of_measure() for word in re.findall(r"[^\W\d_]+", name.lower()))


def _words_of_measure() -> frozenset[str]:
    does = datafiles.toml("recipe/words.toml")["does"]
    listed = [word for kind in ("counted", "container", "containers", "made_of") for word in does[kind]]
    return frozenset(
        [
            *listed,
            *portion_words(),
            "cylinder",
            "log",
            "batch",
            "record",
            "lid",
            "spoon",
            "strip",
            "whisk",
            "turn",
            "lump",
            "a",
            "the",
        ]
    )
