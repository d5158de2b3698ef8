"""`./firkin reckon` against formulas worked by hand (mixes.toml names the arithmetic and its sources)."""

import tomllib
from pathlib import Path

import pytest

from firkin.core.audit import audit
from firkin.core.formula import formula_from_dict, formula_to_dict, reckon
from firkin.exchange.reckoning_format import reckoning_to_dict
from firkin.exchange.validation import check

MIXES = tomllib.loads(Path(__file__).with_name("mixes.toml").read_text("utf-8"))["mix"]


def document(mix: dict) -> dict:
    lines = []
    for material, strength, amount in mix["lines"]:
        line = {"material": material, "amount": amount}
        lines.append(line | ({"strength": strength} if strength else {}))
    extra = {key: mix[key] for key in ("make", "family") if key in mix}
    return {"format": "firkin-formula/1", "name": mix["name"], "lines": lines, **extra}


def printed(mix: dict) -> dict:
    formula = formula_from_dict(document(mix))
    result = reckon(formula)
    return reckoning_to_dict(result, audit(result))


@pytest.mark.parametrize("mix", MIXES, ids=[mix["name"] for mix in MIXES])
def test_a_formula_comes_to_what_paper_says(mix: dict) -> None:
    reckoning = printed(mix)
    if "volumes" in mix:
        assert [line["volume_mL"] for line in reckoning["lines"]] == pytest.approx(mix["volumes"], rel=1e-3)
    if "masses" in mix:
        assert [line["mass_g"] for line in reckoning["lines"]] == pytest.approx(mix["masses"], rel=1e-3)
    if "label" in mix:
        active, percent = mix["label"]
        row = next(row for row in reckoning["actives"] if row["active"] == active)
        assert row.get("label_pct_vv", row.get("label_pct")) == pytest.approx(percent, rel=2e-3)


@pytest.mark.parametrize("mix", MIXES, ids=[mix["name"] for mix in MIXES])
def test_what_is_printed_keeps_its_schema_and_adds_up(mix: dict) -> None:
    reckoning = printed(mix)
    check(reckoning, "firkin-reckoning-1")
    total = reckoning["total"]
    assert sum(line["mass_g"] for line in reckoning["lines"]) == pytest.approx(total["mass_g"], rel=1e-5)
    assert sum(line["volume_mL"] for line in reckoning["lines"]) == pytest.approx(total["sum_of_volumes_mL"], rel=1e-5)
    assert sum(line["share_w_pct"] for line in reckoning["lines"]) == pytest.approx(100, rel=1e-5)
    assert total["mass_g"] / total["volume_mL"] == pytest.approx(total["density_g_per_mL"], rel=1e-5)
    for row in reckoning["actives"]:
        if "true_pct_vv" in row:
            low, high = row["low_pct_vv"], row["high_pct_vv"]
            assert low <= row["label_pct_vv"] + 1e-6
            assert low <= row["true_pct_vv"] + 1e-6
            assert high >= row["label_pct_vv"] - 1e-6
            assert high >= row["true_pct_vv"] - 1e-6


@pytest.mark.parametrize("mix", MIXES, ids=[mix["name"] for mix in MIXES])
def test_a_formula_written_out_again_is_valid_and_comes_to_the_same(mix: dict) -> None:
    formula = formula_from_dict(document(mix))
    written = formula_to_dict(formula)
    check(written, "firkin-formula-1")
    assert formula_to_dict(formula_from_dict(written)) == written
