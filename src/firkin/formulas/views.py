"""The formula book and a formula's sheet."""

from dataclasses import dataclass, replace
from datetime import datetime
from functools import cached_property
from typing import Any
from uuid import UUID, uuid4

from django.contrib import messages
from django.http import Http404, HttpResponse, QueryDict
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from firkin.accounts.middleware import MakerRequest
from firkin.accounts.presses import once
from firkin.core.audit import audit
from firkin.core.bench import cautions_for, insights
from firkin.core.catalogue import families
from firkin.core.errors import CannotReckon
from firkin.core.formula import Formula as CoreFormula
from firkin.core.formula import (
    Reckoning,
    enough,
    falls_short,
    house_formulas,
    pour_order,
    reckon,
    scale,
    tops_last,
    with_steps,
)
from firkin.core.kitchen import Kitchen, in_kitchen
from firkin.core.measures import amount_words, weight_words
from firkin.core.recipe import measures
from firkin.core.texts import uncapped
from firkin.drawings.pictures import with_drawings
from firkin.drawings.sheet import rail_of, vessel_of
from firkin.formulas import drafts
from firkin.formulas.differences import differences
from firkin.formulas.editor import Editor, rows_of
from firkin.formulas.forms import KeepForm, ScaleForm
from firkin.formulas.models import Formula
from firkin.formulas.recipe_check import EXAMPLE, Check
from firkin.formulas.substitution import SwapForm, choices, swap
from firkin.shelf.costs import Cost, cost_on_hand, costs_of_a_dose
from firkin.shelf.models import bottles_that_foam, kitchens_of, own_materials
from firkin.shelf.on_hand import Shelf, on_hand_g
from firkin.ui.fields import material_choices, whole_number
from firkin.ui.lists import page_of
from firkin.ui.signing import signed

#: The page Check a recipe, as what is left on it is called.
CHECK = "check"


@dataclass(frozen=True)
class Row:
    """One row of the book: the maker's own formula, or a house formula to copy."""

    name: str
    address: str
    tags: str
    formula: CoreFormula
    last_made: datetime | None = None
    last_verdict: str = ""

    @cached_property
    def result(self) -> Reckoning | None:
        """What it comes to; None when it cannot be worked out."""
        try:
            return reckon(self.formula)
        except CannotReckon:
            return None

    @property
    def what(self) -> str:
        """What is in it, each material once."""
        return " · ".join(dict.fromkeys(line.material.name for line in self.formula.lines))

    def says(self, words: str) -> bool:
        """True when every word asked for stands in its name, family, tags or materials."""
        materials = " ".join(f"{line.material.name} {line.material.id}" for line in self.formula.lines)
        family = families()[self.formula.family].name
        everything = f"{self.name} {family} {self.tags} {materials}".lower()
        return all(word in everything for word in words.lower().split())


def book(request: MakerRequest) -> HttpResponse:
    """The maker's formulas and the house formulas by family, found by words."""
    own = own_materials(request.workshop.pk)

    def row_of(kept: Formula) -> Row:
        address = reverse("formulas:sheet", args=[kept.pk])
        return Row(kept.name, address, kept.tags, kept.current.as_core(own), kept.last_made_at, kept.last_verdict)

    asked = request.GET.get("q", "")[:100]
    kept = Formula.objects.filter(workshop=request.workshop).in_use().book().by_family()
    mine = page_of([row for row in map(row_of, kept) if row.says(asked)] if asked else kept, request.GET)
    shown = list(mine["page"]) if asked else [row_of(one) for one in mine["page"]]
    house = [
        Row(one.formula.name, reverse("formulas:house", args=[one.id]), ", ".join(one.tags), one.formula)
        for one in house_formulas().values()
    ]
    context: dict[str, object] = {"shelves": _by_family(shown, asked), "house": _by_family(house, asked), **mine}
    context |= {"asked": asked, "house_found": sum(len(rows) for _, rows in _by_family(house, asked))}
    context["away"] = Formula.objects.filter(workshop=request.workshop, put_away_at__isnull=False)
    template = "formulas/book_shelves.html" if request.htmx else "formulas/book.html"
    return render(request, template, context)


def _by_family(rows: list[Row], asked: str) -> list[tuple[str, list[Row]]]:
    """The rows that say what is asked, under the names of their families."""
    found = [row for row in rows if row.says(asked)]
    return [
        (family.name, chosen)
        for family in families().values()
        if (chosen := [row for row in found if row.formula.family == family.id])
    ]


@once
def house(request: MakerRequest, key: str) -> HttpResponse:
    """The sheet of a house formula, at any size, to be copied into the book."""
    found = house_formulas().get(key)
    if found is None:
        raise Http404
    if request.method == "POST":
        kept = Formula.objects.keep(found.formula, request.workshop, request.user, found.tags)
        messages.success(request, f"{kept.name} is copied into your book. It is yours to change.")
        return redirect("formulas:sheet", kept.pk)
    context = {"title": found.formula.name, "family": families()[found.formula.family], "house_key": key}
    return _sheet(request, found.formula, context)


@require_POST
@once
def keep(request: MakerRequest) -> HttpResponse:
    """Keep a mix from the reckoner."""
    form = KeepForm(request.POST)
    if not form.is_valid():
        return render(request, "formulas/keep.html", {"form": form}, status=422)
    formula = Formula.objects.keep(
        form.formula(own_materials(request.workshop.pk)), request.workshop, request.user, note=form.cleaned_data["said"]
    )
    if request.POST.get("from") == CHECK:
        drafts.forget(request, CHECK)
    messages.success(request, f"{formula.name} is in the book.")
    return redirect("formulas:sheet", formula.pk)


def sheet(request: MakerRequest, pk: int) -> HttpResponse:
    """A formula at any size: amounts, levels, strength, verdicts, steps, cautions."""
    kept = get_object_or_404(Formula, pk=pk, workshop=request.workshop)
    version = newest = kept.current
    if number := whole_number(request.GET.get("version", "")):
        version = get_object_or_404(kept.versions, number=number)
    context: dict[str, object] = {
        "title": kept.name,
        "kept": kept,
        "version": version,
        "versions": kept.versions.all(),
        "newest": newest.number,
        "family": families()[kept.family],
    }
    return _sheet(request, version.as_core(), context)


def _sheet(request: MakerRequest, formula: CoreFormula, context: dict[str, Any]) -> HttpResponse:
    """A formula's sheet at the size asked for; the part that changes when htmx asks."""
    kitchens = kitchens_of(request.workshop)
    form = _size_asked(request, kitchens)
    kitchen: Kitchen | None = None
    on_hand, others = on_hand_g(request.workshop, formula.lines)
    try:
        if form.is_valid():
            kitchen = kitchens.get(form.cleaned_data["kitchen"])
            if form.cleaned_data["make"] or form.cleaned_data["way"] == "shelf":
                formula = scale(formula, form.cleaned_data["way"] or "size", form.cleaned_data["make"], on_hand)
        context |= worked_out(formula, kitchen)
    except CannotReckon as error:
        if form.is_bound:
            form.add_error("make", str(error))
        else:
            context["trouble"] = str(error)
        context |= _as_it_stands(formula)
    if "result" in context:
        result = context["result"]
        context |= _shelf_reach(result, on_hand) | {"other_strengths": others}
        in_bottles = result.total.volume_mL * (1.0 + result.formula.cut)
        context["cost"] = cost_on_hand(request.workshop, result, in_bottles)
        context["costs_each"] = _costs_each(context["cost"], request, result)
        context["insights"] = with_drawings(insights(result, bottles_that_foam(request.workshop, formula.family)))
    context |= {"form": form, "shown_make": formula.make, "shown_way": form["way"].value() or "size"}
    template = "formulas/sheet_body.html" if request.htmx else "formulas/sheet.html"
    return render(request, template, context)


def _size_asked(request: MakerRequest, kitchens: dict[str, Kitchen]) -> ScaleForm:
    """The form of size and measures: as asked, or else with what the workshop usually measures with."""
    asked = {"make", "kitchen", "way"} & set(request.GET)
    usual = request.workshop.kitchen if request.workshop.kitchen in kitchens else ""
    data = request.GET if asked else {"kitchen": usual} if usual else None
    return ScaleForm(data, label_suffix="", kitchens=kitchens)


def _costs_each(cost: Cost | None, request: MakerRequest, result: Reckoning) -> list[tuple[float, str]]:
    """What a load, a wash or a use costs, and a bottle that the family goes into."""
    if cost is None:
        return []
    family = result.formula.family
    free = 1.0 - families()[family].headspace_pct / 100.0
    bottles = bottles_that_foam(request.workshop, family)
    return costs_of_a_dose(cost, result) + [
        (cost.of_mL(one.brim_mL * free), f"a {uncapped(one.name)}") for one in bottles
    ]


def _shelf_reach(result: Reckoning, on_hand: dict[str, float]) -> dict[str, object]:
    """How far the shelf goes for it, in the names of the materials."""
    reach = enough(result, on_hand)
    if reach is None:
        return {}
    lines = result.formula.lines
    return {
        "reach": reach,
        "runs_out": uncapped(lines[reach.limiting].material.name),
        "not_there": [uncapped(lines[i].material.name) for i in reach.missing],
        "too_little": falls_short(reach.make.mL, result.total.volume_mL),
    }


def _as_it_stands(formula: CoreFormula) -> dict[str, object]:
    """The sheet unscaled and in exact amounts, where that at least can be worked out."""
    try:
        return worked_out(formula, None)
    except CannotReckon:
        return {}


def worked_out(formula: CoreFormula, kitchen: Kitchen | None) -> dict[str, object]:
    """Everything a sheet shows of a formula at one size, in exact amounts and a kitchen's measures."""
    formula = with_steps(formula)
    result = reckon(formula)
    rounded = in_kitchen(result, kitchen) if kitchen else None
    kitchen_lines = rounded.lines if rounded else [None] * len(result.lines)
    order, topped = pour_order(formula), formula.topped_up if tops_last(formula) else None
    return {
        "result": result,
        "rounded": rounded,
        "worst": formula.lines[rounded.worst].material.name if rounded and rounded.worst is not None else "",
        "rows": [
            {
                "at": i,
                "tops": i == topped,
                "line": formula.lines[i],
                "amount": result.lines[i],
                "kitchen": kitchen_lines[i],
            }
            for i in order
        ],
        "findings": audit(result),
        "cautions": cautions_for(formula),
        "steps": [(step, [_going_in(result, i) for i in step.lines]) for step in formula.steps],
        "rail": rail_of(result),
        "vessel": vessel_of(result),
        "make_text": _make_text(result),
    }


def _going_in(result: Reckoning, at: int) -> str:
    """What a step puts in: "310 mL water", "8 g xanthan gum"."""
    line, worked = result.formula.lines[at], result.lines[at]
    amount = weight_words(worked.mass_g) if result.formula.weighed(at) else amount_words(worked.volume_mL)
    about = "about " if line.amount.kind == "qs" else ""
    return f"{about}{amount} {uncapped(line.material.name)}"


def _make_text(result: Reckoning) -> str:
    """The size a batch is started at, as text the scale form reads back."""
    make = result.formula.make
    return str(make) if make else f"{result.total.volume_mL:.6g} mL"


@require_POST
def put_away(request: MakerRequest, pk: int) -> HttpResponse:
    """Out of the book, or into it again; records and batches keep it."""
    kept = get_object_or_404(Formula, pk=pk, workshop=request.workshop)
    away = request.POST.get("away") == "1"
    kept.put_away(away=away)
    said = "is archived. Find it below the book; its batches keep it." if away else "is in the book again."
    messages.success(request, f"{kept.name} {said}")
    return redirect("formulas:book" if away else "formulas:sheet", *(() if away else (kept.pk,)))


def edit(request: MakerRequest, pk: int | None = None) -> HttpResponse:
    """The editor: every save adds a version; other presses move rows and change nothing that is kept."""
    kept = get_object_or_404(Formula, pk=pk, workshop=request.workshop) if pk is not None else None
    page, act = drafts.page_of_editor(pk), request.POST.get("act")
    if act == drafts.FORGET:
        drafts.forget(request, page)
        return redirect(request.path)
    own, shelf = own_materials(request.workshop.pk), Shelf.of(request.workshop)
    empty = QueryDict("family=liquid-rub&basis=volume&rule=cdc-alcohol-60&act=add-line")
    data: QueryDict = empty
    if act == drafts.RESUME:
        data = drafts.resumed(request, page)
    elif request.method == "POST":
        data = request.POST
        drafts.keep_aside(request, page)
    elif kept is not None:
        data = rows_of(kept.current.as_core(own), kept.name, kept.tags)
    saves = act == "save" and not request.htmx  # a live look stores nothing, whatever was pressed
    fresh = request.method != "POST" and kept is None
    editor = Editor(data, own, shelf, saving=saves, fresh=fresh)
    if saves and editor.formula is not None and editor.result is not None:
        head = editor.head.cleaned_data
        kept = Formula.objects.save_edited(kept, editor.formula, request.workshop, request.user, head, _key_of(request))
        drafts.forget(request, page)
        messages.success(request, f"{kept.name} is kept as version {kept.current.number}.")
        return redirect("formulas:sheet", kept.pk)
    context: dict[str, object] = {"kept": kept, "editor": editor, "materials": material_choices(), "shelf": shelf}
    context["left"] = drafts.left(request, page)
    context["key"] = _key_of(request) or uuid4()
    context["acts"] = (("up", "↑", "Move up"), ("down", "↓", "Move down"), ("drop", "×", "Take out"))
    context["act_template"] = "formulas/edit_act.html"
    if editor.result is not None:
        context |= {"result": editor.result, "findings": editor.findings, "rail": rail_of(editor.result)}
    template = "formulas/edit_form.html" if request.htmx else "formulas/edit.html"
    return render(request, template, context)


def _key_of(request: MakerRequest) -> UUID | None:
    """The key of the page that was pressed; None when it has none."""
    try:
        return UUID(request.POST.get("key", ""))
    except ValueError:
        return None


def check(request: MakerRequest) -> HttpResponse:
    """Check a recipe: paste it, see what was read as chips, what is wrong with it, and put it right."""
    act = request.POST.get("act")
    if act == drafts.FORGET:
        drafts.forget(request, CHECK)
        return redirect("formulas:check")
    if request.method == "POST" and act not in (drafts.RESUME, "example") and request.POST.get("text") != EXAMPLE:
        drafts.keep_aside(request, CHECK)
    if act == drafts.HOLD:
        return HttpResponse(status=204)
    own, shelf = own_materials(request.workshop.pk), Shelf.of(request.workshop)
    data = drafts.resumed(request, CHECK) if act == drafts.RESUME else request.POST
    checked = Check(data, own, shelf, request.workshop.household)
    context: dict[str, object] = {"check": checked, "materials": material_choices(), "shelf": shelf}
    context["left"] = drafts.left(request, CHECK)
    context |= {"whose": measures(), "example": EXAMPLE, "findings": checked.findings}
    context["act_template"] = "formulas/check_act.html"
    if checked.result is not None:
        context |= {
            "result": checked.result,
            "rail": rail_of(checked.result),
            "cautions": cautions_for(checked.result.formula),
            "signed": signed(checked.to_keep),
            "said": checked.kept_words,
        }
    template = "formulas/check_body.html" if request.htmx else "formulas/check.html"
    return render(request, template, context)


@once
def compare(request: MakerRequest, pk: int) -> HttpResponse:
    """Two versions line by line; an earlier one can be restored, which adds a version like it."""
    kept = get_object_or_404(Formula, pk=pk, workshop=request.workshop)
    versions = {version.number: version for version in kept.versions.all()}
    newest = max(versions)
    asked = request.POST if request.method == "POST" else request.GET
    earlier = versions.get(whole_number(asked.get("with", "")))
    if earlier is None:
        raise Http404
    if request.method == "POST":
        kept.add_version(earlier.as_core(), request.user, f"as version {earlier.number} was")
        messages.success(request, f"Version {earlier.number} stands again, as version {newest + 1}.")
        return redirect("formulas:sheet", kept.pk)
    rows = differences(earlier.as_core(), versions[newest].as_core())
    return render(request, "formulas/compare.html", {"kept": kept, "earlier": earlier, "newest": newest, "rows": rows})


@once
def swap_line(request: MakerRequest, pk: int, at: int) -> HttpResponse:
    """Swap the material of one line: what may stand in, the amounts solved again, what changes."""
    kept = get_object_or_404(Formula, pk=pk, workshop=request.workshop)
    formula = kept.current.as_core()
    if at >= len(formula.lines):
        raise Http404
    line = formula.lines[at]
    shelf = Shelf.of(request.workshop)
    asked = request.POST if request.method == "POST" else request.GET
    form = SwapForm(asked if "to" in asked else None)
    context: dict[str, object] = {"kept": kept, "at": at, "line": line, "form": form}
    context["choices"] = choices(line.material, line.counted_strength, shelf)
    if form.is_valid():
        material, strength = form.cleaned_data["material"], form.cleaned_data["read"]
        context |= {"chosen": material, "asked_strength": strength}
        try:
            swapped = swap(formula, at, material.id, strength)
        except CannotReckon as error:
            context["trouble"] = str(error)
        else:
            if request.method == "POST":
                return _keep_swapped(request, kept, swapped.after.formula, uncapped(material.name), at)
            context["swapped"] = swapped
    return render(request, "formulas/swap.html", context)


def _keep_swapped(request: MakerRequest, kept: Formula, formula: CoreFormula, name: str, at: int) -> HttpResponse:
    """Keep a swapped formula as a version of the old one, or beside it under a name of its own."""
    if request.POST.get("keep") == "copy":
        renamed = replace(formula, name=f"{kept.name} with {name}"[:200])
        kept = Formula.objects.keep(renamed, request.workshop, request.user)
        messages.success(request, f"{kept.name} is in the book.")
    else:
        kept.add_version(formula, request.user, f"{name} in line {at + 1}")
        messages.success(request, f"{kept.name} is kept as version {kept.current.number}.")
    return redirect("formulas:sheet", kept.pk)


def in_reckoner(request: MakerRequest, pk: int) -> HttpResponse:
    """Open a formula's lines in the reckoner, where they can be changed and kept anew."""
    formula = get_object_or_404(Formula, pk=pk, workshop=request.workshop).current.as_core()
    query = QueryDict(mutable=True)
    for line in formula.lines:
        query.appendlist("material", line.material.name)
        query.appendlist("strength", str(line.strength) if line.strength else "")
        query.appendlist("amount", str(line.amount))
        query.appendlist("error", line.good_to)
    query["make"] = str(formula.make) if formula.make else ""
    query["basis"] = formula.basis
    query["family"] = formula.family
    query["temperature"] = "" if formula.temperature == 20.0 else f"{formula.temperature:g} degC"
    query.setlist("rule", list(formula.guidelines))
    return redirect(f"{reverse('reckoner:strength')}?{query.urlencode()}")
