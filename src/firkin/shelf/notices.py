"""What is worth a remark about a stock: low, past its best, open too long, cheaper than can be. Each is said once."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, timedelta
from statistics import median

from django.utils import timezone

from firkin.accounts.models import Workshop
from firkin.core.catalogue import find, too_old
from firkin.core.measures import Quantity, figures, rounded
from firkin.shelf.models import Stock, own_materials
from firkin.shelf.on_hand import TAP

#: Below this share of its size a bottle is low (common practice, no source).
LOW = 0.1
#: Said so many days before its best-before day.
SOON_D = 14
#: Alcohol at a fifth of what others cost per pure litre, or less, is suspect (common practice, no source).
SUSPECT = 0.2


@dataclass(frozen=True, slots=True)
class Notice:
    """A remark about a stock: its key, what is the matter, and what to do."""

    stock: Stock
    key: str
    says: str
    do: str


def notices(workshop: Workshop, today: date | None = None) -> list[Notice]:
    """Every remark that was not seen yet, what can hurt first."""
    today = today or timezone.localdate()
    stocks = list(
        Stock.objects.filter(workshop=workshop).on_hand().exclude(material=TAP).with_use().select_related("workshop")
    )
    found = [one for stock in stocks for one in _of(stock, stocks, today) if one.key not in stock.seen.split()]
    order = ("cheap", "past", "old", "soon", "low")
    return sorted(found, key=lambda one: order.index(one.key.partition(":")[0]))


def see(stock: Stock, key: str) -> None:
    """A remark was seen: it is not said again."""
    if key and key not in stock.seen.split():
        stock.seen = " ".join([*stock.seen.split(), key])[-200:]
        stock.save(update_fields=["seen"])


def _of(stock: Stock, others: Iterable[Stock], today: date) -> Iterable[Notice]:
    full = stock.grams_of(stock.amount)
    material = find(stock.material, own_materials(stock.workshop_id))
    more = [one for one in others if one.material == stock.material and one.pk != stock.pk]
    together = sum(one.left_g for one in (stock, *more))
    if full and stock.left_g < LOW * full and together < LOW * full * (1 + len(more)):
        there = Quantity(rounded(stock.left.value, 2), stock.left.unit)
        left = f"{there.words} left" if stock.left_g else "It is empty: 0"
        do = "Finish it, or weigh it." if not stock.left_g else "Buy more before the next batch."
        yield Notice(stock, "low", f"{left} of {stock.amount.words}.", do)
    if stock.best_before is not None and stock.best_before < today:
        yield Notice(stock, "past", f"Best before {_day(stock.best_before)}.", "Don't make anything for skin with it.")
    elif stock.best_before is not None and stock.best_before <= today + timedelta(days=SOON_D):
        yield Notice(stock, "soon", f"Best before {_day(stock.best_before)}.", "Use it first.")
    months = stock.months(today)
    if too_old(material, months) and months is not None:
        since = "opened" if stock.opened_on else "bought"
        says = f"{since.capitalize()} {figures(round(months), 2)} months ago. Its strength can't be trusted any more."
        yield Notice(stock, f"old:{int(months // 6)}", says, "Get a fresh one, and finish this one.")
    price = stock.price_per_pure_litre()
    known = [cost for one in more if (cost := one.price_per_pure_litre())]
    if price is not None and known and float(price) <= SUSPECT * float(median(known)):
        money = stock.workshop.currency
        says = f"{price} {money} a litre of pure alcohol. Your others cost about {median(known):.2f} {money}."
        yield Notice(stock, "cheap", says, "Far too cheap to be what it says. Don't use it on skin until you know.")


def _day(day: date) -> str:
    return f"{day:%-d %b %Y}"
