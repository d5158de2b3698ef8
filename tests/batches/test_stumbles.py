"""What made a maker stumble at the bench, each as it was met."""

import re
import uuid

import pytest
from django.test import Client
from django.urls import reverse

from firkin.batches.instruments import instruments_of
from firkin.batches.making import Making
from firkin.batches.models import Batch, State
from firkin.core.bench import in_measures
from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.formula import formula_from_dict, house_formulas, reckon
from firkin.core.kitchen import in_kitchen, kitchens
from firkin.formulas.models import Formula
from firkin.shelf.models import Vessel
from often import often
from steps import a_can, begin, press, said

SPOONS_TO_THE_BRIM = "2000 L"


def laid_out(formula, workshop, maker, size: str, kitchen: str) -> Batch:
    """A batch being made, planned in a kitchen's measures where they can place it."""
    batch = begin(formula, workshop, maker, size)
    batch.kitchen = kitchen
    try:
        batch.replan(in_kitchen(reckon(batch.formula()), kitchens()[kitchen]).result.formula, {})
    except CannotReckon:
        batch.save()
    return batch


@pytest.mark.parametrize("kitchen", often(kitchens(), "us"))
@pytest.mark.parametrize("size", ["5 mL", "20 L", SPOONS_TO_THE_BRIM])
def test_the_page_opens_whatever_size_and_measures(bench: Client, workshop, maker, kitchen: str, size: str) -> None:
    """More fillings than anybody counts, or less than a spoon: the exact amount, and a word."""
    for key in ("aloe-rub", "xanthan-gel", "laundry-gallons", "who-one"):
        formula = next(house.formula for name, house in house_formulas().items() if name.startswith(key[:4]))
        batch = laid_out(formula, workshop, maker, size, kitchen)
        answer = bench.get(reverse("batches:make", args=[batch.pk]))
        assert answer.status_code == 200
        task = Making(batch).progress.task
        if task is not None and task.line is not None and not answer.context["in_measures"]:
            assert "take the exact amount" in said(answer) or answer.context["kitchen"] is None


def test_after_a_scaling_the_kitchen_says_what_is_still_to_add(bench: Client, workshop, maker) -> None:
    """NIST HB 44: 2 cups of alcohol and 1 of gel; a fifth more alcohol asks for a fifth of a cup of gel."""
    rub = formula_from_dict(
        {
            "format": "firkin-formula/1",
            "name": "Two to one",
            "lines": [
                {"material": "aloe-gel", "amount": "1 cup"},
                {"material": "isopropanol", "strength": "91 %", "amount": "2 cup"},
            ],
        }
    )
    batch = laid_out(rub, workshop, maker, "708 mL", "us")
    press(bench, batch, amount="1 cup")
    press(bench, batch, amount="3 cup")
    press(bench, batch, act="scale")
    progress = Making(batch).progress
    assert progress.more
    words = in_measures(progress, progress.task, kitchens()["us"])
    assert words == "1 × 1/2 cup"


def test_poured_as_told_nothing_is_asked(bench: Client, workshop, maker) -> None:
    """What the page says in measures is within what it accepts."""
    for size in ("350 mL", "730 mL", "1.3 L"):
        batch = laid_out(house_formulas()["who-one"].formula, workshop, maker, size, "us")
        press(bench, batch, amount="1 L")
        press(bench, batch, act="scale")
        for _ in range(6):
            progress = Making(batch).progress
            task = progress.task
            if task is None or task.line is None or batch.state != State.MAKING:
                break
            words = in_measures(progress, task, kitchens()["us"])
            target = progress.target(task)
            if words and task.kind.value == "pour":
                assert "g on the scale" in words or "mL" in words or "cup" in words or "tsp" in words or "tbsp" in words
            press(bench, batch, amount=f"{target.value:.6g} {target.unit}")
            assert Making(batch).deviation is None


def test_topped_up_by_weight_takes_its_own_figure(bench: Client, workshop, maker) -> None:
    sheet = {
        "format": "firkin-formula/1", "name": "By weight", "family": "other", "basis": "weight", "make": "500 g",
        "lines": [{"material": "glycerol", "amount": "200 g"}, {"material": "water", "amount": "q.s."}],
    }  # fmt: skip
    batch = begin(formula_from_dict(sheet), workshop, maker, "500 g")
    press(bench, batch, amount="200 g")
    refused = press(bench, batch, amount="1.5 L")
    assert "You top up by weight here" in said(refused)
    press(bench, batch, amount="500 g")
    assert Making(batch).progress.result.total.mass_g == pytest.approx(500.0)


def test_opening_the_pour_page_again_leaves_the_scale_alone(bench: Client, workshop, maker, landing_rub) -> None:
    workshop.simulated_instruments = True
    workshop.save()
    batch = begin(landing_rub.current.as_core(), workshop, maker, "1 L")
    address = reverse("batches:pour", args=[batch.pk])
    assert bench.post(address).status_code == 302
    scale = instruments_of(maker.pk).scale
    taken: list[float] = []
    scale.tare = taken.append  # type: ignore[assignment]
    try:
        bench.get(address)
        bench.get(address)
        assert not taken
        bench.post(address)
        assert len(taken) == 1
    finally:
        del scale.tare


@pytest.mark.parametrize("make", ["0.2 mL", "1e9 L", "2000000 L", "0.0001 kg"])
def test_a_size_that_no_bench_holds_is_refused_before_anything_is_stored(
    bench: Client, landing_rub: Formula, make: str
) -> None:
    answer = bench.post(reverse("batches:start"), {"version": landing_rub.current.pk, "make": make}, follow=True)
    assert answer.status_code == 200
    assert not Batch.objects.exists()


@pytest.mark.parametrize(
    ("what", "value", "kept"), [("alcoholmeter", "78 %", 78.0), ("mass", "0.49 kg", 490.0), ("ph", "pH 6.5", 6.5)]
)
def test_a_reading_is_taken_with_its_unit(bench: Client, workshop, maker, landing_rub, what, value, kept) -> None:
    batch = begin(landing_rub.current.as_core(), workshop, maker, "1 L")
    data = {"what": what, "value": value, "celsius": "20", "key": uuid.uuid4()}
    bench.post(reverse("batches:check", args=[batch.pk]), data | {"act": "read"})
    assert [entry.data["value"] for entry in batch.entries.filter(kind="reading")] == [kept]


def test_a_label_size_nobody_knows_is_said(bench: Client, workshop, maker, landing_rub) -> None:
    batch = begin(landing_rub.current.as_core(), workshop, maker, "1 L")
    page = said(bench.get(reverse("batches:label", args=[batch.pk]), {"size": "80x40"}))
    assert "“80x40” is no label size Firkin knows" in page


def test_a_session_that_has_ended_leads_the_whole_page_to_the_sign_in(client: Client, workshop, maker) -> None:
    headers = {"HX-Request": "true", "HX-Current-URL": "http://testserver/reckon/strength/?make=1"}
    answer = client.get(reverse("reckoner:strength"), headers=headers)
    assert answer.status_code == 200
    assert answer.headers["HX-Redirect"].startswith(reverse("accounts:sign_in") + "?next=")
    assert "/reckon/strength/" in answer.headers["HX-Redirect"]
    assert not answer.content


def test_what_changed_is_kept_with_the_first_version_too(bench: Client, landing_rub: Formula) -> None:
    from firkin.formulas.editor import rows_of

    data = rows_of(landing_rub.current.as_core(), "A second rub", "", "from the notice board")
    data["act"] = "save"
    bench.post(reverse("formulas:new"), data)
    assert Formula.objects.get(name="A second rub").current.note == "from the notice board"


def test_a_live_look_stores_nothing_whatever_was_pressed(bench: Client, landing_rub: Formula) -> None:
    """htmx sends the last button pressed with a change as well."""
    from firkin.formulas.editor import rows_of

    data = rows_of(landing_rub.current.as_core(), "A second rub", "")
    data["act"] = "save"
    bench.post(reverse("formulas:new"), data, headers={"HX-Request": "true"})
    assert Formula.objects.count() == 1


def test_one_page_pressed_twice_is_one_version_and_a_second_thought_is_another(bench: Client, landing_rub) -> None:
    from firkin.formulas.editor import rows_of

    page = bench.get(reverse("formulas:new"))
    data = rows_of(landing_rub.current.as_core(), "A second rub", "porch")
    data["act"], data["key"] = "save", str(page.context["key"])
    answers = [bench.post(reverse("formulas:new"), data) for _ in range(3)]
    second = Formula.objects.get(name="A second rub")
    assert {answer.url for answer in answers} == {reverse("formulas:sheet", args=[second.pk])}
    assert [version.number for version in second.versions.all()] == [1]
    there = reverse("formulas:edit", args=[second.pk])
    data["key"] = str(bench.get(there).context["key"])
    for step in ("mix", "mix", "mix well"):  # pressed twice; then gone back to, and changed
        data.setlist("step_do", [*data.getlist("step_do")[:-1], step])
        bench.post(there, data)
    assert [version.number for version in second.versions.all()] == [3, 2, 1]


def test_a_bottle_drawn_below_what_it_holds_says_so(bench: Client, workshop, maker, landing_rub: Formula) -> None:
    can = a_can(workshop, 0.75)
    batch = begin(landing_rub.current.as_core(), workshop, maker, "1 L")
    batch.lines.filter(material="ethanol").update(stock=can)
    press(bench, batch, amount="815 mL")
    assert "0.815 L came out of Can, which holds 0.75 L" in said(bench.get("/batches/", follow=True))


def test_bottles_of_another_strength_are_not_enough_for_a_formula(
    bench: Client, workshop, landing_rub: Formula
) -> None:
    a_can(workshop, 1.0)
    weak = a_can(workshop, 20.0)
    weak.name, weak.strength = "Weak can", find("ethanol").read_strength("70 %")
    weak.save()
    page = said(bench.get(reverse("formulas:sheet", args=[landing_rub.pk])))
    assert "Not counted, being of another strength: Weak can" in page
    assert re.search(r"is enough for (?:1\.2 L|1200 mL)", page), page[page.find("enough") - 90 :][:200]  # 96 to 80 %


def test_too_little_is_made_good_by_adding_what_is_lacking(bench: Client, workshop, maker, landing_rub) -> None:
    batch = begin(landing_rub.current.as_core(), workshop, maker, "1 L")
    press(bench, batch, amount="700 mL")
    page = bench.get(reverse("batches:make", args=[batch.pk]))
    assert "Add what is lacking" in said(page)
    assert page.context["choices"][0][0].adds == "133.3 mL more"  # 833.3 planned
    press(bench, batch, act="add")
    page = bench.get(reverse("batches:make", args=[batch.pk]))
    assert "Too little of this is in" in said(page)
    press(bench, batch, amount="133.3 mL")
    assert Making(batch).progress.measured[0].amount.mL == pytest.approx(833.3)
    assert Making(batch).progress.position == 1


def test_a_top_up_over_its_mark_is_asked_about(bench: Client, workshop, maker, landing_rub: Formula) -> None:
    batch = begin(landing_rub.current.as_core(), workshop, maker, "1 L")
    while Making(batch).progress.task.kind.value == "pour":
        target = Making(batch).progress.target(Making(batch).progress.task)
        press(bench, batch, amount=f"{target.value:.6g} {target.unit}")
    press(bench, batch, amount="1.03 L")
    page = said(bench.get(reverse("batches:make", args=[batch.pk])))
    assert "3 % too much" in page
    assert "It was topped up to 1.03 L; 1 L is the mark." in page


def test_the_empty_weight_is_asked_once_and_the_scale_is_foretold(bench: Client, workshop, maker) -> None:
    """By hand: 833.3 mL of 96 % ethanol weigh 672.8 g (OIML R 22: 0.8074 g/mL); with the jug, 300 g, 972.8 g."""
    jug = Vessel.objects.create(workshop=workshop, name="Jug", volume_mL=2000)
    batch = begin(house_formulas()["who-one"].formula, workshop, maker, "1 L")
    batch.vessel = jug
    batch.save()
    here = reverse("batches:make", args=[batch.pk])
    assert "What will the scale show?" in said(bench.get(here))
    assert "Weigh it empty" in said(
        bench.post(reverse("batches:weigh_empty", args=[batch.pk]), {"empty": "1 L"}, follow=True)
    )
    bench.post(reverse("batches:weigh_empty", args=[batch.pk]), {"empty": "300"})
    page = bench.get(here)
    assert "the scale then shows" in said(page)
    assert page.context["scale_g"] == pytest.approx(300 + 672.8, abs=0.5)
    press(bench, batch, amount="833.3 mL")
    press(bench, batch, amount="41.7 mL")
    press(bench, batch, amount="14.5 mL")
    topped = bench.get(here).context
    assert topped["scale_g"] == pytest.approx(300 + topped["progress"].result.total.mass_g)
