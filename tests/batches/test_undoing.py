"""The last press can be taken back, and not a second time; what was simulated is marked and counts for nothing."""

import re
import uuid

import pytest
from django.test import Client
from django.urls import reverse
from django.utils import timezone

from firkin.batches.labels import label_of
from firkin.batches.making import Making
from firkin.batches.models import Batch, Entry, State
from firkin.batches.undoing import undo, undoable
from firkin.core.bench import EntryKind, cautions_for, measured_of, ph_within, readings_of
from firkin.core.catalogue import find
from firkin.core.formula import Formula, Line, Step, house_formulas
from firkin.core.measures import read_quantity
from often import often
from steps import begin, make_as_planned


def made(formula: Formula, workshop, maker, size: str = "1 L") -> Batch:
    """A batch made as planned, up to its last wait."""
    batch = begin(formula, workshop, maker, size)
    client = Client()
    client.force_login(maker)
    make_as_planned(client, batch, up_to_the_wait=formula.family != "dish-liquid")
    batch.refresh_from_db()
    return batch


@pytest.fixture
def rub(workshop, maker, landing_rub) -> Batch:
    return made(landing_rub.current.as_core(), workshop, maker)


def press(bench, batch: Batch) -> object:
    last = undoable(batch)
    return bench.post(reverse("batches:undo_last", args=[batch.pk, last.pk if last else 0]), follow=True)


def test_used_up_is_taken_back_with_its_wait_and_its_dues(bench, rub: Batch, maker) -> None:
    wait, dues = rub.current_wait(), rub.dues.filter(answered_at=None).count()
    assert wait is not None and rub.state == State.RESTING
    answer = bench.post(reverse("batches:end", args=[rub.pk]), {"end": "used"}, follow=True)
    assert "Undo" in answer.content.decode()
    rub.refresh_from_db()
    assert (rub.state, rub.dues.filter(answered_at=None).count()) == (State.USED, 0)
    press(bench, rub)
    rub.refresh_from_db()
    assert (rub.state, rub.rests_until) == (State.RESTING, wait.free_at)
    assert rub.dues.filter(answered_at=None).count() == dues
    assert rub.current_wait() == wait


def test_a_press_is_taken_back_once_and_not_again(bench, rub: Batch, maker) -> None:
    bench.post(reverse("batches:end", args=[rub.pk]), {"end": "discarded"})
    number = undoable(Batch.objects.get(pk=rub.pk)).pk
    for _ in range(2):
        bench.post(reverse("batches:undo_last", args=[rub.pk, number]))
    assert rub.entries.filter(kind=EntryKind.UNDO).count() == 1
    assert undoable(rub) is None


def test_nothing_is_taken_back_once_something_rests_on_it(bench, rub: Batch, maker) -> None:
    bench.post(reverse("batches:end", args=[rub.pk]), {"end": "used"})
    rub.refresh_from_db()
    number = undoable(rub).pk
    rub.write(EntryKind.NOTE, maker, text="The jar was kept.")
    assert undo(rub, number, maker) is None
    answer = bench.post(reverse("batches:undo_last", args=[rub.pk, number]), follow=True)
    assert "can&#x27;t be undone" in answer.content.decode()
    rub.refresh_from_db()
    assert rub.state == State.USED


def test_what_was_measured_while_making_is_not_undone_here(rub: Batch, workshop, maker, landing_rub) -> None:
    batch = begin(landing_rub.current.as_core(), workshop, maker, "1 L")
    making = Making(batch)
    making.measure(making.progress.tasks[0], read_quantity("100 mL"), maker, uuid.uuid4())
    assert undoable(batch) is None


def test_an_early_release_is_taken_back_and_the_label_tells_when_it_really_was(bench, rub: Batch, maker) -> None:
    planned = rub.current_wait().free_at
    bench.post(reverse("batches:wait", args=[rub.pk]), {"reason": "the quay was in a hurry"})
    rub.refresh_from_db()
    facts = dict(label_of(rub, rub.progress(), None).facts)
    assert facts["Ready from"] == f"{timezone.localtime(rub.waits.get().ended_at):%-d %b %Y %H:%M}"
    press(bench, rub)
    rub.refresh_from_db()
    assert (rub.state, rub.waits.get().ended_at) == (State.RESTING, None)
    assert dict(label_of(rub, rub.progress(), None).facts)["Ready from"] == (
        f"{timezone.localtime(planned):%-d %b %Y %H:%M}"
    )


def test_vented_is_taken_back(bench, workshop, maker) -> None:
    ferment = made(house_formulas()["citrus-ferment"].formula, workshop, maker, "1 kg")
    first = ferment.dues.filter(kind="vent").first()
    answer = bench.post(reverse("batches:settle", args=[first.pk]), follow=True)
    assert "Undo" in answer.content.decode()
    first.refresh_from_db()
    assert first.answered_at is not None
    press(bench, ferment)
    first.refresh_from_db()
    assert first.answered_at is None


def test_a_reading_is_taken_back_and_speaks_no_more(bench, workshop, maker) -> None:
    batch = made(house_formulas()["dish-gentle"].formula, workshop, maker, "1 kg")
    page = reverse("batches:check", args=[batch.pk])
    key = "11111111-1111-4111-8111-111111111111"
    bench.post(page, {"act": "read", "what": "ph", "value": "9.9", "key": key})
    assert [one.value for one in readings_of(batch.progress())] == [9.9]
    press(bench, batch)
    assert readings_of(Batch.objects.get(pk=batch.pk).progress()) == []


# simulated instruments


def test_simulated_instruments_are_not_offered_until_the_workshop_tries_them(bench, rub: Batch, workshop) -> None:
    page = reverse("batches:check", args=[rub.pk])
    assert "simulated" not in bench.get(page).content.decode()
    assert not re.search(r'name="value"[^>]* value="7', bench.get(page, {"take": "ph"}).content.decode())
    workshop.simulated_instruments = True
    workshop.save()
    assert "simulated instruments" in bench.get(page).content.decode()


def test_a_simulated_reading_is_marked_and_clears_nothing(bench, workshop, maker) -> None:
    """A dish liquid whose pH only a simulated meter read is as one whose pH was never read."""
    batch = made(house_formulas()["dish-gentle"].formula, workshop, maker, "1 kg")
    before = label_of(batch, batch.progress(), None).cautions
    reading = {"act": "read", "what": "ph", "value": "7.5", "taken": "7.5"}
    key = "22222222-2222-4222-8222-222222222222"
    bench.post(reverse("batches:check", args=[batch.pk]), reading | {"key": key})
    entry = Entry.objects.get(batch=batch, kind=EntryKind.READING)
    progress = Batch.objects.get(pk=batch.pk).progress()
    assert entry.data["simulated"] is True
    assert "simulated" in entry.text
    assert (len(readings_of(progress)), measured_of(progress)) == (1, [])
    assert ph_within(progress) is None  # it answers nothing that is worked out by mole
    assert label_of(batch, progress, None).cautions == before
    assert "simulated" in bench.get(reverse("batches:record", args=[batch.pk])).content.decode()


def test_what_the_maker_types_over_a_simulated_reading_is_the_maker_s(bench, workshop, maker) -> None:
    batch = made(house_formulas()["dish-gentle"].formula, workshop, maker, "1 kg")
    reading = {"act": "read", "what": "ph", "value": "7.6", "taken": "7.5"}
    key = "33333333-3333-4333-8333-333333333333"
    bench.post(reverse("batches:check", args=[batch.pk]), reading | {"key": key})
    assert len(measured_of(Batch.objects.get(pk=batch.pk).progress())) == 1


# what is in the bottle by then


def test_no_code_on_a_label_unless_others_can_reach_it(bench, rub: Batch, workshop) -> None:
    def svg() -> str:
        return bench.get(reverse("batches:label_svg", args=[rub.pk])).content.decode()

    without = svg()
    workshop.address = "http://quay.example:8000"
    workshop.save()
    assert len(svg()) > len(without) + 500  # the modules of the code


def test_a_ferment_under_another_name_is_vented_and_never_kept_closed(bench, workshop, maker) -> None:
    lines = tuple(Line(find(name), read_quantity(amount)) for name, amount in (("sugar", "100 g"), ("peel", "300 g"), ("water", "1 L")))  # fmt: skip
    heard = Formula("Grandmother's cleaner", lines, steps=(Step("leave", "Leave it three months.", wait_h=2160.0),))
    assert "pressure" in {one.id for one in cautions_for(heard)}
    batch = made(heard, workshop, maker, "1 kg")
    assert batch.family == "ferment"
    assert batch.dues.filter(kind="vent").count() > 10
    page = bench.get(reverse("batches:wait", args=[batch.pk])).content.decode()
    assert "Leave room" in page
    assert "Keep it closed" not in " ".join(page.split())


@pytest.mark.parametrize("name", often(sorted(house_formulas()), "who-one", "dish-gentle", "chlorine-surfaces"))
def test_cautions_and_contents_follow_from_what_is_in_the_bottle(name: str, workshop, maker) -> None:
    """Of every house formula, with readings low, within and high of its window."""
    formula = house_formulas()[name].formula
    batch = made(formula, workshop, maker, "1 kg" if formula.make and formula.make.kind == "mass" else "1 L")
    for value in (None, 3.0, 7.5, 11.5):
        if value is not None:
            batch.write(EntryKind.READING, maker, text=f"pH {value}", data={"what": "ph", "value": value})
        progress = Batch.objects.get(pk=batch.pk).progress()
        label = label_of(batch, progress, None)
        burns = "Causes burns." in label.cautions
        listed = "caustic soda" in label.ingredients
        assert burns or not listed, (name, value)
        assert listed or not burns or value == 3.0, (name, value)  # what is read acid is not said to be mild
        assert not (burns and value == 7.5)
        if progress.formula.lines_of("formalin"):
            assert "Contains formaldehyde." in label.cautions
        if batch.family != "other" and not progress.formula.lines_with("alcohol"):
            texts = [one.text for one in cautions_for(progress.formula) if one.id != "essential-oil"]
            assert "sanitiser" not in " ".join(texts).lower()


def test_oxygen_bleach_in_a_bottle_is_warned_of() -> None:
    lines = tuple(
        Line(find(one), read_quantity(amount)) for one, amount in (("percarbonate", "20 g"), ("water", "1 L"))
    )
    assert "oxygen-bleach-closed" in {one.id for one in cautions_for(Formula("Stain soak", lines))}
    dry = Formula("Powder", (lines[0], Line(find("washing soda"), read_quantity("100 g"))))
    assert "oxygen-bleach-closed" not in {one.id for one in cautions_for(dry)}


def test_a_bottle_of_oxygen_bleach_is_warned_of_where_it_is_filled(bench, workshop, maker) -> None:
    lines = tuple(
        Line(find(one), read_quantity(amount)) for one, amount in (("water", "1 L"), ("percarbonate", "20 g"))
    )
    batch = made(Formula("Stain soak", lines), workshop, maker)
    assert "can burst" in bench.get(reverse("batches:fill", args=[batch.pk])).content.decode()
    assert "Gives gas" in " ".join(label_of(batch, batch.progress(), None).cautions)


# what moved it on


def test_making_begins_and_does_not(bench, workshop, maker, landing_rub) -> None:
    """The plan is as it was before Ready, and the batch can be laid out again."""
    batch = Batch.objects.start(
        landing_rub.current, landing_rub.current.as_core().scaled_to(read_quantity("1 L")), maker
    )
    before = batch.frozen
    page = reverse("batches:prepare", args=[batch.pk])
    fields = bench.get(page).context["form"].fields
    data = dict.fromkeys(fields, "") | {"kitchen": "", "sanitised": "on", "laid_out": "on"}
    bench.post(page, data)
    batch.refresh_from_db()
    assert batch.state == State.MAKING
    press(bench, batch)
    batch.refresh_from_db()
    assert (batch.state, batch.frozen) == (State.PLANNED, before)
    bench.post(page, data)
    batch.refresh_from_db()
    assert batch.state == State.MAKING


def test_the_last_press_of_the_making_is_taken_back_with_the_wait_it_began(bench, rub: Batch) -> None:
    dues = rub.dues.count()
    assert (rub.state, rub.waits.count()) == (State.RESTING, 1)
    assert dues
    press(bench, rub)
    rub.refresh_from_db()
    assert (rub.state, rub.made_at, rub.rests_until, rub.waits.count()) == (State.MAKING, None, None, 0)
    assert Making(rub).progress.task == Making(rub).progress.tasks[-1]
    assert not rub.dues.filter(answered_at=None).exists()
    make_as_planned(bench, rub, up_to_the_wait=True)
    rub.refresh_from_db()
    assert (rub.state, rub.waits.count(), rub.dues.filter(answered_at=None).count()) == (State.RESTING, 1, dues)


def test_made_is_taken_back_with_the_last_line_and_what_it_took_from_the_shelf(bench, workshop, maker) -> None:
    batch = made(house_formulas()["chlorine-surfaces"].formula, workshop, maker)
    assert batch.state == State.RELEASED
    tasks = len(Making(batch).progress.tasks)
    press(bench, batch)
    batch.refresh_from_db()
    progress = Making(batch).progress
    assert (batch.state, batch.made_at) == (State.MAKING, None)
    assert progress.task == progress.tasks[tasks - 1]


def test_a_fix_that_was_begun_is_taken_back_whole(bench, rub: Batch) -> None:
    """The wait goes on to its hour, the lines are as they were, and the record keeps both."""
    wait, lines, frozen = rub.current_wait(), rub.lines.count(), rub.frozen
    assert wait is not None
    page = reverse("batches:rescue", args=[rub.pk])
    asked = {"trouble": "strong", "now": "90 %", "key": str(uuid.uuid4())}
    answer = bench.post(page, asked, follow=True)
    rub.refresh_from_db()
    assert rub.state == State.MAKING, answer.content.decode()[:3000]
    assert rub.lines.count() > lines
    assert "Undo" in answer.content.decode()
    press(bench, rub)
    rub.refresh_from_db()
    assert (rub.state, rub.lines.count(), rub.frozen) == (State.RESTING, lines, frozen)
    assert (rub.current_wait(), rub.rests_until) == (wait, wait.free_at)
    assert rub.entries.filter(kind=EntryKind.RESCUE, undone_by=None).count() == 0
    assert undoable(rub) is None


def test_advice_alone_is_taken_back(bench, rub: Batch) -> None:
    bench.post(reverse("batches:rescue", args=[rub.pk]), {"trouble": "watery", "key": str(uuid.uuid4())})
    rub.refresh_from_db()
    last = undoable(rub)
    assert last is not None
    press(bench, rub)
    assert Entry.objects.get(pk=last.pk).undone_by is not None
    assert undoable(rub) is None
