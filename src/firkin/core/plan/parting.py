"""Parts of a line in a plan: in words, split, and joined again."""

from collections.abc import Sequence
from dataclasses import replace

from firkin.core.formula import Formula, by_parts
from firkin.core.plan.acts import Act

_WORDS = {1 / 2: "half", 1 / 3: "a third", 2 / 3: "two thirds", 1 / 4: "a quarter", 3 / 4: "three quarters"}
_NEAR = 0.005
#: No part of a line is made smaller than this (common practice, no source: less is not measured in a kitchen).
_LEAST = 0.02


def part_words(share: float, name: str, *, last: bool) -> str:
    """A part of a line in words that hold for any size of the batch.

    Args:
        share: of the line, a fraction of 1.
        name: what the line is called.
        last: whether nothing of it is left behind this part.

    >>> part_words(0.5, "water", last=False), part_words(0.14, "water", last=False), part_words(0.5, "water", last=True)
    ('half of the water', 'part of the water', 'the rest of the water')
    >>> part_words(1.0, "water", last=True)
    'the water'
    """
    if share >= 1.0 - _NEAR:
        return f"the {name}"
    if last:
        return f"the rest of the {name}"
    return f"{next((words for near, words in _WORDS.items() if abs(near - share) < _NEAR), 'part')} of the {name}"


def can_split(act: Act) -> bool:
    """True for an act that pours one line, of which there is enough for two parts.

    Args:
        act: an act of a plan.

    >>> can_split(Act("pour", "Add it.", (0,))), can_split(Act("top", "Top up.", (0,)))
    (True, False)
    """
    pours_one = act.do in ("pour", "set-aside") and len(act.lines) == 1 and not act.source
    return pours_one and _share(act) >= 2.0 * _LEAST


def split(acts: Sequence[Act], place: int, name: str) -> tuple[Act, ...]:
    """The acts with one pour made two of half its size, the second right behind the first.

    Args:
        acts: the acts in order.
        place: of an act for which ``can_split`` holds.
        name: what its line is called.

    >>> both = split([Act("pour", "Add the water.", (0,))], 0, "water")
    >>> [(act.text, act.shares) for act in both]
    [('Add half of the water.', (0.5,)), ('Add the rest of the water.', (0.5,))]
    """
    half = replace(acts[place], shares=(_share(acts[place]) / 2.0,))
    return _worded((*acts[:place], half, replace(half, until=""), *acts[place + 1 :]), acts[place].lines[0], name)


def joined(acts: Sequence[Act], place: int, name: str) -> tuple[Act, ...]:
    """The acts with a part of a line poured together with the part before it, or where it is the first, the next one.

    Args:
        acts: the acts in order.
        place: of an act that pours a part of one line.
        name: what its line is called.

    >>> both = split([Act("pour", "Add the water.", (0,)), Act("mix", "Stir.")], 0, "water")
    >>> [(act.text, act.shares) for act in joined(both, 1, "water")]
    [('Add the water.', ()), ('Stir.', ())]
    """
    line = acts[place].lines[0]
    parts = [at for at, act in enumerate(acts) if act.lines == (line,)]
    at = parts.index(place)
    if len(parts) < 2:
        return tuple(acts)
    kept = parts[at - 1] if at else parts[1]
    whole = _share(acts[kept]) + _share(acts[place])
    shares = () if whole >= 1.0 - _NEAR else (whole,)
    left = [replace(act, shares=shares) if at == kept else act for at, act in enumerate(acts) if at != place]
    return _worded(left, line, name)


def renamed(act: Act, name: str) -> Act:
    """An act that pours one line, in words for what the line is called now; its part and its cup stay in them.

    Args:
        act: an act that pours one line.
        name: what its line is called.

    >>> renamed(Act("pour", "Add the rest of the spirit, slowly.", (0,), (0.5,)), "ethanol").text
    'Add the rest of the ethanol, slowly.'
    >>> renamed(Act("top", "Top up with spirit.", (0,)), "water").text
    'Top up with water.'
    """
    if act.do == "top":
        return replace(act, text=f"Top up with {name}.")
    return replace(act, text=with_part(act, name, last=" the rest of " in act.text))


def in_parts(formula: Formula, acts: Sequence[Act]) -> Formula:
    """The formula made by the acts; a line that goes in by parts is as many lines, each measured by itself.

    Args:
        formula: a formula with the lines that the acts count.
        acts: how it is made; empty where that is not told.

    >>> from firkin.core.catalogue import find
    >>> from firkin.core.formula import Line
    >>> from firkin.core.measures import Quantity
    >>> water = Formula("Water", (Line(find("water"), Quantity(3.0, "cup")),))
    >>> [str(line.amount) for line in in_parts(water, split([Act("pour", "Add it.", (0,))], 0, "water")).lines]
    ['1.5 cup', '1.5 cup']
    """
    steps = tuple(act.step() for act in acts)
    return by_parts(replace(formula, steps=steps), [act.shares for act in acts])


def _share(act: Act) -> float:
    return act.shares[0] if act.shares else 1.0


def _worded(acts: Sequence[Act], line: int, name: str) -> tuple[Act, ...]:
    """The acts that pour a line, in words that say which part of it each is."""
    last = max(at for at, act in enumerate(acts) if act.lines == (line,))
    return tuple(
        replace(act, text=with_part(act, name, last=at == last)) if act.lines == (line,) else act
        for at, act in enumerate(acts)
    )


def with_part(act: Act, name: str, *, last: bool) -> str:
    """The words of a pour of one line with its part in them; what is said of how stays."""
    manner = act.text.removesuffix(".").partition(",")[2]
    what = part_words(_share(act), name, last=last)
    if act.vessel and not act.text.startswith("Add "):  # the first that goes into it
        put = f"Put {what} in a {act.vessel}"
    else:
        put = f"Add {what}{f' to the {act.vessel}' if act.vessel else ''}"
    return f"{put}{f',{manner}' if manner else ''}."
