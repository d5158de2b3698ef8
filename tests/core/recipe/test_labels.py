"""Lines off labels and till slips: what they are, how much, how many, and what was paid."""

import tomllib
from datetime import date
from decimal import Decimal
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.measures import read_quantity
from firkin.core.recipe import read_label

LINES = tomllib.loads(Path(__file__).with_name("labels.toml").read_text())
ALL = [*LINES["a"], *LINES["b"]]


@pytest.mark.parametrize("wanted", ALL, ids=[one["text"][:40] for one in ALL])
def test_a_line_off_a_label_is_read_whole(wanted: dict) -> None:
    read = read_label(wanted["text"], "us")
    assert read.material == wanted["material"]
    assert read.amount == read_quantity(wanted["amount"])
    assert read.strength == (read.line.material.read_strength(wanted["strength"]) if "strength" in wanted else None)
    assert (read.count, read.each) == (wanted.get("count", 1), wanted.get("each", False))
    assert read.price == (Decimal(wanted["price"]) if "price" in wanted else None)
    assert read.price is None or read.price_each * (1 if read.each else read.count) == pytest.approx(read.price)
    assert (read.lot, read.shop, read.grade) == tuple(wanted.get(key, "") for key in ("lot", "shop", "grade"))
    best = wanted.get("best_before")
    assert read.best_before == (date.fromisoformat(best) if best else None)
    assert read.unread == ()


@given(st.text(max_size=200))
def test_any_text_is_read_without_a_fault(text: str) -> None:
    read = read_label(text)
    assert read.count >= 1
    assert read.price is None or read.price >= 0


@given(st.sampled_from(ALL), st.integers(2, 12))
def test_what_was_paid_for_all_is_shared_and_what_was_paid_for_each_is_not(wanted: dict, count: int) -> None:
    if "count" in wanted or "price" not in wanted:
        return
    read, many = read_label(wanted["text"], "us"), read_label(f"{count} x {wanted['text']}", "us")
    assert many.count == count
    assert many.price_each == (read.price / count).quantize(Decimal("0.01"))


def test_what_is_not_understood_is_named() -> None:
    assert read_label("glycerol 500 mL 4.20 green cap 77").unread
