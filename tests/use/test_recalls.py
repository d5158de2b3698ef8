"""A recall: from a lot to every batch and bottle it went into, and no other; marks, a bad batch, and back to the lots."""

import uuid

import pytest
from django.test import Client
from django.urls import reverse

from conftest import WHO_I
from firkin.batches.models import Batch, Bottle, BottleEvent, Filling, Recall, State
from firkin.core.formula import formula_from_dict
from firkin.shelf.models import Stock, Vessel
from firkin.use.tracing import batches_of, lots_in, reached, same_lot
from steps import begin, make_as_planned, said

pytestmark = pytest.mark.django_db


def glycerol(workshop, lot: str, name: str) -> Stock:
    stock = Stock(workshop=workshop, material="glycerol", name=name, lot=lot, amount_value=1.0, amount_unit="L")
    stock.save()
    return stock


def made(workshop, maker, client: Client, stock: Stock, bottles: int = 3) -> Batch:
    batch = begin(formula_from_dict(WHO_I), workshop, maker, "1 L")
    batch.lines.filter(material="glycerol").update(stock=stock)
    make_as_planned(client, batch)
    batch.release(maker, "for the test")
    vessel, _ = Vessel.objects.get_or_create(
        workshop=workshop, name="Flask", defaults={"kind": "bottle", "volume_mL": 120, "count": 40}
    )
    Filling.objects.create(batch=batch, by=maker, vessel=vessel, container="Flask", count=bottles, fill_mL=100)
    batch.move_to(State.FILLED, maker, "Filled.")
    return batch


def call_back(client: Client, stock: Stock, **data: object):
    sent = {"why": "The chemist calls it back.", "press": uuid.uuid4(), **data}
    return client.post(reverse("use:recall_stock", args=[stock.pk]), sent, follow=True)


@pytest.fixture
def three(workshop, maker, bench: Client) -> tuple[list[Stock], list[Batch]]:
    """Two bottles of one lot and one of another, a batch out of each."""
    stocks = [glycerol(workshop, lot, name) for lot, name in (("GL-7", "First"), ("gl-7", "Second"), ("GL-8", "Third"))]
    return stocks, [made(workshop, maker, bench, stock) for stock in stocks]


def test_a_lot_is_followed_to_its_batches_and_bottles_and_no_further(bench: Client, three) -> None:
    stocks, batches = three
    assert {stock.name for stock in same_lot(stocks[0])} == {"First", "Second"}
    assert {batch.pk for batch, _ in batches_of(same_lot(stocks[0]))} == {batches[0].pk, batches[1].pk}
    assert [round(grams, 1) for _, grams in batches_of([stocks[2]])] == [18.3]  # 14.5 mL at 1.261 g/mL
    call_back(bench, stocks[0])
    assert Bottle.objects.filter(called=True).count() == 6
    assert {one.filling.batch_id for one in Bottle.objects.all()} == {batches[0].pk, batches[1].pk}


def test_back_from_a_batch_to_its_lots(bench: Client, three) -> None:
    stocks, batches = three
    assert [stock for stock, _ in lots_in(batches[1])] == [stocks[1]]
    page = said(bench.get(reverse("use:recall_batch", args=[batches[2].pk])))
    assert "lot GL-8" in page


def test_a_line_that_was_not_of_the_batch_after_all_is_not_followed(bench: Client, workshop, maker, three) -> None:
    stocks, batches = three
    other = glycerol(workshop, "GL-9", "Fourth")
    bench.post(
        reverse("batches:really", args=[batches[0].pk]),
        {"do": "bottle", "line": 2, "stock": other.pk, "key": uuid.uuid4()},
    )
    assert {batch.pk for batch, _ in batches_of([stocks[0]])} == set()
    assert {batch.pk for batch, _ in batches_of([other])} == {batches[0].pk}


def test_without_a_lot_only_the_bottle_itself_is_followed(workshop) -> None:
    first, _ = glycerol(workshop, "", "First"), glycerol(workshop, "", "Second")
    assert same_lot(first) == [first]


def test_each_bottle_is_dealt_with_once_and_the_list_says_who_has_the_rest(bench: Client, three) -> None:
    stocks, batches = three
    bench.post(
        reverse("use:of_batch", args=[batches[0].pk]), {"to": "Bracken", "count": 1, "press": uuid.uuid4()}, follow=True
    )
    key = uuid.uuid4()
    call_back(bench, stocks[0], press=key)
    call_back(bench, stocks[0], press=key)
    recall = Recall.objects.get()
    page = said(bench.get(reverse("use:recall", args=[recall.pk])))
    assert "6 of 6 still to deal with" in page
    assert "out, with Bracken" in page
    bottle = Bottle.objects.first()
    for _ in range(2):
        bench.post(
            reverse("use:dealt", args=[recall.pk]),
            {"bottle": bottle.pk, "reason": "poured away", "press": uuid.uuid4()},
        )
    assert BottleEvent.objects.filter(kind="dealt").count() == 1
    page = said(bench.get(reverse("use:recall", args=[recall.pk])))
    assert "5 of 6 still to deal with" in page
    assert "poured away" in page
    other = Bottle.objects.create(filling=batches[2].fillings.get(), number=1)
    answer = bench.post(reverse("use:dealt", args=[recall.pk]), {"bottle": other.pk, "press": uuid.uuid4()})
    assert answer.status_code == 404
    assert "A recall is open" in said(bench.get(reverse("bench")))
    bench.post(reverse("use:close", args=[recall.pk]))
    assert "A recall is open" not in said(bench.get(reverse("bench")))


def test_a_bad_batch_prints_no_label_goes_nowhere_and_says_so_everywhere(bench: Client, three) -> None:
    stocks, batches = three
    assert "Write down why" in said(call_back(bench, stocks[2], why=" "))
    call_back(bench, stocks[2], bad="on")
    bad = batches[2]
    bad.refresh_from_db()
    assert bad.bad_since is not None
    for name in ("batches:label_pdf", "batches:label_svg"):
        assert bench.get(reverse(name, args=[bad.pk])).status_code == 302
    for name in ("batches:record", "batches:fill", "batches:label", "use:of_batch"):
        assert "is marked as bad" in said(bench.get(reverse(name, args=[bad.pk]))), name
    assert bad not in bench.get(reverse("batches:label_sheets")).context["batches"]
    answer = bench.post(
        reverse("use:of_batch", args=[bad.pk]), {"to": "Tam", "count": 1, "press": uuid.uuid4()}, follow=True
    )
    assert "Nothing of it goes out." in said(answer)
    bench.post(
        reverse("use:tell", args=[bad.pk, 1]), {"kind": "given", "to": "Tam", "press": uuid.uuid4()}, follow=True
    )
    assert not Bottle.objects.out().exists()
    assert "marked as bad" in said(bench.get(reverse("batches:list")))
    bench.post(reverse("use:good_again", args=[bad.pk]))
    assert bench.get(reverse("batches:label_pdf", args=[bad.pk])).status_code == 200
    assert batches[0].bad_since is None


def test_a_doubt_follows_what_was_kept_back_to_start_the_next_and_the_one_after(bench: Client, workshop, maker) -> None:
    """Sugar of one lot into a ferment, a starter of it into a second, and one of that into a third."""
    sugar = Stock(workshop=workshop, material="raw-sugar", name="Sugar", lot="S-1", amount_value=5.0, amount_unit="kg")
    sugar.save()
    chain: list[Batch] = []
    starter: Stock | None = None
    for _ in range(3):
        first = (
            {"material": "ferment-starter", "amount": "50 mL"}
            if starter
            else {"material": "raw-sugar", "amount": "100 g"}
        )
        lines = [first, {"material": "citrus-peel", "amount": "300 g"}, {"material": "water", "amount": "1 L"}]
        ferment = formula_from_dict(
            {"format": "firkin-formula/1", "name": "Ferment", "family": "ferment", "lines": lines}
        )
        batch = begin(ferment, workshop, maker, "1.3 L")
        batch.lines.filter(material=first["material"]).update(stock=starter or sugar)
        make_as_planned(bench, batch)
        batch.refresh_from_db()
        if batch.state == State.RESTING:
            batch.release(maker, "for the test")
        bench.post(reverse("batches:keep_starter", args=[batch.pk]), {"amount": "100 mL", "press": uuid.uuid4()})
        chain.append(batch)
        starter = Stock.objects.filter(material="ferment-starter").order_by("-pk").first()
        assert starter is not None
        assert starter.lot == batch.code
    assert [one.batch for one in reached([sugar])] == chain
    assert [one.batch for one in reached([], chain[1])] == chain[1:]
    assert [one.batch for one in reached([], chain[2])] == chain[2:]
    Stock.objects.filter(lot=chain[0].code).update(lot="")  # kept back before its lot was written down
    assert [one.batch for one in reached([sugar])] == chain
