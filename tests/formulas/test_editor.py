"""The editor: rows that move, versions that are added, compared and restored."""

import pytest
from django.test import Client
from django.urls import reverse

from conftest import WHO_I
from firkin.core.formula import formula_from_dict
from firkin.formulas.editor import rows_of
from firkin.formulas.models import Formula
from firkin.ui.rows import fix_key
from mixes import GEL


@pytest.fixture
def gel(workshop, maker) -> Formula:
    return Formula.objects.keep(GEL, workshop, maker, ["gel"])


def press(client: Client, kept: Formula, act: str, **change: object):
    """Open the editor's fields, change some, press a button."""
    data = rows_of(kept.current.as_core(), kept.name, kept.tags)
    for name, value in change.items():
        data.setlist(name, value if isinstance(value, list) else [str(value)])
    data["act"] = act
    return client.post(
        reverse("formulas:edit", args=[kept.pk]), data.urlencode(), content_type="application/x-www-form-urlencoded"
    )


def materials_of(answer) -> list[str]:
    return [form["material"].value() for form in answer.context["editor"].lines]


def test_saving_what_was_opened_gives_the_same_formula_again(bench: Client, gel: Formula) -> None:
    press(bench, gel, "save", change="nothing")
    gel = Formula.objects.get()
    assert gel.current.number == 2
    assert gel.current.as_core() == gel.versions.get(number=1).as_core() == GEL
    assert gel.current.note == "nothing"


def test_moving_a_line_renumbers_the_steps_that_name_it_and_keeps_nothing(bench: Client, gel: Formula) -> None:
    answer = press(bench, gel, "down-line-0")
    assert materials_of(answer)[:2] == ["Xanthan gum", "Glycerol"]
    steps = [form["lines"].value() for form in answer.context["editor"].steps]
    assert steps == ["2, 1", "", "3", "4", ""]
    assert Formula.objects.get().current.number == 1


ACTS = [
    ("up-line-0", ["Glycerol", "Xanthan gum", "Ethanol", "Water"]),
    ("up-line-3", ["Glycerol", "Xanthan gum", "Water", "Ethanol"]),
    ("down-line-3", ["Glycerol", "Xanthan gum", "Ethanol", "Water"]),
    ("drop-line-1", ["Glycerol", "Ethanol", "Water"]),
    ("add-line", ["Glycerol", "Xanthan gum", "Ethanol", "Water", ""]),
    ("down-line-999", ["Glycerol", "Xanthan gum", "Ethanol", "Water"]),
    ("explode-line-1", ["Glycerol", "Xanthan gum", "Ethanol", "Water"]),
]


@pytest.mark.parametrize(("act", "order"), ACTS)
def test_rows_are_moved_by_buttons(bench: Client, gel: Formula, act: str, order: list[str]) -> None:
    assert materials_of(press(bench, gel, act)) == order


def test_a_dropped_line_is_no_longer_named_by_a_step(bench: Client, gel: Formula) -> None:
    steps = [form["lines"].value() for form in press(bench, gel, "drop-line-1").context["editor"].steps]
    assert steps == ["1", "", "2", "3", ""]


def test_steps_are_moved_too(bench: Client, gel: Formula) -> None:
    steps = [form["do"].value() for form in press(bench, gel, "up-step-1").context["editor"].steps]
    assert steps[:2] == ["gel", "slurry"]


BAD = [
    ({"name": " "}, "Give the formula a name"),
    ({"amount": ["20 mL", "8 g", "5 zorkmids", "q.s."]}, "is not a unit"),
    ({"strength": ["", "", "120 %", ""]}, "above 100"),
    ({"amount": ["20 mL", "8 g", "2 L", "q.s."]}, "already come to"),
    ({"make": ""}, "say how much to make"),
    ({"step_lines": ["1, 9", "", "3", "4", ""]}, "There is no line 9"),
    ({"step_wait": ["", "soon", "", "", ""]}, "is not a time"),
    ({"step_portions": ["0", "1", "1", "1", "1"]}, "greater than or equal"),
    ({"material": [], "strength": [], "amount": [], "phase": [], "note": []}, "Add a line"),
]


@pytest.mark.parametrize(("change", "says"), BAD)
def test_what_cannot_be_saved_says_so_at_its_place_and_is_not_lost(bench: Client, gel: Formula, change, says) -> None:
    answer = press(bench, gel, "save", **change)
    assert answer.status_code == 200
    assert says in answer.content.decode()
    assert Formula.objects.get().current.number == 1


def test_a_new_formula_is_written_from_nothing(bench: Client) -> None:
    page = bench.get(reverse("formulas:new")).content.decode()
    assert "New formula" in page
    data = {"name": "Mooring soap", "family": "foaming-soap", "basis": "volume", "tags": "winter", "act": "save"}
    data |= {
        "material": ["castile", "water"],
        "strength": ["", ""],
        "amount": ["1 part", "4 parts"],
        "phase": ["", ""],
        "note": ["", ""],
    }
    bench.post(reverse("formulas:new"), data)
    kept = Formula.objects.get()
    assert (kept.name, kept.tags, kept.current.number) == ("Mooring soap", "winter", 1)


def test_two_versions_are_compared_and_the_earlier_one_stands_again(bench: Client, gel: Formula) -> None:
    press(bench, gel, "save", amount=["30 mL", "8 g", "670 mL", "q.s."], make="2 L", rule=["hospital-70"])
    address = reverse("formulas:compare", args=[gel.pk])
    page = bench.get(address, {"with": "1"}).content.decode()
    for words in ("Glycerol", "20 mL, A", "30 mL, A", "1 L", "2 L", "Stricter house line, 70 %", "short", "meets"):
        assert words in page
    assert "Xanthan gum" not in page
    bench.post(address, {"with": "1"})
    gel = Formula.objects.get()
    assert gel.current.number == 3
    assert gel.current.as_core() == gel.versions.get(number=1).as_core()
    assert "They say the same" in bench.get(address, {"with": "1"}).content.decode()
    for wrong in ("9", "", "x"):
        assert bench.get(address, {"with": wrong}).status_code == 404


def test_a_running_batch_keeps_its_copy_when_the_formula_is_edited(bench: Client, gel: Formula, maker) -> None:
    from firkin.batches.models import Batch

    batch = Batch.objects.start(gel.current, gel.current.as_core(), maker)
    press(bench, gel, "save", amount=["30 mL", "8 g", "670 mL", "q.s."])
    assert Batch.objects.get(pk=batch.pk).formula().lines[0].amount.value == 20


def test_a_line_dragged_to_another_place_takes_the_others_along_and_renumbers_the_steps(bench: Client, gel) -> None:
    answer = press(bench, gel, "move-line-3-to-0")
    assert materials_of(answer) == ["Water", "Glycerol", "Xanthan gum", "Ethanol"]
    assert answer.context["editor"].steps[0]["lines"].value() == "2, 3"
    assert materials_of(press(bench, gel, "move-line-9-to-0"))[0] == "Glycerol"


def test_what_a_step_needs_beside_its_words_is_kept(bench: Client, gel: Formula) -> None:
    many = len(gel.current.as_core().steps)
    press(
        bench, gel, "save", claim="64 %", keep="100 days", cut="1",
        step_timer=["10 min", *[""] * (many - 1)],
        step_temperature=["70 °C", *[""] * (many - 1)],
        step_caution=["Gloves.", *[""] * (many - 1)],
    )  # fmt: skip
    formula = Formula.objects.get().current.as_core()
    step = formula.steps[0]
    assert (step.timer_h, step.temperature, step.caution) == (pytest.approx(1 / 6), 70.0, "Gloves.")
    assert (formula.keep_days, formula.cut, str(formula.claim.strength)) == (100.0, 1.0, "64 % v/v")
    assert b"Gloves." in bench.get(reverse("formulas:sheet", args=[gel.pk])).content


def test_a_finding_stands_beside_its_line_and_its_fix_is_applied_with_one_press(bench: Client, gel: Formula) -> None:
    amounts = [str(line.amount) for line in gel.current.as_core().lines]
    strong = press(bench, gel, "look", amount=[*amounts[:2], "850 mL", "q.s."])
    assert [finding.rule for finding in strong.context["findings"]] == ["thickener-limit"]
    act = f"fix-{fix_key(strong.context['findings'][0], strong.context['result'])}"
    fixed = press(bench, gel, act, amount=[*amounts[:2], "850 mL", "q.s."])
    assert materials_of(fixed) == ["Glycerol", "Polyacrylate gelling agent", "Ethanol", "Water"]
    assert Formula.objects.get().current.number == 1


def test_an_untouched_page_complains_of_nothing(bench: Client) -> None:
    page = bench.get(reverse("formulas:new")).content.decode()
    assert "field-error" not in page
    assert "stands here as you type" in " ".join(page.split())


def test_a_name_is_asked_for_only_when_it_is_saved(bench: Client) -> None:
    data = rows_of(formula_from_dict(WHO_I), "", "")
    live = bench.post(reverse("formulas:new"), data, headers={"HX-Request": "true"})
    assert live.context["result"] is not None
    assert b"Give the formula a name" not in live.content
    data["act"] = "save"
    assert b"Give the formula a name" in bench.post(reverse("formulas:new"), data).content
    assert not Formula.objects.exists()


def test_the_usual_steps_are_written_out_to_be_changed(bench: Client, gel: Formula) -> None:
    data = rows_of(formula_from_dict(WHO_I), "Rub", "")
    data["act"] = "usual-steps"
    form = "application/x-www-form-urlencoded"
    page = bench.post(reverse("formulas:new"), data.urlencode(), content_type=form)
    doing = [form["do"].value() for form in page.context["editor"].steps]
    assert doing == ["pour", "pour", "pour", "top up", "mix", "quarantine"]
    assert page.context["editor"].formula.lines == formula_from_dict(WHO_I).lines
    assert Formula.objects.count() == 1


def test_a_fix_leaves_the_name_the_tags_and_what_was_changed_as_they_were_typed(bench: Client, gel: Formula) -> None:
    amounts = [str(line.amount) for line in gel.current.as_core().lines]
    strong = press(bench, gel, "look", **{"amount": [*amounts[:2], "850 mL", "q.s."]})
    found = [one for one in strong.context["findings"] if one.fixed is not None]
    assert found
    act = f"fix-{fix_key(found[0], strong.context['result'])}"
    typed = {"name": "Quay gel", "tags": "gel, winter", "change": "less of the thickener"}
    fixed = press(bench, gel, act, **{"amount": [*amounts[:2], "850 mL", "q.s."]}, **typed)
    head = fixed.context["editor"].head
    assert {name: head[name].value() for name in typed} == typed


def test_phase_note_and_the_word_of_a_dose_are_saved(bench: Client, gel: Formula) -> None:
    count = len(gel.current.as_core().lines)
    more = {"phase": ["A"] * count, "note": ["stir well"] + [""] * (count - 1), "dose": "3 mL per use"}
    press(bench, gel, "save", **more)
    gel.refresh_from_db()
    kept = Formula.objects.get(pk=gel.pk).current.as_core()
    assert [line.phase for line in kept.lines] == ["A"] * count
    assert kept.lines[0].note == "stir well"
    assert (str(kept.dose), kept.dose_of) == ("3 mL", "use")


def test_a_cup_is_typed_kept_and_said_where_it_is_never_poured_in(bench: Client, gel: Formula) -> None:
    rows = rows_of(GEL, "Gel", "")
    cups = ["bowl", *rows.getlist("step_vessel")[1:]]
    alone = press(bench, gel, "look", step_vessel=cups)
    assert "The bowl filled in step 1 is never poured in." in " ".join(alone.content.decode().split())
    out = [*rows.getlist("step_source")[:2], "bowl", *rows.getlist("step_source")[3:]]
    poured = press(bench, gel, "look", step_vessel=cups, step_source=out)
    assert poured.context["editor"].astray == []
    press(bench, gel, "save", step_vessel=cups, step_source=out)
    steps = Formula.objects.get().current.as_core().steps
    assert [step.vessel for step in steps] == cups
    assert [step.source for step in steps] == out
