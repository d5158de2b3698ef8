"""Money: where that of a formula goes, how its cost went over batches, and what a shop would have charged."""

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_POST

from firkin.accounts.middleware import MakerRequest
from firkin.accounts.presses import once
from firkin.batches.models import Batch
from firkin.core.questions import Bar
from firkin.drawings.bars import bars
from firkin.drawings.series import number_series
from firkin.formulas.models import Bought, Formula
from firkin.ui.templatetags.ui import money as in_money
from firkin.use.forms import BoughtForm
from firkin.use.worth import MOST_BATCHES, SEASON_D, Costed, against, lost_beside


@once
def money(request: MakerRequest, pk: int) -> HttpResponse:
    """One page for a formula's money."""
    formula = get_object_or_404(Formula, pk=pk, workshop=request.workshop)
    form = BoughtForm(request.POST if request.method == "POST" else None)
    if form.is_bound and form.is_valid():
        form.instance.formula = formula
        form.save()
        messages.success(request, f"{form.instance.name} is compared from now on.")
        return redirect("use:money", pk)
    made = Batch.objects.filter(workshop=request.workshop, made_at__isnull=False).of_formula(pk)
    costed = [Costed(batch) for batch in made.whole().order_by("-made_at")[:MOST_BATCHES]]
    newest = next((one for one in costed if one.cost is not None), None)
    currency = request.workshop.currency
    context = {
        "formula": formula,
        "form": form,
        "newest": newest,
        "made": len(costed),
        "where": _where(newest, currency) if newest else "",
        "unpriced": [name for name, cost in newest.by_line if cost is None and name != "Water"] if newest else [],
        "over": _over(costed, currency),
        "of_bottles": _of_bottles(newest) if newest else [],
        "against": [against(one, newest) for one in formula.bought.all()],
        "season": SEASON_D,
        "lost": lost_beside(formula),
    }
    return render(request, "use/money.html", context)


def _where(costed: Costed, currency: str) -> str:
    """Where the money goes, a bar a material."""
    priced = [(name, cost) for name, cost in costed.by_line if cost]
    total = sum(cost for _, cost in priced)
    drawn = [
        Bar(name, cost, f"{in_money(cost)} {currency}, {100.0 * cost / total:.0f} %", "honey") for name, cost in priced
    ]
    return bars(drawn) if drawn else ""


def _over(costed: list[Costed], currency: str) -> str:
    """The cost of a litre over batches, those with every price known."""
    points = [
        (one.batch.code, one.cost.of_a_litre)
        for one in reversed(costed)
        if one.cost is not None and not one.cost.unpriced
    ]
    return number_series("Cost of a litre", currency, points[-8:]) if len(points) > 1 else ""


def _of_bottles(costed: Costed) -> list[tuple[str, float]]:
    """What one bottle of each kind that was filled cost."""
    cost = costed.cost
    fillings = {filling.container: filling.fill_mL for filling in costed.batch.fillings.all()}
    return [(name, cost.of_mL(mL)) for name, mL in fillings.items()] if cost else []


@require_POST
def remove(request: MakerRequest, pk: int, bought_pk: int) -> HttpResponse:
    """Compare with it no more."""
    there = get_object_or_404(Bought, pk=bought_pk, formula__pk=pk, formula__workshop=request.workshop)
    there.delete()
    messages.success(request, f"{there.name} is no longer compared.")
    return redirect("use:money", pk)
