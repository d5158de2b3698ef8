"""A formula played through: seeded, in seconds, with nothing taken from any shelf."""

from collections.abc import Sequence
from dataclasses import dataclass
from random import Random

from firkin.core.bench import Progress, below_its_line, cautions_of, usual_label_words
from firkin.core.formula import Formula, Reckoning
from firkin.core.measures import figures
from firkin.core.rehearsal.care import Care, care_of, tools_of
from firkin.core.rehearsal.hands import Hands
from firkin.core.rehearsal.player import Event, Player

#: What stands on a rehearsed label before anything else.
REHEARSED = "Rehearsed, not made."


@dataclass(frozen=True, slots=True)
class RehearsedLabel:
    """What the label of such a batch would say, by what really went in."""

    strength: str
    cautions: tuple[str, ...]
    words: tuple[str, ...]


@dataclass(frozen=True)
class Rehearsal:
    """What came of playing a formula: the events, the record as its maker kept it, and what really went in."""

    formula: Formula
    seed: int
    care: Care
    events: tuple[Event, ...]
    record: Progress
    really: Reckoning
    label: RehearsedLabel

    @property
    def minutes(self) -> float:
        """How long it took, waits and all."""
        return self.events[-1].at_min if self.events else 0.0

    @property
    def slips(self) -> tuple[Event, ...]:
        """What went wrong."""
        return tuple(event for event in self.events if event.do == "slip")


def rehearse(
    formula: Formula, seed: int = 0, care: str = "usual", named_tools: Sequence[str] = (), *, slips: bool = True
) -> Rehearsal:
    """Play a formula through with a simulated maker; the same seed gives the same rehearsal.

    ``named_tools`` are ids of tools, in place of those of the care.

    Args:
        formula: the formula; its lines carry amounts and strengths, its size stands in ``make``.
        seed: starts the generator of random numbers; the same seed gives the same answer.
        care: id of a level of care.
        named_tools: ids of tools, in place of those of the care.
        slips: False for a maker who makes none.

    Raises:
        CannotReckon: as formula.work_out does, and CannotRead for a care or a tool that is none.

    >>> from firkin.core.formula import house_formulas
    >>> rub = house_formulas()["who-one"].formula
    >>> played = rehearse(rub, seed=7, care="careful", slips=False)
    >>> [event.do for event in played.events]
    ['pour', 'pour', 'pour', 'top', 'mix', 'rest', 'fill', 'label']
    """
    chosen = care_of(care)
    random = Random(seed)  # noqa: S311 - drawn to be played, and the same each time
    player = Player(formula, random, chosen, Hands(random, *tools_of(chosen, named_tools)), slips)
    player.play()
    label = _label(player.progress, player.really)
    return Rehearsal(formula, seed, chosen, tuple(player.events), player.progress, player.really, label)


def _label(progress: Progress, really: Reckoning) -> RehearsedLabel:
    strengths = [f"{one.name} {figures(one.lower)} {one.basis}" for one in really.actives if one.on_label]
    notice = below_its_line(really)
    cautions = tuple(one.short for one in cautions_of(progress) if one.short)
    words = (REHEARSED, *([notice] if notice else []), *usual_label_words(really.formula))
    return RehearsedLabel(", ".join(strengths) or "No active counted", cautions, words)
