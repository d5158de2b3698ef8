"""Numbers that no form and no table takes, put straight into the database: every page is there all the same."""

import pytest
from django.test import Client

from addresses import EVERY, filled, whole_demo
from firkin.accounts.models import User
from firkin.batches.models import Batch, BatchLine, Entry
from firkin.formulas.models import FormulaLine, FormulaVersion
from firkin.shelf.models import Stock, Tool, Vessel


@pytest.mark.django_db
@pytest.mark.long
def test_odd_numbers_break_no_page(client: Client) -> None:
    """A line below nothing, one past all size, a strength of 300, a warmth of 900, empty vessels and measures."""
    whole_demo()
    first = FormulaLine.objects.filter(position=0)
    first.filter(version__formula__name="Landing rub").update(amount_value=-5.0)
    first.filter(version__formula__name="Lock-side rub").update(amount_value=1e30)
    first.filter(version__formula__name="Tiller aloe rub").update(
        strength_value=300.0, strength_low=300.0, strength_high=300.0
    )
    FormulaVersion.objects.filter(formula__name="Winter aloe rub").update(temperature_c=900.0)
    Stock.objects.filter(material="ethanol").update(amount_value=-3.0)
    Stock.objects.filter(material="isopropanol").update(amount_value=0.0)
    Vessel.objects.update(volume_mL=0.0)
    Tool.objects.update(amount_value=0.0)
    BatchLine.objects.filter(batch__number=6).update(strength_value=-4.0, strength_low=-4.0, strength_high=-4.0)
    BatchLine.objects.filter(batch__number=5).update(planned_g=0.0, planned_mL=0.0)
    Entry.objects.filter(kind="pour", batch__number=4).update(amount_value=-1.0)
    odd = Batch.objects.get(number=3)
    Batch.objects.filter(pk=odd.pk).update(frozen=odd.frozen | {"make": "0 mL"})
    client.force_login(User.objects.get())
    client.raise_request_exception = False
    said = 0
    for pattern in EVERY:
        for address in filled(pattern, most=9):
            answer = client.get(address)
            assert answer.status_code < 500, address
            said += not answer.streaming and "Something kept here cannot be worked out" in answer.content.decode(
                errors="replace"
            )
            answer.close()
    assert said
