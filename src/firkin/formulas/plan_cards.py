"""How a recipe is made, as cards: each act with its drawing and its words; and what the usual way would add."""

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace

from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Step, reckon, steps_of
from firkin.core.measures import Quantity, amount_words, hours_words
from firkin.core.plan import Act, act_of, acts_of, can_split, in_additions, joined, otherwise, part_words, split
from firkin.core.questions import look_of
from firkin.core.recipe import NOTHING, HeardLine, as_written
from firkin.core.texts import within
from firkin.drawings.flow import CupDrawn, act_drawn

_PRESS = re.compile(r"(more|fewer|usual|split|join)-act-(\d{1,3})", re.ASCII)
MOST_PORTIONS = 24
#: A rest counts as the usual one from this share of it on.
_AS_LONG = 0.5
#: What is less of the whole than this is drawn as this much, so that it is seen.
_LEAST_SEEN = 0.05


#: A card quotes so many signs at most; of a longer sentence so many around the words of its act.
_LONGEST_SAID, _AROUND = 110, 50


@dataclass(frozen=True, slots=True)
class Card:
    """One act as the page shows it."""

    act: Act
    place: int
    title: str
    told: str
    drawn: str
    pours: bool
    otherwise: str = ""

    @property
    def splits(self) -> bool:
        """True where two parts can be made of it."""
        return can_split(self.act)

    @property
    def part(self) -> str:
        """Which part of its line it is: "half of it", "the rest of it"; empty for all of it."""
        if not self.parted:
            return ""
        last = self.act.text.startswith(("Add the rest", "Put the rest"))
        return part_words(self.act.shares[0], "it", last=last).replace("the it", "it")

    @property
    def parted(self) -> bool:
        """True where it is a part of a line."""
        return bool(self.act.shares) and self.act.shares[0] < 1.0

    @property
    def says_more(self) -> bool:
        """True where the words of the act are more than the title."""
        return self.act.text.rstrip(".") != self.title

    @property
    def each(self) -> str:
        """How many additions, in words; none for what goes into a cup, which goes in later."""
        if self.act.portions == 1 or self.act.vessel:
            return ""  # what is in a cup goes in like that when the cup does
        return "a little at a time" if self.act.portions == 0 else f"in {self.act.portions} additions"


@dataclass(frozen=True, slots=True)
class Gap:
    """A rest of the usual way that the recipe does not tell: its number among the usual steps, and its step."""

    place: int
    step: Step

    @property
    def wait(self) -> str:
        """How long."""
        return hours_words(self.step.wait_h or 0.0)


def cards_of(plan: Sequence[Act], lines: Sequence[HeardLine], text: str) -> list[Card]:
    """The acts as cards, each with the jug, and a cup where one is in use, as they stand after it."""
    text = as_written(text)
    sizes = _sizes(lines)
    whole = sum(sizes) or 1.0
    found: list[Card] = []
    vessels: dict[str, list[tuple[str, float]]] = {"": []}
    in_cups = any(act.vessel for act in plan)
    for place, act in enumerate(plan):
        into = vessels.setdefault(act.vessel, [])
        poured = vessels.pop(act.source, []) if act.source else []
        for at, line in enumerate(act.lines):
            if line < len(lines):
                share = sizes[line] * (act.shares[at] if act.shares else 1.0) / whole
                into.append((look_of(lines[line].material.roles), max(share, _LEAST_SEEN)))
        into += poured  # onto what goes in with the same words
        cup = next((name for name in (act.vessel, *vessels) if name and name in vessels), "")
        drawn = act_drawn(
            _stacked(vessels[""], 1.0),
            f"The jug after step {place + 1}.",
            coming=bool(act.lines) and not act.vessel,
            resting=act.wait_h is not None or act.timer_h is not None,
            portions=1 if act.vessel else act.portions,
            cup=CupDrawn((), pours=True) if act.source else
            CupDrawn(_stacked(vessels[cup], sum(size for _, size in vessels[cup])), bool(act.vessel)) if cup else None,
            room=in_cups,
        )  # fmt: skip
        told = _sentence(text, act.at) if act.at != (0, 0) else ""
        found.append(Card(act, place, _title(act, lines), told, drawn, bool(act.lines)))
    return found


def with_reasons(cards: Sequence[Card], usual: Sequence[Step], lines: Sequence[HeardLine]) -> list[Card]:
    """The cards, each with why the usual way pours at another place, where that matters."""
    plan, materials = [card.act for card in cards], [line.material for line in lines]
    why: dict[int, str] = {}
    for one in otherwise(plan, acts_of(usual), materials):
        why.setdefault(one.place, one.why)
    return [replace(card, otherwise=why.get(card.place, "")) for card in cards]


def _stacked(sizes: Sequence[tuple[str, float]], whole: float) -> list[tuple[str, float]]:
    """Looks with how full it is up to each; a cup is drawn two thirds full by what goes into it."""
    full, found = 0.0, []
    for look, size in sizes:
        full += size if whole == 1.0 else 2.0 * size / (3.0 * whole)
        found.append((look, full))
    return found


def _sentence(text: str, at: tuple[int, int]) -> str:
    """The words an act came from: its stretch of the text, out to the ends of its sentence, not too long."""
    start = max((text.rfind(sign, 0, at[0]) + 1 for sign in ".!?;\n"), default=0)
    end = min((found for sign in ".!?;\n" if (found := text.find(sign, at[1])) >= 0), default=len(text))
    said = _words(text[start:end])
    if len(said) <= _LONGEST_SAID:
        return said
    first, last = max(start, at[0] - _AROUND), min(end, at[1] + _AROUND)
    if first > start:
        first = text.find(" ", first, at[0]) + 1 or at[0]  # at whole words
    if last < end:
        last = max(text.rfind(" ", at[1], last), at[1])
    return f"{'… ' if first > start else ''}{_words(text[first:last])}{' …' if last < end else ''}"


def _words(text: str) -> str:
    """Its words alone, without what stands between the lines of a transcript or a mail."""
    return " ".join(text.replace(NOTHING, "").split())


def _sizes(lines: Sequence[HeardLine]) -> list[float]:
    """About how much room each line takes, in mL; what is not measured takes a tenth of the rest."""
    sizes = []
    for line in lines:
        amount = line.amount
        kind = amount.kind if amount is not None else ""
        sizes.append(
            amount.mL if amount and kind == "volume" else amount.g if amount and kind == "mass" else
            100.0 * amount.value if amount and kind == "part" else amount.value if amount and kind == "percent" else 0.0
        )  # fmt: skip
    known = sum(sizes)
    return [size or 0.1 * (known or 10.0) for size in sizes]


def _title(act: Act, lines: Sequence[HeardLine]) -> str:
    """What to do, with the amount in it."""
    if not act.lines or act.lines[0] >= len(lines):
        words = act.text.removesuffix(".")
        return words.partition(",")[0] if act.source else words  # how a cup goes in stands beside it
    line = lines[act.lines[0]]
    name = within(line.said or line.material.name, line.material.name)
    if act.do == "top":
        return f"Top up with {name}"
    amount = line.amount.times(act.shares[0]) if line.amount is not None and act.shares else line.amount
    much = amount_words(amount.mL) if amount is not None and amount.unit in ("mL", "L") else _rounded(amount)
    what = f"{much} {name}" if much else f"the {name}"
    if act.source:
        return f"Add {what}, then the {act.source}"
    return f"Put {what} in the {act.vessel}" if act.vessel else f"Add {what}"


def _rounded(amount: Quantity | None) -> str:
    """An amount without the digits that a share of it brings along."""
    return "" if amount is None else str(replace(amount, value=float(f"{amount.value:.4g}")))


def gaps_of(plan: Sequence[Act], formula: Formula | None) -> list[Gap]:
    """The rests of the usual way that a told plan is silent about; of a recipe that tells no way at all, none."""
    if formula is None or not plan:
        return []
    rests = [act.wait_h for act in plan if act.wait_h]
    return [
        Gap(place, step)
        for place, step in enumerate(_usual(formula))
        if step.wait_h and not any(rest >= _AS_LONG * step.wait_h for rest in rests)
    ]


def usual_of(formula: Formula | None) -> tuple[Step, ...]:
    """The usual way to make what the chips hold; none where they cannot be counted."""
    if formula is None:
        return ()
    try:
        reckon(formula)
    except CannotReckon:
        return ()
    return _usual(formula)


def _usual(formula: Formula) -> tuple[Step, ...]:
    return steps_of(replace(formula, steps=()))


def pressed(plan: tuple[Act, ...], press: str, formula: Formula | None, names: Sequence[str]) -> tuple[Act, ...]:
    """The plan after a press of a card: more or fewer additions, two parts or one, a usual rest or the usual way whole.

    ``names`` are what the lines are called.
    """
    if press == "usual-plan" and formula is not None:
        return tuple(act_of(step) for step in _usual(formula))
    found = _PRESS.fullmatch(press)
    if found is None:
        return plan
    place = int(found[2])
    if found[1] == "usual":
        steps = _usual(formula) if formula is not None else ()
        return (*plan, act_of(steps[place])) if place < len(steps) else plan
    if place >= len(plan) or plan[place].do not in ("pour", "set-aside"):
        return plan
    if found[1] in ("split", "join"):
        name = names[plan[place].lines[0]]
        if found[1] == "join":
            return joined(plan, place, name) if plan[place].shares else plan
        return split(plan, place, name) if can_split(plan[place]) else plan
    portions = max(1, plan[place].portions) + (1 if found[1] == "more" else -1)
    changed = in_additions(plan[place], min(MOST_PORTIONS, max(1, portions)))
    return (*plan[:place], changed, *plan[place + 1 :])
