"""A text with several recipes in it, or one in several sizes: where each stands, by its heading.

Sizes tell the same things with other amounts; other recipes are told apart by what their headings say they make. Parts
of one recipe (phases, "for the gel") are no recipes of their own.
"""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from firkin.core.recipe.recipe import HeardLine

#: A heading: a short line of its own that ends in a colon, or its beginning up to one.
_HEADING = re.compile(r"(?m)^[ \t]*(?:#+[ \t]*)?(?P<words>[^\n:]{2,60}):(?=[ \t]*(?:\n|\S))")
#: What a heading of a part of one recipe says.
_PART = re.compile(
    r"(?i)\b(?:phase|part|step|stage|for the|ingredients?|you(?:'ll)? need|method|directions?|instructions?|notes?|"
    r"tips?|warning|caution|optional|equipment|how to|to (?:make|use|finish)|day|evening|morning|first|then|next|"
    r"makes?|yields?)\b"
)
#: What a heading says that it makes.
_MAKES = re.compile(
    r"(?i)\b(rub|sanit[iz]+er|sanitiser|gel|spray|soap|cleaner|detergent|powder|dish|laundry|disinfectant|ferment|wipes)\b"
)
#: So many things are shared by two sizes of one recipe, and of so large a part of the shorter.
_SHARED, _PART_SHARED = 2, 0.5


@dataclass(frozen=True, slots=True)
class Block:
    """A recipe of a text: its heading, and from where to where it stands."""

    heading: str
    start: int
    end: int

    def lines(self, lines: Sequence[HeardLine]) -> list[HeardLine]:
        """The lines that stand in it."""
        return [line for line in lines if self.start <= line.at[0] < self.end]


def blocks_of(text: str, lines: Sequence[HeardLine]) -> tuple[Block, ...]:
    """The recipes of a text, the first first; nothing where it holds one.

    >>> from firkin.core.recipe.reader import read_recipe
    >>> text = "Small: 1 cup ethanol 96 %, 2 tbsp aloe gel\\nLarge: 4 cups ethanol 96 %, 8 tbsp aloe gel"
    >>> [one.heading for one in blocks_of(text, read_recipe(text, apart=False).lines)]
    ['Small', 'Large']
    """
    headed = [one for one in _headed(text) if len(_measured(one, lines)) >= _SHARED]
    if len(headed) < 2:
        return ()
    first = headed[0]
    found = [first]
    for other in headed[1:]:
        if _is_a_size(first, other, lines) or _is_another(first, other, lines):
            found.append(other)
    return tuple(found) if len(found) > 1 else ()


def _headed(text: str) -> Iterator[Block]:
    heads = [match for match in _HEADING.finditer(text) if not _PART.search(match["words"])]
    for place, match in enumerate(heads):
        end = heads[place + 1].start() if place + 1 < len(heads) else len(text)
        after = text.find("\n\n", match.end() + 1)
        gap = re.compile(r"\n[ \t]*\n").search(text, match.end() + 1)
        if place + 1 == len(heads) and gap is not None and after >= 0:
            end = min(end, gap.start())  # what follows the last list belongs to all of them
        yield Block(" ".join(match["words"].split()), match.start(), end)


def _measured(block: Block, lines: Sequence[HeardLine]) -> dict[str, str]:
    return {
        line.material.written: str(line.amount)
        for line in block.lines(lines)
        if line.amount is not None and line.amount.kind != "qs"
    }


def _is_a_size(one: Block, other: Block, lines: Sequence[HeardLine]) -> bool:
    """True where both tell of the same things, with other amounts."""
    first, second = _measured(one, lines), _measured(other, lines)
    shared = first.keys() & second.keys()
    if len(shared) < _SHARED or len(shared) < _PART_SHARED * min(len(first), len(second)):
        return False
    return sum(first[key] != second[key] for key in shared) > len(shared) / 2


def _is_another(one: Block, other: Block, lines: Sequence[HeardLine]) -> bool:
    """True where the headings say that they make two different things, and they share nothing but water."""
    made, makes = _MAKES.search(one.heading), _MAKES.search(other.heading)
    if made is None or makes is None or made[0].lower() == makes[0].lower():
        return False
    return not ((_measured(one, lines).keys() & _measured(other, lines).keys()) - {"water"})


def without(text: str, blocks: Sequence[Block]) -> str:
    """The text with some recipes blanked out, every other character in its place."""
    kept = list(text)
    for block in blocks:
        for place in range(block.start, block.end):
            if kept[place] != "\n":
                kept[place] = " "
    return "".join(kept)
