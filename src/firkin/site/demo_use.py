"""The demo after the bottle: who on Lantern Quay has what, half a year of use, a lot called back. All invented."""

from datetime import datetime, timedelta

from django.utils import timezone

from firkin.accounts.models import User, Workshop
from firkin.batches.models import Batch, Bottle, Holder, Recall, bottles_of
from firkin.core.use import BottleEventKind
from firkin.formulas.models import Bought, Formula
from firkin.shelf.models import Stock

_BOATS = ("Bracken", "Dunlin", "Fennel", "Half Past", "Juniper", "Marrow", "Osier", "Pewter", "Saltmarsh", "Tansy")
_WASH_HOUSE = "the wash-house"
#: Of the rub's bottles, by boat: after how many days it was opened and used up; None: not yet.
_RUB = ((0, 9), (0, 17), (1, 12), (2, None), (0, 19), (None, None), (3, 15), (1, None), (0, 20), (2, 14))
#: How long each foaming bottle lasted in the wash-house, days; the last stands there now.
_FOAM = (9, 11, 8, 10, 12, 9, 10, 8, 11, 9, 10, 12, 9, 11)
_LOTS = {
    "Tall blue can, ethanol 96 %": ("E-9604", "the chandlery", "food grade", "spirit locker"),
    "Wash-house isopropanol": ("IP-2211", "the chandlery", "technical", "spirit locker"),
    "Peroxide 3 %": ("P-1180", "the village chemist", "BP", "first-aid box"),
    "Glycerol": ("GL-0417", "the village chemist", "BP", "top shelf"),
    "Castile soap, unscented": ("", "the soap stall", "", "wash-house"),
}


def tell(workshop: Workshop, maker: User, rub: Batch, foams: list[Batch]) -> None:
    """Lots on the shelf, bottles on ten boats and in the wash-house, a recall, and what is bought instead."""
    _lots(workshop)
    boats = [Holder.objects.create(workshop=workshop, name=name, place=True) for name in _BOATS]
    wash_house = Holder.objects.create(workshop=workshop, name=_WASH_HOUSE, place=True)
    begun = timezone.now() - timedelta(days=20.5)
    for bottle, boat, (opened, ended) in zip(bottles_of(rub), boats, _RUB, strict=True):
        _use(bottle, maker, boat, begun, opened, ended)
    at = timezone.now() - timedelta(days=136.0)
    bottles = [bottle for batch in foams for bottle in bottles_of(batch)]
    for bottle, days in zip(bottles, _FOAM, strict=False):
        _use(bottle, maker, wash_house, at, 0.0, days if at + timedelta(days=days) < timezone.now() else None)
        at += timedelta(days=days)
    _recall(workshop, maker, rub)
    foam = Formula.objects.get(workshop=workshop, name="Wash-house foam")
    bought = Bought(formula=foam, name="Foaming soap, supermarket", price="1.95")
    bought.amount_value, bought.amount_unit = 250.0, "mL"
    bought.save()


def _lots(workshop: Workshop) -> None:
    for name, (lot, shop, grade, stands) in _LOTS.items():
        stock = Stock.objects.get(workshop=workshop, name=name)
        stock.lot, stock.shop, stock.grade, stock.stands = lot, shop, grade, stands
        stock.bought_on = timezone.localdate() - timedelta(days=60)
        stock.save(update_fields=["lot", "shop", "grade", "stands", "bought_on"])
    peroxide = Stock.objects.get(workshop=workshop, name="Peroxide 3 %")
    peroxide.opened_on = timezone.localdate() - timedelta(days=55)
    peroxide.best_before = timezone.localdate() + timedelta(days=200)
    peroxide.save(update_fields=["opened_on", "best_before"])


def _use(bottle: Bottle, maker: User, holder: Holder, at: datetime, opened: float | None, ended: float | None) -> None:
    """Given to somebody, opened, used up and back, each on its day."""
    bottle.save()
    _told(bottle, BottleEventKind.GIVEN, maker, at, holder)
    if opened is not None:
        _told(bottle, BottleEventKind.OPENED, maker, at + timedelta(days=opened))
    if ended is not None:
        _told(bottle, BottleEventKind.USED_UP, maker, at + timedelta(days=ended))
        _told(bottle, BottleEventKind.BACK, maker, at + timedelta(days=ended, hours=3))


def _told(bottle: Bottle, kind: BottleEventKind, maker: User, at: datetime, holder: Holder | None = None) -> None:
    bottle.tell(kind, maker, holder, at=at)


def _recall(workshop: Workshop, maker: User, rub: Batch) -> None:
    """The chemist called a lot of peroxide back; three boats have answered."""
    stock = Stock.objects.get(workshop=workshop, name="Peroxide 3 %")
    recall = Recall.objects.create(
        workshop=workshop, by=maker, stock=stock, why="The chemist calls lot P-1180 back: it may be weak."
    )
    Recall.objects.filter(pk=recall.pk).update(at=timezone.now() - timedelta(days=2))
    bottles = bottles_of(rub)
    for bottle in bottles:
        bottle.tell(BottleEventKind.CALLED, maker, recall=recall, at=timezone.now() - timedelta(days=2))
    for bottle in bottles[:3]:
        bottle.tell(
            BottleEventKind.DEALT,
            maker,
            recall=recall,
            reason="used up, nothing to bring back",
            at=timezone.now() - timedelta(days=1),
        )
