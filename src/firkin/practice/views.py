"""Pages of practice: the next problem, how it was answered, progress, a sheet to print."""

from random import Random

from django.http import HttpResponse
from django.shortcuts import redirect, render

from firkin.accounts.middleware import MakerRequest
from firkin.accounts.presses import once
from firkin.core.errors import CannotReckon
from firkin.core.practice import SKILLS, Problem, draw, mark
from firkin.practice.models import Card
from firkin.ui.fields import whole_number

#: So many problems stand on a sheet.
ON_A_SHEET = 10
#: A sheet of a larger number is none.
_LARGEST = 1_000_000
_LONGEST = 60


def _card(request: MakerRequest, skill: str) -> Card:
    """A person's card of a skill, new at its first problem: two people begin with different ones."""
    begins = {"seed": (request.user.pk * 37) % 1000}
    card, _ = Card.objects.get_or_create(user=request.user, skill=skill, defaults=begins)
    return card


def practice(request: MakerRequest) -> HttpResponse:
    """The problem that is due next, or one of the skill that is asked for."""
    asked = request.GET.get("skill", "")
    skill = asked if asked in SKILLS else Card.objects.all().next_skill(request.user)
    card = _card(request, skill)
    return _page(request, card, card.problem)


@once
def answer(request: MakerRequest, skill: str, seed: int) -> HttpResponse:
    """How an answer was marked. A problem counts once: answered in another tab it is shown, and counts no more."""
    if skill not in SKILLS or seed > _LARGEST:
        return redirect("practice:practice")
    problem = draw(skill, seed)
    if request.method != "POST":
        return redirect("practice:practice")
    given = request.POST.get("answer", "")[:_LONGEST]
    card = _card(request, skill)
    try:
        marked = mark(problem, given)
    except CannotReckon as error:
        return _page(request, card, problem, given=given, trouble=str(error))
    if card.seed == seed:
        card.answered(right=marked.right)
    return _page(request, card, problem, given=given, marked=marked)


def _page(request: MakerRequest, card: Card, problem: Problem, **more: object) -> HttpResponse:
    cards = {one.skill: one for one in Card.objects.all().of(request.user)}
    context = {
        "card": card,
        "problem": problem,
        "skills": [(key, name, cards.get(key)) for key, name in SKILLS.items()],
        "answered": sum(one.tries for one in cards.values()),
        **more,
    }
    return render(request, "practice/practice.html", context)


def sheet(request: MakerRequest) -> HttpResponse:
    """Ten problems to print, with their answers on the back; the same number gives the same sheet."""
    number = min(whole_number(request.GET.get("sheet", "")), _LARGEST)
    random = Random(number)  # noqa: S311 - drawn to be practised
    skills = list(SKILLS)
    chosen = random.sample(skills, ON_A_SHEET)
    problems = [draw(skill, random.randrange(_LARGEST)) for skill in sorted(chosen, key=skills.index)]
    return render(request, "practice/sheet.html", {"problems": problems, "sheet": number, "another": number + 1})
