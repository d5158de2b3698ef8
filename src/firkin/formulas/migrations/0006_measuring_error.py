"""How well a line's amount is measured is kept with it."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("formulas", "0005_choices_from_the_catalogue")]

    operations = [
        migrations.AddField(model_name="formulaline", name="error", field=models.FloatField(default=0.0)),
    ]
