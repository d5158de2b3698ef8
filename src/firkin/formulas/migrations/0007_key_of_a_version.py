"""A version knows the page it was saved from."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("formulas", "0006_measuring_error")]

    operations = [
        migrations.AddField(
            model_name="formulaversion",
            name="key",
            field=models.UUIDField(null=True, unique=True, editable=False),
        ),
    ]
