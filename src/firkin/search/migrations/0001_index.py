"""The index of the search, filled with what is there."""

from django.db import migrations

CREATE = (
    "CREATE VIRTUAL TABLE IF NOT EXISTS search_entry USING fts5("
    "title, body, kind, ref UNINDEXED, workshop UNINDEXED, "
    "tokenize=\"unicode61 remove_diacritics 2\", prefix='2 3')"
)
PLACES = ("formula", "batch", "stock", "vessel", "holder")


def fill(apps, schema_editor):
    """Titles and the plainest words of what is there; the rest comes as each is stored again."""
    alias = schema_editor.connection.alias
    told = {
        "formula": ("formulas", "Formula", lambda one: (one.name, f"{one.family} {one.tags}")),
        "batch": (
            "batches",
            "Batch",
            lambda one: (f"{one.created_at.year % 100:02d}-{one.number:03d} {one.name}", f"{one.family} {one.state}"),
        ),
        "stock": ("shelf", "Stock", lambda one: (one.name, f"{one.material} {one.note}")),
        "vessel": ("shelf", "Vessel", lambda one: (one.name, "")),
        "holder": ("batches", "Holder", lambda one: (one.name, "")),
    }
    with schema_editor.connection.cursor() as cursor:
        for kind, (app, name, words) in told.items():
            for one in apps.get_model(app, name).objects.using(alias).all():
                title, body = words(one)
                if title:
                    cursor.execute(
                        "INSERT INTO search_entry(rowid, title, body, kind, ref, workshop) VALUES (%s, %s, %s, %s, %s, %s)",
                        [one.pk * len(PLACES) + PLACES.index(kind), title, body, kind, one.pk, one.workshop_id],
                    )


class Migration(migrations.Migration):

    initial = True
    dependencies = [
        ('batches', '0010_bottles'),
        ('formulas', '0011_dose_and_bought'),
        ('shelf', '0011_purchase'),
    ]
    operations = [
        migrations.RunSQL(CREATE, "DROP TABLE IF EXISTS search_entry"),
        migrations.RunPython(fill, migrations.RunPython.noop),
    ]
