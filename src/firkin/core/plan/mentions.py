"""Which line of a recipe a word of its text means: its name, a part of its name, or what it is for."""

import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import cache

from firkin.core.catalogue import Material, is_unfit, names_of_materials
from firkin.core.measures import Quantity
from firkin.core.plan.words import kinds


@dataclass(frozen=True, slots=True)
class Ingredient:
    """A line as a procedure knows it: its material, its name in the text, where it was told, its amount."""

    material: Material
    said: str
    at: tuple[int, int]
    amount: Quantity | None = None

    @property
    def topped(self) -> bool:
        """True for a line that tops up."""
        return self.amount is not None and self.amount.kind == "qs"


@dataclass(frozen=True, slots=True)
class Mention:
    """A line named in the text from ``start`` to ``end``; ``own`` where its amount was told."""

    start: int
    end: int
    line: int
    own: bool


#: A shorter name is another word as well: "a tea strainer" is no TEA, where that is not what it was told as.
_SHORTEST = 3
#: What is called soap for short.
_FOR_WASHING = re.compile(r"\b(?:wash(?:ing)?[ -]?up|dish(?:es)?|detergent|shampoo|suds)\b")
#: Parts of names that say how a thing is, and not which.
_HOW_IT_IS = frozenset(
    [
        "hot",
        "cold",
        "warm",
        "boiled",
        "boiling",
        "cooled",
        "distilled",
        "pure",
        "liquid",
        "raw",
        "brown",
        "white",
        "fresh",
        "dry",
        "plain",
        "clean",
        "strong",
        "the",
        "and",
        "with",
        "grated",
        "per",
        "cent",
        "percent",
        "proof",
        "vera",
        "tree",
        "free",
        "food",
        "grade",
        "household",
        "ordinary",
        "clear",
        "natural",
        "organic",
        "finished",
        "last",
    ]
)


def mentions_of(plain: str, lines: Sequence[Ingredient], written: str = "") -> list[Mention]:
    """Every place of a text in small letters where a line is named, in the order of the text.

    A word that may mean several lines means the one told there, else the first of them that was not named before.
    """
    names = _names(lines)
    if not names:
        return []
    found: list[Mention] = []
    named: set[int] = set()
    for start, end in _places_of(names, plain):
        may_be = names[plain[start:end]]
        own = [i for i in may_be if _inside((start, end), lines[i].at)]
        if len(own) > 1:
            own = [i for i in own if i not in named] or own
        if own:
            line = own[0]
        elif any(_inside((start, end), line.at) for line in lines):
            continue  # a word within another line's own words: the "water" of "rose water"
        elif (longer := _whole_names().match(plain, start)) and longer.end() > end:
            continue  # "lavender oil" is no hydrosol of lavender
        else:
            line = (
                next((i for i in may_be if i not in named), may_be[0])
                if _several_materials(may_be, lines)
                else may_be[0]
            )
        if own:
            named.add(line)
        found.append(Mention(start, end, line, bool(own)))
    found += _by_phase(written or plain, lines)
    seen = {mention.line for mention in found if mention.own}
    found += [Mention(*line.at, i, True) for i, line in enumerate(lines) if i not in seen]
    return sorted(found, key=lambda mention: (mention.start, mention.end))


#: The first word of a name, where one can stand.
_WORD = re.compile(r"(?<![\w-])\w+")


def _places_of(names: Iterable[str], plain: str) -> Iterator[tuple[int, int]]:
    """Where whole names stand in a text, the longest of them at each place, none within another."""
    by_word: dict[str, list[str]] = {}
    for name in sorted(names, key=len, reverse=True):
        first = _WORD.match(name)
        if first is not None:  # names begin with a letter or a figure
            by_word.setdefault(first.group(), []).append(name)
    behind = 0
    for one in _WORD.finditer(plain):
        if one.start() < behind:
            continue
        for name in by_word.get(one.group(), ()):
            end = one.start() + len(name)
            if plain.startswith(name, one.start()) and not _in_a_word(plain, end):
                yield one.start(), end
                behind = end
                break


def _in_a_word(plain: str, at: int) -> bool:
    return plain[at : at + 1].isalnum() or plain.startswith("_", at)


@cache
def _whole_names() -> re.Pattern[str]:
    """Every name of the catalogue, the longest first."""
    listed = sorted((re.escape(name) for name in names_of_materials()), key=len, reverse=True)
    return re.compile(rf"(?:{'|'.join(listed)})(?!\w)")


#: "Phase B: ...", and later "Stir B into A".
_PHASE = re.compile(r"\b(?:phase|part|group) ([A-Ea-e])\b", re.IGNORECASE)
_LETTER = re.compile(
    r"(?<![\w-])([A-E])(?!['’\w])"
    r"(?! (?!(?:last|first|at|by|in|into|to|and|is|goes|with|over|on|slowly|until|till)\b|drop)[a-z])"
)


def _by_phase(written: str, lines: Sequence[Ingredient]) -> list[Mention]:
    """The lines of a phase, wherever its letter stands alone behind the last of them."""
    heads = [(one.start(), one[1].upper()) for one in _PHASE.finditer(written)]
    if not heads:
        return []
    phases: dict[str, list[int]] = {}
    for i, line in enumerate(lines):
        letter = next((letter for start, letter in reversed(heads) if start <= line.at[0]), None)
        if letter is not None:
            phases.setdefault(letter, []).append(i)
    behind = max(line.at[1] for line in lines)
    return [
        Mention(*one.span(), line, own=False)
        for one in _LETTER.finditer(written, behind)
        for line in phases.get(one[1], ())
    ]


def _inside(span: tuple[int, int], at: tuple[int, int]) -> bool:
    return at[0] <= span[0] and span[1] <= at[1]


def _several_materials(may_be: Sequence[int], lines: Sequence[Ingredient]) -> bool:
    """True where a word means lines of several materials: "soda" of washing soda and of baking soda."""
    return len({lines[i].material.id for i in may_be}) > 1


def _names(lines: Sequence[Ingredient]) -> dict[str, list[int]]:
    """What each line is called: its name as told or in the catalogue; else a word of it, or what it is for."""
    surest: dict[str, list[int]] = {}
    weaker: dict[str, list[int]] = {}
    roles = kinds("means")
    for i, line in enumerate(lines):
        material = line.material
        longer = (name.lower() for name in material.names if len(name) > _SHORTEST)
        whole = {line.said.lower(), material.name.lower(), *longer, material.id}
        for name in whole - {""}:
            _put(surest, name, i)
        for word in {
            word for name in (line.said.lower(), material.name.lower()) for word in re.findall(r"[^\W\d_]+", name)
        }:
            if len(word) > 2 and word not in _HOW_IT_IS:
                _put(weaker, word, i)
        spirit = material.alcohol or is_unfit(line.said)
        has = set(material.roles) | {"alcohol" if spirit else "", material.id}
        for role in has & set(roles):
            for word in roles[role]:
                _put(weaker, word, i)
        if not material.known and _FOR_WASHING.search(line.said.lower()):
            _put(weaker, "soap", i)
        if material.solid:
            for word in roles["solids"]:
                _put(weaker, word, i)
    return {**weaker, **surest}


def _put(names: dict[str, list[int]], name: str, line: int) -> None:
    if line not in names.setdefault(name, []):
        names[name].append(line)
