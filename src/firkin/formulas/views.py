"""The formula book and a formula's sheet."""

from django.contrib import messages
from django.http import HttpResponse, QueryDict
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from firkin.accounts.middleware import MakerRequest
from firkin.core.audit import audit
from firkin.core.errors import CannotReckon
from firkin.core.families import families
from firkin.core.formula import Formula as CoreFormula
from firkin.core.method import cautions_for, steps_of
from firkin.core.reckoning import Reckoning, levels, reckon
from firkin.core.working import work_reckoning
from firkin.drawings.sheet import rail_of, vessel_of
from firkin.formulas.forms import KeepForm, ScaleForm
from firkin.formulas.models import Formula
from firkin.shelf.models import own_materials


def book(request: MakerRequest) -> HttpResponse:
    """The formulas by family, each with its strength and verdict."""
    own = own_materials(request.workshop)
    shelves: dict[str, list[tuple[Formula, Reckoning | None]]] = {}
    for formula in Formula.objects.filter(workshop=request.workshop).book():
        try:
            result = reckon(formula.current.as_core(own))
        except CannotReckon:
            result = None
        shelves.setdefault(formula.family, []).append((formula, result))
    ordered = [(families()[key].name, rows) for key, rows in shelves.items()]
    return render(request, "formulas/book.html", {"shelves": ordered})


@require_POST
def keep(request: MakerRequest) -> HttpResponse:
    """Keep a mix from the reckoner."""
    form = KeepForm(request.POST)
    if not form.is_valid():
        return render(request, "formulas/keep.html", {"form": form}, status=422)
    formula = Formula.objects.keep(form.formula(own_materials(request.workshop)), request.workshop, request.user)
    messages.success(request, f"{formula.name} is in the book.")
    return redirect("formulas:sheet", formula.pk)


def sheet(request: MakerRequest, pk: int) -> HttpResponse:
    """A formula at any size: amounts, levels, strength, verdicts, steps, cautions."""
    kept = get_object_or_404(Formula, pk=pk, workshop=request.workshop)
    version = kept.current
    number = request.GET.get("version", "")
    if number.isascii() and number.isdigit():
        version = get_object_or_404(kept.versions, number=int(number[:9]))
    form = ScaleForm(request.GET if request.GET.get("make") else None)
    context: dict[str, object] = {
        "kept": kept,
        "version": version,
        "versions": kept.versions.all(),
        "family": families()[kept.family],
    }
    formula = version.as_core()
    try:
        if form.is_valid() and form.cleaned_data["make"]:
            formula = formula.scaled_to(form.cleaned_data["make"])
        context |= _worked_out(formula)
    except CannotReckon as error:
        if form.is_bound:
            form.add_error("make", str(error))
        context["trouble"] = str(error)
    context |= {"form": form, "shown_make": formula.make}
    template = "formulas/sheet_body.html" if request.htmx else "formulas/sheet.html"  # type: ignore[attr-defined]
    return render(request, template, context)


def _worked_out(formula: CoreFormula) -> dict[str, object]:
    """Everything a sheet shows of a formula at one size."""
    result = reckon(formula)
    rows = zip(formula.lines, result.lines, levels(formula), strict=True)
    return {
        "result": result,
        "rows": [{"line": line, "amount": amount, "level_mL": level} for line, amount, level in rows],
        "findings": audit(result),
        "working": work_reckoning(result),
        "cautions": cautions_for(formula),
        "steps": steps_of(formula),
        "rail": rail_of(result),
        "vessel": vessel_of(result),
        "make_text": _make_text(result),
    }


def _make_text(result: Reckoning) -> str:
    """The size a batch is started at, as text the scale form reads back."""
    make = result.formula.make
    return str(make) if make else f"{result.total.volume_mL:.6g} mL"


def in_reckoner(request: MakerRequest, pk: int) -> HttpResponse:
    """Open a formula's lines in the reckoner, where they can be changed and kept anew."""
    formula = get_object_or_404(Formula, pk=pk, workshop=request.workshop).current.as_core()
    query = QueryDict(mutable=True)
    for line in formula.lines:
        query.appendlist("material", line.material.name)
        query.appendlist("strength", str(line.strength) if line.strength else "")
        query.appendlist("amount", str(line.amount))
    query["make"] = str(formula.make) if formula.make else ""
    query["basis"] = formula.basis
    query["family"] = formula.family
    query["temperature"] = "" if formula.temperature == 20.0 else f"{formula.temperature:g} degC"
    query.setlist("rule", list(formula.guidelines))
    return redirect(f"{reverse('reckoner:strength')}?{query.urlencode()}")
