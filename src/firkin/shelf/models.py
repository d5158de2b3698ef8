"""Own materials, stocks, and vessels with the bottles among them."""

from decimal import Decimal

from django.db import models

from firkin.accounts.models import Workshop
from firkin.core import catalogue
from firkin.core.alcohols import ALCOHOLS
from firkin.shelf.fields import AmountColumns, StrengthColumns


class Material(models.Model):
    """A material of the workshop's own, beside the catalogue: inert, with a density."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="materials")
    name = models.CharField(max_length=80)
    solid = models.BooleanField(default=False)
    density_g_per_mL = models.FloatField(default=1.0)

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


def own_materials(workshop: Workshop) -> tuple[catalogue.Material, ...]:
    """The workshop's own materials as core knows them."""
    return tuple(material.as_core() for material in Material.objects.filter(workshop=workshop))


class StockQuerySet(models.QuerySet["Stock"]):
    """Named selections of stocks."""

    def on_hand(self) -> "StockQuerySet":
        """Stocks that are not used up."""
        return self.filter(used_up=False)

    def of(self, material: str) -> "StockQuerySet":
        """Stocks of one material."""
        return self.filter(material=material)


class Stock(StrengthColumns, AmountColumns):
    """A bottle or bag of a material; the amount is its size when bought."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="stocks")
    material = models.CharField(max_length=80)
    name = models.CharField("what the label says", max_length=120)
    price = models.DecimalField(max_digits=9, decimal_places=2, null=True, blank=True)
    bought_on = models.DateField(null=True, blank=True)
    note = models.CharField(max_length=300, blank=True)
    used_up = models.BooleanField(default=False)

    objects = StockQuerySet.as_manager()

    class Meta:
        ordering = ("material", "-strength_value", "name")

    def __str__(self) -> str:
        return self.name

    def price_per_pure_litre(self) -> Decimal | None:
        """Price of a litre of pure alcohol out of this bottle; None for what has no such price."""
        alcohol, strength = ALCOHOLS.get(self.material), self.strength
        if self.price is None or alcohol is None or strength is None or self.amount.kind != "volume":
            return None
        pure_mL = self.amount.mL * alcohol.as_volume(strength).fraction
        return (self.price * 1000 / Decimal(pure_mL)).quantize(Decimal("0.01")) if pure_mL else None


class Vessel(models.Model):
    """A jug, bucket or bottle: brim volume, inner diameter, and how many there are."""

    workshop = models.ForeignKey(Workshop, on_delete=models.CASCADE, related_name="vessels")
    name = models.CharField(max_length=80)
    kind = models.CharField(
        max_length=10, choices=[("mixing", "for mixing"), ("bottle", "for filling")], default="mixing"
    )
    volume_mL = models.FloatField()
    inner_diameter_mm = models.FloatField(null=True, blank=True)
    count = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ("kind", "-volume_mL")

    def __str__(self) -> str:
        return self.name
