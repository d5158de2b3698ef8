"""Pages of the reckoner."""

from django.core import signing
from django.http import HttpResponse
from django.shortcuts import render

from firkin.accounts.middleware import MakerRequest
from firkin.core.audit import audit
from firkin.core.formula_format import formula_to_dict
from firkin.core.method import cautions_for
from firkin.core.rules import rule_lines
from firkin.core.working import work_reckoning
from firkin.drawings.sheet import rail_of, vessel_of
from firkin.reckoner.forms import EXAMPLE, StrengthQuestion
from firkin.shelf.forms import material_choices
from firkin.shelf.models import own_materials


def strength(request: MakerRequest) -> HttpResponse:
    """What goes in, and how strong it comes out: the whole question stands in the address."""
    question = StrengthQuestion(
        request.GET if "material" in request.GET else EXAMPLE, own_materials(request.workshop)
    )
    context: dict[str, object] = {"question": question}
    result = question.result
    if result is not None:
        context |= {
            "result": result,
            "rules": rule_lines(),
            "findings": audit(result),
            "working": work_reckoning(result),
            "cautions": cautions_for(result.formula),
            "rail": rail_of(result),
            "vessel": vessel_of(result),
            "signed": signing.dumps({**formula_to_dict(result.formula), "name": "Unnamed"}, salt="keep"),
        }
    if request.htmx and "more" not in request.GET:  # type: ignore[attr-defined]
        return render(request, "reckoner/answer_live.html", context)
    context |= {"materials": material_choices()}
    return render(request, "reckoner/strength.html", context)
