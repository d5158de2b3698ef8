"""Who has what: all bottles, those of a batch, one bottle by its code, and whoever holds them."""

from typing import Any

from django.contrib import messages
from django.core.paginator import Paginator
from django.db import transaction
from django.db.models import Q
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST

from firkin.accounts.middleware import MakerRequest
from firkin.accounts.presses import once
from firkin.batches.models import (
    NAMELESS,
    Batch,
    Bottle,
    BottleEvent,
    Filling,
    Holder,
    Recall,
    State,
    bottle_of,
    bottles_of,
    told_of,
)
from firkin.core.bench import left_to_fill
from firkin.core.errors import CannotReckon
from firkin.core.questions import dose_of
from firkin.core.use import EVENT_WORDS, BottleEventKind, BottleIs
from firkin.use.forms import FilterForm, GiveForm, RefillForm, ToldForm, holder_named
from firkin.use.standing import names_to_forget, standings

#: So many bottles stand on a page.
A_PAGE = 50
#: Batches to give bottles of are looked for in so many fillings, the last ones.
MOST_TO_GIVE = 30
#: What is pressed at a bottle, in the order it usually happens.
_PRESSED = (
    BottleEventKind.OPENED,
    BottleEventKind.USED_UP,
    BottleEventKind.BACK,
    BottleEventKind.LOST,
)


def _holders(request: MakerRequest) -> list[Holder]:
    return list(Holder.objects.filter(workshop=request.workshop).exclude(name=""))


def overview(request: MakerRequest) -> HttpResponse:
    """How every product stands, who has bottles, and the list of those something happened to."""
    for holder in names_to_forget(request.workshop, timezone.now()):
        holder.forget()
    standing = standings(request.workshop)
    rows = Bottle.objects.of_workshop(request.workshop).order_by("-pk")
    form = FilterForm(request.GET or None, products=[(one.formula.pk, one.formula.name) for one in standing])
    if form.is_bound and form.is_valid():
        rows = _chosen(rows, form.cleaned_data)
    page = Paginator(rows, A_PAGE).get_page(request.GET.get("page"))
    query = request.GET.copy()
    query.pop("page", None)
    context = {
        "standings": standing,
        "form": form,
        "page": page,
        "query": query.urlencode(),
        "nameless": NAMELESS,
        "recalls": Recall.objects.filter(workshop=request.workshop, closed_at=None),
        "to_give": _to_give(request),
    }
    return render(request, "use/overview.html", context)


def _chosen(rows: Any, data: dict[str, Any]) -> Any:
    """The bottles of a list that were asked for."""
    if data["place"]:
        rows = rows.filter(place=data["place"])
    if data["product"]:
        rows = rows.filter(filling__batch__version__formula=data["product"])
    for word in data["q"].split():
        code = word.split("-")
        of_code = Q()
        if len(code) > 1 and code[1].isascii() and code[1].isdigit() and len(code[1]) < 9:
            of_code = Q(filling__batch__number=int(code[1]))
        by_name = Q(holder__name__icontains=word) | Q(filling__batch__name__icontains=word)
        rows = rows.filter(by_name | of_code)
    return rows


def _to_give(request: MakerRequest) -> list[tuple[Batch, int]]:
    """Batches with full bottles in the store, and how many: those filled last."""
    full = Filling.objects.filter(batch__workshop=request.workshop).exclude(
        batch__state__in=[State.USED, State.DISCARDED]
    )
    counts: dict[int, int] = {}
    batches: dict[int, Batch] = {}
    for filling in full.select_related("batch").order_by("-pk")[:MOST_TO_GIVE]:
        counts[filling.batch_id] = counts.get(filling.batch_id, 0) + filling.count
        batches[filling.batch_id] = filling.batch
    gone = Bottle.objects.filter(filling__batch__in=counts, filling__taken_back_at=None).exclude(place=BottleIs.STORE)
    for pk in gone.values_list("filling__batch", flat=True):
        counts[pk] -= 1
    return [(batches[pk], count) for pk, count in sorted(counts.items(), reverse=True) if count > 0]


@once
def of_batch(request: MakerRequest, pk: int) -> HttpResponse:
    """The bottles of a batch: give some out, and see where each is."""
    batch = get_object_or_404(Batch.objects.select_related("workshop"), pk=pk, workshop=request.workshop)
    bottles = bottles_of(batch)
    there = [one for one in bottles if one.place == BottleIs.STORE]
    not_yet = why_not_yet(batch)
    form = GiveForm(request.POST if request.method == "POST" else None, in_store=len(there), not_yet=not_yet)
    if form.is_bound and batch.bad_since:
        messages.error(request, f"{batch.code} is marked as bad. Nothing of it goes out.")
        return redirect("use:of_batch", pk)
    if form.is_bound and form.is_valid():
        data = form.cleaned_data
        with transaction.atomic():
            holder = holder_named(request.workshop, data["to"], place=data["place"])
            told_of(there[: data["count"]], BottleEventKind.GIVEN, request.user, holder=holder)
        codes = ", ".join(f"{one.number}" for one in there[: data["count"]][:12])
        messages.success(request, f"{holder} has bottle {codes} of {batch.code} now.")
        return redirect("use:of_batch", pk)
    context = {"batch": batch, "bottles": bottles, "form": form, "in_store": len(there), "holders": _holders(request)}
    context["not_yet"] = not_yet
    return render(request, "use/of_batch.html", context)


def why_not_yet(batch: Batch) -> str:
    """Why a batch is not given out now: it is at rest still, or past its day; empty where nothing is against it."""
    now = timezone.now()
    if batch.state == State.RESTING and (wait := batch.current_wait()) is not None and not wait.is_over(now):
        return f"It rests until {timezone.localtime(wait.free_at):%a %-d %b, %H:%M}. Give it out then."
    keep_by = batch.keep_by
    if keep_by is not None and keep_by < now:
        return f"Best used before {timezone.localtime(keep_by):%-d %b %Y}. That day is past."
    return ""


def _bottle(request: MakerRequest, pk: int, number: int) -> Bottle:
    batch = get_object_or_404(Batch.objects.select_related("workshop"), pk=pk, workshop=request.workshop)
    bottle = bottle_of(batch, number)
    if bottle is None:
        raise Http404
    return bottle


def bottle(request: MakerRequest, pk: int, number: int) -> HttpResponse:
    """One bottle, as its label's code opens it: what can be told of it now, one press each, and what was told."""
    return _bottle_page(request, _bottle(request, pk, number), ToldForm())


def _bottle_page(request: MakerRequest, there: Bottle, form: ToldForm, status: int = 200) -> HttpResponse:
    told = there.events.select_related("holder", "by").order_by("-pk") if there.pk else BottleEvent.objects.none()
    batch = there.filling.batch
    state = there.whereabouts() if there.pk else None
    can = {
        kind
        for kind in BottleEventKind
        if (there.pk is None and kind is not BottleEventKind.BACK) or (there.pk and there.can(kind))
    }
    formula = batch.formula()
    dose = dose_of(formula)
    context = {
        "bottle": there,
        "batch": batch,
        "form": form,
        "presses": [(kind.value, EVENT_WORDS[kind]) for kind in _PRESSED if kind in can],
        "can": {kind.value for kind in can},
        "events": told,
        "last": next((one for one in told if one.undoes_id is None and not hasattr(one, "undone_by")), None),
        "dose": dose,
        "not_yet": why_not_yet(batch),
        "counts_loads": dose is not None and (dose.said or dose.of in ("load", "wash")),
        "state": state,
        "refills": _refills(there) if BottleEventKind.REFILLED in can else [],
        "holders": _holders(request),
    }
    return render(request, "use/bottle.html", context, status=status)


def _refills(bottle: Bottle) -> list[Batch]:
    """Batches a bottle can be filled again from: of its own product, free, with enough left in no bottle."""
    same = Batch.objects.filter(
        workshop=bottle.filling.batch.workshop,
        family=bottle.filling.batch.family,
        state__in=[State.RELEASED, State.FILLED],
        bad_since=None,
    )
    return [one for one in same.order_by("-number")[:20] if _left_mL(one) >= bottle.filling.fill_mL * 0.98]


def _left_mL(batch: Batch) -> float:
    return left_to_fill(batch.progress(), sum(filling.total_mL for filling in batch.fillings.all()))


@require_POST
@once
def tell(request: MakerRequest, pk: int, number: int) -> HttpResponse:
    """What happened to a bottle, in one press."""
    there = _bottle(request, pk, number)
    form = ToldForm(request.POST, not_yet=why_not_yet(there.filling.batch))
    if not form.is_valid():
        return _bottle_page(request, there, form)
    kind, data = BottleEventKind(form.cleaned_data["kind"]), form.cleaned_data
    try:
        with transaction.atomic():
            if kind is BottleEventKind.REFILLED:
                said = _refill(request, there)
            else:
                if kind is BottleEventKind.GIVEN and there.filling.batch.bad_since:
                    raise CannotReckon(f"{there.filling.batch.code} is marked as bad. Nothing of it goes out.")
                given = kind is BottleEventKind.GIVEN
                holder = holder_named(request.workshop, data["to"], place=False) if given else None
                told_of([there], kind, request.user, holder=holder, reason=data["reason"], loads=data["loads"])
                said = f"Bottle {there.code}: {EVENT_WORDS[kind]}{f' {holder}' if holder else ''}."
    except CannotReckon as error:
        messages.error(request, str(error))
    else:
        messages.success(request, said)
    return redirect("bench") if request.POST.get("back") == "bench" else redirect("use:bottle", pk, number)


def _refill(request: MakerRequest, there: Bottle) -> str:
    """What was in it is used up, and it is a bottle of another filling from now on, with whoever had it."""
    form = RefillForm(request.POST, bottle=there, batches=_refills(there))
    if not form.is_valid():
        raise CannotReckon("From which batch? None has enough left, or none was chosen.")
    batch, old = form.cleaned_data["batch"], there.filling
    holder, away = there.holder, there.place in (BottleIs.OUT, BottleIs.EMPTY_OUT)
    told_of([there], BottleEventKind.REFILLED, request.user, reason=f"from {batch.code}")
    filling = Filling.objects.create(
        batch=batch, by=request.user, vessel=old.vessel, container=old.container, count=1, fill_mL=old.fill_mL
    )
    batch.move_to(State.FILLED, request.user, f"Refilled bottle {there.code}: {filling.container}.")
    new = bottles_of(batch)[-1]
    if away and holder is not None:
        told_of([new], BottleEventKind.GIVEN, request.user, holder=holder)
    return f"It is bottle {new.code} now. Put a new label on it."


@require_POST
@once
def undo(request: MakerRequest, pk: int, number: int, event_pk: int) -> HttpResponse:
    """Take back the last thing told of a bottle."""
    there = _bottle(request, pk, number)
    event = get_object_or_404(BottleEvent, pk=event_pk, bottle__pk=there.pk)
    try:
        if event.kind == BottleEventKind.REFILLED:
            raise CannotReckon("It is in another batch now. Pour that filling back instead.")
        event.undo(request.user)
    except CannotReckon as error:
        messages.error(request, str(error))
    else:
        messages.success(request, f"Undone: {event.get_kind_display()}.")
    return redirect("use:bottle", pk, number)


@once
def holder(request: MakerRequest, pk: int) -> HttpResponse:
    """What somebody has and had; and forgetting who they are."""
    there = get_object_or_404(Holder, pk=pk, workshop=request.workshop)
    if request.method == "POST":
        if not there.place:
            there.forget()
            messages.success(request, "The name is forgotten. What they had stays in the records.")
        return redirect("use:overview")
    rows = Bottle.objects.of_workshop(request.workshop).filter(holder=there).order_by("-given_at")
    page = Paginator(rows, A_PAGE).get_page(request.GET.get("page"))
    return render(request, "use/holder.html", {"holder": there, "page": page, "query": ""})
