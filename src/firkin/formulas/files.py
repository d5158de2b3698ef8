"""A formula as a file: for another program, as text to read, and as a strip to print."""

import json

from django.http import HttpResponse
from django.shortcuts import get_object_or_404, render
from django.template.loader import render_to_string
from django.utils.text import slugify

from firkin.accounts.middleware import MakerRequest
from firkin.core.catalogue import families
from firkin.core.errors import CannotReckon
from firkin.core.formula import formula_to_dict, reckon
from firkin.drawings.paper import paper_pdf, paper_svg
from firkin.drawings.sheet import strip_of
from firkin.formulas.forms import SizeForm, StripForm
from firkin.formulas.models import Formula
from firkin.formulas.views import worked_out
from firkin.shelf.models import own_materials


def strip(request: MakerRequest, pk: int, kind: str) -> HttpResponse:
    """The printable fill strip of a formula at a size, for a cylinder of an inner diameter."""
    kept = get_object_or_404(Formula, pk=pk, workshop=request.workshop)
    form = StripForm(request.GET)
    if form.is_valid():
        try:
            formula = kept.current.as_core()
            if form.cleaned_data["make"]:
                formula = formula.scaled_to(form.cleaned_data["make"])
            drawn = strip_of(reckon(formula), kept.name, form.cleaned_data["diameter"])
            if kind == "pdf":
                return HttpResponse(paper_pdf([drawn]), content_type="application/pdf")
            return HttpResponse(paper_svg(drawn), content_type="image/svg+xml")
        except CannotReckon as error:
            form.add_error("diameter", str(error))
    return render(request, "formulas/strip.html", {"kept": kept, "form": form}, status=422)


def as_json(request: MakerRequest, pk: int) -> HttpResponse:
    """The newest version as firkin-formula/1."""
    kept = get_object_or_404(Formula, pk=pk, workshop=request.workshop)
    document = formula_to_dict(kept.current.as_core(own_materials(request.workshop.pk)))
    return _file(json.dumps(document, indent=2, ensure_ascii=False) + "\n", "application/json", kept, "json")


def as_markdown(request: MakerRequest, pk: int) -> HttpResponse:
    """What its sheet says, at the size asked for, as text with marks that many programs read."""
    kept = get_object_or_404(Formula, pk=pk, workshop=request.workshop)
    form = SizeForm(request.GET)
    try:
        formula = kept.current.as_core(own_materials(request.workshop.pk))
        if form.is_valid() and form.cleaned_data["make"]:
            formula = formula.scaled_to(form.cleaned_data["make"])
        context = worked_out(formula, None)
    except CannotReckon as error:
        words = {"title": "That cannot be worked out", "advice": str(error)}
        return render(request, "site/sorry.html", words, status=422)
    context |= {"kept": kept, "version": kept.current, "family": families()[kept.family]}
    lines = render_to_string("formulas/sheet.md", context).splitlines()
    text = "\n".join(line.rstrip() for line in lines)
    while "\n\n\n" in text:
        text = text.replace("\n\n\n", "\n\n")
    return _file(text.strip() + "\n", "text/markdown", kept, "md")


def _file(text: str, kind: str, kept: Formula, ending: str) -> HttpResponse:
    """A text to be saved under the formula's name."""
    name = f"{slugify(kept.name) or 'formula'}.{ending}"
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return HttpResponse(text, content_type=f"{kind}; charset=utf-8", headers=headers)
