"""What is said of a plan once it is made: the smallest change that would do, levels day by day, played ahead."""

from dataclasses import replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.season import Season, levels, plan_season, play_ahead, season_from_dict, unmet_by_product
from often import tries


def season(**changes: Any) -> dict[str, Any]:
    """A rub wanted on day 10, one drum, one evening, stock for it all."""
    return {
        "format": "firkin-season/1",
        "from": "2026-12-01",  # a Tuesday
        "days": 14,
        "evening": {"minutes": 60, "days": ["tue"]},
        "products": [product("rub")],
        "needs": [{"product": "rub", "mL": 1000, "on": "2026-12-11"}],
        "vessels": [{"id": "drum", "mL": 1000, "count": 1}],
        "stocks": [{"id": "ethanol", "left": 10_000}],
    } | changes


def product(key: str, **changes: Any) -> dict[str, Any]:
    return {
        "id": key, "on_hand_mL": 0, "batch_mL": [100, 1000], "minutes": 60, "wait_h": 72, "keeps_days": 700,
        "vessels": ["drum"], "takes": {"ethanol": 0.8},
    } | changes  # fmt: skip


TWO_WANTED = [{"product": key, "mL": 1000, "on": "2026-12-11"} for key in ("rub", "gel")]
CLOSED = {"minutes": 60, "days": ["tue"], "closed": ["2026-12-08"]}


@pytest.mark.parametrize(
    ("changes", "why", "would_do"),
    [
        (
            {"stocks": [{"id": "ethanol", "left": 500}]},
            ("stock",),
            "300 more of ethanol by Tuesday 8 December would do. Or ask for 375 mL less on Friday 11 December.",
        ),
        (
            {"evening": {"minutes": 60, "days": ["sun"], "closed": ["2026-12-06"]}},
            ("evening",),
            "An evening on Tuesday 8 December would do. Or ask for 1 L less on Friday 11 December.",
        ),
        (
            {"evening": {"minutes": 40, "days": ["tue"]}},
            ("evening",),
            "Evenings of 80 minutes would do. Or ask for 1 L less on Friday 11 December.",
        ),
        (
            {"products": [product("rub", minutes=30), product("gel", minutes=30)], "needs": TWO_WANTED, "evening": CLOSED},
            ("vessel",),
            "An evening on Tuesday 8 December or one more drum would do. Or ask for 1 L less on Friday 11 December.",
        ),
        (
            {"products": [product("rub", batch_mL=[100, 400], minutes=60)], "evening": CLOSED},
            ("size",),
            "Batches of up to 1 L would do. Or ask for 600 mL less on Friday 11 December.",
        ),
        (
            {"needs": [{"product": "rub", "mL": 1000, "on": "2026-12-02"}]},
            ("wait",),
            "Ask for 1 L less on Wednesday 2 December.",
        ),
        (
            {"products": [product("rub", wait_h=24 * 13)]},
            ("wait",),
            "Ask for 1 L less on Friday 11 December.",
        ),
    ],
)  # fmt: skip
def test_the_smallest_change_that_would_do(changes: dict[str, Any], why: tuple[str, ...], would_do: str) -> None:
    plan = plan_season(season_from_dict(season(**changes)), 10.0)
    assert [(set(why) <= set(one.why), one.would_do) for one in plan.short] == [(True, would_do)]


@given(st.integers(100, 790), st.sampled_from(["rub", "gel"]))
@tries(4)
def test_as_much_more_of_a_stock_does_and_a_little_less_does_not(left: int, short: str) -> None:
    asked = season_from_dict(season(stocks=[{"id": "ethanol", "left": left}], products=[product("rub")]))
    plan = plan_season(asked, 10.0)
    more = float(plan.short[0].would_do.split(" ")[0].replace(" ", ""))

    def unmet(extra: float) -> float:
        stocks = tuple(replace(one, left=one.left + extra) for one in asked.stocks)
        found = unmet_by_product(replace(asked, stocks=stocks), 5.0)
        assert found is not None
        return found["rub"]

    assert unmet(more) < 0.5
    assert unmet(more - 2.0) > 0.5


def test_a_change_that_takes_from_another_is_none() -> None:
    """One drum, one evening, two wanted: a larger batch of one helps nobody."""
    both = season(
        products=[product("rub", minutes=30), product("gel", minutes=30)], needs=TWO_WANTED, evening=CLOSED,
        vessels=[{"id": "drum", "mL": 1000, "count": 1}], stocks=[{"id": "ethanol", "left": 800}],
    )  # fmt: skip
    plan = plan_season(season_from_dict(both), 10.0)
    assert [one.would_do for one in plan.short] == [
        "More than one thing is in the way. Ask for 1 L less on Friday 11 December."
    ]


def seasons() -> st.SearchStrategy[Season]:
    return st.builds(
        lambda on_hand, wants, keeps, wait: season_from_dict(
            season(
                products=[product("rub", on_hand_mL=on_hand, keeps_days=keeps, wait_h=wait)],
                needs=[{"product": "rub", "mL": mL, "on": f"2026-12-{day:02d}"} for day, mL in wants],
                evening={"minutes": 60, "days": ["tue", "fri", "sun"]},
            )
        ),
        st.integers(0, 1500),
        st.lists(st.tuples(st.integers(1, 14), st.integers(1, 900)), max_size=6),
        st.integers(4, 20),
        st.sampled_from([0, 24, 72, 100]),
    )


@given(seasons())
@tries(12)
def test_levels_give_what_the_plan_gives_and_never_go_below_nothing(asked: Season) -> None:
    plan = plan_season(asked, 5.0)
    rows = levels(plan, "rub")
    assert [row.day for row in rows] == list(range(asked.days))
    assert all(row.after >= -1e-9 for row in rows)
    wanted = sum(need.mL for need in asked.needs)
    assert sum(row.before - row.after for row in rows) == pytest.approx(wanted - plan.unmet_mL)
    assert sum(row.short for row in rows) == plan.unmet_mL
    # the plan may give from the store what its batches spoil of meanwhile; the drawing gives from batches first
    assert rows[-1].after >= plan.left_mL - 1.0 or any(one.free >= asked.days for one in plan.batches)


@given(seasons(), st.floats(0.0, 0.8), st.integers(0, 50))
@tries(8)
def test_played_ahead_the_band_holds_its_middle_and_a_seed_its_play(asked: Season, spread: float, seed: int) -> None:
    plan = plan_season(asked, 5.0)
    (ahead,) = play_ahead(plan, {"rub": spread}, 40, seed)
    assert ahead == play_ahead(plan, {"rub": spread}, 40, seed)[0]
    assert all(
        0.0 <= low <= middle <= high for low, middle, high in zip(ahead.low, ahead.middle, ahead.high, strict=True)
    )
    assert ahead.ran_dry == sum(ahead.first_dry.values()) <= 40
    if not asked.needs:
        assert ahead.ran_dry == 0


def test_with_more_in_store_it_runs_dry_less_often_and_wilder_use_more_often() -> None:
    """100 mL a day for ten days: in the mean it takes 1000 mL."""

    def dry(store: int, spread: float) -> int:
        asked = season(
            products=[product("rub", on_hand_mL=store)],
            needs=[{"product": "rub", "mL": 100, "every_days": 1, "first": "2026-12-01"}],
            days=10, stocks=[{"id": "ethanol", "left": 0}],
        )  # fmt: skip
        return play_ahead(plan_season(season_from_dict(asked), 5.0), {"rub": spread}, 400, 3)[0].ran_dry

    assert dry(999, 0.0) == 400
    assert dry(1000, 0.0) == 0
    assert 400 > dry(900, 0.3) > dry(1200, 0.3) > dry(2000, 0.3)
    assert dry(1300, 0.1) < dry(1300, 0.5)


def test_no_change_is_told_that_another_product_would_pay_for() -> None:
    """One evening has room for one batch: with ethanol the rub would be made, and the gel would go short instead."""
    asked = season(
        products=[product("rub"), product("gel", takes={"gum": 0.1})],
        needs=[{"product": "rub", "mL": 1000, "on": "2026-12-11"}, {"product": "gel", "mL": 600, "on": "2026-12-11"}],
        evening=CLOSED, stocks=[{"id": "ethanol", "left": 0}, {"id": "gum", "left": 10_000}],
    )  # fmt: skip
    plan = plan_season(season_from_dict(asked), 10.0)
    assert [(one.product, one.mL) for one in plan.short] == [("rub", 1000)]
    assert "ethanol" not in plan.short[0].would_do
    assert "sk for 1 L less" in plan.short[0].would_do


def test_one_batch_in_fifty_is_lost() -> None:
    """A thousand plays of one batch with time to spare: 20 are lost, give or take three standard deviations of 4.4."""
    every = {"minutes": 60, "days": ["mon", "tue", "wed", "thu", "fri", "sat", "sun"]}
    asked = season(evening=every, needs=[{"product": "rub", "mL": 1000, "on": "2026-12-14"}])
    plan = plan_season(season_from_dict(asked), 10.0)
    early = replace(plan, batches=tuple(replace(one, start=0, free=3) for one in plan.batches))
    (ahead,) = play_ahead(early, {"rub": 0.0}, 1000, 1)
    assert 7 <= ahead.ran_dry <= 33
    assert set(ahead.first_dry) == {13}
