"""The shelf: stocks and vessels."""

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_POST

from firkin.accounts.middleware import MakerRequest
from firkin.shelf.forms import CountForm, MaterialForm, StockForm, ToolForm, VesselForm
from firkin.shelf.models import Material, Stock, Tool, Vessel
from firkin.ui.fields import material_choices


def shelf(request: MakerRequest) -> HttpResponse:
    """Everything on the shelf, and the two forms that put more there."""
    stock_form = StockForm(request.POST if "add-stock" in request.POST else None, prefix="stock")
    vessel_form = VesselForm(request.POST if "add-vessel" in request.POST else None, prefix="vessel")
    material_form = MaterialForm(
        request.POST if "add-material" in request.POST else None, prefix="material", workshop=request.workshop
    )
    tool_form = ToolForm(request.POST if "add-tool" in request.POST else None, prefix="tool", workshop=request.workshop)
    for form in (stock_form, vessel_form, material_form, tool_form):
        if form.is_bound and form.is_valid():
            form.instance.workshop = request.workshop
            form.save()
            messages.success(request, f"{form.instance.name} is on the shelf.")
            return redirect("shelf:shelf")
    return render(
        request,
        "shelf/shelf.html",
        {
            "stocks": Stock.objects.filter(workshop=request.workshop).on_hand().with_use(),
            "tools": Tool.objects.filter(workshop=request.workshop),
            "tool_form": tool_form,
            "vessels": Vessel.objects.filter(workshop=request.workshop),
            "stock_form": stock_form,
            "vessel_form": vessel_form,
            "own_materials": Material.objects.filter(workshop=request.workshop).order_by("name"),
            "material_form": material_form,
            "materials": material_choices(),
        },
    )


@require_POST
def recount(request: MakerRequest, pk: int) -> HttpResponse:
    """How many of a vessel there are now."""
    vessel = get_object_or_404(Vessel, pk=pk, workshop=request.workshop)
    form = CountForm(request.POST)
    if form.is_valid():
        vessel.count = form.cleaned_data["count"]
        vessel.save(update_fields=["count"])
        messages.success(request, f"{vessel.name}: {vessel.count} on hand.")
    else:
        messages.error(request, f"{vessel.name}: count them as a whole number from 0 to 10 000.")
    return redirect("shelf:shelf")


@require_POST
def use_up(request: MakerRequest, pk: int) -> HttpResponse:
    """Mark a stock used up; it stays in the records."""
    stock = get_object_or_404(Stock, pk=pk, workshop=request.workshop)
    stock.used_up = True
    stock.save(update_fields=["used_up"])
    messages.success(request, f"{stock.name} is marked used up.")
    return redirect("shelf:shelf")
