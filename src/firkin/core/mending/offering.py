"""Offering a rescue: worked out for what is in the vessel by now, and judged before the maker sees it."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace

from firkin.core.audit import Finding, Severity, audit
from firkin.core.bench import Entry, EntryKind, Progress, last_excess, ph_within, plan_of
from firkin.core.catalogue import Verdict, rule_lines
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Reckoning, Step, steps_of
from firkin.core.measures import Quantity, figures, rounded_down, rounded_up
from firkin.core.mending.help import UNSEEN, Rescue, Seen
from firkin.core.mending.replanning import as_read, next_step, next_task, rescued
from firkin.core.mending.rescues import rescue
from firkin.core.texts import uncapped

_CHANGES_THE_BODY = frozenset(
    {"thickener", "neutraliser", "needs-neutraliser", "soap", "surfactant", "salt", "water", "alcohol"}
)
_CHANGES_THE_PH = frozenset({"neutraliser", "needs-neutraliser", "acid", "base", "soap", "surfactant"})
#: What must be in before a trouble can be told, by the roles of what is still to go in; None stands for everything.
_TOLD_WITHOUT: dict[str, frozenset[str] | None] = {
    "weak": None,
    "strong": None,
    "watery": _CHANGES_THE_BODY,
    "thick": _CHANGES_THE_BODY,
    "acid": _CHANGES_THE_PH,
    "alkaline": _CHANGES_THE_PH,
    "collapsed": frozenset({"neutraliser"}),
}
_ORDER = list(Verdict)
#: Less than this share of what would help is not worth offering.
_WORTH_IT = 0.1
#: A fix so many times what plain mixing asks for is not looked for.
_MOST_TIMES = 64.0


@dataclass(frozen=True, slots=True)
class Offer:
    """A rescue as it is offered; with additions also the formula it makes of the batch, and what that comes to.

    ``sets_off`` are the findings that were not there before it, none of them a stop.
    ``moves`` says where its steps went in, for the journal: places before it stay, those after it move on.
    """

    help: Rescue
    formula: Formula | None = None
    result: Reckoning | None = None
    moves: Mapping[str, int] = field(default_factory=dict)
    sets_off: tuple[Finding, ...] = ()

    @property
    def data(self) -> dict[str, object]:
        """What its entry in the journal holds."""
        return {"trouble": self.help.trouble, "adds": self.formula is not None, **self.moves, **_left(self.help)}

    @property
    def then(self) -> tuple[Step, ...]:
        """What is to be done after the additions, from their mixing to the end."""
        if self.formula is None:
            return ()
        return self.formula.steps[self.moves["step"] + len(self.help.additions) :]


def offer(trouble: str, progress: Progress, seen: Seen = UNSEEN, left_h: float | None = None) -> Offer:
    """What helps a batch as far as it is; ``left_h`` is what is left of a wait that runs, in hours.

    It goes in at the task at hand.

    Args:
        trouble: id of a trouble, such as "weak".
        progress: a batch as far as it has come: its formula, what was planned, and the entries that stand.
        seen: what was looked at, read or weighed of it.
        left_h: what is left of a wait that runs, in hours; None where none does.

    Raises:
        CannotReckon: with a sentence where it cannot be told yet, what it needs to know is missing, or nothing
            helps without making the batch worse.

    >>> from firkin.core.bench import plan_of
    >>> from firkin.core.formula import house_formulas, steps_of
    >>> rub = house_formulas()["who-one"].formula
    >>> offer("weak", Progress(rub, plan_of(rub), ()))
    Traceback (most recent call last):
    ...
    firkin.core.errors.CannotReckon: Nothing is in the vessel yet.
    """
    progress = progress.with_its_room()
    there = progress.in_vessel
    if there is None:
        raise CannotReckon("Nothing is in the vessel yet.")
    _must_be_in(trouble, progress)
    _was_read(trouble, progress)
    past = last_excess(progress)
    if trouble == "alkaline" and past is not None:
        seen = replace(seen, citric_g=past.taken_back_g)
    found = rescue(trouble, there, seen)
    if not found.additions:
        return Offer(found)
    before = _comes_to(progress, as_read(progress, seen.now), {})

    def mended(help_: Rescue) -> tuple[Formula, Reckoning]:
        formula = rescued(progress, help_, seen.now, left_h)
        return formula, _comes_to(progress, formula, {**_moves(progress, formula), **_left(help_)})

    if found.aim is not None:
        found = _reaching(found, found.aim, lambda help_: mended(help_)[1])
    if trouble == "thick":
        found = _with_room(found, before, lambda help_: mended(help_)[1])
    found = _said_where_it_is_much(found, there)
    formula, after = mended(found)
    worse = _worse(before, after)
    if worse:
        raise CannotReckon(worse)
    known = {one.rule for one in audit(before)}
    sets_off = tuple(one for one in audit(after) if one.rule not in known)
    for one in sets_off:
        if one.severity is Severity.STOP:
            raise CannotReckon(f"{one.text} Leave it.")
    return Offer(found, formula, after, _moves(progress, formula), sets_off)


def _moves(progress: Progress, formula: Formula) -> dict[str, int]:
    """Where the steps of a fix go in, and how many they are."""
    added = len(formula.steps) - len(steps_of(progress.formula))
    return {"step": next_step(progress), "task": next_task(progress), "added": added}


def _left(help_: Rescue) -> dict[str, float]:
    return {"left": help_.left} if help_.left < 1.0 else {}


def _comes_to(progress: Progress, formula: Formula, data: Mapping[str, object]) -> Reckoning:
    """What a batch comes to by its own record, once this formula is made of it as it asks: the card promises that."""
    written = list(progress.standing)
    begun = Entry(written[-1].number + 1, EntryKind.RESCUE, written[-1].at, data={"adds": True, **data})
    return Progress(formula, plan_of(formula), [*written, begun]).result


def _reaching(found: Rescue, aim: float, comes_to: Callable[[Rescue], Reckoning]) -> Rescue:
    """A fix with as much of its addition as the batch's own record needs to come to its aim, cautious side."""
    addition = found.additions[0]

    def times(factor: float) -> Rescue:
        rounds = rounded_down if found.keeps else rounded_up
        amount = Quantity(rounds(addition.amount.value * factor, 3), addition.amount.unit)
        return replace(found, additions=(replace(addition, amount=amount), *found.additions[1:]))

    def reached(factor: float) -> bool:
        active = comes_to(times(factor)).main
        if active is None:
            return True
        return active.higher <= aim if found.thins else active.lower >= aim

    if found.keeps:
        return _no_further(found, times, lambda factor: _held_at(comes_to(times(factor)), aim))
    if reached(1.0):
        return found
    low, high = 1.0, 2.0
    while not reached(high):
        low, high = high, 2.0 * high
        if high > _MOST_TIMES:
            return found  # it cannot be told so: the verdict of what it comes to says it
    for _ in range(12):
        middle = (low + high) / 2.0
        low, high = (low, middle) if reached(middle) else (middle, high)
    return times(high)


def _held_at(result: Reckoning, aim: float) -> bool:
    active = result.main
    return active is None or active.lower >= aim


def _no_further(found: Rescue, times: Callable[[float], Rescue], holds: Callable[[float], bool]) -> Rescue:
    """A fix that thins with as much of it as the aim bears. Raises CannotReckon where that is none worth it."""
    if holds(1.0):
        return found
    low, high = 0.0, 1.0
    for _ in range(12):
        middle = (low + high) / 2.0
        low, high = (middle, high) if holds(middle) else (low, middle)
    if low < _WORTH_IT:
        raise CannotReckon("It is as near to its aim as these measures place it. Nothing needs to go in.")
    return times(low)


def _said_where_it_is_much(found: Rescue, there: Reckoning) -> Rescue:
    """The same help, with a word where it takes more than there is in the vessel: then the amounts look wrong."""
    volume = sum(one.amount.mL for one in found.additions if one.amount.kind == "volume")
    mass = sum(one.amount.g for one in found.additions if one.amount.kind == "mass")
    if volume <= there.total.volume_mL and mass <= there.total.mass_g:
        return found
    much = "That is more than the batch itself. Check what went in first: the amounts look wrong."
    return replace(found, advice=(much, *found.advice))


def _with_room(found: Rescue, before: Reckoning, after: Callable[[Rescue], Reckoning]) -> Rescue:
    """A rescue that thins, with no more of it than the batch's lines bear."""

    def share(factor: float) -> Rescue:
        return replace(
            found,
            additions=tuple(
                replace(one, amount=Quantity(rounded_down(one.amount.value * factor), one.amount.unit))
                for one in found.additions
            ),
        )

    if not _worse(before, after(found)):
        return found
    low, high = 0.0, 1.0
    for _ in range(12):
        middle = (low + high) / 2.0
        low, high = (low, middle) if _worse(before, after(share(middle))) else (middle, high)
    if low < _WORTH_IT:
        raise CannotReckon(_worse(before, after(found)))
    return share(low)


def _worse(before: Reckoning, after: Reckoning) -> str:
    """Why a rescue would do harm: a verdict it worsens, or a batch below its line that it thins; else nothing."""
    for was, now in zip(before.verdicts, after.verdicts, strict=True):
        name = rule_lines()[was.guideline].name
        if _ORDER.index(now.verdict) < _ORDER.index(was.verdict):
            verdict = now.verdict.replace("-", " ")
            return f"No room for it: by “{name}” the batch would then be {verdict}. Leave it."
        one, other = before.active(was.active), after.active(was.active)
        thinned = one is not None and other is not None and other.lower < one.lower
        if was.verdict is Verdict.SHORT and thinned:
            return (
                f"The batch is below its line already, {name}, and this would thin it further. Mend its strength first."
            )
    return ""


def _was_read(trouble: str, progress: Progress) -> None:
    """Raises CannotReckon where a measured pH says that nothing is wrong: it counts more than the amounts."""
    if trouble in ("acid", "alkaline") and (value := ph_within(progress)) is not None:
        raise CannotReckon(f"The pH was read as {figures(value)}, which is right. Nothing needs to go in.")


def _must_be_in(trouble: str, progress: Progress) -> None:
    """Raises CannotReckon while what changes the trouble is still to go in."""
    roles = _TOLD_WITHOUT.get(trouble, frozenset())
    lines = [progress.formula.lines[i].material for i in progress.pending]
    missing = dict.fromkeys(uncapped(one.name) for one in lines if roles is None or roles & one.roles)
    if missing:
        verb = "is" if len(missing) == 1 else "are"
        raise CannotReckon(
            f"{_listed(list(missing)).capitalize()} {verb} still to go in. Finish that first; then it can be told."
        )


def _listed(names: Sequence[str]) -> str:
    return " and ".join((", ".join(names[:-1]), names[-1])) if len(names) > 1 else names[0]
