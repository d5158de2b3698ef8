"""A simulated maker at a batch: what the journal says of it, and what really went in."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime, timedelta
from random import Random
from typing import Any

from firkin.core.bench import Entry, EntryKind, Progress, Task, TaskKind, approach_of, choices, decided, deviation_of
from firkin.core.bench import plan_of as planned_of
from firkin.core.catalogue import Verdict
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula, Nature, Pot, Reckoning, nature, reckon, with_steps
from firkin.core.measures import Quantity, Strength
from firkin.core.mending import Seen, offer
from firkin.core.rehearsal.care import SLIPS, Care
from firkin.core.rehearsal.hands import Hands

#: What a step does, in the words of the format; anything else is "other".
_DONE_AS = {
    **{word: word for word in ("measure", "mix", "heat", "cool", "set-aside", "read", "repeat", "fill", "label")},
    **dict.fromkeys(("combine", "stir", "shake", "dissolve", "whisk", "whip", "slurry", "hydrate", "gel"), "mix"),
    "melt": "heat",
}
#: By how much a slip is off: poured over or short by this share of what was asked for.
_OVER, _SHORT = (1.1, 1.6), (0.4, 0.9)
#: The bottle that is mistaken for a stronger one: rubbing alcohol of 70 %.
_WEAKER = 70.0
#: A plan of so many acts is never played: it goes round in a circle.
_MOST_ACTS = 400


@dataclass(frozen=True)
class Event:
    """One thing that happened, ``at_min`` minutes after the beginning; ``more`` by the keys of firkin-rehearsal/1."""

    at_min: float
    do: str
    more: Mapping[str, Any] = field(default_factory=dict)


class Player:
    """A batch played through: call ``play`` once; ``events``, ``progress`` and ``really`` tell what came of it."""

    def __init__(self, formula: Formula, random: Random, care: Care, hands: Hands, slips: bool) -> None:
        self.formula, self.plan = with_steps(formula), planned_of(formula)
        self.began_with = len(formula.lines)
        self.planned_strengths = {
            line.material.id: Strength.of(line.counted_strength.value, line.counted_strength.basis)
            for line in formula.lines
            if line.counted_strength is not None
        }
        self.random, self.care, self.hands, self.slips = random, care, hands, slips
        self.minutes = 0.0
        self.events: list[Event] = []
        self.entries: list[Entry] = []
        #: Grams of each line that are really in, and the strength of the bottle they came from.
        self.in_g: dict[int, float] = {}
        self.strengths: dict[int, Strength | None] = {}
        self.unseen: list[tuple[int, Strength]] = []
        self.forgotten: list[int] = []
        self.mended = False

    @property
    def progress(self) -> Progress:
        """The batch as its journal says it is."""
        return Progress(self.formula, self.plan, self.entries)

    # the journal and the events

    def _tell(self, do: str, **more: Any) -> None:
        self.events.append(Event(self.minutes, do, {key: value for key, value in more.items() if value is not None}))

    def _write(self, kind: EntryKind, **fields: Any) -> Entry:
        at = datetime(2000, 1, 1, tzinfo=UTC) + timedelta(minutes=self.minutes)
        entry = Entry(len(self.entries) + 1, kind, at, **fields)
        self.entries.append(entry)
        return entry

    def _spend(self, act: str) -> None:
        """The clock goes on for one act, a third more or less."""
        self.minutes += self.care.minutes[act] * self.random.uniform(2.0 / 3.0, 4.0 / 3.0)

    # playing

    def play(self) -> None:
        """Every task in turn, until nothing is left to do."""
        for _ in range(_MOST_ACTS):
            progress = self.progress
            if deviation_of(progress) is not None:
                self._decide(progress)
                continue
            task = progress.task
            everything_in = task is None or (task.line is None and not progress.pending)
            if everything_in and self._put_right(progress):
                continue
            if task is None:
                self._fill()
                return
            self._do(progress, task)
        raise CannotReckon("It goes round in a circle: after so many acts there is still something to do.")

    def _do(self, progress: Progress, task: Task) -> None:
        if task.kind is TaskKind.WAIT:
            self._wait(task)
        elif task.line is None:
            self._tick(task)
        elif task.kind is TaskKind.TOP_UP:
            self._top(progress, task)
        else:
            self._pour(progress, task)

    def _fill(self) -> None:
        """What is there goes into bottles, and each gets its label."""
        self._tell("fill", amount_mL=self.really.total.volume_mL)
        self._spend("do")
        self._tell("label")
        self._spend("read")

    def _wait(self, task: Task) -> None:
        minutes = (task.wait_h or 0.0) * 60.0
        self._tell("rest", minutes=minutes, text=task.text or None)
        self._write(EntryKind.STEP, step=task.step, text=task.text)
        self.minutes += minutes

    def _tick(self, task: Task) -> None:
        timer = None if task.timer_h is None else task.timer_h * 60.0
        self._tell(_DONE_AS.get(task.do, "other"), text=task.text, timer_min=timer)
        self._write(EntryKind.STEP, step=task.step, text=task.text)
        self.minutes += timer or 0.0
        self._spend("do")

    # measuring

    def _slip(self, line: int, late: bool) -> str:
        """What goes wrong at a line; empty where nothing does."""
        if not self.slips or late:
            return ""
        drawn, edge = self.random.random(), 0.0
        for kind in SLIPS:
            edge += self.care.slips[kind]
            if drawn < edge:
                return kind if kind != "wrong-bottle" or self._could_be_weaker(line) else ""
        return ""

    def _could_be_weaker(self, line: int) -> bool:
        strength = self.plan[line].strength
        material = self.formula.lines[line].material
        return material.alcohol is not None and strength is not None and strength.value > _WEAKER + 5.0

    def _pour(self, progress: Progress, task: Task) -> None:
        line = task.line
        assert line is not None
        target = progress.target(task)
        again = line in progress.measured
        slip = self._slip(line, late=again or line >= self.began_with)
        if slip == "left-out" and not any(self.in_g.values()) and len(progress.pending) <= 1:
            slip = ""  # nobody overlooks an empty vessel
        noticed = bool(slip) and self.random.random() < self.care.notices
        if slip:
            self._tell("slip", what=slip, line=line, noticed=noticed)
        if slip == "left-out" and noticed:
            self._leave_out(progress, task)
            return
        if slip == "wrong-bottle":
            weaker = Strength.of(_WEAKER, "v/v")
            self.strengths[line] = weaker
            if noticed:
                self.unseen.append((line, weaker))
        share = self._share(slip)
        went_in = self._measured(progress, task, target, share) if share else 0.0
        known = share if noticed else 1.0
        if not share:
            self._spend("pour")
        self.in_g[line] = self.in_g.get(line, 0.0) + went_in
        self._record(progress, task, target.times(known))

    def _share(self, slip: str) -> float:
        """How much of what was asked for goes in."""
        if slip == "over":
            return self.random.uniform(*_OVER)
        if slip == "short":
            return self.random.uniform(*_SHORT)
        return {"left-out": 0.0, "twice": 2.0}.get(slip, 1.0)

    def _measured(self, progress: Progress, task: Task, target: Quantity, share: float) -> float:
        """What really goes in of a line, g, told in one event for each portion."""
        line = task.line
        assert line is not None
        stock = self.stock(line)
        approach = approach_of(progress, task)
        portions = max(task.portions, 1 if approach is None else approach.portions)
        total = 0.0
        for portion in range(portions):
            asked = target.times(1.0 / portions)
            off = self.hands.error(line, asked.value * share, weighed=asked.kind == "mass")
            grams = asked.g if asked.kind == "mass" else asked.mL * stock.measured
            grams *= share * (1.0 + off)
            self._tell(
                "pour",
                line=line,
                asked=asked.words,
                amount_mL=grams / stock.measured,
                amount_g=grams,
                strength=self._from(line),
                portion=portion + 1 if portions > 1 else None,
            )
            total += grams
            self._spend("pour")
            if approach is not None:
                self._read(approach.reads.value, approach.window, approach.rises, (portion + 1) / portions)
        return total

    def _read(self, what: str, window: tuple[float, float], rises: bool, done: float) -> None:
        """A simulated reading on its way into the window: it is told, and counts for nothing."""
        start = window[0] - 3.0 if rises else window[1] + 3.0
        value = start + (sum(window) / 2.0 - start) * done
        self._tell("read", what=what, value=round(value, 1), simulated=True)
        self._spend("read")

    def _top(self, progress: Progress, task: Task) -> None:
        line = task.line
        assert line is not None
        target = progress.target(task)
        slip = self._slip(line, late=line in progress.measured)
        slip = slip if slip in ("over", "short") else ""
        share = {"over": self.random.uniform(1.02, 1.1), "short": self.random.uniform(0.9, 0.98)}.get(slip, 1.0)
        noticed = bool(slip) and self.random.random() < self.care.notices
        if slip:
            self._tell("slip", what=slip, line=line, noticed=noticed)
        off = self.hands.error(line, target.value, weighed=target.kind == "mass")
        grams = self._room(line, target.times(share * (1.0 + off)))
        stock = self.stock(line)
        self._tell(
            "top",
            line=line,
            asked=target.words,
            amount_mL=grams / stock.measured,
            amount_g=grams,
            strength=self._from(line),
        )
        self.in_g[line] = self.in_g.get(line, 0.0) + grams
        self._spend("pour")
        self._write(
            EntryKind.POUR,
            line=line,
            step=max(task.step, 0),
            amount=target.times(share if noticed else 1.0),
            data={"level": True},
        )

    def _room(self, line: int, mark: Quantity) -> float:
        """Grams that bring what is really in up to a mark; nothing where it stands above it."""
        lines = range(len(self.formula.lines))
        there = [self.in_g.get(i, 0.0) for i in lines]
        if mark.kind == "mass":
            return max(0.0, mark.g - sum(there))
        pot = Pot([self.stock(i) for i in lines], self.formula.temperature, self.formula.dry)
        return max(0.0, pot.top_up(there, line, mark.mL))

    def _record(self, progress: Progress, task: Task, amount: Quantity) -> None:
        """What the maker writes down of a line."""
        line = task.line
        assert line is not None
        before = progress.measured.get(line)
        planned, already = progress.target_g(task), 0.0
        if before is not None and before.amount is not None:
            already = progress.grams(line, before.amount)
            amount = Quantity(already + progress.grams(line, amount), "g")
        planned += already
        row = self.plan[line]
        times = planned / row.g if row.g else 1.0
        data: dict[str, Any] = {"planned": planned, "asked_mL": row.mL * times, "strength": str(row.strength or "")}
        if approach_of(progress, task) is not None:
            data["approach"] = True
        self._write(EntryKind.POUR, line=line, step=max(task.step, 0), amount=amount, data=data)

    # slips and fixes

    def _leave_out(self, progress: Progress, task: Task) -> None:
        assert task.line is not None
        planned = self.plan[task.line]
        data = {"planned": progress.target_g(task), "asked_mL": planned.mL, "strength": str(planned.strength or "")}
        try:
            entry = self._write(EntryKind.LEFT_OUT, line=task.line, step=max(task.step, 0), data=data)
            _ = self.progress.result
        except CannotReckon:  # nothing would be left of the batch: it is poured after all
            self.entries.remove(entry)
            self.in_g[task.line] = self._measured(progress, task, progress.target(task), 1.0)
            self._record(progress, task, progress.target(task))
            return
        self.forgotten.append(task.line)

    def _decide(self, progress: Progress) -> None:
        """Go on after too much or too little, as the bench offers it: what holds its line, with the least added."""
        deviation = deviation_of(progress)
        assert deviation is not None
        ways = [one for one in choices(progress, deviation) if not one.trouble]
        order = {"add": 0, "accept": 1, "scale": 2}
        best = min(ways, key=lambda one: (_worst(one.result).fails, order[one.key]))
        self._tell("fix", what=best.key, line=deviation.line)
        self._write(EntryKind.DECIDE, data=decided(best.key, deviation))

    def _put_right(self, progress: Progress) -> bool:
        """Once everything is in: what was forgotten goes in late, the bottle is put right, and then the strength."""
        while self.forgotten:
            line = self.forgotten.pop(0)
            task = progress.task_of(line)
            target = progress.asked_now(line)
            self._tell("fix", what="put-in-late", line=line)
            self.in_g[line] = self.in_g.get(line, 0.0) + self._measured(progress, task, target, 1.0)
            self._record_late(progress, line, target)
            return True
        while self.unseen:
            line, strength = self.unseen.pop(0)
            self._tell("fix", what="bottle", line=line)
            data = {"strength": str(strength), "was": str(self.plan[line].strength or "")}
            self._write(EntryKind.BOTTLE, line=line, data=data)
            return True
        if self.mended or not _worst(progress.result).fails or not self.slips:
            return False
        self.mended = True
        return self._rescue(progress)

    def _record_late(self, progress: Progress, line: int, amount: Quantity) -> None:
        entry = progress.left_out[line]
        data = {key: value for key, value in entry.data.items() if key in ("planned", "asked_mL", "strength")}
        self._write(EntryKind.POUR, line=line, step=entry.step, amount=amount, data=data)

    def _seen(self) -> Seen:
        """What the maker has to lift it with: another bottle like the one that was planned."""
        for line in self.formula.lines[: self.began_with]:
            if line.material.alcohol is not None and line.counted_strength is not None:
                return Seen(stock=(line.material, self.planned_strengths[line.material.id]))
        return Seen()

    def _rescue(self, progress: Progress) -> bool:
        trouble = "strong" if _worst(progress.result) is Verdict.TOO_STRONG else "weak"
        try:
            found = offer(trouble, progress, self._seen())
        except CannotReckon:
            return False
        if found.formula is None:
            return False
        left = found.help.left if found.help.left < 1.0 else None
        self._tell("fix", what=trouble, text=" ".join(found.help.advice) or None, left=left)
        self._write(EntryKind.RESCUE, data=found.data)
        self.in_g = {line: grams * found.help.left for line, grams in self.in_g.items()}
        self.formula, self.plan = found.formula, planned_of(found.formula)
        return True

    # what is really there

    def stock(self, line: int) -> Nature:
        """The bottle that a line is really from."""
        one = self.formula.lines[line]
        strength = self.strengths.get(line) or self.hands.strength(one) or one.counted_strength
        return nature(one.material, one.material.mass_fraction(strength), self.formula.temperature)

    def _from(self, line: int) -> str | None:
        """The strength of the bottle, where it is not what the formula says."""
        drawn = self.strengths.get(line) or self.hands.strength(self.formula.lines[line])
        return None if drawn is None else str(drawn)

    @property
    def really(self) -> Reckoning:
        """What really went in, reckoned: each line by what it came to, out of the bottle it came from."""
        lines = []
        for i, line in enumerate(self.formula.lines):
            grams = self.in_g.get(i, 0.0)
            strength = self.strengths.get(i) or self.hands.strength(line) or line.strength
            weighed = self.plan[i].weighed
            amount = Quantity(grams, "g") if weighed else Quantity(grams / self.stock(i).measured, "mL")
            lines.append(replace(line, amount=amount, strength=strength, error=0.0))
        made_up = self.formula.made_up or self.formula.topped_up is not None
        return reckon(replace(self.formula, lines=tuple(lines), make=None, made_up=made_up, claim=None))


def _worst(result: Reckoning) -> Verdict:
    return Verdict.worst(standing.verdict for standing in result.verdicts) or Verdict.MEETS
