"""Every house formula goes from its sheet to its label, laid out in cups, with no page that fails on the way."""

import pytest
from django.test import Client
from django.urls import reverse

from firkin.batches.making import Making
from firkin.batches.models import Batch, State
from firkin.core.formula import house_formulas
from firkin.formulas.models import Formula
from often import often
from steps import make_as_planned


@pytest.mark.parametrize("key", often(house_formulas(), "xanthan-gel", "dish-gentle", "laundry-concentrate"))
def test_a_house_formula_is_made_in_cups_from_its_sheet_to_its_label(bench: Client, workshop, maker, key: str) -> None:
    formula = house_formulas()[key].formula
    kept = Formula.objects.keep(formula, workshop, maker)
    start = {"version": kept.current.pk, "make": str(formula.make or "1 L"), "kitchen": "us"}
    bench.post(reverse("batches:start"), start)
    batch = Batch.objects.get()
    assert bench.post(reverse("batches:prepare", args=[batch.pk]), {"kitchen": "us"}).status_code == 302
    for page in ("make", "pour", "check", "rescue", "record"):
        assert bench.get(reverse(f"batches:{page}", args=[batch.pk])).status_code in (200, 302)
    batch.refresh_from_db()
    make_as_planned(bench, batch)
    batch.refresh_from_db()
    making = Making(batch)
    assert batch.state in (State.RESTING, State.RELEASED)
    assert not making.progress.unfinished
    assert "short" not in [verdict.verdict for verdict in making.progress.result.verdicts]
    for page in ("wait", "fill", "label", "record"):
        assert bench.get(reverse(f"batches:{page}", args=[batch.pk])).status_code in (200, 302)
    assert bench.get(reverse("batches:label_pdf", args=[batch.pk])).content.startswith(b"%PDF")
