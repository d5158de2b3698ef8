"""What to buy by when: printed, or ticked in the shop."""

from datetime import date
from typing import Any

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_POST

from firkin.accounts.middleware import MakerRequest
from firkin.accounts.presses import once
from firkin.core.errors import CannotReckon
from firkin.season import moves
from firkin.season.asking import season_of
from firkin.season.forms import PaidForm
from firkin.season.instead import Substitution
from firkin.season.models import Plan
from firkin.season.picture import Shown, buy_words


def shopping(request: MakerRequest) -> HttpResponse:
    """The shopping of the plan that stands, by the day it is to be ordered."""
    plan = Plan.objects.newest_of(request.workshop)
    rows: list[dict[str, Any]] = []
    unpriced: list[str] = []
    if plan is not None:
        shown = Shown(plan)
        asked, other = season_of(request.workshop), Substitution(request.workshop)
        packs = {one.id: {pack.size: pack.price for pack in one.packs} for one in shown.core.season.stocks}
        for place, row in enumerate(shown.data.get("buy", [])):
            size = float(row.get("size", next(iter(packs[row["stock"]]), 0.0)))
            cost = packs[row["stock"]].get(size, 0.0) * row["packs"]
            rows.append(
                {
                    "place": place,
                    "words": buy_words(row, shown),
                    "order": date.fromisoformat(row["order"]),
                    "arrives": date.fromisoformat(row["arrives"]),
                    "late": date.fromisoformat(row["order"]) < shown.today,
                    "cost": cost,
                    "done": place in shown.bagged,
                    "instead": other.of(asked.materials[row["stock"]]) if row["stock"] in asked.materials else [],
                    "form": PaidForm(initial={"price": f"{cost:.2f}"}, prefix=str(place)),
                }
            )
        unpriced = [one.name for one in asked.materials.values() if not one.priced]
    context = {
        "plan": plan,
        "rows": rows,
        "unpriced": unpriced,
        "total": sum(row["cost"] for row in rows if not row["done"]),
    }
    return render(request, "season/shopping.html", context)


@require_POST
@once
def bag(request: MakerRequest, pk: int, place: int) -> HttpResponse:
    """A line was bought: its packs stand on the shelf."""
    plan = get_object_or_404(Plan, pk=pk, workshop=request.workshop, state=Plan.State.DONE)
    if place >= len((plan.planned or {}).get("buy", [])):
        raise Http404
    form = PaidForm(request.POST, prefix=str(place))
    if not form.is_valid():
        messages.error(request, "What did it cost? A price such as 31.00, or leave it empty.")
        return redirect("season:shopping")
    try:
        stocks = moves.bag(plan, place, form.cleaned_data["price"])
    except CannotReckon as error:
        messages.error(request, str(error))
        return redirect("season:shopping")
    if stocks:
        bottles = "It stands" if len(stocks) == 1 else f"{len(stocks)} of it stand"
        messages.success(request, f"{stocks[0].name}: bought. {bottles} on the shelf.")
    return redirect("season:shopping")
