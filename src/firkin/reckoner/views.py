"""Pages of the reckoner."""

from django.http import Http404, HttpResponse
from django.shortcuts import render

from firkin.accounts.middleware import MakerRequest
from firkin.core.audit import VERDICT_RULES, audit, fixes
from firkin.core.bench import cautions_for
from firkin.core.catalogue import cautions
from firkin.core.questions import QUESTIONS
from firkin.drawings.pictures import drawn_picture
from firkin.drawings.sheet import rail_of, vessel_of
from firkin.reckoner.forms import EXAMPLE, StrengthQuestion
from firkin.reckoner.index import cards, lately, remember
from firkin.reckoner.question_form import QuestionForm
from firkin.shelf.models import own_materials
from firkin.shelf.on_hand import Shelf
from firkin.ui.fields import material_choices
from firkin.ui.signing import signed


def index(request: MakerRequest) -> HttpResponse:
    """What do you want to know? Every question, found by its words."""
    words = request.GET.get("q", "")[:80]
    return render(request, "reckoner/index.html", {"groups": cards(words), "q": words, "lately": lately(request)})


def _asked(request: MakerRequest, ask: str) -> dict[str, object]:
    """What the frame of every question's page shows; it was asked last from now on."""
    remember(request, ask)
    return {"lately": [card for card in lately(request) if card.ask != ask], "materials": material_choices()}


def strength(request: MakerRequest) -> HttpResponse:
    """What goes in, and how strong it comes out: the whole question stands in the address."""
    shelf = Shelf.of(request.workshop)
    asked = request.GET if "material" in request.GET else EXAMPLE
    question = StrengthQuestion(asked, own_materials(request.workshop.pk), shelf)
    context: dict[str, object] = {"question": question, "here": "strength", "shelf": shelf}
    result = question.result
    if result is not None:
        context |= {
            "result": result,
            "findings": [found for found in audit(result) if found.rule not in VERDICT_RULES],
            "verdicts": [(verdict, list(fixes(result, verdict, shelf.stocks))) for verdict in result.verdicts],
            "cautions": cautions_for(result.formula),
            "rail": rail_of(result),
            "vessel": vessel_of(result),
            "signed": signed(result.formula),
        }
    if request.htmx and "more" not in request.GET:
        context["there"] = question.rows[: len(request.GET.getlist("material"))]  # a row more is not on the page yet
        return render(request, "reckoner/answer_live.html", context)
    return render(request, "reckoner/strength.html", context | _asked(request, "strength"))


def question(request: MakerRequest, ask: str) -> HttpResponse:
    """Any other question: a form read from the address, and its answer."""
    if ask not in QUESTIONS:
        raise Http404
    shelf = Shelf.of(request.workshop)
    form = QuestionForm(QUESTIONS[ask], request.GET, shelf)
    answer = form.try_answer()
    context: dict[str, object] = {"question": QUESTIONS[ask], "form": form, "here": ask, "shelf": shelf}
    if answer is not None:
        context |= {
            "answer": answer,
            "drawings": [drawn_picture(one) for one in (answer.picture, answer.beside) if one is not None],
            "working": answer.working,
            "cautions": [cautions()[key] for key in answer.cautions],
            "signed": signed(answer.formula) if answer.formula else "",
        }
    if request.htmx and "more" not in request.GET:
        context["there"] = [field for field in form if field.html_name in request.GET]
        return render(request, "reckoner/question_live.html", context)
    return render(request, "reckoner/question.html", context | _asked(request, ask))
