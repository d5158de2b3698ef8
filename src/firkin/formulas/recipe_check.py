"""Checking a recipe: what was read of a text as chips the maker corrects, and the formula they make.

Chips travel as parallel lists of fields, like the editor's rows; the fix of a finding is a press that writes the
fixed formula back into them.
"""

import json
import re
from collections.abc import Iterator
from dataclasses import dataclass, replace
from hashlib import sha256

from django import forms
from django.http import QueryDict

from firkin.core.audit import Finding, Severity
from firkin.core.catalogue import Material, dangers_in, families, find
from firkin.core.errors import CannotReckon
from firkin.core.formula import (
    UNCLAIMED,
    Claim,
    Claims,
    Formula,
    Line,
    LineClaims,
    Reckoning,
    Step,
    claim_for,
    reckon,
)
from firkin.core.measures import figures
from firkin.core.plan import Act as PlanAct
from firkin.core.plan import (
    acts_from_list,
    acts_to_list,
    cups_astray,
    handed_on,
    in_parts,
    renamed,
    with_every_line,
    without_line,
)
from firkin.core.recipe import (
    COUNTED_LIKE,
    HeardDanger,
    HeardLine,
    Recipe,
    as_counted,
    findings_of,
    measures,
    read_recipe,
)
from firkin.core.texts import uncapped
from firkin.formulas.following import SHOWN, SPOKEN, followed
from firkin.formulas.plan_cards import Card, Gap, cards_of, gaps_of, pressed, usual_of, with_reasons
from firkin.formulas.recipe_chips import CHIPS, ChipForm, RecipeForm, chips_of, chips_of_formula
from firkin.formulas.recipe_text import Piece, pieces_of
from firkin.shelf.on_hand import Shelf
from firkin.ui.rows import Act, fix_asked, marks, reordered, rows_from, say_at_field

EXAMPLE = (
    "Three parts 70% rubbing alcohol to one part aloe vera gel, 10 drops of lavender oil, makes 70% hand sanitizer."
)
#: So many pieces that were not understood are carried along.
MOST_UNREAD = 200
#: Answering whether something goes in: one named in the text, or a chip; and what a doubtful chip means.
_ANSWERED = re.compile(r"(in|out)-danger-(\d{1,3})|(in|both|strong|plain|sure|bare)-chip-(\d{1,3})")


@dataclass(frozen=True, slots=True)
class Doubtful:
    """A question about a chip, and its answers: the word of each press, and what it sends."""

    asks: str
    answers: list[tuple[str, str]]


class Check:
    """A recipe being checked: its text with its marks, its chips, the formula they make, and the findings."""

    def __init__(self, data: QueryDict, own: tuple[Material, ...], shelf: Shelf, household: str = "us") -> None:
        self.own, self.shelf = own, shelf
        self.text = data.get("text", "")[:100_000].replace("\r\n", "\n")
        self.whose = data.get("whose", "") if data.get("whose") in measures() else household
        self.recipe: Recipe | None = None
        if data.get("act") == "example":
            self.text = EXAMPLE
        asked = data.get("act") in ("read", "example")
        self.too_long = TOO_LONG if len(self.text) > LONGEST_TEXT else ""
        if self.too_long:
            asked = False
        elif asked or (self.text and data.get("of") == self.digest):
            self.recipe = read_recipe(self.text, self.whose, own)
        if asked and self.recipe is not None:
            data = chips_of(self.recipe)
        self.unread = tuple(self.recipe.unread if self.recipe else data.getlist("unread")[:MOST_UNREAD])
        answered = _ANSWERED.fullmatch(data.get("act", ""))
        if asked and self.recipe is not None:
            self.dangers = self.recipe.dangers
        else:
            self.dangers = _with_answer(_dangers(data.getlist("danger")[:MOST_UNREAD]), answered)
        if answered is not None and answered[3] is not None:
            data = _told_of_chip(data, answered[3], int(answered[4]))
        self.confirmed = not asked
        self.changed = not asked and bool(data.get("of")) and self.recipe is None
        self._fill(data)
        fixed = fix_asked(data, self.findings, self.result)
        self.refused = REFUSED if fixed is None and data.get("act", "").startswith("fix-") else ""
        if fixed is not None:
            self._fill(chips_of_formula(fixed, self.plan))

    @property
    def stopped(self) -> bool:
        """True where a stop or a question stands before everything else."""
        return any(one.severity in (Severity.STOP, Severity.ASK) for one in self.findings)

    @property
    def heading(self) -> str:
        """What stands over stops and questions."""
        return "Stop" if any(one.severity is Severity.STOP for one in self.findings) else "First, a question"

    @property
    def to_confirm(self) -> bool:
        """True where a long account was just read: its lines want a look before anything is said of them for sure."""
        return not self.confirmed and self.recipe is not None and self.recipe.at_length

    @property
    def dangers_kept(self) -> list[str]:
        """The dangers named outside the chips, as they travel with them."""
        return [json.dumps([one.said, one.sure]) for one in self.dangers]

    @property
    def talked(self) -> list[tuple[int, str]]:
        """Chips of which it is not sure that they go in: place and name."""
        return [
            (i, str(form.data.get("material") or ""))
            for i, form in enumerate(self.chips)
            if form.data.get("talked") == "on"
        ]

    @property
    def doubtful(self) -> list[Doubtful]:
        """Chips that were read in two ways: what is asked, and the presses that answer it."""
        lines, asked = list(self._lines()), set()
        found = list(self._unitless(lines))
        for i, line in enumerate(lines):
            name = line.material.name
            alike = [at for at, one in enumerate(lines) if one.material.written == line.material.written]
            if line.claims.twice and len(alike) > 1 and line.material.written not in asked:
                asked.add(line.material.written)
                outs = [(f"Not {lines[at].words()[2]}", f"drop-chip-{at}") for at in alike]
                found.append(Doubtful(f"{name}, told twice", [("Both go in", f"both-chip-{i}"), *outs]))
            if line.claims.beside is not None and line.strength is None:
                says = f"Is the {uncapped(name)} {line.claims.beside}?"
                answers = [("It is", f"strong-chip-{i}"), ("It is not", f"plain-chip-{i}")]
                found.append(Doubtful(says, answers))
        return found

    def _unitless(self, lines: list[HeardLine]) -> Iterator[Doubtful]:
        """One question for all figures that were told without a unit."""
        make = getattr(self.head, "cleaned_data", {}).get("make")
        bare = {i: line for i, line in enumerate(lines) if line.claims.unitless}
        said = {i: as_counted(line.material, line.amount, make) for i, line in bare.items() if line.amount is not None}
        if said:
            right = "That is right" if len(said) == 1 else "All are right"
            wrong = [(f"Not {words}", f"bare-chip-{i}") for i, words in said.items()]
            yield Doubtful(f"{COUNTED_LIKE} {', '.join(said.values())}", [(right, f"sure-chip-{min(said)}"), *wrong])

    @property
    def digest(self) -> str:
        """Which text was read, in whose measures."""
        return sha256(f"{self.whose}\n{self.text}".encode()).hexdigest()[:16]

    @property
    def of(self) -> str:
        """The text that the chips are of; empty where it was changed since."""
        return self.digest if self.recipe is not None else "changed"

    def _fill(self, data: QueryDict) -> None:
        rows = rows_from(data, CHIPS)
        plan = _plan(data.get("steps", ""), len(rows))
        act = Act.read(data)
        if act is not None and act.kind == "chip":
            if act.verb == "drop" and act.at < len(rows):
                plan = without_line(self._handed_on(plan, rows, act.at), act.at)
            rows = reordered(rows, act.order(len(rows)), CHIPS)
        if act is not None and act.kind == "act" and act.at < len(plan):
            # what goes in is taken out among the chips, and a cup with what is in it
            keeps = act.verb == "drop" and bool(plan[act.at].lines or plan[act.at].source)
            plan = plan if keeps else tuple(plan[i] for i in act.order(len(plan)) if i is not None)
        self.plan = plan
        data = followed(data, self.shelf.materials_of(rows, self.own))
        self.follows = {name: data.get(name, "") for name in (SHOWN, SPOKEN)}
        self.head = RecipeForm(data, label_suffix="")
        self.chips = [ChipForm(row, i, self.own, self.shelf) for i, row in enumerate(rows)]
        self.trouble = ""
        self.result: Reckoning | None = None
        plan = self._of_the_chips(plan)
        self.plan = plan
        self.formula = formula = self._formula()
        press = data.get("act", "")  # the usual way whole counts the chips, and so waits for all their amounts
        names = [uncapped(line.material.name) for line in self._lines()]
        self.plan = pressed(plan, press, formula if press == "usual-plan" else self._measured(), names)
        self.formula = formula = formula if self.plan == plan else self._formula()
        self.without = self._without_amounts() if formula is None else []
        if formula is None and self.without:
            formula = self._measured()
        if formula is not None:
            try:
                self.result = reckon(formula)
            except CannotReckon as error:
                self.trouble = say_at_field(error, self.chips, self.head)
        found = findings_of(self._as_heard()) if self.chips or self.recipe else ()
        self.findings: tuple[Finding, ...] = tuple(
            replace(one, lines=()) if one.rule == "line-not-measured" else one  # such a chip says so itself
            for one in found
        )

    def _without_amounts(self) -> list[str]:
        """Names of the chips that are named and not measured; none where something else is wrong with any of them.

        "A bit" and "a splash" are no amounts; what has a figure is one, and is to be put right.
        """
        bare = [form for form in self.chips if form.line is None]
        wrong = any(re.search(r"\d", form.data.get("amount") or "") or set(form.errors) - {"amount"} for form in bare)
        if wrong or not self.head.is_valid():
            return []
        return list(dict.fromkeys(uncapped(str(form.data.get("material") or "")) for form in bare))

    def _handed_on(self, plan: tuple[PlanAct, ...], rows: list[dict[str, str]], gone: int) -> tuple[PlanAct, ...]:
        """The plan where what is done with a chip told twice is done with its other telling."""
        name = rows[gone]["material"]
        others = [at for at, row in enumerate(rows) if at != gone and row["material"] == name]
        if not name or rows[gone].get("twice") != "on" or len(others) != 1 or self.recipe is None:
            return plan
        written = find(name, self.own).written
        tellings = [line.at for line in self.recipe.lines if line.material.written == written]
        return handed_on(plan, gone, others[0], tellings)

    def _of_the_chips(self, plan: tuple[PlanAct, ...]) -> tuple[PlanAct, ...]:
        """The plan for the chips as they stand: a line put in goes in, a corrected one goes in under its new name."""
        chips = list(self._lines())
        plan = with_every_line(plan, [uncapped(chip.material.name) for chip in chips])
        told = {line.material.written for line in self.recipe.lines} if self.recipe is not None else set()

        def as_it_is_now(act: PlanAct) -> PlanAct:
            pours = bool(told) and len(act.lines) == 1
            if not pours or chips[act.lines[0]].material.written in told:
                return act
            return renamed(act, uncapped(chips[act.lines[0]].material.name))

        return tuple(map(as_it_is_now, plan))

    def _as_heard(self) -> Recipe:
        """What the chips say now, whether or not every one of them can be read."""
        data = getattr(self.head, "cleaned_data", {})
        rule = data.get("rule")
        return Recipe(
            tuple(self._lines()),
            data.get("make"),
            self._claim([line for form in self.chips if (line := form.line)], data.get("claim") or ""),
            self._claims(),
            self._family(),
            data.get("basis") or families()[self._family()].basis,
            (rule,) if rule else (),
            data.get("cut") or 0.0,
            self.plan,
            unread=self.unread,
            dangers=self.dangers,
            text=self.text if self.recipe is not None else "",
            confirmed=self.confirmed,
        )

    def _lines(self) -> Iterator[HeardLine]:
        for form in self.chips:
            written = (form.data.get("material") or "").strip()
            if form.line is not None:
                line = form.line
                yield HeardLine(line.material, line.amount, line.strength, line.claims)
            else:
                stock = self.shelf.find(written) if written else None
                name = stock.material if stock else written or "something unnamed"
                material = find(name, self.own)
                strength = None
                if form.data.get("strength"):
                    try:
                        strength = material.read_strength(form.data["strength"])
                    except CannotReckon:
                        strength = None
                heard = LineClaims(words=form.data.get("heard", ""), talked=form.data.get("talked") == "on")
                yield HeardLine(material, None, strength, heard, form.data.get("amount", ""))

    def _family(self) -> str:
        family = self.head.data.get("family", "")
        return family if family in families() else "other"

    def _claims(self) -> Claims:
        data = getattr(self.head, "cleaned_data", {})
        kept = {
            name: data[name] for name in ("size", "vessel", "loads", "dose", "cost", "cost_per_load") if data.get(name)
        }
        glass = self.head.data.get("glass") == "on"
        return replace(UNCLAIMED, **kept, kills=data.get("kills") or "", glass=glass)

    @property
    def pieces(self) -> list[Piece]:
        """The maker's own text, every mark in its place."""
        return [] if self.recipe is None else list(pieces_of(self.recipe))

    @property
    def steps_text(self) -> str:
        """The steps as they travel with the chips."""
        return json.dumps(acts_to_list(self.plan))

    @property
    def cards(self) -> list[Card]:
        """How it is made, act by act."""
        chips = list(self._lines())
        if self.recipe is not None and len(self.recipe.lines) == len(chips):  # its own words name them
            pairs = zip(chips, self.recipe.lines, strict=True)
            chips = [replace(c, said=told.said) if c.material == told.material else c for c, told in pairs]
        cards = cards_of(self.plan, chips, self.text if self.recipe is not None else "")
        return cards if self.formula is None else with_reasons(cards, self.usual, chips)

    @property
    def gaps(self) -> list[Gap]:
        """The rests of the usual way that the recipe does not tell."""
        return gaps_of(self.plan, self._measured())

    @property
    def usual(self) -> tuple[Step, ...]:
        """The usual way to make it."""
        return usual_of(self._measured())

    @property
    def in_cups(self) -> bool:
        """True where something is made ready in a cup of its own."""
        return any(act.vessel for act in self.plan)

    @property
    def plan_faults(self) -> list[str]:
        """What is wrong with the cups of the cards as they stand now."""
        return cups_astray(self.plan)

    @property
    def to_keep(self) -> Formula:
        """What is kept: each part of a line that goes in by parts is a line, and measured by itself."""
        if self.formula is not None:
            return in_parts(self.formula, self.plan)
        measured = self._as_heard().measured()
        return in_parts(measured.formula(), measured.plan)

    def _measured(self) -> Formula | None:
        """What the chips that are measured make; None where they make nothing."""
        if self.formula is not None:
            return self.formula
        try:
            measured = self._as_heard().measured()
            return measured.formula() if measured.lines else None
        except CannotReckon:
            return None

    @property
    def kept_words(self) -> str:
        """What is said of it and has no place in a formula, for the version's note."""
        bare = f"Named, not measured: {', '.join(self.without)}." if self.without else ""
        return " ".join(words for words in (_said_words(self._claims()), bare) if words)

    @property
    def counted(self) -> int:
        """How many lines were looked at."""
        return len(self.chips)

    @property
    def settings(self) -> list[forms.BoundField]:
        """How it is counted and judged."""
        return [self.head[name] for name in ("rule", "family", "basis")]

    @property
    def read(self) -> bool:
        """True once there is something to show of the recipe."""
        return bool(self.chips) or self.recipe is not None

    @property
    def marks(self) -> str:
        """Where the findings of each chip are marked."""
        return marks(self.chips)

    def _formula(self) -> Formula | None:
        checked = [self.head.is_valid(), *(form.is_valid() for form in self.chips)]
        lines: list[Line] = [form.line for form in self.chips if form.line is not None]
        if not all(checked) or not lines or len(lines) < len(self.chips):
            return None
        data = self.head.cleaned_data
        formula = Formula(
            "A recipe heard",
            tuple(lines),
            data["family"],
            data["basis"],
            data["make"],
            guidelines=(data["rule"],) if data["rule"] else (),
            claims=self._claims(),
            steps=tuple(one.step() for one in self.plan),
            cut=data["cut"] or 0.0,
        )
        return replace(formula, claim=self._claim(lines, data["claim"])) if data["claim"] else formula

    def _claim(self, lines: list[Line], written: str) -> Claim | None:
        if not written:
            return None
        try:
            return claim_for(lines, written)
        except CannotReckon as error:
            if "claim" not in self.head.errors:
                self.head.add_error("claim", str(error))
            return None


def _dangers(kept: list[str]) -> tuple[HeardDanger, ...]:
    """Dangers that travelled with the chips; what did not arrive whole is heard anew by its words."""
    found = []
    for words in kept:
        try:
            said, sure = json.loads(words)
            named = dangers_in(str(said)[:80])
        except (ValueError, TypeError, RecursionError):
            continue
        found += [HeardDanger(one.said, one.material, bool(sure)) for one in named[:1]]
    return tuple(found)


def _with_answer(dangers: tuple[HeardDanger, ...], answered: re.Match[str] | None) -> tuple[HeardDanger, ...]:
    if answered is None or answered[2] is None or int(answered[2]) >= len(dangers):
        return dangers
    at = int(answered[2])
    told = (replace(dangers[at], sure=True),) if answered[1] == "in" else ()
    return (*dangers[:at], *told, *dangers[at + 1 :])


def _told_of_chip(data: QueryDict, answer: str, at: int) -> QueryDict:
    """The fields with a chip's question answered: it goes in, so do both, a strength is its own, a unit is right.

    An amount whose unit is not right wants to be typed.
    """
    told = data.copy()
    kept = ("material", "strength", "amount", "talked", "twice", "beside", "unitless")
    fields = {key: told.getlist(key) for key in kept}
    if at >= min(map(len, fields.values())):
        return told
    if answer == "in":
        fields["talked"][at] = ""
    elif answer == "sure":
        fields["unitless"] = [""] * len(fields["unitless"])
    elif answer == "bare":
        fields["unitless"][at] = fields["amount"][at] = ""
    elif answer == "both":
        alike = [i for i, name in enumerate(fields["material"]) if name == fields["material"][at]]
        for i in alike:
            fields["twice"][i] = ""
    else:
        if answer == "strong":
            fields["strength"][at] = fields["beside"][at]
        fields["beside"][at] = ""
    for key, values in fields.items():
        told.setlist(key, values)
    return told


#: A longer text is not read.
LONGEST_TEXT = 50_000
TOO_LONG = "This text is too long: 50,000 characters can be read. Paste one recipe at a time."
REFUSED = "The recipe has changed since that fix was shown, so it was not done. Look at the findings again."


def _plan(text: str, lines: int) -> tuple[PlanAct, ...]:
    """The plan that travels with the chips; none where it does not arrive whole."""
    try:
        return acts_from_list(json.loads(text), lines) if text else ()
    except (CannotReckon, ValueError, TypeError, KeyError, AttributeError, IndexError):
        return ()


def _said_words(claims: Claims) -> str:
    said = []
    if claims.loads:
        said.append(f"{figures(claims.loads)} loads")
    if claims.dose:
        said.append(f"{claims.dose.words} a load")
    if claims.vessel:
        said.append(f"goes into {claims.vessel.words}")
    if claims.size:
        said.append(f"makes {claims.size.words}")
    if claims.cost:
        said.append(f"costs {figures(claims.cost)}")
    return f"As heard: {', '.join(said)}." if said else ""
