"""Binding: which amounts and strengths of a clause belong to which of its names, by score.

A clause is a string of letters, one for each piece: A an amount, S a strength, N a bare number, F a fraction of the
whole, M a material, Q a ware, W words that could name a material, and the signs and small words between them. It is cut
into groups of one name each so that the whole costs least.
"""

import re
from dataclasses import dataclass

_HEADS = "MQW"
_FIGURES = "ASNF"
_NAMED_OR_FIGURE = frozenset(_HEADS + _FIGURES)
#: What a sign costs inside a group.
_INSIDE = {
    "|": 0.1,
    ":": 0.3,
    "=": 0.3,
    "(": 0.15,
    ")": 0.15,
    "o": 0.0,
    "@": 0.2,
    "b": 0.4,
    ",": 1.6,
    "/": 1.5,
    "P": 1.2,
    "O": 1.0,
    "K": 0.8,
}
_BETWEEN = 4.0  # "and", "plus", "to", "with": what stands on the two sides is two things
_JOINTS = frozenset("+&twipfC")
_OTHER = 2.0
_LONELY = {"A": 5.0, "S": 4.0, "N": 2.5, "F": 1.0, "M": 1.5, "Q": 0.5, "W": 0.1}
_ALONE = {"o": 1.0, "(": 0.3, ")": 0.3}
_NO_SIGN = 0.8  # a cut where nothing stands between
_TURNED = 0.7  # an amount on the other side than its neighbours'
_LONGEST = 12
_OF_WHAT_COMES = re.compile(rf"Ao[{_HEADS}]")
_MOST_FIGURES = 4
_STARTS = _NAMED_OR_FIGURE | {"("}
_ENDS = _NAMED_OR_FIGURE | {")"}


@dataclass(frozen=True, slots=True)
class Group:
    """Places in a clause: of the name (or None), of its amounts, its strengths, bare numbers and fractions."""

    head: int | None
    amounts: tuple[int, ...] = ()
    strengths: tuple[int, ...] = ()
    numbers: tuple[int, ...] = ()
    shares: tuple[int, ...] = ()
    start: int = 0
    end: int = 0


_Stretches = dict[tuple[int, int], tuple[float, Group | None]]


def bind(letters: str, plausible: frozenset[int] = frozenset()) -> list[Group]:
    """The groups of a clause; at ``plausible`` places are bare numbers that can be the strength of what they follow.

    >>> [(group.head, group.amounts) for group in bind("AM&AM")]
    [(1, (0,)), (4, (3,))]
    """
    stretches: _Stretches = {}  # what a stretch costs before it is asked whether amounts come first
    best = min((_parted(letters, plausible, first, stretches) for first in (True, False)), key=lambda parted: parted[0])
    return [group for group in best[1] if group.head is not None or _figures(group)]


def _figures(group: Group) -> bool:
    return bool(group.amounts or group.strengths or group.numbers or group.shares)


def _parted(
    letters: str, plausible: frozenset[int], amount_first: bool, stretches: _Stretches
) -> tuple[float, list[Group]]:
    costs = [0.0] + [float("inf")] * len(letters)
    cuts: list[tuple[int, Group | None]] = [(0, None)] * (len(letters) + 1)
    named = [letter in "MQ" for letter in letters]
    counted = [letter in _FIGURES for letter in letters]
    headed = [letter in _HEADS for letter in letters]
    starts = [letter in _STARTS for letter in letters]
    never = float("inf")
    for end in range(1, len(letters) + 1):
        if _OF_WHAT_COMES.match(letters, end - 1):
            continue  # "in the water goes 200 g of paste"
        names = figures = heads = 0
        longest = _LONGEST if letters[end - 1] in _ENDS else 1
        for start in range(end - 1, max(0, end - longest) - 1, -1):
            names += named[start]
            figures += counted[start]
            heads += headed[start]
            if names > 1 or figures > _MOST_FIGURES:
                break
            if (start < end - 1 and not (starts[start] and heads)) or costs[start] == never:
                continue
            cost, group = _stretch(letters, start, end, plausible, stretches)
            if group is None:
                continue
            if end - start > 1:
                cost += _order_cost(group, amount_first)
            if costs[start] + cost < costs[end] - 1e-9:
                costs[end], cuts[end] = costs[start] + cost, (start, group)
    groups: list[Group] = []
    end = len(letters)
    while end:
        start, group = cuts[end]
        if group is not None:
            groups.append(group)
        end = start
    return costs[-1], groups[::-1]


def _stretch(
    letters: str, start: int, end: int, plausible: frozenset[int], known: _Stretches
) -> tuple[float, Group | None]:
    """A stretch as one group, with what it costs that no sign parts it from what stands before; looked at once."""
    if (start, end) not in known:
        cost, group = _group(letters, start, end, plausible)
        if group is not None and start and letters[start] in _NAMED_OR_FIGURE and letters[start - 1] in _ENDS:
            cost += _NO_SIGN if letters[start - 1] != ")" else 0.2
        known[start, end] = cost, group
    return known[start, end]


def _group(letters: str, start: int, end: int, plausible: frozenset[int]) -> tuple[float, Group | None]:
    """What a stretch costs as one group, whatever its order; None where it cannot be one."""
    if end - start == 1:
        return _single(letters[start], start)
    if letters[end - 1] not in _ENDS:
        return 0.0, None
    piece = letters[start:end]
    last = piece.rstrip(")")
    if not last or last[-1] not in _NAMED_OR_FIGURE or piece.count("(") != piece.count(")"):
        return 0.0, None
    if not any(letter in piece for letter in _HEADS):
        return 0.0, None
    places: dict[str, tuple[int, ...]] = dict.fromkeys(_NAMED_OR_FIGURE, ())
    for at, letter in enumerate(piece, start):
        if letter in places:
            places[letter] = (*places[letter], at)
    heads = places["M"] + places["Q"]
    if len(heads) > 1 or (not heads and len(places["W"]) != 1):
        return 0.0, None
    head = heads[0] if heads else places["W"][0]
    group = Group(head, places["A"], places["S"], places["N"], places["F"], start, end)
    if not heads and not group.amounts and not group.strengths:
        return 0.0, None
    cost = 0.4 * len(places["W"]) if heads else 0.8
    cost += _figures_cost(letters, group, plausible)
    cost += sum(
        _sign_cost(letters, place, head) for place in range(start, end) if letters[place] not in _NAMED_OR_FIGURE
    )
    if piece[0] == "(":
        cost += 0.8
    return cost, group


def _single(letter: str, place: int) -> tuple[float, Group | None]:
    if letter in _HEADS:
        return _LONELY[letter], Group(place, start=place, end=place + 1)
    if letter in _FIGURES:
        found = {"A": "amounts", "S": "strengths", "N": "numbers", "F": "shares"}[letter]
        return _LONELY[letter], Group(None, start=place, end=place + 1, **{found: (place,)})
    return _ALONE.get(letter, 0.0), Group(None, start=place, end=place + 1)


def _figures_cost(letters: str, group: Group, plausible: frozenset[int]) -> float:
    """What its figures cost: one amount and one strength are free."""
    amounts, strengths = len(group.amounts), len(group.strengths)
    cost = 4.0 * max(0, amounts - 1)
    if amounts:
        cost += (0.0, 0.0, 0.8)[strengths] if strengths < 3 else 5.0 * (strengths - 2)
    elif strengths:
        cost += (1.0, 0.6)[strengths - 1] if strengths < 3 else 5.0 * (strengths - 2)
    elif group.shares:
        cost += 0.2
    elif not group.numbers:
        cost += _LONELY[letters[group.head or 0]]
    for place in group.numbers:
        if place in plausible and abs(place - (group.head if group.head is not None else -9)) == 1:
            cost += 0.1
        else:
            cost += 0.8 if not amounts and len(group.numbers) == 1 else 3.0
    cost += 2.0 * max(0, len(group.shares) - 1) + (2.0 if group.shares and amounts else 0.0)
    return cost


def _order_cost(group: Group, amount_first: bool) -> float:
    """An amount before the name among names first, or the other way round."""
    measure = group.amounts or group.shares or (group.strengths if len(group.strengths) == 1 else ()) or group.numbers
    if not measure or group.head is None:
        return 0.0
    if group.amounts or group.shares or not group.strengths:
        return 0.0 if (measure[0] < group.head) == amount_first else _TURNED
    return 0.0 if (measure[0] < group.head) == amount_first else 0.2


def _sign_cost(letters: str, place: int, head: int) -> float:
    letter = letters[place]
    if letter in _JOINTS:
        return _BETWEEN
    cost = _INSIDE.get(letter, _OTHER)
    return cost + 1.0 if letter in ":=" and place < head else cost
