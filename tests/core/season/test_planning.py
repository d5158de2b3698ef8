"""Plans of seasons: every rule held by a check of its own, the best of an independent model, and limits by hand."""

import json
import random
from copy import deepcopy
from pathlib import Path

import pytest

from firkin.core.errors import CannotRead
from firkin.core.season import plan_season, plan_to_dict, season_from_dict
from often import often
from season_check import needs_of, wrong_with

#: Six small seasons, each with the least unmet mL, evenings and cost that an independent model found. Invented.
CASES = json.loads(Path(__file__).with_name("cases.json").read_text())


def planned(season: dict, seconds: float = 20.0) -> dict:
    return plan_to_dict(plan_season(season_from_dict(season), seconds))


def small(**changed: object) -> dict:
    """A rub that takes three days, a drum of 10 L, an evening of an hour each Thursday."""
    season = {
        "format": "firkin-season/1",
        "from": "2026-12-01",  # a Tuesday
        "days": 21,
        "evening": {"minutes": 60, "days": ["thu"]},
        "products": [
            {
                "id": "rub", "on_hand_mL": 0, "batch_mL": [500, 10000], "minutes": 40, "wait_h": 72, "keeps_days": 730,
                "vessels": ["drum"], "takes": {"ethanol": 0.8},
            }
        ],
        "needs": [{"product": "rub", "mL": 1000, "on": "2026-12-06"}],
        "vessels": [{"id": "drum", "mL": 10000, "count": 1}],
        "stocks": [{"id": "ethanol", "left": 5000}],
    }  # fmt: skip
    for key, value in changed.items():
        if "__" in key:
            where, _, name = key.partition("__")
            season[where][0][name] = value
        else:
            season[key] = value
    return season


@pytest.mark.parametrize(
    "case", often(CASES, *(CASES[n] for n in (0, 1, 2, 4, 5))), ids=[f"case-{n}" for n in range(len(CASES))]
)
def test_it_is_as_good_as_the_best_of_an_independent_model(case: dict) -> None:
    plan = planned(case["season"])
    assert [plan["unmet_mL"], plan["evenings"], plan["cost"]] == case["best"]
    assert plan["proven"]
    assert wrong_with(case["season"], plan) == []


def drawn(seed: int) -> dict:
    """A season drawn at random: everything the format knows, mostly tight."""
    draws = random.Random(seed)
    days = draws.choice([7, 14, 28])
    vessels = [
        {"id": f"v{n}", "mL": draws.choice([1000, 2500, 5000]), "count": draws.choice([1, 1, 2])} for n in range(2)
    ]
    stocks = []
    for n in range(2):
        stock = {"id": f"s{n}", "left": draws.choice([0, 500, 2500.5])}
        if draws.random() < 0.7:
            packs = [
                {"size": draws.choice([500, 1000]), "price": draws.choice([3.5, 7.0]), "days": draws.choice([0, 2, 5])}
                for _ in range(draws.choice([1, 2]))
            ]
            packs = list({pack["size"]: pack for pack in packs}.values())
            stock["buy"] = packs if len(packs) > 1 else packs[0]
        if draws.random() < 0.3:
            stock["good_until"] = f"2026-12-{draws.choice(['03', '08', '12'])}"
        stocks.append(stock)
    products = []
    for n in range(draws.choice([1, 2, 3])):
        product = {
            "id": f"p{n}", "on_hand_mL": draws.choice([0, 300]), "batch_mL": [draws.choice([1, 400, 900]), 4000],
            "minutes": draws.choice([20, 45]), "wait_h": draws.choice([0, 1, 24, 72, 73]),
            "keeps_days": draws.choice([3, 5, 30]), "vessels": draws.choice([["v0"], ["v1"], ["v0", "v1"]]),
            "takes": {"s0": draws.choice([0.0, 0.3, 0.833])},
        }  # fmt: skip
        if draws.random() < 0.3:
            product["takes"] = [product["takes"], {"s1": 0.5}]
        if draws.random() < 0.3:
            product["later"] = [{"after_days": draws.choice([1, 2, 7]), "minutes": 20}]
        products.append(product)
    needs = []
    for _ in range(draws.choice([1, 2, 4])):
        need = {"product": draws.choice(products)["id"], "mL": draws.choice([150, 700, 2600])}
        if draws.random() < 0.5:
            needs.append(need | {"on": f"2026-12-{draws.randint(1, days):02d}"})
        else:
            needs.append(need | {"every_days": draws.choice([2, 7]), "first": "2026-12-02"})
    season = small(days=days, vessels=vessels, stocks=stocks, products=products, needs=needs)
    season["evening"] = {"minutes": draws.choice([45, 60, 90]), "days": ["tue", "thu", "sat"], "closed": ["2026-12-05"]}
    if draws.random() < 0.3:
        one = products[0]
        free = 1 + draws.randint(0, 3)
        season["running"] = [
            {"product": one["id"], "vessel": one["vessels"][0], "free": f"2026-12-{free:02d}", "mL": 400}
        ]
    return season


@pytest.mark.parametrize("seed", often(range(40), *range(10)))
def test_every_plan_keeps_every_rule(seed: int) -> None:
    season = drawn(seed)
    assert wrong_with(season, planned(season, 10.0)) == []


@pytest.mark.long
@pytest.mark.parametrize("seed", range(40, 300))
def test_many_more_plans_keep_every_rule(seed: int) -> None:
    season = drawn(seed)
    assert wrong_with(season, planned(season, 10.0)) == []


@pytest.mark.parametrize(("on", "unmet"), [("2026-12-05", 1000), ("2026-12-06", 0)])
def test_a_rest_of_72_hours_is_three_days(on: str, unmet: int) -> None:
    """Started on Thursday the 3rd it is free on the 6th."""
    plan = planned(small(needs=[{"product": "rub", "mL": 1000, "on": on}]))
    assert plan["unmet_mL"] == unmet
    if unmet:
        assert "wait" in plan["short"][0]["why"]


@pytest.mark.parametrize(("wait_h", "free"), [(72, "2026-12-06"), (72.1, "2026-12-07"), (0, "2026-12-03")])
def test_a_part_of_a_day_is_a_day(wait_h: float, free: str) -> None:
    plan = planned(small(products__wait_h=wait_h, needs=[{"product": "rub", "mL": 1000, "on": "2026-12-09"}]))
    assert plan["batches"][0]["free"] == free


@pytest.mark.parametrize(("keeps", "unmet"), [(3, 0), (2, 1000)])
def test_it_serves_through_its_last_day_and_no_longer(keeps: int, unmet: int) -> None:
    plan = planned(small(products__keeps_days=keeps))
    assert plan["unmet_mL"] == unmet


@pytest.mark.parametrize(("left", "mL"), [(800.0, 1000), (799.9, 999), (0.0, 0)])
def test_a_stock_ends_with_its_last_drop_and_a_batch_is_whole_millilitres(left: float, mL: int) -> None:
    plan = planned(small(stocks=[{"id": "ethanol", "left": left}], products__batch_mL=[1, 10000]))
    assert 1000 - plan["unmet_mL"] == mL


@pytest.mark.parametrize(("days", "unmet"), [(2, 0), (3, 1000)])
def test_a_pack_is_there_on_its_day_and_can_be_used_that_day(days: int, unmet: int) -> None:
    stock = {"id": "ethanol", "left": 0, "buy": {"size": 1000, "price": 7.0, "days": days}}
    plan = planned(small(stocks=[stock]))
    assert plan["unmet_mL"] == unmet
    if not unmet:
        assert plan["buy"] == [{"stock": "ethanol", "packs": 1, "order": "2026-12-01", "arrives": "2026-12-03"}]


@pytest.mark.parametrize(("minutes", "unmet"), [(40, 0), (39, 1000)])
def test_an_evening_has_its_minutes_and_no_more(minutes: int, unmet: int) -> None:
    season = small()
    season["evening"]["minutes"] = minutes
    assert planned(season)["unmet_mL"] == unmet


def test_of_two_evenings_one_is_enough_where_the_drum_holds_both() -> None:
    needs = [{"product": "rub", "mL": 1500, "on": day} for day in ("2026-12-06", "2026-12-20")]
    plan = planned(small(needs=needs))
    assert (plan["evenings"], plan["left_mL"]) == (1, 0)


def test_when_not_all_can_be_met_the_later_need_goes_short() -> None:
    needs = [{"product": "rub", "mL": 600, "on": day} for day in ("2026-12-13", "2026-12-06")]
    plan = planned(small(needs=needs, stocks=[{"id": "ethanol", "left": 800.0}], products__batch_mL=[1, 10000]))
    assert [(one["on"], one["mL"]) for one in plan["short"]] == [("2026-12-13", 200)]
    assert plan["short"][0]["why"] == ["stock"]


def test_the_cheaper_of_two_stocks_is_taken_and_the_better_of_two_packs() -> None:
    stocks = [
        {
            "id": "ethanol",
            "left": 0,
            "buy": [{"size": 500, "price": 9.0, "days": 1}, {"size": 2000, "price": 12.0, "days": 1}],
        },
        {"id": "propanol", "left": 0, "buy": {"size": 1000, "price": 11.0, "days": 1}},
    ]
    plan = planned(small(stocks=stocks, products__takes=[{"ethanol": 0.8}, {"propanol": 0.8}]))
    assert plan["cost"] == 11.0
    assert plan["batches"][0]["takes"] == {"propanol": 0.8}
    dear = deepcopy(stocks)
    dear[1]["buy"]["price"] = 13.0
    plan = planned(small(stocks=dear, products__takes=[{"ethanol": 0.8}, {"propanol": 0.8}]))
    assert (plan["cost"], plan["buy"][0]["size"]) == (12.0, 2000)


@pytest.mark.parametrize(("mL", "evenings"), [(5000, 1), (4999, 2)])
def test_never_more_alcohol_in_the_place_than_the_limit(mL: int, evenings: int) -> None:
    """By hand: 4.8 L of ethanol less 0.8 L and a litre of rub are 5 L; below that it takes two evenings, half a litre each."""
    needs = [{"product": "rub", "mL": 500, "on": "2026-12-06"}, {"product": "rub", "mL": 500, "on": "2026-12-20"}]
    stocks = [{"id": "ethanol", "left": 4800}]
    limit = [{"products": ["rub"], "stocks": ["ethanol"], "mL": mL}]
    plan = planned(small(needs=needs, stocks=stocks, limits=limit))
    assert (plan["unmet_mL"], plan["evenings"]) == (0, evenings)


def test_what_runs_holds_its_drum_and_serves_from_when_it_is_free() -> None:
    running = [{"product": "rub", "vessel": "drum", "free": "2026-12-05", "mL": 700}]
    plan = planned(small(running=running))
    assert plan["unmet_mL"] == 300  # the drum is not free on Thursday
    assert "vessel" in plan["short"][0]["why"]
    assert plan["batches"] == []


@pytest.mark.parametrize(("free", "unmet"), [("2026-12-04", 300), ("2026-12-03", 0)])
def test_what_runs_holds_its_drum_from_now_on_however_short_its_rest_is(free: str, unmet: int) -> None:
    """Without a rest of its own it would have been started the day it is free; it stands there all the same."""
    running = [{"product": "rub", "vessel": "drum", "free": free, "mL": 700}]
    needs = [{"product": "rub", "mL": 1000, "on": "2026-12-05"}]
    plan = planned(small(running=running, needs=needs, products__wait_h=0))
    assert plan["unmet_mL"] == unmet


def test_what_is_pinned_stays_and_the_rest_is_planned_around_it() -> None:
    free = planned(small(needs=[{"product": "rub", "mL": 1000, "on": "2026-12-20"}]))
    pinned = [{"product": "rub", "vessel": "drum", "start": "2026-12-10", "free": "2026-12-13", "mL": 600}]
    plan = planned(small(needs=[{"product": "rub", "mL": 1000, "on": "2026-12-20"}], pinned=pinned))
    assert free["evenings"] == 1
    assert {key: plan["batches"][0][key] for key in pinned[0]} == pinned[0] or plan["batches"][1][
        "start"
    ] == "2026-12-10"
    assert plan["unmet_mL"] == 0
    assert sum(one["mL"] for one in plan["batches"]) == 1100 or plan["left_mL"] == 100


@pytest.mark.parametrize(
    ("changed", "path"),
    [
        ({"needs": [{"product": "soap", "mL": 5, "on": "2026-12-06"}]}, ("needs", 0, "product")),
        ({"needs": [{"product": "rub", "mL": 5, "on": "2026-13-06"}]}, ("needs", 0, "on")),
        ({"needs": [{"product": "rub", "mL": 5}]}, ("needs", 0, "on")),
        ({"products__vessels": ["pot"]}, ("products", 0, "vessels", 0)),
        ({"products__takes": {"rum": 1}}, ("products", 0, "takes", "rum")),
        ({"products__batch_mL": [5, 1]}, ("products", 0, "batch_mL")),
        ({"vessels": [{"id": "drum", "mL": 1, "count": 1}] * 2}, ("vessels", 1, "id")),
        ({"from": "today"}, ("from",)),
    ],
)
def test_what_refers_to_nothing_is_refused_with_its_path(changed: dict, path: tuple) -> None:
    with pytest.raises(CannotRead) as error:
        season_from_dict(small(**changed))
    assert tuple(error.value.path) == path


def test_nothing_needed_is_no_plan_and_no_evening() -> None:
    plan = planned(small(needs=[]))
    assert (plan["evenings"], plan["cost"], plan["batches"], plan["proven"]) == (0, 0, [], True)
    assert needs_of(small(needs=[])) == []
