"""The demo's winter: who on Lantern Quay needs what, the quay's evenings, and a plan of it. All invented."""

from datetime import date, timedelta

from django.utils import timezone

from firkin.accounts.models import User, Workshop
from firkin.formulas.models import Formula
from firkin.season.models import Habits, Need, Product, StandsIn
from firkin.season.working import begin
from firkin.shelf.models import Vessel

#: Each product by its formula: least and most of a batch in mL, minutes, and where it may stand.
_PRODUCTS = {
    "Landing rub": (1000.0, 10_000.0, 40.0, ("Wash-house bucket",)),
    "Wash-house foam": (1000.0, 3000.0, 25.0, ()),
    "Liquid soap from bars": (1000.0, 5000.0, 55.0, ("Preserving pot",)),
    "Laundry soap concentrate": (1000.0, 8000.0, 50.0, ("Preserving pot", "Wash-house bucket")),
}


def tell(workshop: Workshop, maker: User) -> None:
    """Habits, products and needs, among them one that cannot be met; and the plan."""
    today = timezone.localdate()
    closed = [(today + timedelta(days=day)).isoformat() for day in (0, 1, 26, 27, 33)]
    Habits.objects.create(workshop=workshop, open_days=["mon", "thu", "sat"], minutes=90.0, weeks=8, closed=closed)
    made = {name: _product(workshop, name) for name in _PRODUCTS}
    _again(made["Landing rub"], "each of the boats", 100.0, 10, 7, today + timedelta(days=5))
    _once(made["Landing rub"], "the market", 100.0, 40, today + timedelta(days=16))
    _again(made["Wash-house foam"], "the wash-house", 1000.0, 1, 7, today + timedelta(days=6))
    _again(made["Liquid soap from bars"], "the galley", 1000.0, 1, 14, today + timedelta(days=8))
    _once(made["Liquid soap from bars"], "the new boat", 1000.0, 1, today + timedelta(days=2))
    _again(made["Laundry soap concentrate"], "the laundry", 2000.0, 1, 28, today + timedelta(days=9))
    begin(workshop, maker, "Planned.", [])


def _product(workshop: Workshop, name: str) -> Product:
    least, most, minutes, vessels = _PRODUCTS[name]
    formula = Formula.objects.get(workshop=workshop, name=name)
    product = Product.objects.create(formula=formula, least_mL=least, most_mL=most, minutes=minutes)
    for vessel in Vessel.objects.filter(workshop=workshop, name__in=vessels):
        StandsIn.objects.create(product=product, vessel=vessel)
    return product


def _again(product: Product, who: str, mL: float, times: int, days: int, first: date) -> None:
    Need.objects.create(product=product, who=who, kind="every", mL=mL, times=times, every_days=days, on=first)


def _once(product: Product, who: str, mL: float, times: int, on: date) -> None:
    Need.objects.create(product=product, who=who, kind="once", mL=mL, times=times, on=on)
