"""The plan: drawn, as a list by week, moved, undone, begun, made anew."""

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from firkin.accounts.middleware import MakerRequest
from firkin.accounts.presses import once
from firkin.core.errors import CannotReckon
from firkin.core.season import play_ahead
from firkin.season import moves
from firkin.season.forms import MoveForm
from firkin.season.models import Habits, Need, Plan, Product
from firkin.season.picture import Shown, day_words
from firkin.season.spread import spreads_of
from firkin.season.working import begin, given_up, stop_all
from firkin.ui.fields import MOST_DIGITS, whole_number

#: So often a plan is played ahead on its page.
TIMES = 100


def season(request: MakerRequest) -> HttpResponse:
    """The season that stands; what is worked out now is told above it."""
    given_up(request.workshop)
    plan = Plan.objects.newest_of(request.workshop)
    newest = Plan.objects.filter(workshop=request.workshop).first()
    products = Product.objects.filter(formula__workshop=request.workshop)
    context: dict[str, object] = {
        "newest": newest,
        "working": newest is not None and newest.state == Plan.State.WORKING,
        "failed": newest is not None and newest.state == Plan.State.FAILED,
        "products": products.count(),
        "needs": Need.objects.filter(product__formula__workshop=request.workshop).count(),
        "plan": plan,
    }
    if plan is not None:
        context |= _of_plan(request, plan)
    return render(request, "season/season.html", context)


def _of_plan(request: MakerRequest, plan: Plan) -> dict[str, object]:
    shown = Shown(plan)
    asked, rows = request.GET.get("batch", ""), shown.rows
    place = whole_number(asked) if asked.isascii() and asked.isdigit() and len(asked) <= MOST_DIGITS else len(rows)
    chosen = rows[place] if place < len(rows) and rows[place].started is None else None
    ahead = play_ahead(shown.core, spreads_of(request.workshop, shown), TIMES) if "ahead" in request.GET else []
    before = Plan.objects.filter(workshop=plan.workshop, state=Plan.State.DONE, undone=False, pk__lt=plan.pk)
    return {
        "shown": shown,
        "svg": shown.drawn(chosen.place if chosen else None, ahead),
        "ahead": ahead,
        "times": TIMES,
        "chosen": chosen,
        "move_form": MoveForm(initial={"to": chosen.start}) if chosen else None,
        "can_undo": before.exists(),
        "left_out": shown.data.get("left_out", []),
    }


def progress(request: MakerRequest, pk: int) -> HttpResponse:
    """How far a plan is, asked for while it is worked out; the page is loaded anew once it is done."""
    given_up(request.workshop)
    plan = get_object_or_404(Plan, pk=pk, workshop=request.workshop)
    response = render(request, "season/working.html", {"newest": plan, "working": plan.state == Plan.State.WORKING})
    if plan.state != Plan.State.WORKING:
        response["HX-Redirect"] = reverse("season:season")
    return response


@require_POST
@once
def make(request: MakerRequest) -> HttpResponse:
    """Plan, from what the shelf and the needs say today; what its maker put somewhere stays there."""
    standing = Plan.objects.newest_of(request.workshop)
    keep = standing is not None and bool(request.POST.get("keep"))
    why = "Planned again after falling behind." if keep else "Planned."
    begin(request.workshop, request.user, why, standing.pinned if standing is not None else [], keep=keep)
    return redirect("season:season")


@require_POST
def stop(request: MakerRequest) -> HttpResponse:
    """Stop working it out; the plan before it stands."""
    if stop_all(request.workshop):
        messages.info(request, "Stopped. The plan before it stands.")
    return redirect("season:season")


def _found(request: MakerRequest, pk: int, place: int) -> Plan:
    plan = get_object_or_404(Plan, pk=pk, workshop=request.workshop, state=Plan.State.DONE)
    if place >= len(moves.batches_of(plan)):
        raise Http404
    return plan


def _still_stands(request: MakerRequest, plan: Plan) -> bool:
    """False, and said, where another plan stands by now: a press in an old tab."""
    if plan == Plan.objects.newest_of(request.workshop):
        return True
    messages.error(request, "The plan has changed since this page was opened. Here is how it stands now.")
    return False


@require_POST
@once
def move(request: MakerRequest, pk: int, place: int) -> HttpResponse:
    """Put a batch on another day; ``steps`` evenings further or back, or on a day."""
    plan = _found(request, pk, place)
    back = f"{reverse('season:season')}?batch={place}#chosen"
    if not _still_stands(request, plan):
        return redirect("season:season")
    form = MoveForm(request.POST)
    row = Shown(plan).rows[place]
    steps = {"earlier": -1, "later": 1}.get(request.POST.get("steps", ""), 0)
    to = None
    if steps:
        habits = Habits.objects.get(workshop=request.workshop)
        to = moves.open_day(habits, row.start, steps, plan.begins, plan.ends)
        if to is None:
            messages.error(request, "There is no evening further that way in this plan.")
            return redirect(back)
    elif form.is_valid():
        to = form.cleaned_data["to"]
    if to is None:
        messages.error(request, "On which day? A date such as 2026-12-05.")
        return redirect(back)
    try:
        moves.move(plan, place, to, request.user)
    except CannotReckon as error:
        messages.error(request, str(error))
        return redirect(back)
    messages.success(
        request, f"{row.product} starts on {day_words(to)}.", extra_tags=reverse("season:undo", args=[plan.pk])
    )
    return redirect("season:season")


@require_POST
@once
def pin(request: MakerRequest, pk: int, place: int) -> HttpResponse:
    """Keep a batch where it is, or let it go."""
    plan = _found(request, pk, place)
    if _still_stands(request, plan):
        moves.pin(plan, place, request.user)
    return redirect("season:season")


@require_POST
def undo(request: MakerRequest, pk: int) -> HttpResponse:
    """Put the plan back to the one before; ``pk`` is the plan that stood when the change was made, or stands now."""
    get_object_or_404(Plan, pk=pk, workshop=request.workshop)
    stop_all(request.workshop)
    standing = Plan.objects.newest_of(request.workshop)
    if standing is None or moves.undo(standing) is None:
        messages.error(request, "There is no plan before this one.")
    else:
        messages.success(request, "The plan before it stands again.")
    return redirect("season:season")


@require_POST
@once
def start(request: MakerRequest, pk: int, place: int) -> HttpResponse:
    """A planned batch becomes a real one; begun already, it is opened."""
    plan = _found(request, pk, place)
    try:
        batch = moves.start(plan, place, request.user)
    except CannotReckon as error:
        messages.error(request, str(error))
        return redirect("season:season")
    return redirect("batches:prepare", batch.pk)
