"""Own materials, stocks, and vessels with the bottles among them."""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from decimal import Decimal

from django.db import models
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
from firkin.core.measures import Quantity
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
        """With what was taken out of each, for a list."""
        taken = functions.Coalesce(models.Sum("uses__mass_g"), 0.0)
        return self.annotate(taken_g=taken)

    def of(self, material: str) -> "StockQuerySet":
        """Stocks of one material."""
        return self.filter(material=material)


class Stock(StrengthColumns, AmountColumns):
    """A bottle or bag of a material; the amount is its size when bought."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="stocks")
    material = models.CharField(max_length=80)
    name = models.CharField("what the label says", max_length=120)
    price = models.DecimalField(max_digits=9, decimal_places=2, null=True, blank=True, validators=[AMOUNT])
    bought_on = models.DateField(null=True, blank=True)
    note = models.CharField(max_length=300, blank=True)
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
        material = catalogue.find(self.material, own_materials(self.workshop_id))
        if self.bulk is not None and material.bulk is not None:
            return amount.mL * self.bulk
        return amount.mL * nature(material, material.mass_fraction(self.strength or material.usual_strength)).measured

    @property
    def price_of_a_gram(self) -> float | None:
        """What a gram out of it costs; None without a price."""
        full = self.grams_of(self.amount)
        return float(self.price) / full if self.price is not None and full else None

    @property
    def left_g(self) -> float:
        """What is left in it, in g: its size less what was taken out."""
        taken = getattr(self, "taken_g", None)
        if taken is None:
            taken = sum(use.mass_g for use in self.uses.all())
        return max(0.0, self.grams_of(self.amount) - taken)

    @property
    def overdrawn(self) -> str:
        """A sentence where more was taken out than its size holds; empty where not."""
        full, taken = self.grams_of(self.amount), sum(use.mass_g for use in self.uses.all())
        if not full or not falls_short(full, taken):
            return ""
        out = Quantity(self.amount.value * taken / full, self.amount.unit)
        return (
            f"{out.words} were taken out of {self.name}, which holds {self.amount.words}. Check its size on the shelf."
        )

    @property
    def left(self) -> Quantity:
        """What is left in it, as volume or weight, as its size is."""
        full = self.grams_of(self.amount)
        return Quantity(self.amount.value * self.left_g / full, self.amount.unit) if full else self.amount

    def take(self, amount: Quantity, reason: str, sign: int = 1) -> None:
        """Write down that an amount was taken out, or with ``sign`` -1 that it was not after all."""
        StockUse.objects.create(stock=self, mass_g=sign * self.grams_of(amount), reason=reason[:120])

    def price_per_pure_litre(self) -> Decimal | None:
        """Price of a litre of pure alcohol out of this bottle; None for what has no such price."""
        alcohol, strength = ALCOHOLS.get(self.material), self.strength
        if self.price is None or alcohol is None or strength is None or self.amount.kind != "volume":
            return None
        pure_mL = self.amount.mL * alcohol.as_volume(strength).fraction
        return (self.price * 1000 / Decimal(pure_mL)).quantize(Decimal("0.01")) if pure_mL else None


class StockUse(Bounded):
    """An amount taken out of a stock; taking one back is another, negative one."""

    stock = models.ForeignKey(Stock, on_delete=models.CASCADE, related_name="uses")
    at = models.DateTimeField(default=timezone.now)
    mass_g = models.FloatField(validators=[TAKEN])
    reason = models.CharField(max_length=120, blank=True)

    class Meta:
        ordering = ("pk",)

    def __str__(self) -> str:
        return f"{self.mass_g:g} g of {self.stock}"


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
        own["own-scale"] = Kitchen("own-scale", f"my {scale.name.lower()}", (scale,), weighs=True)
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

    class Meta:
        ordering = ("kind", "-volume_mL")

    def __str__(self) -> str:
        return self.name
