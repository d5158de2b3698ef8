"""One strength and one verdict for one formula, on every page from the reckoner to the label."""

from dataclasses import replace

import pytest
from django.test import Client
from django.urls import reverse

from firkin.batches.labels import label_of
from firkin.batches.making import Making
from firkin.batches.models import Batch
from firkin.core.formula import Formula as CoreFormula
from firkin.core.formula import Step, house_formulas, reckon
from firkin.core.kitchen import in_kitchen
from firkin.core.measures import figures
from firkin.formulas.models import Formula
from firkin.shelf.models import kitchens_of
from mixes import mix
from often import often
from steps import make_as_planned, said

RUB = {"family": "aloe-rub", "guidelines": ("cdc-alcohol-60",)}
UNSURE = mix(("isopropanol", "2 parts", "90-92 %"), ("aloe-gel", "1 part"), make="900 mL", **RUB)
CASES = {key: house.formula for key, house in house_formulas().items() if reckon(house.formula).main}
CASES["cups on the line"] = replace(UNSURE, lines=tuple(replace(line, error=0.05) for line in UNSURE.lines))
CASES["weighed, water first"] = mix(
    ("water", "q.s."), ("xanthan-gum", "0.5 %"), ("ethanol", "66.72 %", "94-96 %"), make="1 kg", family="gel",
    basis="weight", guidelines=("hospital-70",),
    steps=(Step("water", "", (0,)), Step("gum", "", (1,)), Step("alcohol", "", (2,))),
)  # fmt: skip
CASES["warm bench"] = mix(
    ("ethanol", "650 mL", "96 %"), ("glycerol", "20 mL", "86 % w/w"), ("water", "q.s."), make="1 L", temperature=31.0,
    family="liquid-rub", guidelines=("cdc-alcohol-60", "hicpac-60-95"),
)  # fmt: skip


def _figure(result) -> tuple[str, list[tuple[str, str]]]:
    return f"{figures(result.main.lower)} {result.main.basis}", [
        (one.guideline, one.verdict) for one in result.verdicts
    ]


#: In cups too: one of each kind; tests/batches/test_house_batches.py makes all of them in cups.
IN_CUPS = ["who-one", "xanthan-gel", "chlorine-surfaces", "peroxide-surfaces", "warm bench", "cups on the line"]


#: Made at every commit: one of each kind of active, of each way to measure, of each basis.
USUAL = [(key, "") for key in ("who-two", "aloe-sixty", "chlorine-spills", "dish-classic", "weighed, water first")]
USUAL += [(key, "us") for key in ("xanthan-gel", "cups on the line", "warm bench")]


@pytest.mark.parametrize(
    ("key", "kitchen"), often([*((key, "") for key in CASES), *((key, "us") for key in IN_CUPS)], *USUAL)
)
def test_every_page_says_the_strength_of_the_sheet(bench: Client, workshop, maker, key: str, kitchen: str) -> None:
    formula: CoreFormula = CASES[key]
    kept = Formula.objects.keep(formula, workshop, maker)
    exact = reckon(formula)
    expected = _figure(exact)
    strength, _ = expected

    sheet = bench.get(reverse("formulas:sheet", args=[kept.pk]), {"kitchen": kitchen} if kitchen else {})
    assert _figure(sheet.context["result"]) == expected
    assert strength in said(sheet)
    asked = bench.get(reverse("formulas:in_reckoner", args=[kept.pk]), follow=True)
    assert _figure(asked.context["question"].result) == expected

    if kitchen:
        expected = _figure(in_kitchen(exact, kitchens_of(workshop)[kitchen]).result)
        strength, _ = expected
        assert strength in said(sheet)
    size = str(formula.make or f"{exact.total.volume_mL:.9g} mL")
    bench.post(reverse("batches:start"), {"version": kept.current.pk, "make": size, "kitchen": kitchen})
    batch = Batch.objects.get()
    bench.post(reverse("batches:prepare", args=[batch.pk]), {"kitchen": kitchen, "anyway": "on"})
    batch.refresh_from_db()
    assert _figure(Making(batch).progress.result) == expected
    assert strength in said(bench.get(reverse("batches:make", args=[batch.pk])))
    make_as_planned(bench, batch)
    batch.refresh_from_db()
    made = Making(batch).progress
    planned = reckon(batch.formula()).main.lower
    assert made.result.main.lower == pytest.approx(planned, rel=2e-5)  # amounts are typed in six figures
    strength, verdicts = _figure(made.result)
    assert verdicts == expected[1]
    assert strength in said(bench.get(reverse("batches:record", args=[batch.pk])))
    if made.result.main.on_label and not batch.cut:
        assert strength in label_of(batch, made, None).strength
