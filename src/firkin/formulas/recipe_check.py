"""Checking a recipe: what was read of a text as chips the maker corrects, and the formula they make.

Chips travel as parallel lists of fields, like the editor's rows; the fix of a finding is a press that writes the
fixed formula back into them.
"""

import json
import re
from collections.abc import Iterator
from dataclasses import dataclass, replace
from hashlib import sha256
from typing import Any

from django import forms
from django.http import QueryDict

from firkin.core.audit import Finding, Severity
from firkin.core.catalogue import Material, dangers_in, families, find, materials
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
from firkin.core.plan import act_of, acts_from_list, acts_to_list, with_every_line, without_line
from firkin.core.recipe import (
    HeardDanger,
    HeardLine,
    MarkKind,
    Recipe,
    findings_of,
    measures,
    read_recipe,
)
from firkin.formulas.following import SHOWN, SPOKEN, followed
from firkin.formulas.plan_cards import Card, Gap, cards_of, gaps_of, pressed, usual_of
from firkin.shelf.on_hand import Shelf
from firkin.ui.fields import (
    BasisField,
    FamilyField,
    MakeField,
    NumberField,
    RuleField,
    ShareField,
    StrengthField,
    VolumeField,
    text_widget,
)
from firkin.ui.rows import Act, LineForm, fix_asked, marks, reordered, rows_from, say_at_field

EXAMPLE = (
    "Three parts 70% rubbing alcohol to one part aloe vera gel, 10 drops of lavender oil, makes 70% hand sanitizer."
)
#: So many pieces that were not understood are carried along.
MOST_UNREAD = 200
CHIPS = (
    *("material", "strength", "amount", "share", "on_hand"),
    *("heard", "misread", "guessed", "heaped", "assumed", "talked"),
)
#: Answering whether something goes in: one named in the text, or a chip.
_ANSWERED = re.compile(r"(in|out)-danger-(\d{1,3})|in-chip-(\d{1,3})")
#: What a mark in the text is, in a word.
MARK_WORDS = {
    MarkKind.LINE: "goes in",
    MarkKind.CLAIM: "said of the whole",
    MarkKind.STEP: "part of a step",
    MarkKind.ADVICE: "not counted",
    MarkKind.TITLE: "a title",
    MarkKind.UNREAD: "not understood",
}


class ChipForm(LineForm):
    """One line as read, with what the recipe says of it."""

    error = None  # type: ignore[assignment]
    share = ShareField(required=False, label="Said to be, of the batch", widget=text_widget("1 %"))
    on_hand = StrengthField(required=False, label="The bottle here says", widget=text_widget("70 %"))
    heard = forms.CharField(max_length=80, required=False, widget=forms.HiddenInput)
    misread = forms.CharField(max_length=20, required=False, widget=forms.HiddenInput)
    guessed = forms.CharField(max_length=80, required=False, widget=forms.HiddenInput)
    heaped = forms.CharField(max_length=2, required=False, widget=forms.HiddenInput)
    assumed = forms.CharField(max_length=20, required=False, widget=forms.HiddenInput)
    talked = forms.CharField(max_length=2, required=False, widget=forms.HiddenInput)

    def clean(self) -> dict[str, Any]:
        """The line with its claims; words heard count only while they still name the material."""
        data = super().clean()
        if self.line is not None:
            misread = data.get("misread", "")
            claims = LineClaims(
                data.get("heard", ""),
                data.get("share"),
                data.get("on_hand"),
                float(misread) if re.fullmatch(r"\d{1,3}(?:\.\d+)?", misread, re.ASCII) else None,
                data.get("guessed", ""),
                data.get("heaped") == "on",
                bool(data.get("assumed")) and data.get("assumed") == str(self.line.strength or ""),
                data.get("talked") == "on",
            )
            self.line = replace(self.line, claims=claims)
        return data


class RecipeForm(forms.Form):
    """What a recipe says of the whole, and what it is to be judged by."""

    family = FamilyField()
    rule = RuleField()
    basis = BasisField()
    make = MakeField(required=False, label="Made up to", widget=text_widget("1 L"))
    size = MakeField(required=False, label="Said to make", widget=text_widget("1 L"))
    claim = forms.CharField(max_length=60, required=False, label="Said to be", widget=text_widget("70 %"))
    vessel = VolumeField(required=False, label="Goes in", widget=text_widget("1 L"))
    loads = NumberField(required=False, label="Loads", widget=text_widget("60"))
    dose = MakeField(required=False, label="A load takes", widget=text_widget("120 mL"))
    cost = NumberField(required=False, label="Cost", widget=text_widget("3.50"))
    cost_per_load = NumberField(required=False, label="Cost of a load", widget=text_widget("0.05"))
    kills = forms.ChoiceField(
        required=False, choices=lambda: [("", ""), *((key, key) for key in materials())], widget=forms.HiddenInput
    )
    glass = forms.BooleanField(required=False, widget=forms.HiddenInput)
    cut = NumberField(required=False, label="Cut with water, parts", widget=text_widget("1"))

    use_required_attribute = False
    CLAIMED = ("claim", "make", "size", "vessel", "loads", "dose", "cost", "cost_per_load", "cut")

    def claimed(self) -> list[forms.BoundField]:
        """The fields of claims that say something."""
        return [self[name] for name in self.CLAIMED if self[name].value()]

    def unclaimed(self) -> list[forms.BoundField]:
        """The fields of claims that are empty."""
        return [self[name] for name in self.CLAIMED if not self[name].value()]


@dataclass(frozen=True, slots=True)
class Piece:
    """A piece of the maker's own text: plain, or marked with what it was taken for."""

    text: str
    kind: str = ""
    word: str = ""
    says: str = ""


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
            data = _told_of_chip(data, int(answered[3]))
        self.confirmed = not asked
        self.changed = not asked and bool(data.get("of")) and self.recipe is None
        self._fill(data)
        fixed = fix_asked(data, self.findings, self.result)
        self.refused = REFUSED if fixed is None and data.get("act", "").startswith("fix-") else ""
        if fixed is not None:
            self._fill(chips_of_formula(fixed))

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
                plan = without_line(plan, act.at)
            rows = reordered(rows, act.order(len(rows)), CHIPS)
        if act is not None and act.kind == "act" and act.at < len(plan):
            keeps = act.verb == "drop" and bool(plan[act.at].lines)  # what goes in is taken out among the chips
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
        self.plan = pressed(plan, press, formula if press == "usual-plan" else self._measured())
        self.formula = formula = formula if self.plan == plan else self._formula()
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

    def _of_the_chips(self, plan: tuple[PlanAct, ...]) -> tuple[PlanAct, ...]:
        """The plan for the chips as they stand: a line put in goes in, a corrected one goes in under its new name."""
        chips = list(self._lines())
        plan = with_every_line(plan, [chip.material.name.lower() for chip in chips])
        told = {line.material.written for line in self.recipe.lines} if self.recipe is not None else set()

        def renamed(act: PlanAct) -> PlanAct:
            corrected = bool(told) and len(act.lines) == 1 and chips[act.lines[0]].material.written not in told
            return replace(act, text=f"Add the {chips[act.lines[0]].material.name.lower()}.") if corrected else act

        return tuple(map(renamed, plan))

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
        return [] if self.recipe is None else list(_pieces(self.recipe))

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
        return cards_of(self.plan, chips, self.text if self.recipe is not None else "")

    @property
    def gaps(self) -> list[Gap]:
        """The rests of the usual way that the recipe does not tell."""
        return gaps_of(self.plan, self._measured())

    @property
    def usual(self) -> tuple[Step, ...]:
        """The usual way to make it."""
        return usual_of(self._measured())

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
        return _said_words(self._claims())

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


def _told_of_chip(data: QueryDict, at: int) -> QueryDict:
    """The fields with one chip said to go in."""
    told = data.copy()
    talked = told.getlist("talked")
    if at < len(talked):
        talked[at] = ""
        told.setlist("talked", talked)
    return told


def chips_of(recipe: Recipe) -> QueryDict:
    """What was read, as the fields of the chips."""
    data = _head(recipe.family, recipe.basis, recipe.make, recipe.claim, recipe.claims)
    data["rule"] = next(iter(recipe.guidelines), "")
    data["steps"] = json.dumps(acts_to_list(recipe.plan))
    data["cut"] = figures(recipe.cut) if recipe.cut else ""
    for line in recipe.lines:
        name, strength, amount = line.words()
        _chip(data, find(name).name if line.material.known else name, strength, amount, line.claims)
    return data


def chips_of_formula(formula: Formula) -> QueryDict:
    """A formula with its claims, as the fields of the chips."""
    data = _head(formula.family, formula.basis, formula.make, formula.claim, formula.claims)
    data["rule"] = next(iter(formula.guidelines), "")
    data["steps"] = json.dumps(acts_to_list(map(act_of, formula.steps)))
    data["cut"] = figures(formula.cut) if formula.cut else ""
    for line in formula.lines:
        _chip(data, line.material.name, str(line.strength or ""), str(line.amount), line.claims)
    return data


def _head(family: str, basis: str, make: object, claim: Claim | None, claims: Claims) -> QueryDict:
    data = QueryDict(mutable=True)
    data.update({"family": family, "basis": basis, "kills": claims.kills, "glass": "on" if claims.glass else ""})
    data["make"] = str(make or "")
    data["claim"] = str(claim.strength) if claim else ""
    for name in ("size", "vessel", "dose"):
        data[name] = str(getattr(claims, name) or "")
    for name in ("loads", "cost", "cost_per_load"):
        value = getattr(claims, name)
        data[name] = "" if value is None else figures(value)
    return data


def _chip(data: QueryDict, name: str, strength: str, amount: str, claims: LineClaims) -> None:
    share = "" if claims.share_pct is None else f"{figures(claims.share_pct)} %"
    misread = "" if claims.misread_pct is None else f"{claims.misread_pct:g}"
    values = (
        name,
        strength,
        amount,
        share,
        str(claims.on_hand or ""),
        claims.words,
        misread,
        claims.guessed,
        "on" if claims.heaped else "",
        strength if claims.assumed else "",
        "on" if claims.talked else "",
    )
    for field, value in zip(CHIPS, values, strict=True):
        data.appendlist(field, value)


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


def _pieces(recipe: Recipe) -> Iterator[Piece]:
    """The text cut where a mark begins or ends; of two marks the shorter one shows."""
    shown: list[int | None] = [None] * len(recipe.text)
    longest_first = sorted(range(len(recipe.marks)), key=lambda at: recipe.marks[at].start - recipe.marks[at].end)
    for at in longest_first:
        mark = recipe.marks[at]
        shown[mark.start : mark.end] = [at] * (mark.end - mark.start)
    start = 0
    for end in range(1, len(shown) + 1):
        if end == len(shown) or shown[end] != shown[start]:
            yield _piece(recipe, recipe.text[start:end], shown[start])
            start = end


def _piece(recipe: Recipe, text: str, at: int | None) -> Piece:
    if at is None or not text.strip():
        return Piece(text)
    mark = recipe.marks[at]
    says = mark.what
    if mark.line is not None:
        line = recipe.lines[mark.line]
        name, strength, amount = line.words()
        name = line.material.name if line.material.known else name
        more = f" {', '.join(line.qualifiers)}." if line.qualifiers else ""
        words = " ".join(part for part in (amount or "no amount", strength, name) if part)
        says = f"Line {mark.line + 1}: {words}. {says}{more}"
    return Piece(text, mark.kind.value, MARK_WORDS[mark.kind], says.strip())


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
