"""The shelf: stocks, vessels, tools and own materials; each put there, changed, and taken away."""

from dataclasses import dataclass
from typing import Any
from urllib.parse import urlencode

from django import forms
from django.contrib import messages
from django.core.exceptions import ValidationError
from django.db import models
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.utils.http import url_has_allowed_host_and_scheme
from django.views.decorators.http import require_POST

from firkin.accounts.middleware import MakerRequest
from firkin.accounts.presses import once
from firkin.shelf import printed
from firkin.shelf.buying import BuyForm, as_bought_before, as_fields, purchases_of, read_line
from firkin.shelf.dependants import dependants
from firkin.shelf.forms import CountForm, MaterialForm, StockForm, ToolForm, VesselForm
from firkin.shelf.listing import StockListForm
from firkin.shelf.models import LabelPhoto, Material, Stock, Tool, Vessel
from firkin.shelf.moves import LabelPhotoForm, MoveForm, WeighForm
from firkin.shelf.notices import see
from firkin.shelf.whereabouts import places_of
from firkin.ui.fields import material_choices
from firkin.ui.lists import page_of
from firkin.ui.photos import as_picture, bar_code, small_photo

#: So many pictures of a label are shown, the newest.
MOST_LABELS = 3
#: So many movements of a ledger stand on a page of it, the newest first.
MOST_MOVEMENTS = 60


@dataclass(frozen=True)
class Kind:
    """A kind of thing on the shelf: its model, its form, and what the pages call it."""

    key: str
    model: Any
    form: Any
    name: str
    #: The form asks which workshop it is for.
    of_workshop: bool = False
    #: What is done instead of taking it away when records name it; empty where it then stays.
    instead: str = ""

    def form_for(self, request: MakerRequest, data: Any, **options: Any) -> Any:
        """Its form."""
        if self.of_workshop:
            options["workshop"] = request.workshop
        return self.form(data, **options)


KINDS = {
    kind.key: kind
    for kind in (
        Kind("stock", Stock, StockForm, "stock", instead="Finish it: it leaves the shelf and stays in the records."),
        Kind(
            "vessel",
            Vessel,
            VesselForm,
            "vessel",
            instead="Count it as none: it is offered no more and stays in the records.",
        ),
        Kind("tool", Tool, ToolForm, "tool", of_workshop=True),
        Kind("material", Material, MaterialForm, "material of your own", of_workshop=True),
    )
}


def _kind(key: str) -> Kind:
    if key not in KINDS:
        raise Http404
    return KINDS[key]


def _back(request: MakerRequest) -> str:
    """Where the maker came from, if that is here; else the shelf."""
    asked = request.POST.get("back") or request.GET.get("back") or ""
    here = url_has_allowed_host_and_scheme(asked, allowed_hosts=None) and asked.startswith("/")
    return asked[:500] if here else reverse("shelf:shelf")


@once
def shelf(request: MakerRequest) -> HttpResponse:
    """Everything on the shelf, and the forms that put more there."""
    forms_ = {
        key: kind.form_for(request, request.POST if f"add-{key}" in request.POST else None, prefix=key)
        for key, kind in KINDS.items()
    }
    for form in forms_.values():
        if form.is_bound and form.is_valid():
            _put_there(request, form)
            return redirect("shelf:shelf")
    context = {f"{key}_form": form for key, form in forms_.items()} | {
        **_stocks(request),
        "tools": Tool.objects.filter(workshop=request.workshop),
        "vessels": Vessel.objects.filter(workshop=request.workshop),
        "own_materials": Material.objects.filter(workshop=request.workshop).order_by("name"),
        "materials": material_choices(),
    }
    return render(request, "shelf/shelf.html", context)


def _stocks(request: MakerRequest) -> dict[str, Any]:
    """A page of the stocks that are asked for."""
    form = StockListForm(request.GET)
    found = form.found(Stock.objects.filter(workshop=request.workshop)).with_use()
    return {"form": form, **page_of(found, request.GET)}


def _put_there(request: MakerRequest, form: forms.ModelForm) -> models.Model:  # type: ignore[type-arg]
    form.instance.workshop = request.workshop
    kept: models.Model = form.save()
    messages.success(request, f"{form.instance.name} is on the shelf.")
    return kept


@once
def buy(request: MakerRequest) -> HttpResponse:
    """Stock in: a line off a label, or a picture of its bar code, read and shown; confirmed, it is on the shelf."""
    then = request.POST.get("then", "") or request.GET.get("then", "")  # the Bench of a new workshop goes on there
    context: dict[str, Any] = {"line": request.GET.get("line", "")[:300].strip(), "then": then == "bench"}
    context |= {"materials": material_choices(), "reads_labels": printed.can_read()}
    if request.method == "POST" and "put" in request.POST:
        form = BuyForm(request.POST, workshop=request.workshop)
        if form.is_valid():
            kept = form.save()
            many = (
                f"{len(kept)} bottles of {kept[0].name.rpartition(', ')[0]} are"
                if len(kept) > 1
                else f"{kept[0].name} is"
            )
            messages.success(request, f"{many} on the shelf.")
            return redirect("bench" if then == "bench" else "shelf:shelf")
        return render(request, "shelf/buy.html", context | {"form": form, "line": form["wording"].value() or ""})
    if request.method == "POST" and request.FILES.get("picture"):
        return _by_picture(request, context)
    if context["line"]:
        label = read_line(context["line"], request.workshop)
        context |= {"unread": label.unread, "label": label}
        context["form"] = BuyForm(initial=as_fields(label, context["line"]), workshop=request.workshop)
    return render(request, "shelf/buy.html", context)


def _by_picture(request: MakerRequest, context: dict[str, Any]) -> HttpResponse:
    """A picture of a package: its bar code brings back what was bought with it last, else what is printed is read."""
    try:
        picture = small_photo(request.FILES["picture"])
        code = bar_code(picture)
    except ValidationError as error:
        return render(request, "shelf/buy.html", context | {"trouble": error.messages[0]})
    if not code:
        return _as_printed(request, context, picture)
    before = as_bought_before(request.workshop, code)
    line = printed.text_of(picture) if before is None and printed.can_read() else ""
    if line:
        return _as_read(request, context, line, code)
    said = (
        "Bought before. Check size and price."
        if before
        else "A new bar code. Fill this in once; next time it is known."
    )
    form = BuyForm(initial=before or {"bar_code": code, "count": 1}, workshop=request.workshop)
    return render(request, "shelf/buy.html", context | {"form": form, "said": said})


def _as_printed(request: MakerRequest, context: dict[str, Any], picture: bytes) -> HttpResponse:
    """What is printed on a label, where it can be read here: through the same reader, and shown to be confirmed."""
    if not printed.can_read():
        trouble = "No bar code found. Go closer, with more light, or type what the label says."
        return render(request, "shelf/buy.html", context | {"trouble": trouble})
    line = printed.text_of(picture)
    if not line:
        trouble = "Nothing could be read off that picture. Go closer, with more light, or type what the label says."
        return render(request, "shelf/buy.html", context | {"trouble": trouble})
    return _as_read(request, context, line)


def _as_read(request: MakerRequest, context: dict[str, Any], line: str, code: str = "") -> HttpResponse:
    """What was read off a picture, in the fields, to be looked at."""
    label = read_line(line, request.workshop)
    said = "Read off the picture. Check every field against the label."
    more = {"line": line, "unread": label.unread, "label": label, "said": said}
    form = BuyForm(initial=as_fields(label, line) | {"bar_code": code}, workshop=request.workshop)
    return render(request, "shelf/buy.html", context | more | {"form": form})


@require_POST
def seen(request: MakerRequest, pk: int) -> HttpResponse:
    """A remark about a stock was seen."""
    stock = get_object_or_404(Stock, pk=pk, workshop=request.workshop)
    see(stock, request.POST.get("key", "")[:20])
    return redirect(_back(request))


@require_POST
def opened(request: MakerRequest, pk: int) -> HttpResponse:
    """A stock is opened today: from now on its age counts from today."""
    stock = get_object_or_404(Stock, pk=pk, workshop=request.workshop)
    if stock.opened_on is None:
        stock.opened_on = timezone.localdate()
        stock.save(update_fields=["opened_on"])
        messages.success(request, f"{stock.name} counts as opened today.")
    return redirect("shelf:item", "stock", pk)


@once
def add(request: MakerRequest, key: str) -> HttpResponse:
    """One form by itself, asked for from another page; what is put there is chosen when the maker comes back."""
    kind, back = _kind(key), _back(request)
    initial = {name: request.GET[name][:120] for name in kind.form.base_fields if name in request.GET}
    form = kind.form_for(request, request.POST if request.method == "POST" else None, initial=initial)
    if form.is_bound and form.is_valid():
        kept = _put_there(request, form)
        field = request.POST.get("as", "")[:40]
        chosen = f"{'&' if '?' in back else '?'}{urlencode({field: kept.pk})}" if field else ""
        return redirect(f"{back}{chosen}")
    context = {"kind": kind, "form": form, "back": back, "as": request.POST.get("as") or request.GET.get("as", "")}
    return render(request, "shelf/item.html", context | {"materials": material_choices()})


def item(request: MakerRequest, key: str, pk: int) -> HttpResponse:
    """One thing of the shelf: changed, or taken away; with what depends on it."""
    kind = _kind(key)
    thing = get_object_or_404(kind.model, pk=pk, workshop=request.workshop)
    name, found = str(thing), dependants(thing)
    form = kind.form_for(request, request.POST if request.method == "POST" else None, instance=thing)
    if kind.model is Material and found:
        for field in form.fields.values():
            field.disabled = True
    if form.is_bound and form.is_valid():
        form.save()
        messages.success(request, f"{form.instance.name} is changed.")
        return redirect("shelf:shelf")
    context = {"kind": kind, "thing": thing, "name": name, "form": form, "dependants": found}
    return _item(request, context)


def _item(request: MakerRequest, context: dict[str, Any], filled: dict[str, forms.Form] | None = None) -> HttpResponse:
    """The page of one thing; of a stock with its ledger, and the forms of it as they were filled in."""
    thing = context["thing"]
    if isinstance(thing, Stock):
        there = Stock.objects.get(pk=thing.pk)  # as it is stored, whatever stands in the form
        context |= {
            "weigh_form": WeighForm(stock=there),
            "move_form": MoveForm(stock=there),
            "purchases": purchases_of(there),
            "photo_form": LabelPhotoForm(),
            "label_photos": there.label_photos.defer("jpeg")[:MOST_LABELS],
            **page_of(there.movements.order_by("-at", "-pk"), request.GET, MOST_MOVEMENTS),
            **(filled or {}),
        }
    if isinstance(thing, Vessel):
        context["places"] = places_of(Vessel.objects.get(pk=thing.pk))
    context |= {"back": reverse("shelf:shelf"), "materials": material_choices()}
    return render(request, "shelf/item.html", context)


@require_POST
@once
def weigh(request: MakerRequest, pk: int) -> HttpResponse:
    """A bottle on the scale: what it holds corrects its ledger."""
    return _moved(request, pk, WeighForm, "weigh")


@require_POST
@once
def move(request: MakerRequest, pk: int) -> HttpResponse:
    """Spilled, given away or thrown away."""
    return _moved(request, pk, MoveForm, "move")


def _moved(request: MakerRequest, pk: int, kind: type[WeighForm] | type[MoveForm], name: str) -> HttpResponse:
    """One movement more in a stock's ledger; the form ``name`` of its page again where something in it is wrong."""
    stock = get_object_or_404(Stock, pk=pk, workshop=request.workshop)
    form = kind(request.POST, stock=stock)
    if not form.is_valid():
        return _item(request, _shown(request, stock), {f"{name}_form": form})
    form.save()
    messages.success(request, f"{stock.name}: {stock.left.words} left.")
    return redirect("shelf:item", "stock", pk)


def _shown(request: MakerRequest, stock: Stock) -> dict[str, Any]:
    kind = KINDS["stock"]
    form = kind.form_for(request, None, instance=stock)
    return {"kind": kind, "thing": stock, "name": str(stock), "form": form, "dependants": dependants(stock)}


@require_POST
def remove(request: MakerRequest, key: str, pk: int) -> HttpResponse:
    """Take a thing off the shelf; what records name stays in them."""
    kind = _kind(key)
    thing = get_object_or_404(kind.model, pk=pk, workshop=request.workshop)
    if not dependants(thing):
        messages.success(request, f"{thing} is gone from the shelf.")
        thing.delete()
    elif isinstance(thing, Stock):
        return use_up(request, pk)
    elif isinstance(thing, Vessel):
        thing.count = 0
        thing.save(update_fields=["count"])
        messages.success(request, f"{thing} is counted as none; the records keep it.")
    else:
        messages.error(request, f"{thing} stays: formulas or batches are counted with it.")
        return redirect("shelf:item", key, pk)
    return redirect("shelf:shelf")


@require_POST
def recount(request: MakerRequest, pk: int) -> HttpResponse:
    """How many of a vessel there are now."""
    vessel = get_object_or_404(Vessel, pk=pk, workshop=request.workshop)
    form = CountForm(request.POST)
    if form.is_valid():
        vessel.count = form.cleaned_data["count"]
        vessel.to_wash = min(vessel.to_wash, vessel.count)
        vessel.save(update_fields=["count", "to_wash"])
        messages.success(request, f"{vessel.name}: {vessel.count} on hand.")
    else:
        messages.error(request, f"{vessel.name}: count them as a whole number from 0 to 10 000.")
    return redirect("shelf:shelf")


@require_POST
def washed(request: MakerRequest, pk: int) -> HttpResponse:
    """All of a vessel that stood here unwashed are clean."""
    vessel = get_object_or_404(Vessel, pk=pk, workshop=request.workshop)
    if vessel.to_wash:
        Vessel.objects.filter(pk=vessel.pk).update(to_wash=0)
        many = "It is" if vessel.to_wash == 1 else f"All {vessel.to_wash} are"
        messages.success(request, f"{vessel.name}: {many} clean.")
    return redirect(_back(request))


@require_POST
@once
def label_photo(request: MakerRequest, pk: int) -> HttpResponse:
    """A picture of a stock's label is kept with it."""
    stock = get_object_or_404(Stock, pk=pk, workshop=request.workshop)
    form = LabelPhotoForm(request.POST, request.FILES)
    if not form.is_valid():
        return _item(request, _shown(request, stock), {"photo_form": form})
    LabelPhoto.objects.create(stock=stock, jpeg=form.cleaned_data["picture"])
    messages.success(request, f"The label of {stock.name} is kept.")
    return redirect("shelf:item", "stock", pk)


def label_picture(request: MakerRequest, pk: int, photo_pk: int) -> HttpResponse:
    """One picture of a label, for its workshop only."""
    found = get_object_or_404(LabelPhoto, pk=photo_pk, stock__pk=pk, stock__workshop=request.workshop)
    return as_picture(bytes(found.jpeg))


@require_POST
def use_up(request: MakerRequest, pk: int) -> HttpResponse:
    """Mark a stock finished; it stays in the records, and the page that follows takes it back."""
    stock = get_object_or_404(Stock, pk=pk, workshop=request.workshop)
    stock.used_up = True
    stock.save(update_fields=["used_up"])
    undo = reverse("shelf:not_used_up", args=[stock.pk])
    messages.success(request, f"{stock.name} is finished.", extra_tags=undo)
    return redirect("shelf:shelf")


@require_POST
def not_used_up(request: MakerRequest, pk: int) -> HttpResponse:
    """Put a stock back on the shelf that was marked finished."""
    stock = get_object_or_404(Stock, pk=pk, workshop=request.workshop)
    stock.used_up = False
    stock.save(update_fields=["used_up"])
    messages.success(request, f"{stock.name} is on the shelf again.")
    return redirect("shelf:shelf")
