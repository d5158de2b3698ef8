"""The season's pages: what is asked of the planner, moved, begun, fallen behind, bought; and a clumsy maker at each."""

from datetime import date, timedelta

import pytest
from django.urls import reverse
from django.utils import timezone

from firkin.accounts.models import Membership, User, Workshop
from firkin.batches.models import Batch, CalendarFeed, State
from firkin.core.errors import CannotReckon
from firkin.core.formula import formula_from_dict, house_formulas
from firkin.core.measures import Quantity, Strength
from firkin.core.season import season_from_dict
from firkin.exchange.validation import check
from firkin.formulas.models import Formula
from firkin.season import moves
from firkin.season.asking import next_day, safety_mL, season_of
from firkin.season.models import Bagged, Habits, Need, Plan, Product, Started
from firkin.season.own_times import own_minutes
from firkin.season.picture import Shown, planned_events
from firkin.season.working import begin, given_up
from firkin.shelf.models import Movement, Stock, Vessel
from season_check import wrong_with

pytestmark = [pytest.mark.django_db, pytest.mark.usefixtures("in_the_zone_of_the_workshop")]

RUB = {
    "format": "firkin-formula/1", "name": "Quay rub", "family": "liquid-rub", "make": "1 L", "guideline": "cdc-alcohol-60",
    "lines": [{"material": "ethanol", "strength": "96 % v/v", "amount": "800 mL"}, {"material": "water", "amount": "q.s."}],
}  # fmt: skip


@pytest.fixture
def today() -> date:
    return timezone.localdate()


@pytest.fixture
def rub(workshop: Workshop, maker: User) -> Product:
    """A rub for which there is a drum and 2 L of alcohol, in packs of 5 L for 31; every evening is open."""
    formula = Formula.objects.keep(formula_from_dict(RUB), workshop, maker)
    Vessel.objects.create(workshop=workshop, name="Drum", volume_mL=12_000.0, made_of="plastic")
    old = alcohol(workshop, 5000.0, "31.00")
    old.move(Movement.Kind.POURED, old.grams_of(Quantity(-3000.0, "mL")))
    every = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"]
    Habits.objects.create(workshop=workshop, open_days=every, minutes=60.0, weeks=4, delivery_days=2)
    return Product.objects.create(formula=formula, least_mL=500.0, most_mL=10_000.0, minutes=40.0)


def alcohol(workshop: Workshop, mL: float, price: str, strength: float = 96.0) -> Stock:
    stock = Stock(workshop=workshop, material="ethanol", name=f"Can {strength:g}", price=price)
    stock.amount, stock.strength = Quantity(mL, "mL"), Strength.of(strength, "v/v")
    stock.save()
    return stock


def needs(product: Product, mL: float, on: date | None = None, **more: object) -> Need:
    kind = "once" if on is not None and "every_days" not in more else "every"
    return Need.objects.create(product=product, who="the boats", kind=kind, mL=mL, on=on, **more)


def planned(workshop: Workshop, maker: User) -> Plan:
    plan = begin(workshop, maker, "Planned.", [])
    assert plan.state == Plan.State.DONE, plan.telling
    check(plan.asked, "firkin-season-1")
    told = {key: value for key, value in plan.planned.items() if key not in ("left_out", "units")}
    check(told, "firkin-plan-1")
    assert wrong_with(plan.asked, told) == []
    return plan


# what is asked


def test_the_shelf_is_told_in_the_units_of_its_stocks(workshop, rub, today):
    needs(rub, 100.0, today + timedelta(days=9), times=40)
    asked = season_of(workshop).document
    assert asked["products"][0]["takes"] == {"Ethanol 96 %": pytest.approx(0.8)}
    assert asked["stocks"] == [
        {"id": "Ethanol 96 %", "left": 2000.0, "buy": {"size": 5000.0, "price": 31.0, "days": 2}}
    ]
    assert asked["needs"] == [{"product": "Quay rub", "mL": 4000, "on": (today + timedelta(days=9)).isoformat()}]
    assert asked["limits"][0]["mL"] == 50_000.0
    assert asked["products"][0]["wait_h"] == 72.0


def test_another_bottle_on_the_shelf_is_another_way_if_it_reaches_the_rule(workshop, rub):
    alcohol(workshop, 1000.0, "9.00", strength=90.0)
    alcohol(workshop, 1000.0, "5.00", strength=70.0)  # 800 mL of it in a litre are 56 %
    takes = season_of(workshop).document["products"][0]["takes"]
    assert [list(one) for one in takes] == [["Ethanol 96 %"], ["Ethanol 90 %"]]


@pytest.mark.parametrize(("days", "counted"), [(-1, False), (0, True), (1, True)])
def test_a_bottle_past_its_day_is_not_counted(workshop, rub, days, counted):
    Stock.objects.update(best_before=timezone.localdate() + timedelta(days=days))
    left = season_of(workshop).document["stocks"][0]["left"]
    assert left == (2000.0 if counted else 0.0)


def test_a_product_without_a_vessel_is_told_and_the_rest_is_planned(workshop, rub):
    rub.least_mL = rub.most_mL = 20_000.0
    rub.save()
    asking = season_of(workshop)
    assert asking.document["products"] == []
    assert asking.left_out == ["Quay rub is not planned: no vessel on the shelf holds its smallest batch."]


def test_a_need_as_used_of_what_was_never_used_is_told(workshop, rub):
    Need.objects.create(product=rub, kind="used")
    asking = season_of(workshop)
    assert asking.document["needs"] == []
    assert "no bottle of it is finished yet" in asking.left_out[0]


@pytest.mark.parametrize(("service", "mL"), [(20, 575.7), (2, 0.0)])
def test_safety_is_what_a_week_of_more_use_takes(service, mL):
    """100 to 264.5 mL a day nine times in ten: a standard deviation of 50 a day, 350 a week; z of 19 in 20 is 1.645."""
    assert safety_mL(100.0, 264.5, service) == pytest.approx(mL, abs=0.1)


@pytest.mark.parametrize(("ago", "falls"), [(0, 0), (1, 6), (7, 0), (8, 6), (-3, 3)])
def test_a_need_that_comes_again_goes_on_from_its_first_day(rub, today, ago, falls):
    need = needs(rub, 100.0, today - timedelta(days=ago), every_days=7)
    assert next_day(need, today) == today + timedelta(days=falls)


def test_what_rests_is_running_and_what_is_ready_is_on_hand(workshop, rub, maker):
    version = rub.formula.current
    batch = Batch.objects.start(version, version.as_core().scaled_to(Quantity(2000.0, "mL")), maker)
    drum = Vessel.objects.get()
    Batch.objects.filter(pk=batch.pk).update(
        state=State.RESTING, vessel=drum, comes_to_mL=2000.0, rests_until=timezone.now() + timedelta(days=2)
    )
    asked = season_of(workshop).document
    free = timezone.localdate() + timedelta(days=2)
    assert asked["running"] == [{"product": "Quay rub", "vessel": "Drum", "free": free.isoformat(), "mL": 2000}]
    assert asked["products"][0]["on_hand_mL"] == 0
    Batch.objects.filter(pk=batch.pk).update(state=State.RELEASED, rests_until=None)
    asked = season_of(workshop).document
    assert "running" not in asked
    assert asked["products"][0]["on_hand_mL"] == 2000
    Batch.objects.filter(pk=batch.pk).update(bad_since=timezone.now())
    assert season_of(workshop).document["products"][0]["on_hand_mL"] == 0


def test_own_minutes_need_two_batches_at_the_bench(rub):
    assert own_minutes(rub.formula) is None


# planned and shown


def test_a_plan_keeps_every_rule_and_its_page_says_it(bench, workshop, maker, rub, today):
    needs(rub, 1000.0, today + timedelta(days=9), times=4)
    plan = planned(workshop, maker)
    assert (plan.planned["unmet_mL"], plan.planned["evenings"], plan.planned["cost"]) == (0, 1, 31.0)
    page = bench.get(reverse("season:season")).content.decode()
    assert "1 evening at the bench, 31 EUR to spend. Every need is met." in " ".join(page.split())
    assert "Order 5 L Ethanol 96 %" in page
    assert "Make 4 L of Quay rub in the Drum" in " ".join(page.split())
    assert "No plan with less shortage" in page


def test_what_cannot_be_met_says_what_would_do(bench, workshop, maker, rub, today):
    needs(rub, 1000.0, today + timedelta(days=2))
    planned(workshop, maker)
    page = " ".join(bench.get(reverse("season:season")).content.decode().split())
    assert "One need cannot be met." in page
    assert "Quay rub: 1 L short on" in page
    assert "Ask for 1 L less on" in page


def test_the_list_by_week_has_everything_once(workshop, maker, rub, today):
    needs(rub, 2000.0, today + timedelta(days=5), every_days=7)
    plan = planned(workshop, maker)
    shown = Shown(plan)
    items = [item for week in shown.weeks for item in week.items]
    assert [item.kind for item in items].count("make") == len(plan.planned["batches"])
    assert [item.kind for item in items].count("buy") == len(plan.planned["buy"])
    assert [item.day for item in items] == sorted(item.day for item in items)


def test_played_ahead_it_says_how_often_it_runs_dry(bench, workshop, maker, rub):
    needs(rub, 200.0, timezone.localdate() + timedelta(days=5), every_days=7)
    planned(workshop, maker)
    page = bench.get(reverse("season:season") + "?ahead=1").content.decode()
    assert "Played 100 times" in page
    assert 'class="band"' in page


@pytest.mark.parametrize("query", ["?batch=99", "?batch=-1", "?batch=x", "?batch=", "?batch=9999999999999999999"])
def test_a_batch_that_is_none_opens_nothing(bench, workshop, maker, rub, today, query):
    needs(rub, 1000.0, today + timedelta(days=9))
    planned(workshop, maker)
    response = bench.get(reverse("season:season") + query)
    assert response.status_code == 200
    assert "Start this batch" not in response.content.decode()


# moved, kept, undone


def test_a_moved_batch_stays_and_the_rest_answers(bench, workshop, maker, rub, today):
    needs(rub, 1000.0, today + timedelta(days=9))
    plan = planned(workshop, maker)
    to = today + timedelta(days=4)
    bench.post(reverse("season:move", args=[plan.pk, 0]), {"to": to.isoformat()})
    moved = Plan.objects.newest_of(workshop)
    assert moved.planned["batches"][0]["start"] == to.isoformat()
    assert moved.pinned[0]["start"] == to.isoformat()
    assert len(moved.planned["batches"]) == 1  # moved, not made twice
    bench.post(reverse("season:make"))
    assert Plan.objects.newest_of(workshop).planned["batches"][0]["start"] == to.isoformat()
    bench.post(reverse("season:pin", args=[Plan.objects.newest_of(workshop).pk, 0]))
    assert Plan.objects.newest_of(workshop).pinned == []


def test_moved_too_late_it_goes_short_and_undone_it_does_not(bench, workshop, maker, rub, today):
    needs(rub, 1000.0, today + timedelta(days=9))
    plan = planned(workshop, maker)
    bench.post(reverse("season:move", args=[plan.pk, 0]), {"to": (today + timedelta(days=7)).isoformat()})
    assert len(Plan.objects.newest_of(workshop).planned["batches"]) == 2  # it comes too late: another is made
    bench.post(reverse("season:undo", args=[plan.pk]))
    assert Plan.objects.newest_of(workshop) == plan
    bench.post(reverse("season:undo", args=[plan.pk]))
    assert Plan.objects.newest_of(workshop) == plan  # there is none before it


@pytest.mark.parametrize(
    ("sent", "said"),
    [
        ({"to": "2020-01-01"}, "is outside this plan"),
        ({"to": "someday"}, "On which day?"),
        ({}, "On which day?"),
        ({"steps": "earlier"}, "There is no evening further that way"),
    ],
)
def test_a_move_that_cannot_be_is_said_and_nothing_moves(bench, workshop, maker, rub, today, sent, said):
    needs(rub, 1000.0, today + timedelta(days=9))
    plan = planned(workshop, maker)
    first = {**plan.planned["batches"][0], "start": today.isoformat()}
    plan.planned = {**plan.planned, "batches": [first]}
    plan.save()
    response = bench.post(reverse("season:move", args=[plan.pk, 0]), sent, follow=True)
    assert said in response.content.decode()
    assert Plan.objects.newest_of(workshop) == plan


def test_a_day_without_an_evening_is_no_day(workshop, maker, rub, today):
    needs(rub, 1000.0, today + timedelta(days=9))
    plan = planned(workshop, maker)
    shut = today + timedelta(days=3)
    Habits.objects.update(closed=[shut.isoformat()])
    with pytest.raises(CannotReckon, match="has no evening at the bench"):
        moves.move(plan, 0, shut, maker)


def test_a_press_in_an_old_tab_is_told_and_does_nothing(bench, workshop, maker, rub, today):
    needs(rub, 1000.0, today + timedelta(days=9))
    old = planned(workshop, maker)
    new = planned(workshop, maker)
    to = (today + timedelta(days=5)).isoformat()
    response = bench.post(reverse("season:move", args=[old.pk, 0]), {"to": to}, follow=True)
    assert "The plan has changed since this page was opened" in response.content.decode()
    assert Plan.objects.newest_of(workshop) == new


# begun, fallen behind


def test_a_planned_batch_becomes_a_real_one_once(bench, workshop, maker, rub, today):
    needs(rub, 1234.0, today + timedelta(days=9))
    plan = planned(workshop, maker)
    for _ in range(2):
        response = bench.post(reverse("season:start", args=[plan.pk, 0]))
        assert response.url == reverse("batches:prepare", args=[Batch.objects.get().pk])
    batch = Batch.objects.get()
    assert batch.vessel.name == "Drum"
    assert batch.formula().make.mL == pytest.approx(1300.0)  # rounded up to what a maker measures
    assert Started.objects.count() == 1
    page = bench.get(reverse("season:season")).content.decode()
    assert "done" in page
    assert "Start this batch" not in bench.get(reverse("season:season") + "?batch=0").content.decode()


def test_a_batch_at_the_top_of_its_vessel_is_not_rounded_over_it(workshop, maker, rub, today):
    rub.most_mL = 1234.0
    rub.save()
    needs(rub, 1234.0, today + timedelta(days=9))
    plan = planned(workshop, maker)
    assert moves.made_mL(plan, plan.planned["batches"][0]) == 1234.0


def test_fallen_behind_the_rest_stays_where_it_is(bench, workshop, maker, rub, today):
    needs(rub, 9000.0, today + timedelta(days=8))
    needs(rub, 9000.0, today + timedelta(days=20))
    plan = planned(workshop, maker)
    rows = plan.planned["batches"]
    assert len(rows) == 2
    rows[0] = {
        **rows[0],
        "start": (today - timedelta(days=1)).isoformat(),
        "free": (today + timedelta(days=2)).isoformat(),
    }
    plan.asked["from"] = (today - timedelta(days=2)).isoformat()
    plan.planned = {**plan.planned, "batches": rows}
    plan.save()
    page = " ".join(bench.get(reverse("season:season")).content.decode().split())
    assert "Not started yet:" in page, page
    bench.post(reverse("season:make"), {"keep": "1"})
    anew = Plan.objects.newest_of(workshop)
    assert anew.planned["unmet_mL"] == 0
    assert rows[1] in anew.planned["batches"]
    assert all(row["start"] >= today.isoformat() for row in anew.planned["batches"])


def test_where_the_rest_would_let_somebody_go_short_it_moves_too(workshop, maker, rub, today):
    """One drum: what stands in it for the later need is in the way of an earlier one that came in since."""
    alcohol(workshop, 10_000.0, "60.00")
    needs(rub, 9000.0, today + timedelta(days=8))
    plan = planned(workshop, maker)
    row = plan.planned["batches"][0]
    needs(rub, 1000.0, today + timedelta(days=3))  # begun today, or not at all
    late = {**row, "start": (today + timedelta(days=1)).isoformat(), "free": (today + timedelta(days=4)).isoformat()}
    plan.planned = {**plan.planned, "batches": [late]}
    plan.save()
    anew = begin(workshop, maker, "Again.", [], keep=True)
    assert anew.planned["unmet_mL"] == 0


# shopping


def test_what_was_bought_stands_on_the_shelf_once_at_what_was_paid(bench, workshop, maker, rub, today):
    needs(rub, 1000.0, today + timedelta(days=9), times=8)
    plan = planned(workshop, maker)
    assert [row["packs"] for row in plan.planned["buy"]] == [1]
    page = bench.get(reverse("season:shopping")).content.decode()
    assert "5 L Ethanol 96 %" in page
    for _ in range(2):
        bench.post(reverse("season:bag", args=[plan.pk, 0]), {"0-price": "29.50"})
    new = Stock.objects.order_by("-pk").first()
    assert Stock.objects.count() == 2
    assert (new.material, str(new.strength), float(new.price), new.amount.mL) == ("ethanol", "96 % v/v", 29.5, 5000.0)
    assert new.bought_on == timezone.localdate()
    assert season_of(workshop).document["stocks"][0]["left"] == pytest.approx(7000.0)
    assert "bought, on the shelf" in bench.get(reverse("season:shopping")).content.decode()
    assert Bagged.objects.count() == 1


def test_what_is_not_to_be_had_has_what_would_do(bench, workshop, maker, rub, today):
    """Isopropanol for ethanol at the same strength by volume (CDC names both); 70 % cannot reach 76.8 %."""
    needs(rub, 9000.0, today + timedelta(days=10))
    made = planned(workshop, maker)
    weak, strong = ("Weak can", 70.0), ("Isopropyl", 99.0)
    for (name, strength), material in ((weak, "ethanol"), (strong, "isopropanol")):
        stock = Stock(workshop=workshop, material=material, name=name, price="9.00")
        stock.amount, stock.strength = Quantity(1000.0, "mL"), Strength.of(strength, "v/v")
        stock.save()
    page = bench.get("/season/shopping/").content.decode()
    assert made.planned["buy"]
    assert "Can’t get it?" in page
    assert "Isopropanol, 99 %: 775.8 mL a litre. It is on your shelf." in page  # 0.8 L of 96 % in 99 %
    assert "70 %" not in page
    formula = rub.formula.current
    assert f"/formulas/{rub.formula_id}/swap/0/?to=isopropanol" in page
    assert formula == rub.formula.current  # nothing was changed by looking


def test_two_packs_are_two_bottles_and_share_what_was_paid(workshop, maker, rub, today):
    needs(rub, 1000.0, today + timedelta(days=9), times=10)
    Habits.objects.update(minutes=120.0)
    Product.objects.update(most_mL=12_000.0)
    Stock.objects.update(amount_value=2500.0)
    plan = planned(workshop, maker)
    packs = plan.planned["buy"][0]["packs"]
    stocks = moves.bag(plan, 0, None)
    assert len(stocks) == packs > 1
    assert {float(one.price) for one in stocks} == {31.0}


def test_a_price_that_is_none_is_said_and_nothing_is_bought(bench, workshop, maker, rub, today):
    needs(rub, 1000.0, today + timedelta(days=9), times=8)
    plan = planned(workshop, maker)
    response = bench.post(reverse("season:bag", args=[plan.pk, 0]), {"0-price": "cheap"}, follow=True)
    assert "What did it cost?" in response.content.decode()
    assert Stock.objects.count() == 1


# forms


@pytest.mark.parametrize(
    ("sent", "said"),
    [
        ({"kind": "every", "mL": "", "times": "1", "every_days": "7"}, "How much? Such as 100 mL."),
        ({"kind": "every", "mL": "1 L", "times": "1", "every_days": ""}, "How often? 7 is once a week."),
        ({"kind": "once", "mL": "1 L", "times": "1"}, "On which day?"),
        ({"kind": "once", "mL": "1 L", "times": "1", "on": "2020-01-01"}, "That day has passed."),
        ({"kind": "never", "mL": "1 L", "times": "1"}, "Select a valid choice"),
    ],
)
def test_a_need_that_is_not_all_said_is_asked_for(bench, rub, sent, said):
    page = bench.post(reverse("season:product", args=[rub.pk]), sent).content.decode()
    assert said in page
    assert not Need.objects.exists()


def test_needs_products_and_evenings_are_kept(bench, workshop, rub, today):
    bench.post(
        reverse("season:product", args=[rub.pk]),
        {"kind": "every", "who": "boats", "mL": "100", "times": "10", "every_days": "7"},
    )
    need = Need.objects.get()
    assert (need.all_mL, need.every_days, str(need)) == (1000.0, 7, "Quay rub for boats")
    bench.post(reverse("season:need_remove", args=[rub.pk, need.pk]))
    assert not Need.objects.exists()
    drum = Vessel.objects.get()
    sent = {"formula": rub.formula_id, "least": "2 L", "most": "1 L", "minutes": "", "vessels": [drum.pk]}
    page = bench.post(reverse("season:product", args=[rub.pk]), sent).content.decode()
    assert "Less than the smallest batch of 2 L." in page
    bench.post(reverse("season:product", args=[rub.pk]), sent | {"most": "4 L"})
    rub.refresh_from_db()
    assert (rub.least_mL, rub.most_mL, rub.minutes, rub.vessels) == (2000.0, 4000.0, None, [drum])
    evenings = {"open_days": ["fri"], "minutes": "75", "weeks": "3", "delivery_days": "4", "service": "10"}
    page = bench.post(reverse("season:habits"), evenings | {"closed_text": "soon"}).content.decode()
    assert "“soon” is no date such as 2026-12-24." in page
    bench.post(reverse("season:habits"), evenings | {"closed_text": "2026-12-25, 2026-12-24"})
    habits = Habits.objects.get()
    assert (habits.open_days, habits.closed, habits.weeks) == (["fri"], ["2026-12-24", "2026-12-25"], 3)
    page = bench.post(reverse("season:habits"), {**evenings, "open_days": [], "closed_text": ""}).content.decode()
    assert "Choose at least one evening a week." in page
    bench.post(reverse("season:product_remove", args=[rub.pk]))
    assert not Product.objects.exists()
    assert Formula.objects.filter(workshop=workshop).exists()


def test_an_empty_season_leads_to_its_first_product(bench, workshop):
    page = bench.get(reverse("season:season")).content.decode()
    assert reverse("season:product_add") in page
    for name in ("needs", "shopping", "habits", "product_add"):
        assert bench.get(reverse(f"season:{name}")).status_code == 200


def test_a_planner_that_is_gone_is_said_to_have_failed(bench, workshop, maker, rub):
    plan = Plan.objects.create(workshop=workshop, by=maker, asked=season_of(workshop).document)
    given_up(workshop)
    plan.refresh_from_db()
    assert plan.state == Plan.State.WORKING
    Plan.objects.update(at=timezone.now() - timedelta(minutes=5))
    page = bench.get(reverse("season:season")).content.decode()
    assert "The planner stopped. Plan again." in page
    bench.post(reverse("season:stop"))


def test_what_is_worked_out_can_be_stopped(bench, workshop, maker, rub):
    plan = Plan.objects.create(workshop=workshop, by=maker, asked=season_of(workshop).document)
    page = bench.get(reverse("season:progress", args=[plan.pk]))
    assert "Stop" in page.content.decode()
    bench.post(reverse("season:stop"))
    plan.refresh_from_db()
    assert plan.state == Plan.State.STOPPED
    assert bench.get(reverse("season:progress", args=[plan.pk]))["HX-Redirect"] == reverse("season:season")


def test_another_workshops_season_is_not_seen(client, workshop, maker, rub, today):
    needs(rub, 1000.0, today + timedelta(days=9))
    plan = planned(workshop, maker)
    other = Workshop.objects.create(name="Other quay")
    stranger = User.objects.create_user("stranger")
    Membership.objects.create(user=stranger, workshop=other)
    client.force_login(stranger)
    for address in (
        reverse("season:product", args=[rub.pk]),
        reverse("season:progress", args=[plan.pk]),
    ):
        assert client.get(address).status_code == 404
    for name in ("move", "pin", "start", "bag"):
        assert client.post(reverse(f"season:{name}", args=[plan.pk, 0])).status_code == 404
    assert "Quay rub" not in client.get(reverse("season:season")).content.decode()


def test_the_season_is_a_firkin_season_that_reads_back(workshop, rub, today):
    needs(rub, 1000.0, today + timedelta(days=3), every_days=2)
    assert season_from_dict(season_of(workshop).document).days == 28


def test_the_plan_is_in_the_calendar_and_its_feed_until_it_is_begun(bench, workshop, maker, rub, today):
    needs(rub, 1000.0, today + timedelta(days=9), times=4)
    plan = planned(workshop, maker)
    page = bench.get(reverse("batches:calendar")).content.decode()
    assert "Make 4 L of Quay rub in the Drum" in page
    assert "Order 5 L Ethanol 96 %" in page
    feed = CalendarFeed.objects.create(workshop=workshop, owner=maker)
    file = bench.get(reverse("batches:feed", args=[feed.token])).content.decode().replace("\r\n ", "")
    assert "Make 4 L of Quay rub" in file
    assert "/season/" in file
    bench.post(reverse("season:start", args=[plan.pk, 0]))
    assert "Make 4 L of Quay rub" not in bench.get(reverse("batches:feed", args=[feed.token])).content.decode()


def test_what_has_passed_is_in_no_calendar(workshop, maker, rub, today):
    needs(rub, 1000.0, today + timedelta(days=9))
    plan = planned(workshop, maker)
    row = plan.planned["batches"][0]
    for days, there in ((-1, 0), (0, 1), (1, 1)):
        moved = {**row, "start": (today + timedelta(days=days)).isoformat()}
        plan.asked["from"] = (today - timedelta(days=2)).isoformat()
        plan.planned = {**plan.planned, "batches": [moved], "buy": []}
        plan.save()
        assert len(planned_events(workshop, None, None)) == there


def test_begun_and_planned_again_it_is_not_planned_twice(bench, workshop, maker, rub, today):
    needs(rub, 1000.0, today + timedelta(days=9), times=4)
    plan = planned(workshop, maker)
    bench.post(reverse("season:start", args=[plan.pk, 0]))
    asked = season_of(workshop).document
    assert [row["mL"] for row in asked["running"]] == [4000]
    assert asked["stocks"][0]["left"] == 0.0  # 2 L were there, and the batch takes 3.2 L
    bench.post(reverse("season:make"))
    anew = Plan.objects.newest_of(workshop)
    assert (anew.planned["batches"], anew.planned["unmet_mL"]) == ([], 0)
    Batch.objects.update(created_at=timezone.now() - timedelta(days=15))  # planned, and forgotten
    assert "running" not in season_of(workshop).document


def test_begun_bought_and_undone_it_stays_begun_and_bought(bench, workshop, maker, rub, today):
    needs(rub, 1000.0, today + timedelta(days=9), times=4)
    first = planned(workshop, maker)
    second = begin(workshop, maker, "Again.", [])
    assert second.planned["batches"] == first.planned["batches"]
    bench.post(reverse("season:start", args=[second.pk, 0]))
    bench.post(reverse("season:bag", args=[second.pk, 0]), {"0-price": "31.00"})
    bench.post(reverse("season:undo", args=[second.pk]))
    assert Plan.objects.newest_of(workshop) == first
    bench.post(reverse("season:start", args=[first.pk, 0]))
    bench.post(reverse("season:bag", args=[first.pk, 0]), {"0-price": "31.00"})
    assert (Batch.objects.count(), Stock.objects.count()) == (1, 2)
    assert Shown(first).soon == []


def test_a_ferment_is_vented_and_a_soap_looked_at_again_on_later_evenings(workshop, maker, rub, today):
    """As the bench lets it come due: daily in the first week, then less; re-checks a day after it is ready."""
    for key, least in (("citrus-ferment", 1000.0), ("bar-soap-liquid", 1000.0)):
        formula = Formula.objects.keep(house_formulas()[key].formula, workshop, maker)
        Product.objects.create(formula=formula, least_mL=least, most_mL=5000.0, minutes=30.0)
    rows = {row["id"]: row for row in season_of(workshop).document["products"]}
    vents = [one for one in rows["Citrus ferment"]["later"] if one["minutes"] == 2.0]
    assert [one["after_days"] for one in vents][:8] == [1, 2, 3, 4, 5, 6, 7, 10]
    assert rows["Citrus ferment"]["later"][-1]["minutes"] >= 15.0
    assert rows["Quay rub"]["later"] == [{"after_days": 3, "minutes": 15.0}]
    assert {one["minutes"] for one in rows["Liquid soap from bars"]["later"]} == {15.0, 5.0}
