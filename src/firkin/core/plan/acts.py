"""Acts: how a thing is made, one act after the other, and what must hold of them."""

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace

from firkin.core.formula import SEVERAL, Step

#: What an act does.
DOES = (
    "measure", "pour", "top", "mix", "heat", "cool", "rest", "set-aside", "read", "repeat", "fill", "label", "other",
)  # fmt: skip
#: The acts by which a line first enters a vessel.
ENTERING = frozenset({"pour", "top", "set-aside"})

#: How often a part goes in, as an act's words say it.
_ADDITIONS = re.compile(r", (?:in \d+ additions|a little at a time)")


@dataclass(frozen=True, slots=True)
class Act:
    """One act of a procedure.

    ``lines`` are what enters a vessel by it, in order, with ``shares`` beside them where it is not all of each; they
    are there in pour, top and set-aside only. ``portions`` is how often a part of it goes in, 0 for "a little at a
    time". ``vessel`` is the cup it goes into, ``source`` the cup that is poured out by it; the main vessel has no name.
    ``wait_h`` and ``timer_h`` are hours, ``every_h`` and ``for_h`` those of a repeat, ``temperature`` degC.
    ``until`` is a look or a reading that ends it, ``at`` the place of its words in the text, ``word`` a formula’s own
    word for the step, such as "quarantine".
    """

    do: str
    text: str
    lines: tuple[int, ...] = ()
    shares: tuple[float, ...] = ()
    portions: int = 1
    how: str = ""
    wait_h: float | None = None
    timer_h: float | None = None
    every_h: float | None = None
    for_h: float | None = None
    until: str = ""
    temperature: float | None = None
    caution: str = ""
    vessel: str = ""
    source: str = ""
    word: str = ""
    at: tuple[int, int] = (0, 0)

    def step(self) -> Step:
        """The act as the step of a formula, for the bench.

        >>> Act("pour", "Add the salt.", (0,), portions=0).step().portions
        5
        """
        word = self.word or {"top": "top up"}.get(self.do, self.do)
        # what is in a cup goes in by parts when that does, and the words of pouring it out say so
        portions = 1 if self.vessel or self.source else self.portions or SEVERAL
        return Step(
            word, self.text, self.lines, self.wait_h, portions, self.timer_h, self.temperature, self.caution,
            self.vessel, self.source,
        )  # fmt: skip


def act_of(step: Step) -> Act:
    """The act of a formula's step; what a step does in words of its own is "other", or a pour where it names lines.

    Args:
        step: a step of a formula.

    >>> act_of(Step("top up", "To the mark.", (2,))).do, act_of(Step("strain", "Through a cloth.")).do
    ('top', 'other')
    """
    do = {"top up": "top"}.get(step.do, step.do)
    if do not in DOES or (step.lines and do not in ENTERING):
        do = "pour" if step.lines or step.source else "rest" if step.wait_h else "other"
    return Act(
        do, step.text, step.lines, portions=step.portions, wait_h=step.wait_h, timer_h=step.timer_h,
        temperature=step.temperature, caution=step.caution, vessel=step.vessel, source=step.source,
        word=step.do if step.do != do else "",
    )  # fmt: skip


def acts_of(steps: Sequence[Step], told: Sequence[Act] = ()) -> tuple[Act, ...]:
    """The acts of a formula's steps; where one of a told plan says the same, with all that is known of it.

    A step knows neither the part of its line that goes in nor its place in the text. Without them a line goes in once.

    Args:
        steps: the steps of a formula.
        told: the plan that the formula was made of, before it was changed.

    >>> told = [Act("pour", "Half.", (0,), (0.5,)), Act("pour", "The rest.", (0,), (0.5,))]
    >>> [act.shares for act in acts_of([act.step() for act in told], told)]
    [(0.5,), (0.5,)]
    >>> [act.lines for act in acts_of([act.step() for act in told])]
    [(0,)]
    """
    left = list(told)
    found: list[Act] = []
    for step in steps:
        alike = next((act for act in left if act.text == step.text and len(act.lines) == len(step.lines)), None)
        if alike is None:
            there = {line for act in found for line in act.lines}
            new = tuple(line for line in step.lines if line not in there)
            if new or not step.lines:
                found.append(replace(act_of(step), lines=new))
        else:
            left.remove(alike)
            found.append(replace(alike, lines=step.lines))
    return tuple(found)


def in_additions(act: Act, many: int) -> Act:
    """The act in so many additions, and its words with it.

    Args:
        act: an act that pours.
        many: how many additions, 1 or more.

    >>> in_additions(Act("pour", "Add the salt, in 10 additions, until it is thick.", (0,), portions=10), 11).text
    'Add the salt, in 11 additions, until it is thick.'
    >>> in_additions(Act("pour", "Add the salt.", (0,)), 2).text
    'Add the salt, in 2 additions.'
    """
    text = _ADDITIONS.sub("", act.text)
    if many > 1:
        before, until, behind = text.removesuffix(".").partition(", until ")
        text = f"{before}, in {many} additions{until}{behind}."
    return replace(act, text=text, portions=many)


def without_line(acts: Sequence[Act], gone: int) -> tuple[Act, ...]:
    """The acts without a line; those behind it move up, and an act that brought nothing else in goes.

    Args:
        acts: the acts in order.
        gone: position of the line that goes, from 0.

    >>> [act.lines for act in without_line([Act("pour", "Add it.", (0,)), Act("pour", "Add it.", (2, 1))], 0)]
    [(1, 0)]
    """
    left = [bare for act in acts if (bare := _without(act, gone)) is not None]
    filled = {act.vessel for act in left if act.lines}
    left = [act for act in left if act.lines or not act.source or act.source in filled]
    return tuple(replace(act, lines=tuple(line - (line > gone) for line in act.lines)) for act in left)


def handed_on(acts: Sequence[Act], gone: int, to: int, tellings: Sequence[tuple[int, int]] = ()) -> tuple[Act, ...]:
    """The acts where a line told twice goes in as its first telling did: "add the glycerine" means either of the two.

    Where only the amount of the first was told, and nothing done with it, the second keeps its own place.

    Args:
        acts: the acts in order.
        gone: position of the line that is about to go, from 0.
        to: position of the line that stays, from 0.
        tellings: the stretches of the text that tell the amounts of the two.

    >>> told = [Act("pour", "Add it.", (0,), at=(90, 99)), Act("pour", "Add it.", (1,), at=(40, 60))]
    >>> [act.lines for act in handed_on(told, 0, 1, [(0, 20), (40, 60)])]
    [(1,)]
    """
    done = [act for act in acts if gone in act.lines]
    if not any(all(act.at[1] <= start or act.at[0] >= end for start, end in tellings) for act in done):
        return tuple(acts)
    renamed = (replace(act, lines=tuple(to if line == gone else line for line in act.lines)) for act in done)
    instead = dict(zip(map(id, done), renamed, strict=True))
    bare = [_without(act, to) if id(act) not in instead else instead[id(act)] for act in acts]
    return tuple(act for act in bare if act is not None)


def _without(act: Act, line: int) -> Act | None:
    """The act without a line; none where it brought in nothing else."""
    kept = [place for place, one in enumerate(act.lines) if one != line]
    if act.lines and not kept:
        return None
    shares = tuple(act.shares[place] for place in kept) if act.shares else ()
    return replace(act, lines=tuple(act.lines[place] for place in kept), shares=shares)


def with_every_line(acts: Sequence[Act], names: Sequence[str]) -> tuple[Act, ...]:
    """A told procedure with the lines it does not bring in yet, poured after the last that it does.

    Without it a line put in later would be poured first of all, before the water that caustic needs.

    Args:
        acts: the acts in order.
        names: names of the formula's lines, in order.

    >>> told = [Act("pour", "Add it.", (0,)), Act("rest", "Leave it.")]
    >>> [act.lines for act in with_every_line(told, ["water", "salt"])]
    [(0,), (1,), ()]
    """
    if not acts:
        return ()
    there = {line for act in acts for line in act.lines}
    more = [Act("pour", f"Add the {name}.", (line,)) for line, name in enumerate(names) if line not in there]
    behind = max((place + 1 for place, act in enumerate(acts) if act.lines), default=len(acts))
    return (*acts[:behind], *more, *acts[behind:])


def faults_of(acts: Sequence[Act], lines: int) -> list[str]:
    """What is wrong with a procedure for a recipe of so many lines, a sentence each; empty where nothing is.

    Each line goes in exactly once, wholly, or in shares that sum to it; nothing but a pour, a top-up or a setting aside
    brings a line in; no act has nothing to do; what is in a cup is poured out of it, and nothing out of an empty one.

    >>> faults_of([Act("pour", "Add it.", (0,))], 2)
    ['Line 1 goes in nowhere.']
    """
    said = []
    went_in: dict[int, float] = {}
    for place, act in enumerate(acts):
        if act.do not in DOES:
            said.append(f"Act {place} does “{act.do}”, which is no act.")
        if act.lines and act.do not in ENTERING:
            said.append(f"Act {place} pours, and is no pour.")
        if act.do in ENTERING and not act.lines and not act.source:
            said.append(f"Act {place} pours nothing.")
        if act.do == "rest" and act.wait_h is None and act.timer_h is None and not act.until:
            said.append(f"Act {place} rests for no time.")
        for at, line in enumerate(act.lines):
            went_in[line] = went_in.get(line, 0.0) + (act.shares[at] if act.shares else 1.0)
    for line in range(lines):
        share = went_in.get(line, 0.0)
        if not share:
            said.append(f"Line {line} goes in nowhere.")
        elif abs(share - 1.0) > 1e-6:
            said.append(f"Line {line} goes in {share:g} times.")
    said += cups_astray(acts)
    return said + [f"There is no line {line}." for line in sorted(went_in) if not 0 <= line < lines]


def cups_astray(acts: Sequence[Act]) -> list[str]:
    """What is wrong with the cups of a procedure: one that is poured out empty, or never poured out.

    Args:
        acts: the acts in order.

    >>> cups_astray([Act("pour", "Pour the cup in.", source="cup"), Act("pour", "Salt.", (0,), vessel="cup")])
    ['Step 1 pours out the cup before anything is in it.', 'The cup filled in step 2 is never poured in.']
    """
    said = []
    filled: dict[str, int] = {}
    for place, act in enumerate(acts, start=1):
        if act.source and filled.pop(act.source, None) is None:
            said.append(f"Step {place} pours out the {act.source} before anything is in it.")
        if act.vessel and (act.lines or act.source):
            filled[act.vessel] = place
    return said + [f"The {cup} filled in step {place} is never poured in." for cup, place in filled.items()]
