"""Every address there is, found in the code, with the demo's own things in it: a new one cannot be forgotten."""

import io
import re
from collections.abc import Iterator

from django.urls import URLPattern, URLResolver, get_resolver
from PIL import Image

from firkin.accounts.models import Workshop
from firkin.batches.models import Batch, Bottle, CalendarFeed, Due, Entry, Filling, Holder, Photo, Recall
from firkin.formulas.models import Formula
from firkin.season.models import Need, Plan, Product
from firkin.shelf.models import LabelPhoto, Material, Stock, Tool, Vessel
from quay import lantern_quay

#: What the number in an address is, by the beginning of the address. The longest that fits is meant.
NUMBERED = {
    "batches/<int:pk>/": Batch,
    "batches/compare/<int:pk>/": Formula,
    "exchange/batches/<int:pk>": Batch,
    "batches/due/<int:pk>/": Due,
    "formulas/<int:pk>/": Formula,
    "shelf/stocks/<int:pk>/": Stock,
    "season/plans/<int:pk>/": Plan,
    "season/products/<int:pk>/": Product,
    "use/batches/<int:pk>/": Batch,
    "use/holders/<int:pk>/": Holder,
    "use/recalls/batch/<int:pk>/": Batch,
    "use/recalls/stock/<int:pk>/": Stock,
    "use/recalls/<int:pk>/": Recall,
    "use/money/<int:pk>/": Formula,
    "use/review/<int:pk>/": Formula,
    "shelf/vessels/<int:pk>/": Vessel,
    "shelf/<slug:key>/<int:pk>/": {"stock": Stock, "vessel": Vessel, "tool": Tool, "material": Material},
}
#: Words and tokens in addresses that name nothing of a workshop, or are themselves the way in.
OPEN = {
    "reckon/<slug:ask>/": {"ask": "dilution"},
    "practice/<slug:skill>/<int:seed>/": {"skill": "proof", "seed": "1"},
    "formulas/house/<slug:key>/": {"key": "xanthan-gel"},
    "guide/families/<slug:key>/": {"key": "dish-liquid"},
    "guide/materials/<slug:key>/": {"key": "caustic-soda"},
    "shelf/<slug:key>/add/": {"key": "stock"},
    "exchange/tables/<slug:name>.csv": {"name": "readings"},
    "batches/calendar/feed/<slug:token>.ics": {"token": "made-up"},
    "accounts/join/<slug:token>/": {"token": "made-up"},
    "accounts/first/<str:token>/": {"token": "made-up"},
    "accounts/reset/<slug:token>/": {"token": "made-up"},
}
#: What an address needs besides to say anything.
ASKED = {"formulas/<int:pk>/compare/": "?with=1"}


def patterns(resolver: URLResolver | None = None, before: str = "") -> Iterator[str]:
    for one in (resolver or get_resolver()).url_patterns:
        if isinstance(one, URLResolver):
            yield from patterns(one, before + str(one.pattern))
        elif isinstance(one, URLPattern):
            yield before + str(one.pattern)


EVERY = sorted(patterns())


def filled(pattern: str, most: int = 4) -> list[str]:
    """The addresses of a pattern with the demo's own things in them; fails where nobody said what a number is."""
    if pattern in OPEN or "<" not in pattern:
        for name, value in OPEN.get(pattern, {}).items():
            pattern = re.sub(rf"<\w+:{name}>", str(value), pattern)
        return ["/" + pattern]
    whole = pattern
    begins = [start for start in NUMBERED if pattern.startswith(start)]
    assert begins, f"{pattern}: say in NUMBERED what its number is"
    what = NUMBERED[max(begins, key=len)]
    kinds = what if isinstance(what, dict) else {"": what}
    found = []
    for key, model in kinds.items():
        for thing in model.objects.all():
            address = pattern.replace("<slug:key>", key).replace("<int:pk>", str(thing.pk)).replace("<int:at>", "0")
            inner = {"<int:photo_pk>": Photo, "<int:filling_pk>": Filling, "<int:number>": Entry}
            if pattern.startswith("shelf/stocks/"):
                label = LabelPhoto.objects.filter(stock=thing.pk).first()
                if "<int:photo_pk>" in address:
                    address = address.replace("<int:photo_pk>", str(label.pk)) if label else ""
                inner = {}
            if pattern.startswith("use/"):
                address = _of_use(address, thing)
            if "<int:need_pk>" in address:
                need = Need.objects.filter(product=thing.pk).first()
                address = address.replace("<int:need_pk>", str(need.pk)) if need else ""
            address = address.replace("<int:place>", "0")
            for name, model_of in inner.items():
                if name in address:
                    there = model_of.objects.filter(batch=thing.pk).first()
                    address = address.replace(name, str(there.pk)) if there else ""
            found.append(address)
    found = ["/" + address + ASKED.get(whole, "") for address in found if address][:most]
    assert found, f"{pattern}: the demo has nothing of that"
    assert not any("<" in address for address in found), f"{pattern}: say what its other parts are"
    return found


def _of_use(address: str, thing: object) -> str:
    """An address of a bottle, what was told of it, or a bought product, filled in; empty where there is none."""
    bottle = Bottle.objects.filter(filling__batch=thing.pk).first() if isinstance(thing, Batch) else None
    for name, there in (
        ("<int:number>", bottle.number if bottle else None),
        ("<int:event_pk>", bottle.events.last().pk if bottle else None),
        ("<int:bought_pk>", thing.bought.values_list("pk", flat=True).first() if isinstance(thing, Formula) else None),
    ):
        if name in address:
            address = address.replace(name, str(there)) if there else ""
    return address


def whole_demo() -> Workshop:
    """The demo with what else can have an address: a photo, a feed, a material of its own."""
    lantern_quay()
    quay = Workshop.objects.get()
    out = io.BytesIO()
    Image.new("RGB", (60, 40), "tan").save(out, "JPEG")
    Photo.objects.create(batch=Batch.objects.first(), jpeg=out.getvalue(), caption="on the quay")
    LabelPhoto.objects.create(stock=Stock.objects.first(), jpeg=out.getvalue())
    CalendarFeed.objects.create(workshop=quay)
    Material.objects.create(workshop=quay, name="Quay clay")
    return quay
