"""A plan pencilled in keeps the rules of evenings, vessels and sizes; a large season begun from it keeps them all."""

import random
from collections import Counter

import pytest

from firkin.core.season import plan_season, plan_to_dict, season_from_dict
from firkin.core.season.greedy import first_plan
from pace import slower
from season_check import wrong_with


def drawn(seed: int, products: int = 4, days: int = 42) -> dict:
    draws = random.Random(seed)
    return {
        "format": "firkin-season/1",
        "from": "2026-12-01",
        "days": days,
        "evening": {"minutes": draws.choice([60, 120]), "days": ["mon", "thu", "sat"], "closed": ["2026-12-24"]},
        "products": [
            {
                "id": f"p{i}", "on_hand_mL": draws.choice([0, 500]), "batch_mL": [500, draws.choice([2000, 10000])],
                "minutes": draws.choice([30, 60]), "wait_h": draws.choice([0, 12, 72]), "keeps_days": draws.choice([14, 400]),
                "vessels": draws.sample(["drum", "jug"], draws.choice([1, 2])), "takes": {"s": draws.choice([0.1, 0.8])},
                "later": draws.choice([[], [{"after_days": 2, "minutes": 15}]]),
            }
            for i in range(products)
        ],
        "needs": [
            {"product": f"p{i % products}", "mL": draws.choice([300, 1500]), "every_days": draws.choice([7, 14]), "first": "2026-12-04"}
            for i in range(products + 2)
        ],
        "vessels": [{"id": "drum", "mL": 10000, "count": 1}, {"id": "jug", "mL": 2500, "count": 2}],
        "stocks": [{"id": "s", "left": draws.choice([500, 9000]), "buy": {"size": 5000, "price": 31.0, "days": 2}}],
    }  # fmt: skip


@pytest.mark.parametrize("seed", range(25))
def test_what_is_pencilled_in_keeps_evenings_vessels_and_sizes(seed: int) -> None:
    season = season_from_dict(drawn(seed))
    minutes: Counter[int] = Counter()
    stands: Counter[tuple[str, int]] = Counter()
    for key, day, vessel, _, mL in first_plan(season):
        product = season.product(key)
        assert day in season.evening.days
        assert product.least <= mL <= min(product.most, season.vessel(vessel).mL)
        assert vessel in product.vessels
        minutes[day] += int(product.minutes)
        for after, much in product.later:
            if day + after in season.evening.days:
                minutes[day + after] += int(much)
        for at in range(day, day + max(1, product.wait_days)):
            stands[vessel, at] += 1
    assert all(much <= season.evening.minutes for much in minutes.values())
    assert all(count <= season.vessel(key).count for (key, _), count in stands.items())


@pytest.mark.parametrize("seed", [1, 2])
def test_without_a_pack_no_more_is_pencilled_in_than_the_stock_holds(seed: int) -> None:
    season = drawn(seed)
    season["stocks"] = [{"id": "s", "left": 700}]
    asked = season_from_dict(season)
    taken = sum(dict(asked.product(key).takes[0])["s"] * mL for key, _, _, _, mL in first_plan(asked))
    assert taken <= 700.0 + 1e-6


@pytest.mark.long
def test_hardly_any_time_for_a_large_season_is_no_fault() -> None:
    """Where time ends before anything is proven the plan says so, and keeps every rule."""
    season = drawn(3, products=11, days=150)
    plan = plan_to_dict(plan_season(season_from_dict(season), 0.01))
    assert wrong_with(season, plan) == []
    assert plan["proven"] is False


@pytest.mark.parametrize("seed", [3, pytest.param(4, marks=pytest.mark.long), pytest.param(5, marks=pytest.mark.long)])
def test_a_large_season_keeps_every_rule(seed: int) -> None:
    season = drawn(seed, products=11, days=150)
    plan = plan_to_dict(plan_season(season_from_dict(season), 1.0 * slower()))
    assert wrong_with(season, plan) == []
    pencilled = sum(1 for _ in first_plan(season_from_dict(season)))
    assert pencilled
    assert plan["evenings"] <= 3 * pencilled
