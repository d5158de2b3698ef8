"""What of a shelf the formulas depend on."""

from typing import Any

from django.db import models
from django.dispatch import receiver

from firkin.formulas.models import Formula
from firkin.shelf.dependants import named, what_depends
from firkin.shelf.models import Material, Stock


@receiver(what_depends, sender=Material)
def _of_formulas(sender: type[models.Model], thing: Any, **_: object) -> list[str]:
    formulas = Formula.objects.filter(workshop=thing.workshop, versions__lines__material__iexact=thing.name).distinct()
    stocks = Stock.objects.filter(workshop=thing.workshop, material__iexact=thing.name)
    return [
        *named("Formulas with it", [formula.name for formula in formulas]),
        *named("Stocks of it", [stock.name for stock in stocks]),
    ]
