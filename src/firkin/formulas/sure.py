"""How sure a formula's strength is, and the formula rehearsed: two pages that keep nothing."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from django import forms
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, render
from django.urls import reverse

from firkin.accounts.middleware import MakerRequest
from firkin.accounts.models import Workshop
from firkin.core.audit import Finding, audit
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula as CoreFormula
from firkin.core.formula import reckon
from firkin.core.measures import amount_words, figures, hours_words, read_quantity, weight_words
from firkin.core.rehearsal import Event, Rehearsal, cares, rehearse
from firkin.core.texts import uncapped
from firkin.formulas.models import Formula
from firkin.shelf.costs import cost_on_hand
from firkin.shelf.models import Tool
from firkin.ui.fields import Select, number_widget
from firkin.ui.sureness import DRAWS, OwnTool, SureForm, spare_with, sure_with

#: A seed of more digits than this is none.
_LARGEST_SEED = 999_999


def own_tools(workshop: Workshop) -> list[OwnTool]:
    """The workshop's own tools as the question of sureness takes them."""
    return [
        OwnTool(one.name, one.error_pct, one.weighs, one.amount.g if one.weighs else one.amount.mL)
        for one in Tool.objects.filter(workshop=workshop)
    ]


def sure_page(request: MakerRequest, formula: CoreFormula, name: str, back: str) -> HttpResponse:
    """The page of a formula's sureness; of what htmx asks for, the answer alone."""
    own = own_tools(request.workshop)
    form = SureForm(request.GET or None, formula, own)
    context = {
        "form": form,
        "sure": sure_with(formula, form.chosen(), own),
        "spare": spare_with(formula, form.chosen(), own),
        "draws": DRAWS,
        "name": name,
        "back": back,
    }
    return render(request, "ui/sure.html" if request.htmx else "formulas/sure.html", context)


def sure(request: MakerRequest, pk: int) -> HttpResponse:
    """How sure the strength of a formula in the book is."""
    kept = get_object_or_404(Formula, pk=pk, workshop=request.workshop)
    return sure_page(request, kept.current.as_core(), kept.name, reverse("formulas:sheet", args=[pk]))


class RehearsalForm(forms.Form):
    """How carefully, with or without slips, and which of all rehearsals."""

    care = forms.ChoiceField(label="The maker works", required=False, widget=Select())
    slips = forms.ChoiceField(
        label="Slips",
        required=False,
        widget=Select(),
        choices=[("usual", "now and then"), ("none", "none")],
    )
    seed = forms.IntegerField(
        label="Rehearsal number",
        required=False,
        min_value=0,
        max_value=_LARGEST_SEED,
        widget=number_widget(min="0", max=str(_LARGEST_SEED)),
    )

    def __init__(self, *args: Any, **options: Any) -> None:
        super().__init__(*args, **options)
        self.fields["care"].choices = [(one.id, uncapped(one.name)) for one in cares().values()]  # type: ignore[attr-defined]

    def asked(self) -> tuple[str, bool, int]:
        """Care, slips and seed; what cannot be read is as usual."""
        data = self.cleaned_data if self.is_bound and self.is_valid() else {}
        return data.get("care") or "usual", data.get("slips") != "none", data.get("seed") or 0


@dataclass(frozen=True, slots=True)
class Told:
    """One thing that happened, as the page tells it."""

    at: str
    what: str
    detail: str
    kind: str


def rehearsed_page(request: MakerRequest, formula: CoreFormula, name: str, back: str) -> HttpResponse:
    """A formula played through, stepped by ``until``; nothing of it is kept, and no shelf is touched."""
    form = RehearsalForm(request.GET or None, initial={"care": "usual", "slips": "usual", "seed": 0})
    care, slips, seed = form.asked()
    context: dict[str, Any] = {"form": form, "name": name, "back": back, "seed": seed, "care": care, "slips": slips}
    try:
        played = rehearse(formula, seed, care, slips=slips)
    except CannotReckon as error:
        return render(request, "formulas/rehearsed.html", {**context, "trouble": str(error)})
    told = [_told(event, played) for event in played.events]
    asked = request.GET.get("until", "")
    until = min(int(asked), len(told)) if asked.isascii() and asked.isdigit() and len(asked) < 6 else len(told)
    findings: Sequence[Finding] = audit(played.really)
    cost = cost_on_hand(request.workshop, played.really, played.really.total.volume_mL)
    context |= {
        "played": played,
        "told": told[:until],
        "until": until,
        "all": len(told),
        "next": min(until + 1, len(told)),
        "back_one": max(until - 1, 0),
        "done": until == len(told),
        "planned": reckon(formula),
        "findings": findings,
        "rows": _rows(formula, played),
        "cost": cost,
        "another": seed + 1,
        "lasts": hours_words(played.minutes / 60.0) if played.minutes >= 60.0 else f"{figures(played.minutes, 2)} min",
    }
    return render(request, "formulas/rehearsed.html", context)


def rehearsed(request: MakerRequest, pk: int) -> HttpResponse:
    """A formula of the book rehearsed."""
    kept = get_object_or_404(Formula, pk=pk, workshop=request.workshop)
    return rehearsed_page(request, kept.current.as_core(), kept.name, reverse("formulas:sheet", args=[pk]))


def _rows(formula: CoreFormula, played: Rehearsal) -> list[tuple[str, str, str]]:
    """Each line: its name, what was planned of it, what went in."""
    planned = reckon(formula).lines
    found = []
    for i, worked in enumerate(played.really.lines):
        asked = planned[i] if i < len(planned) else None
        weighed = formula.weighed(i) if asked is not None else False
        words = [
            "-" if one is None else weight_words(one.mass_g) if weighed else amount_words(one.volume_mL)
            for one in (asked, worked)
        ]
        found.append((worked.material.name, words[0], words[1]))
    return found


_SLIPS = {
    "left-out": "Left out: {name}",
    "over": "Too much: {name}",
    "short": "Too little: {name}",
    "twice": "Poured twice: {name}",
    "wrong-bottle": "Wrong bottle: {name}",
}
_FIXES = {
    "add": "Added what was lacking: {name}",
    "accept": "Left as it is: {name}",
    "scale": "Scaled the rest to match: {name}",
    "put-in-late": "Put in late: {name}",
    "bottle": "Wrote down which bottle it was: {name}",
    "weak": "Too weak: lifted",
    "strong": "Too strong: thinned",
}


def _told(event: Event, played: Rehearsal) -> Told:
    """An event in a maker's words."""
    more = event.more
    at = _clock(event.at_min)
    name = ""
    if "line" in more:
        name = uncapped(played.really.formula.lines[more["line"]].material.name)
    if event.do in ("pour", "top"):
        wanted = read_quantity(more["asked"])
        weighed = wanted.kind == "mass"
        went_in = weight_words(more["amount_g"]) if weighed else amount_words(more["amount_mL"])
        aim = weight_words(wanted.g) if weighed else amount_words(wanted.mL)
        verb = "Top up with" if event.do == "top" else "Pour"
        portion = f", addition {more['portion']}" if "portion" in more else ""
        bottle = f", from a bottle of {_short(more['strength'])}" if "strength" in more else ""
        asked = f"up to {aim}" if event.do == "top" else f"asked {aim}"
        return Told(at, f"{verb} {name}{portion}", f"{asked}, went in {went_in}{bottle}", event.do)
    if event.do == "slip":
        seen = "seen" if more["noticed"] else "not seen"
        return Told(at, _SLIPS[more["what"]].format(name=name), seen, "slip")
    if event.do == "fix":
        return Told(at, _FIXES.get(more["what"], more["what"]).format(name=name), more.get("text", ""), "fix")
    if event.do == "rest":
        return Told(at, more.get("text") or "Rest", hours_words(more["minutes"] / 60.0), "rest")
    if event.do == "read":
        return Told(
            at,
            f"Read the {'pH' if more['what'] == 'ph' else more['what']}",
            f"{figures(more['value'])}, simulated",
            "read",
        )
    if event.do == "fill":
        return Told(at, "Fill the bottles", amount_words(more["amount_mL"]), "fill")
    if event.do == "label":
        return Told(at, "Label them", "", "label")
    return Told(at, more.get("text") or event.do.capitalize(), "", "do")


def _short(strength: str) -> str:
    value, _, basis = strength.partition(" ")
    return f"{figures(float(value), 3)} {basis}"


def _clock(minutes: float) -> str:
    """When it happened: minutes at first, then hours, then the day."""
    if minutes < 60.0:
        return f"{minutes:.0f} min"
    if minutes < 24.0 * 60.0:
        return f"{int(minutes // 60)} h {int(minutes % 60):02d}"
    return f"day {int(minutes // 1440) + 1}"
