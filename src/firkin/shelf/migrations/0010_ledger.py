"""What was taken out of a stock becomes its ledger: what it held when it was bought first, then each movement signed."""

from datetime import UTC, datetime, time

import django.db.models.deletion
import firkin.accounts.bounded
from django.db import migrations, models
from django.utils import timezone

from firkin.core.catalogue import Material, find
from firkin.core.measures import Quantity, Strength
from firkin.shelf.models import grams_of


def signed(apps, schema_editor):
    """Out is a minus from now on, and the size a stock was bought with is its first movement."""
    alias = schema_editor.connection.alias
    movements, own, stocks = (apps.get_model("shelf", name).objects.using(alias) for name in ("Movement", "Material", "Stock"))
    movements.update(mass_g=-models.F("mass_g"))
    for stock in stocks.order_by("pk"):
        materials = tuple(
            Material(id=one.name, name=one.name, kind="solid" if one.solid else "liquid", density=one.density_g_per_mL)
            for one in own.filter(workshop_id=stock.workshop_id)
        )
        strength = None
        if stock.strength_value is not None:
            low, high = stock.strength_low or 0.0, stock.strength_high or 0.0
            strength = Strength(stock.strength_value, low, high, stock.strength_basis)
        amount = Quantity(stock.amount_value, stock.amount_unit)
        full = grams_of(find(stock.material, materials), amount, strength, stock.bulk)
        first = movements.filter(stock=stock).order_by("at").first()
        at = first.at if first is not None else timezone.now()
        if stock.bought_on is not None:
            at = datetime.combine(stock.bought_on, time(), UTC)
        movements.create(stock=stock, kind="bought", mass_g=full, at=at)


class Migration(migrations.Migration):

    dependencies = [
        ("shelf", "0009_a_vessel_has_a_size"),
    ]

    operations = [
        migrations.AddField(
            model_name="stock",
            name="tare_g",
            field=models.FloatField(blank=True, null=True, validators=[firkin.accounts.bounded.BASE_UNITS]),
        ),
        migrations.RenameModel("StockUse", "Movement"),
        migrations.AlterField(
            model_name="movement",
            name="stock",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.CASCADE, related_name="movements", to="shelf.stock"
            ),
        ),
        migrations.AddField(
            model_name="movement",
            name="kind",
            field=models.CharField(
                choices=[
                    ("bought", "bought"), ("poured", "poured into a batch"), ("added", "added to a batch"),
                    ("spilled", "spilled"), ("weighed", "weighed"), ("given", "given away"), ("thrown", "thrown away"),
                ],
                default="poured",
                max_length=10,
            ),
        ),
        migrations.RunPython(signed, migrations.RunPython.noop),
    ]
