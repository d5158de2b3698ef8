"""Checking a recipe: what was read of a text as chips the maker corrects, and the formula they make.

Chips travel as parallel lists of fields, like the editor's rows; the fix of a finding is a press that writes the
fixed formula back into them.
"""

import json
import re
from collections.abc import Iterator
from dataclasses import replace
from hashlib import sha256

from django import forms
from django.http import QueryDict

from firkin.core.audit import Finding, Severity
from firkin.core.catalogue import Material, families, find
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
from firkin.core.plan import (
    acts_to_list,
    cups_astray,
    in_parts,
)
from firkin.core.recipe import (
    HeardLine,
    Recipe,
    findings_of,
    measures,
    read_recipe,
)
from firkin.core.texts import uncapped
from firkin.formulas.following import SHOWN, SPOKEN, followed
from firkin.formulas.plan_cards import Card, Gap, cards_of, gaps_of, pressed, usual_of, with_reasons
from firkin.formulas.recipe_answers import Doubtful, answered, doubtful, kept_dangers, told_of_chip, with_answer
from firkin.formulas.recipe_chips import CHIPS, ChipForm, RecipeForm, chips_of, chips_of_formula
from firkin.formulas.recipe_text import Piece, pieces_of
from firkin.formulas.told_plan import after, kept_plan, of_the_chips, without_chip
from firkin.shelf.on_hand import Shelf
from firkin.ui.rows import Act, fix_asked, marks, reordered, rows_from, say_at_field

EXAMPLE = (
    "Three parts 70% rubbing alcohol to one part aloe vera gel, 10 drops of lavender oil, makes 70% hand sanitizer."
)
#: So many pieces that were not understood are carried along.
MOST_UNREAD = 200


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
        answer = answered(data.get("act", ""))
        if asked and self.recipe is not None:
            self.dangers = self.recipe.dangers
        else:
            self.dangers = with_answer(kept_dangers(data.getlist("danger")[:MOST_UNREAD]), answer)
        if answer is not None and answer[3] is not None:
            data = told_of_chip(data, answer[3], int(answer[4]))
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
        return doubtful(list(self._lines()), getattr(self.head, "cleaned_data", {}).get("make"))

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
        plan = kept_plan(data.get("steps", ""), len(rows))
        act = Act.read(data)
        if act is not None and act.kind == "chip":
            if act.verb == "drop" and act.at < len(rows):
                plan = without_chip(plan, rows, act.at, self.recipe, self.own)
            rows = reordered(rows, act.order(len(rows)), CHIPS)
        plan = after(act, plan)
        data = followed(data, self.shelf.materials_of(rows, self.own))
        self.follows = {name: data.get(name, "") for name in (SHOWN, SPOKEN)}
        self.head = RecipeForm(data, label_suffix="")
        self.chips = [ChipForm(row, i, self.own, self.shelf) for i, row in enumerate(rows)]
        self.trouble = ""
        self.result: Reckoning | None = None
        plan = of_the_chips(plan, list(self._lines()), self.recipe)
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


#: A longer text is not read.
LONGEST_TEXT = 50_000
TOO_LONG = "This text is too long: 50,000 characters can be read. Paste one recipe at a time."
REFUSED = "The recipe has changed since that fix was shown, so it was not done. Look at the findings again."


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
