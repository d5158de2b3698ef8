"""Batches of formulas without steps keep the steps they were begun with: those that were usual until now."""

from typing import Any

from django.db import migrations

from firkin.core.catalogue import Material
from firkin.core.formula import formula_from_dict, pour_text, quarantined


def freeze(apps: Any, schema_editor: Any) -> None:
    """Write the steps into every copy that has none: pour in order, top up, mix, rest."""
    alias = schema_editor.connection.alias
    for batch in apps.get_model("batches", "Batch").objects.using(alias).all():
        if batch.frozen.get("steps"):
            continue
        own = apps.get_model("shelf", "Material").objects.using(alias).filter(workshop=batch.workshop_id)
        materials = tuple(
            Material(one.name, one.name, "solid" if one.solid else "liquid", one.density_g_per_mL) for one in own
        )
        formula = formula_from_dict(batch.frozen, materials)
        topped = formula.topped_up
        poured = [i for i in range(len(formula.lines)) if i != topped]
        steps: list[dict[str, Any]] = [
            {"do": "pour", "text": pour_text(formula.lines[i]), "lines": [i]} for i in poured
        ]
        if topped is not None:
            name = formula.lines[topped].material.name.lower()
            steps.append({"do": "top up", "text": f"Top up with {name} to the mark, not by measure.", "lines": [topped]})
        mixed = "Stir with a dry spoon in a dry bowl until even." if formula.dry else "Close the vessel and mix gently until even."
        steps.append({"do": "mix", "text": mixed})
        if quarantined(formula):
            text = "Keep it closed and still for 72 hours, so that spores from alcohol or bottles die."
            steps.append({"do": "quarantine", "text": text, "wait": "72 h"})
        batch.frozen = {**batch.frozen, "steps": steps}
        batch.save(using=alias, update_fields=["frozen"])


class Migration(migrations.Migration):
    dependencies = [("batches", "0003_choices_from_the_catalogue"), ("shelf", "0004_choices_from_the_catalogue")]
    operations = [migrations.RunPython(freeze, migrations.RunPython.noop)]
