"""Lantern Quay as an example beside one's own workshop: looked at and tried, and left again with nothing kept of it."""

from django.conf import settings
from django.contrib import messages
from django.db import transaction
from django.http import HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_POST

from firkin.accounts.middleware import CHOSEN, MakerRequest
from firkin.accounts.models import Example, Membership, Role, User, Workshop
from firkin.batches.models import Batch
from firkin.site import demo

_LONGEST = 80


@require_POST
def example(request: MakerRequest) -> HttpResponse:
    """Go to the example, which is made at the first time; or, with act=leave, back to one's own workshop."""
    if request.POST.get("act") == "leave":
        return _leave(request)
    if settings.DEMO:
        messages.error(request, "This is the example already.")
        return redirect("bench")
    with transaction.atomic():
        there = Example.objects.filter(user=request.user).first() or _made(request.user)
    request.session[CHOSEN] = there.workshop_id
    return redirect("bench")


def _made(user: User) -> Example:
    """The quay, for one account alone, in the time zone and the money of its own workshop."""
    own = user.workshops.order_by("pk").first()
    workshop = Workshop.objects.create(
        name=_name_for(user),
        time_zone=own.time_zone if own else "UTC",
        currency=own.currency if own else "EUR",
        simulated_instruments=True,
    )
    Membership.objects.create(user=user, workshop=workshop, role=Role.MAKER)
    demo.fill(workshop, user)
    return Example.objects.create(user=user, workshop=workshop)


def _name_for(user: User) -> str:
    """Names of workshops are each there once; so are names of accounts, but they can be long."""
    name = f"Lantern Quay for {user.username}"[:_LONGEST]
    return f"Lantern Quay for account {user.pk}" if Workshop.objects.filter(name=name).exists() else name


def _leave(request: MakerRequest) -> HttpResponse:
    there = Example.objects.filter(user=request.user).first()
    if there is not None:
        with transaction.atomic():
            Batch.objects.filter(workshop=there.workshop).delete()  # they hold on to versions of formulas
            there.workshop.delete()
        request.session.pop(CHOSEN, None)
        messages.success(request, "You left the example. Nothing of it was kept.")
    return redirect("bench")
