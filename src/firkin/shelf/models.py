"""Own materials, stocks, and vessels with the bottles among them."""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from datetime import date
from decimal import Decimal
from typing import Any

from django.db import models, transaction
from django.db.models import functions
from django.utils import timezone

from firkin.accounts.bounded import AMOUNT, BASE_UNITS, COUNT, DENSITY, PER_CENT, SIZE, TAKEN, Bounded
from firkin.accounts.models import Workshop
from firkin.core import catalogue
from firkin.core.bench import Held
from firkin.core.catalogue import MADE_OF, TOPS, families
from firkin.core.densities import ALCOHOLS
from firkin.core.formula import falls_short, nature
from firkin.core.kitchen import Kitchen, Measure, kitchens
from firkin.core.measures import Quantity, Strength
from firkin.core.texts import uncapped
from firkin.shelf.fields import AmountColumns, StrengthColumns


class Material(Bounded):
    """A material of the workshop's own, beside the catalogue: inert, with a density."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="materials")
    name = models.CharField(max_length=80)
    solid = models.BooleanField(default=False)
    density_g_per_mL = models.FloatField(default=1.0, validators=[DENSITY])

    class Meta:
        constraints = (models.UniqueConstraint(fields=["workshop", "name"], name="one_material_of_a_name"),)

    def __str__(self) -> str:
        return self.name

    def as_core(self) -> catalogue.Material:
        """The material as core knows it."""
        return catalogue.Material(
            id=self.name,
            name=self.name,
            kind="solid" if self.solid else "liquid",
            density=self.density_g_per_mL,
            source="entered by the maker",
        )


#: The own materials looked up so far in this request, by workshop; None outside of one.
_looked_up: ContextVar[dict[int, tuple[catalogue.Material, ...]] | None] = ContextVar("own materials", default=None)


@contextmanager
def materials_once() -> Iterator[None]:
    """Within it, a workshop's own materials are looked up once."""
    token = _looked_up.set({})
    try:
        yield
    finally:
        _looked_up.reset(token)


def own_materials(workshop: int) -> tuple[catalogue.Material, ...]:
    """The own materials of a workshop, by its key, as core knows them."""
    known = _looked_up.get()
    if known is not None and workshop in known:
        return known[workshop]
    found = tuple(material.as_core() for material in Material.objects.filter(workshop=workshop))
    if known is not None:
        known[workshop] = found
    return found


class StockQuerySet(models.QuerySet["Stock"]):
    """Named selections of stocks."""

    def on_hand(self) -> "StockQuerySet":
        """Stocks that are not used up."""
        return self.filter(used_up=False)

    def with_use(self) -> "StockQuerySet":
        """With what its ledger comes to, for a list."""
        # added up stock by stock by an index; a join would sort every movement together with every column of its stock
        own = Movement.objects.filter(stock=models.OuterRef("pk")).order_by().values("stock")
        come_to = models.Subquery(own.values(come_to=models.Sum("mass_g")), output_field=models.FloatField())
        return self.annotate(ledger_g=functions.Coalesce(come_to, 0.0))

    def of(self, material: str) -> "StockQuerySet":
        """Stocks of one material."""
        return self.filter(material=material)


def grams_of(
    material: catalogue.Material, amount: Quantity, strength: Strength | None, bulk: float | None = None
) -> float:
    """What an amount of a material weighs, in g; ``bulk`` is how dense a powder lies, in g/mL."""
    if amount.kind == "mass":
        return amount.g
    if bulk is not None and material.bulk is not None:
        return amount.mL * bulk
    return amount.mL * nature(material, material.mass_fraction(strength or material.usual_strength)).measured


#: Less than this, in g, is rounding of floats and no movement.
_NOTHING_G = 1e-6


DAYS_IN_A_MONTH = 30.44


class Stock(StrengthColumns, AmountColumns):
    """A bottle or bag of a material; the amount is its size when bought."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="stocks")
    material = models.CharField(max_length=80)
    name = models.CharField("what the label says", max_length=120)
    price = models.DecimalField(max_digits=9, decimal_places=2, null=True, blank=True, validators=[AMOUNT])
    bought_on = models.DateField(null=True, blank=True)
    opened_on = models.DateField(null=True, blank=True)
    best_before = models.DateField(null=True, blank=True)
    lot = models.CharField("lot number", max_length=60, blank=True)
    shop = models.CharField(max_length=80, blank=True)
    grade = models.CharField(max_length=40, blank=True)
    #: Where it stands.
    stands = models.CharField("where it stands", max_length=60, blank=True)
    #: The line it was read from, as it was written.
    wording = models.CharField(max_length=300, blank=True)
    #: Bottles bought at one go share one.
    purchase = models.UUIDField(null=True, blank=True)
    #: Keys of the remarks about it that were seen (shelf/notices), so that each is said once.
    seen = models.CharField(max_length=200, blank=True)
    #: What is scanned off its package.
    bar_code = models.CharField(max_length=40, blank=True)
    note = models.CharField(max_length=300, blank=True)
    #: What the empty bottle weighs, g: with it, a bottle on the scale says what is left in it.
    tare_g = models.FloatField(null=True, blank=True, validators=[BASE_UNITS])
    #: The empty bottle was never weighed: its weight is what a full one weighed, less what it held.
    tare_guessed = models.BooleanField(default=False)
    used_up = models.BooleanField(default=False)
    #: How dense a powder out of it lies in a scoop, g/mL, by one that was weighed; None: as usual.
    bulk = models.FloatField(null=True, blank=True, validators=[DENSITY])

    objects = StockQuerySet.as_manager()

    class Meta:
        ordering = ("material", "-strength_value", "name")

    def __str__(self) -> str:
        return self.name

    def grams_of(self, amount: Quantity) -> float:
        """What an amount out of this bottle weighs, in g."""
        if amount.kind == "mass":
            return amount.g
        return grams_of(
            catalogue.find(self.material, own_materials(self.workshop_id)), amount, self.strength, self.bulk
        )

    def months(self, today: date | None = None) -> float | None:
        """How many months ago it was opened, or else bought; None where neither day is known."""
        since = self.opened_on or self.bought_on
        if since is None:
            return None
        return max(0.0, ((today or timezone.localdate()) - since).days / DAYS_IN_A_MONTH)

    @property
    def strength_now(self) -> Strength | None:
        """How strong it is by now: what fades, as a range from what is usually left to what its label says."""
        material = catalogue.find(self.material, own_materials(self.workshop_id))
        return catalogue.aged(material, self.strength, self.months())

    @property
    def price_of_a_gram(self) -> float | None:
        """What a gram out of it costs; None without a price."""
        full = self.grams_of(self.amount)
        return float(self.price) / full if self.price is not None and full else None

    @property
    def ledger(self) -> float:
        """What its movements come to, in g: less than nothing where more was taken out than it held."""
        there = getattr(self, "ledger_g", None)
        if there is None and "movements" in getattr(self, "_prefetched_objects_cache", {}):
            there = sum(one.mass_g for one in self.movements.all())
        if there is None:
            there = self.movements.aggregate(models.Sum("mass_g"))["mass_g__sum"]
        return float(there or 0.0)

    @property
    def left_g(self) -> float:
        """What is left in it, in g, by its ledger."""
        return max(0.0, self.ledger)

    @property
    def overdrawn(self) -> str:
        """A sentence where more was taken out than its size holds; empty where not."""
        full = self.grams_of(self.amount)
        taken = full - self.ledger
        if not full or not falls_short(full, taken):
            return ""
        out = Quantity(self.amount.value * taken / full, self.amount.unit)
        return f"{out.words} came out of {self.name}, which holds {self.amount.words}. Weigh it, or check its size."

    @property
    def left_as_bought(self) -> Quantity:
        """What is left in it, in the unit of its size."""
        full = self.grams_of(self.amount)
        return Quantity(self.amount.value * self.left_g / full, self.amount.unit) if full else self.amount

    @property
    def left(self) -> Quantity:
        """What is left in it, as its size is; below a litre or a kilogram in mL or g."""
        left = self.left_as_bought
        smaller = {"L": "mL", "kg": "g"}.get(left.unit)
        return Quantity(left.value * 1000.0, smaller) if smaller and left.value < 1.0 else left

    def save(self, *args: Any, **options: Any) -> None:
        """Store it; what it held when it was bought is the first movement of its ledger, a corrected size another."""
        changed = options.get("update_fields")
        with transaction.atomic():
            super().save(*args, **options)
            if changed is None or {"amount_value", "amount_unit"} & set(changed):
                self._book_its_size()

    def _book_its_size(self) -> None:
        of_kind = self.movements.filter(kind=Movement.Kind.BOUGHT)
        booked = of_kind.aggregate(models.Sum("mass_g"))["mass_g__sum"] or 0.0
        missing = self.grams_of(self.amount) - booked
        if abs(missing) > _NOTHING_G:
            self.move(Movement.Kind.BOUGHT, missing, "size corrected" if booked else "")

    def move(self, kind: "Movement.Kind", mass_g: float, reason: str = "") -> "Movement":
        """Write a movement: so many g in, or with a minus out."""
        return Movement.objects.create(stock=self, kind=kind, mass_g=mass_g, reason=reason[:120])

    def weigh(self, content_g: float) -> "Movement":
        """What really is in it, in g, corrects its ledger."""
        return self.move(Movement.Kind.WEIGHED, content_g - self.ledger)

    def price_per_pure_litre(self) -> Decimal | None:
        """Price of a litre of pure alcohol out of this bottle; None for what has no such price."""
        alcohol, strength = ALCOHOLS.get(self.material), self.strength
        if self.price is None or alcohol is None or strength is None or self.amount.kind != "volume":
            return None
        pure_mL = self.amount.mL * alcohol.as_volume(strength).fraction
        return (self.price * 1000 / Decimal(pure_mL)).quantize(Decimal("0.01")) if pure_mL else None


class LabelPhoto(Bounded):
    """A picture of a stock's label, made small and stripped of what a camera writes into it."""

    stock = models.ForeignKey(Stock, on_delete=models.CASCADE, related_name="label_photos")
    at = models.DateTimeField(default=timezone.now)
    jpeg = models.BinaryField()

    class Meta:
        ordering = ("-at", "-pk")

    def __str__(self) -> str:
        return f"Label of {self.stock}"


class Movement(Bounded):
    """One line of a stock's ledger: so many g in, or with a minus out. Never changed; a correction is another."""

    class Kind(models.TextChoices):
        """What moved it."""

        BOUGHT = "bought", "bought"
        POURED = "poured", "poured into a batch"
        ADDED = "added", "added to a batch"
        SPILLED = "spilled", "spilled"
        WEIGHED = "weighed", "weighed"
        GIVEN = "given", "given away"
        THROWN = "thrown", "thrown away"

    stock = models.ForeignKey(Stock, on_delete=models.CASCADE, related_name="movements")
    at = models.DateTimeField(default=timezone.now)
    kind = models.CharField(max_length=10, choices=Kind.choices, default=Kind.POURED)
    mass_g = models.FloatField(validators=[TAKEN])
    reason = models.CharField(max_length=120, blank=True)

    class Meta:
        ordering = ("pk",)
        indexes = (
            models.Index(fields=["stock", "-at"], name="movement_newest_first"),
            models.Index(fields=["stock", "mass_g"], name="movement_sum"),  # adds up without reading the rows
        )

    def __str__(self) -> str:
        return f"{self.mass_g:g} g of {self.stock}, {self.get_kind_display()}"


class Tool(AmountColumns):
    """A measure of the maker's own: what it holds, to what it is read off, how well one measures with it."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="tools")
    name = models.CharField(max_length=80)
    step = models.FloatField(null=True, blank=True, validators=[BASE_UNITS])
    error_pct = models.FloatField(validators=[PER_CENT])

    class Meta:
        ordering = ("amount_unit", "-amount_value")
        constraints = (models.UniqueConstraint(fields=["workshop", "name"], name="one_tool_of_a_name"),)

    def __str__(self) -> str:
        return self.name

    @property
    def weighs(self) -> bool:
        """True for a scale."""
        return self.amount.kind == "mass"

    def as_measure(self) -> Measure:
        """The measure as core knows it."""
        return Measure(self.name, self.amount.g if self.weighs else self.amount.mL, self.error_pct, self.step)


def kitchens_of(workshop: Workshop) -> dict[str, Kitchen]:
    """The kitchens a maker may measure with: their own tools first, then the usual ones."""
    tools = list(Tool.objects.filter(workshop=workshop))
    measures = tuple(tool.as_measure() for tool in tools if not tool.weighs)
    scale = next((tool.as_measure() for tool in tools if tool.weighs), None)
    own: dict[str, Kitchen] = {}
    if measures:
        own["own"] = Kitchen("own", "my measures", measures, scale=scale)
    if scale is not None:
        own["own-scale"] = Kitchen("own-scale", f"my {uncapped(scale.name)}", (scale,), weighs=True)
    return own | kitchens()


def bottles_that_foam(workshop: Workshop, family: str) -> list[Held]:
    """The workshop's bottles with a foaming pump, for a family that goes into them; none for any other."""
    if "foaming" not in families()[family].tops:
        return []
    bottles = Vessel.objects.filter(workshop=workshop, kind="bottle", top="foaming", count__gt=0)
    return [Held(bottle.name, bottle.volume_mL) for bottle in bottles]


def top_choices() -> list[tuple[str, str]]:
    """What a bottle may have on top."""
    return [("", "not said"), *TOPS.items()]


def made_of_choices() -> list[tuple[str, str]]:
    """What a vessel may be made of."""
    return [("", "not said"), *MADE_OF.items()]


class Vessel(Bounded):
    """A jug, bucket or bottle: brim volume, what it is of, inner diameter, empty weight, its top, and how many."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="vessels")
    name = models.CharField(max_length=80)
    kind = models.CharField(
        max_length=10, choices=[("mixing", "for mixing"), ("bottle", "for filling")], default="mixing"
    )
    volume_mL = models.FloatField(validators=[SIZE])
    inner_diameter_mm = models.FloatField(null=True, blank=True, validators=[AMOUNT])
    empty_g = models.FloatField(null=True, blank=True, validators=[BASE_UNITS])
    top = models.CharField(max_length=10, blank=True, choices=top_choices)
    made_of = models.CharField(max_length=10, blank=True, choices=made_of_choices)
    count = models.PositiveIntegerField(default=1, validators=[COUNT])
    #: So many of them stand here empty and want a wash before anything goes in.
    to_wash = models.PositiveIntegerField(default=0, validators=[COUNT])

    class Meta:
        ordering = ("kind", "-volume_mL")

    def __str__(self) -> str:
        return self.name

    def wants_washing(self, more: int) -> None:
        """So many more of them, or fewer, stand here empty and unwashed; never fewer than none."""
        sum_ = models.F("to_wash") + more
        Vessel.objects.filter(pk=self.pk).update(to_wash=functions.Greatest(sum_, 0) if more < 0 else sum_)
