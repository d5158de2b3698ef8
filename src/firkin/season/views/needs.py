"""What the season is planned from: products, who needs how much, evenings."""

from datetime import date

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from firkin.accounts.middleware import MakerRequest
from firkin.accounts.presses import once
from firkin.season.forms import HabitsForm, NeedForm, ProductForm
from firkin.season.models import Habits, Need, Product
from firkin.season.own_times import own_minutes
from firkin.use.standing import standings


def needs(request: MakerRequest) -> HttpResponse:
    """Every product with its needs."""
    products = Product.objects.filter(formula__workshop=request.workshop).select_related("formula")
    used = {one.formula.pk: one for one in standings(request.workshop)}
    rows = [
        (product, product.needs.all(), used.get(product.formula_id), own_minutes(product.formula))
        for product in products.prefetch_related("needs", "stands_in__vessel")
    ]
    habits, _ = Habits.objects.get_or_create(workshop=request.workshop)
    closed = [date.fromisoformat(one) for one in habits.closed]
    return render(request, "season/needs.html", {"rows": rows, "habits": habits, "closed": closed})


@once
def habits(request: MakerRequest) -> HttpResponse:
    """Evenings, weeks ahead, days kept free."""
    there, _ = Habits.objects.get_or_create(workshop=request.workshop)
    form = HabitsForm(request.POST if request.method == "POST" else None, instance=there)
    if form.is_bound and form.is_valid():
        form.save()
        messages.success(request, "Kept. Plan again to use it.")
        return redirect("season:needs")
    return render(request, "season/habits.html", {"form": form})


@once
def product_add(request: MakerRequest) -> HttpResponse:
    """A product more."""
    asked = {"formula": request.GET.get("formula", ""), "least": "1 L", "most": "10 L"}
    form = ProductForm(request.POST if request.method == "POST" else None, workshop=request.workshop, initial=asked)
    if form.is_bound and form.is_valid():
        product = form.save()
        return redirect("season:product", product.pk)
    return render(request, "season/product.html", {"form": form, "product": None})


@once
def product(request: MakerRequest, pk: int) -> HttpResponse:
    """A product: how it is made, and who needs it."""
    there = get_object_or_404(Product, pk=pk, formula__workshop=request.workshop)
    adds = request.method == "POST" and "kind" in request.POST
    changes = request.method == "POST" and not adds
    form = ProductForm(
        request.POST if changes else None,
        workshop=request.workshop,
        product=there,
        initial=ProductForm.begun(there),
    )
    need = NeedForm(request.POST if adds else None)
    if adds and need.is_valid():
        need.save(there)
        messages.success(request, "Added. Plan again to use it.")
        return redirect("season:product", pk)
    if changes and form.is_valid():
        form.save()
        messages.success(request, "Kept. Plan again to use it.")
        return redirect("season:needs")
    context = {"form": form, "need": need, "product": there, "own": own_minutes(there.formula)}
    return render(request, "season/product.html", context)


@require_POST
def product_remove(request: MakerRequest, pk: int) -> HttpResponse:
    """No longer planned; its formula and batches stay."""
    there = get_object_or_404(Product, pk=pk, formula__workshop=request.workshop)
    name = there.formula.name
    there.delete()
    messages.success(request, f"{name} is no longer planned. Its formula is still in the book.")
    return redirect("season:needs")


@require_POST
def need_remove(request: MakerRequest, pk: int, need_pk: int) -> HttpResponse:
    """A need less."""
    there = get_object_or_404(Need, pk=need_pk, product__pk=pk, product__formula__workshop=request.workshop)
    there.delete()
    return redirect(reverse("season:product", args=[pk]))
