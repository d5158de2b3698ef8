"""What a fix's card says it comes to is what the batch comes to once it is done as the bench asks."""

import uuid
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from firkin.batches.making import Making
from firkin.core.formula import house_formulas
from firkin.core.measures import Strength, figures
from firkin.shelf.models import Stock
from steps import begin, make_as_planned

RUBS = sorted(key for key, house in house_formulas().items() if house.formula.guidelines and house.formula.lines_with("alcohol"))  # fmt: skip


@pytest.mark.parametrize("name", RUBS)
@pytest.mark.parametrize(
    ("trouble", "now"), [("weak", "55 %"), ("weak", "59.9 %"), ("strong", "85 %"), ("strong", "96 %"), ("weak", "70 %")]
)
def test_the_card_is_what_it_comes_to(name: str, trouble: str, now: str, workshop, maker) -> None:
    batch = begin(house_formulas()[name].formula, workshop, maker, "1 L")
    client = Client()
    client.force_login(maker)
    make_as_planned(client, batch)
    page = reverse("batches:rescue", args=[batch.pk])
    alcohol = next(line.material.id for line in batch.formula().lines if line.material.alcohol)
    stock = Stock(workshop=workshop, material=alcohol, name="Can", amount_value=9, amount_unit="L")
    stock.strength = Strength.of(96.0, "v/v")
    stock.save()
    asked: dict[str, Any] = {"trouble": trouble, "now": now, "stock": stock.pk}
    card = client.get(page, asked).context
    if card.get("after") is None or not card["rescue"].additions:
        assert trouble == "strong" or now == "70 %", card["form"].errors
        return
    client.post(page, asked | {"key": str(uuid.uuid4())})
    batch.refresh_from_db()
    make_as_planned(client, batch)
    promised, result = card["after"].main, Making(batch).progress.result
    assert figures(result.main.lower, 4) == figures(promised.lower, 4)
    assert figures(result.main.higher, 4) == figures(promised.higher, 4)
    assert figures(result.total.volume_mL, 4) == figures(card["after"].total.volume_mL, 4)
    assert result.main.low >= max(one.minimum or 0.0 for one in result.verdicts)
