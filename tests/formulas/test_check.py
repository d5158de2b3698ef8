"""The page Check a recipe: chips from text, claims against the reckoning, fixes, bad input."""

import re

import pytest
from django.test import Client
from django.urls import reverse

from core.recipe.texts import texts
from firkin.core.audit import Severity
from firkin.core.plan import faults_of
from firkin.core.recipe import findings_of, read_recipe
from firkin.formulas.models import Formula
from firkin.formulas.recipe_check import EXAMPLE, REFUSED
from firkin.formulas.recipe_chips import CHIPS
from firkin.ui.rows import fix_key
from often import often

PAGE = reverse("formulas:check")


def read(client: Client, text: str, **more: str):
    return client.post(PAGE, {"act": "read", "text": text, "whose": "us", **more})


def chips(answer) -> list[tuple[str, str, str]]:
    return [tuple(form[name].value() for name in CHIPS[:3]) for form in answer.context["check"].chips]


def again(answer, act: str, **change: object) -> dict[str, object]:
    """What the page would send back: every chip and field as it stands, and a press."""
    check = answer.context["check"]
    data: dict[str, object] = {name: [form[name].value() or "" for form in check.chips] for name in CHIPS}
    data |= {field.html_name: field.value() or "" for field in check.head}
    carried = {"of": check.of, "steps": check.steps_text, "unread": list(check.unread)}
    return {**data, **carried, "text": check.text, "whose": check.whose, "act": act, **change}


def fix(answer, rule: str) -> str:
    """What the button of a finding's fix posts."""
    finding = next(one for one in answer.context["findings"] if one.rule == rule)
    return f"fix-{fix_key(finding, answer.context['check'].result)}"


def rules(answer) -> list[str]:
    return [finding.rule for finding in answer.context["findings"]]


def test_text_becomes_chips_with_what_it_claims_against_what_it_makes(bench: Client) -> None:
    """Common practice, no source: 70 x 3 / 4 is 52.5."""
    answer = read(bench, "Three parts 70% rubbing alcohol to one part aloe vera gel, makes 70%")
    assert chips(answer) == [("Isopropanol", "70 % v/v", "3 part"), ("Aloe gel", "", "1 part")]
    assert "claim-differs" in rules(answer)
    assert b"said to be 70 % v/v" in answer.content
    assert b"52.5" in answer.content


def test_a_chip_is_corrected_and_counts(bench: Client) -> None:
    answer = read(bench, "3 parts 70% rubbing alcohol to 1 part aloe vera gel")
    corrected = bench.post(PAGE, again(answer, "look", strength=["91 %", ""]))
    assert corrected.context["result"].actives[0].label == pytest.approx(68.25)  # 91 x 3 / 4


def test_one_press_does_what_a_finding_says(bench: Client) -> None:
    answer = read(bench, "3 parts 90 % isopropyl alcohol to 1 part aloe. I only have 70 %")
    fixed = bench.post(PAGE, again(answer, fix(answer, "stock-mixed-up")))
    assert chips(fixed)[0] == ("Isopropanol", "70 % v/v", "3 part")
    assert "stock-mixed-up" not in rules(fixed)
    assert "line-short" not in rules(fixed)  # counting the weaker bottle would fall short: the gel is cut with it
    assert chips(fixed)[1][2] != "1 part"


def test_lines_are_added_and_taken_out(bench: Client) -> None:
    answer = read(bench, "3 parts 90 % isopropyl alcohol to 1 part aloe")
    assert len(chips(bench.post(PAGE, again(answer, "drop-chip-1")))) == 1
    added = bench.post(PAGE, again(answer, "add-chip"))
    assert chips(added)[2] == ("", "", "")


def test_a_checked_recipe_is_kept_in_the_book(bench: Client) -> None:
    answer = read(bench, EXAMPLE)
    bench.post(reverse("formulas:keep"), {"name": "Gossip rub", "signed": answer.context["signed"]})
    assert [line.material.id for line in Formula.objects.get().current.as_core().lines] == [
        "isopropanol",
        "aloe-gel",
        "lavender-oil",
    ]


def test_a_fix_is_refused_when_the_recipe_has_changed_since_it_was_shown(bench: Client) -> None:
    answer = read(bench, "3 parts 90 % isopropyl alcohol to 1 part aloe. I only have 70 %")
    pressed = again(answer, fix(answer, "stock-mixed-up"), amount=["9 part", "1 part"])
    late = bench.post(PAGE, pressed)
    assert REFUSED in late.content.decode()
    assert [chip[2] for chip in chips(late)] == ["9 part", "1 part"]


def test_steps_cut_loads_and_dose_are_kept_with_the_formula(bench: Client) -> None:
    text = (
        "100 g grated soap, 150 g borax, 150 g washing soda, 8 L hot water. Add the borax slowly, in ten additions, then "
        "wait 12 hours. It is cut 1:1 with water. 120 mL a load, 130 loads."
    )
    answer = read(bench, text)
    assert [step.portions for step in answer.context["check"].plan if step.portions > 1] == [10]
    looked = bench.post(PAGE, again(answer, "look"))
    said = {"name": "Quay laundry", "signed": looked.context["signed"], "said": looked.context["said"]}
    bench.post(reverse("formulas:keep"), said)
    version = Formula.objects.get().current
    kept = version.as_core()
    assert [step.portions for step in kept.steps if step.portions > 1] == [10]
    assert [step.wait_h for step in kept.steps if step.wait_h] == [12.0]
    assert kept.cut == 1.0
    assert "130 loads, 120 mL a load" in version.note


def test_a_line_taken_out_is_gone_from_the_steps(bench: Client) -> None:
    answer = read(bench, "100 g grated soap, 150 g borax, 8 L hot water. Stir the borax into the hot water.")
    left = bench.post(PAGE, again(answer, "drop-chip-1"))
    assert all(line < 2 for step in left.context["check"].plan for line in step.lines)


def test_every_mark_in_the_makers_own_text_says_what_it_is(bench: Client) -> None:
    answer = read(bench, "2 cups 91 % isopropyl alcohol, a splash of aloe gel. Never mix it with bleach.")
    pieces = answer.context["check"].pieces
    assert "".join(piece.text for piece in pieces) == answer.context["check"].text
    marked = {piece.text: (piece.kind, piece.says) for piece in pieces if piece.kind}
    assert marked["2 cups 91 % isopropyl alcohol"] == ("line", "Line 1: 2 cups 91 % v/v Isopropanol.")
    assert marked["a splash"][0] == "unread"
    assert marked["bleach"][0] == "advice"


def test_a_changed_text_is_not_passed_off_as_read(bench: Client) -> None:
    answer = read(bench, "2 cups 91 % isopropyl alcohol, a splash of aloe gel")
    typed = bench.post(PAGE, again(answer, "add-chip", text="2 cups bleach"))
    assert "The text has changed since it was read" in typed.content.decode()
    assert typed.context["check"].unread == ("a splash",)
    assert len(chips(typed)) == 3


def test_what_is_not_understood_is_said_and_nothing_is_executed(bench: Client) -> None:
    text = "<script>alert(1)</script>\n500 мл спирта\n<img src=x onerror=alert(2)>\n2 cups <b>91%</b> isopropyl alcohol {{ 7*7 }}"
    answer = read(bench, text)
    page = answer.content.decode()
    assert "<script>alert" not in page
    assert "<img src=x" not in page
    assert "500 мл спирта" in page
    assert chips(answer) == [("Isopropanol", "91 % v/v", "2 cups")]


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"amount": ["1,500 mL", "1 part"]}, "can be read as"),
        ({"strength": ["170 %", ""]}, "above 100"),
        ({"share": ["lots", ""]}, "is not a number"),
        ({"on_hand": ["seventy", ""]}, "is not a strength"),
        ({"claim": "strong"}, "is not a strength"),
        ({"vessel": "2 kg"}, "is not a volume"),
        ({"loads": "many"}, "is not a number"),
        ({"amount": ["q.s.", "1 part"]}, "say how much to make"),
        ({"amount": ["", "1 part"]}, "Say how much"),
    ],
)
def test_bad_input_is_answered_at_the_chip_and_kept(bench: Client, change, words: str) -> None:
    answer = read(bench, "3 parts 90 % isopropyl alcohol to 1 part aloe")
    wrong = bench.post(PAGE, again(answer, "look", **change))
    assert wrong.status_code == 200
    assert words in wrong.content.decode()
    field, written = next(iter(change.items()))
    kept = written if isinstance(written, str) else written[0]
    assert kept in wrong.content.decode()
    assert field


@pytest.mark.parametrize("text", ["", "\x00", "a" * 100_000, "½" * 300, "12 " * 5000, "\u202e 2 cups \u202d water"])
def test_any_paste_gets_an_answer(bench: Client, text: str) -> None:
    assert read(bench, text).status_code == 200


@pytest.mark.parametrize(
    "act",
    [
        "fix-999",
        "fix-x",
        "fix-line-short-0-0123456789abcdef",
        "fix--",
        "drop-chip-99",
        "drop-chip",
        "add-chip-3",
        "look",
        "nonsense",
    ],
)
def test_any_press_gets_an_answer(bench: Client, act: str) -> None:
    answer = read(bench, "3 parts 90 % isopropyl alcohol to 1 part aloe")
    assert bench.post(PAGE, again(answer, act)).status_code == 200


def test_a_ferment_in_a_glass_jar_is_stopped_and_stays_so_when_something_is_corrected(bench: Client) -> None:
    """Common practice, no source: a ferment builds pressure, and goes into plastic."""
    answer = read(bench, "100 g brown sugar, 300 g orange peel, 1000 g water in a 2 l glass jar")
    assert "ferment-glass" in rules(answer)
    corrected = bench.post(PAGE, again(answer, "look", amount=["100 g", "310 g", "1000 g"]))
    assert "ferment-glass" in rules(corrected)


TO_TASTE = "4 L water, 60 g NaOH, 450 g LABSA 96 %, 300 g SLES 70, salt as needed, perfume q.s."
PASTED = [TO_TASTE, *(text.words for text in texts("unseen"))]


@pytest.mark.parametrize("text", often(PASTED, *PASTED[:13]))
def test_the_page_finds_what_the_text_command_finds(bench: Client, text: str) -> None:
    assert set(rules(read(bench, text))) == {one.rule for one in findings_of(read_recipe(text))}


def test_soda_crystals_are_read_as_crystals(bench: Client) -> None:
    answer = read(bench, "50 g soda crystals and 1 l water")
    assert chips(answer)[0][0] == "Soda crystals"


def test_bleach_with_vinegar_is_stopped_before_there_is_any_amount(bench: Client) -> None:
    answer = read(bench, "Bleach and vinegar, half a bucket of water")
    assert "bleach-mixed" in rules(answer)


def test_all_is_never_called_clear_while_something_was_not_understood(bench: Client) -> None:
    answer = read(bench, "2 cups 91 % isopropyl alcohol, 1 cup aloe gel. Then grumbleflox 3 wizzles of it")
    page = " ".join(answer.content.decode().split())
    assert answer.context["check"].unread
    assert "not understood, and may change that" in page
    assert "Nothing wrong was found in the 2 lines read." not in page
    corrected = bench.post(PAGE, again(answer, "look", unread=list(answer.context["check"].unread)))
    assert corrected.context["check"].unread == answer.context["check"].unread
    assert "not understood, and may change that" in " ".join(corrected.content.decode().split())


GEL_TOLD = """630 g ethanol 96 %, 340 g water, 6 g xanthan, 24 g glycerine.
Stir the xanthan into the glycerine until there are no lumps. Whisk that into the water and leave it for 20 minutes.
Add the alcohol in ten additions. Leave overnight."""


def pressed(client: Client, answer, act: str):
    return client.post(PAGE, again(answer, act))


def _cards(answer) -> list[tuple[str, int]]:
    return [(card.title, card.act.portions) for card in answer.context["check"].cards]


def test_how_it_is_made_stands_in_cards_that_are_moved_and_split(bench: Client) -> None:
    answer = read(bench, GEL_TOLD)
    told = _cards(answer)
    assert [title for title, _ in told] == [
        "Put 24 g glycerine in the cup", "Put 6 g xanthan in the cup", "Add 340 g water", "Pour the cup into the rest",
        "Leave it for 20 min", "Add 630 g ethanol", "Leave it for 12 h",
    ]  # fmt: skip
    assert told[5][1] == 10
    for press, place, portions in (
        ("more-act-5", 5, 11),
        ("fewer-act-5", 5, 9),
        ("down-act-2", 3, 1),
        ("drop-act-4", 4, 10),
    ):
        after = _cards(pressed(bench, answer, press))
        assert after[place][1] == portions, press
    assert _cards(pressed(bench, answer, "down-act-2"))[3][0] == "Add 340 g water"
    for goes_in in (2, 3, 5):  # what goes in is left out among the chips
        assert _cards(pressed(bench, answer, f"drop-act-{goes_in}")) == told
    assert len(_cards(pressed(bench, answer, "drop-act-4"))) == len(told) - 1


def test_what_the_recipe_does_not_tell_is_offered_as_the_usual_way(bench: Client) -> None:
    answer = read(bench, GEL_TOLD)
    (gap,) = answer.context["check"].gaps
    assert gap.step.wait_h == 72.0  # WHO, Guide to Local Production: quarantine
    added = pressed(bench, answer, f"usual-act-{gap.place}")
    assert added.context["check"].gaps == []
    assert added.context["check"].plan[-1].wait_h == 72.0
    usual = pressed(bench, answer, "usual-plan")
    assert [act.step() for act in usual.context["check"].plan] == list(usual.context["check"].usual)
    silent = read(bench, "2 cups ethanol 96 %, 1 cup aloe gel").context["check"]
    assert (silent.cards, silent.gaps) == ([], [])
    assert silent.usual


@pytest.mark.parametrize(
    "press", ["more-act-99", "up-act-0", "down-act-5", "usual-act-99", "more-act-3", "move-act-0-to-99"]
)
def test_a_press_of_a_card_that_cannot_be_leaves_every_line_in(bench: Client, press: str) -> None:
    answer = pressed(bench, read(bench, GEL_TOLD), press)
    check = answer.context["check"]
    assert faults_of(check.plan, 4) == check.plan_faults  # a cup moved behind its pouring out, which the page says
    assert len(check.plan) == 7


def test_a_line_put_in_later_is_poured_last_and_a_corrected_one_under_its_new_name(bench: Client) -> None:
    answer = read(
        bench, "3 L water, 60 g caustic soda. Pour the water in. Stir in the caustic slowly. Leave it 2 hours."
    )
    added = pressed(bench, answer, "add-chip")
    data = again(added, "look", material=["Water", "Caustic soda", "Salt"], amount=["3 L", "60 g", "50 g"])
    check = bench.post(PAGE, data).context["check"]
    assert [act.lines for act in check.plan if act.lines] == [(0,), (1,), (2,)]  # and not the salt before the water
    assert check.plan[-1].wait_h == 2.0
    wrong = again(answer, "look", material=["Water", "Citric acid"])
    check = bench.post(PAGE, wrong).context["check"]
    assert [card.title for card in check.cards][1] == "Add 60 g citric acid"
    assert not any("caustic" in act.text for act in check.plan)


def test_a_long_account_is_asked_about_first_and_stops_once_its_amounts_are_said_to_be_right(bench: Client) -> None:
    talk = "It was a lovely morning on the landing, and the kettle was on. " * 20
    told = "You need 300 ml of ethanol 96 % and 300 ml of aloe vera gel, a hand sanitizer for our hands. "
    first = read(bench, f"{talk}{told}{talk}")
    page = first.content.decode()
    assert "First, a question" in page
    assert "<h2>Stop</h2>" not in page
    assert "Look at each line" in page
    second = bench.post(PAGE, again(first, "look"))
    page = second.content.decode()
    assert "<h2>Stop</h2>" in page
    assert "Look at each line" not in page
    assert next(one for one in second.context["findings"] if one.rule == "line-short").severity == "stop"
    assert "<h2>Stop</h2>" not in read(bench, f"{talk}{told}{talk}").content.decode()  # read anew, it is asked anew


TWICE = "Surface spray: cold water 1 L, bleach 5 % 50 ml. Edit: bleach 25 ml."


def test_what_is_told_twice_is_asked_about_until_it_is_answered(bench: Client) -> None:
    answer = read(bench, TWICE)
    assert [one.severity for one in answer.context["check"].findings if one.rule == "line-unsure"] == [Severity.ASK]
    assert "Which is right?" in answer.content.decode()
    # a line put in meanwhile does not answer it
    assert "line-unsure" in rules(bench.post(PAGE, again(answer, "add-chip")))
    both = bench.post(PAGE, again(answer, "both-chip-1"))
    assert "line-unsure" not in rules(both)
    assert len(chips(both)) == 3
    assert "line-unsure" not in rules(bench.post(PAGE, again(both, "both-chip-1")))  # pressed twice
    one = bench.post(PAGE, again(answer, "drop-chip-1"))
    assert "line-unsure" not in rules(one)
    assert [chip[2] for chip in chips(one)] == ["1 L", "25 ml"]


def test_a_strength_that_was_left_over_is_offered_and_taken_or_not(bench: Client) -> None:
    answer = read(bench, "Foam: isopropyl alcohol 600 ml (the good one 91 %), aloe gel 300 ml")
    fields = again(answer, "look")
    if not any(list(fields["beside"])):  # type: ignore[call-overload]  # read as its strength at once: put it beside
        fields |= {"strength": ["", ""], "beside": ["91 % v/v", ""]}
    asked = bench.post(PAGE, fields)
    assert "Is the isopropanol 91 % v/v?" in asked.content.decode()
    strong = bench.post(PAGE, again(asked, "strong-chip-0"))
    assert chips(strong)[0][1] == "91 % v/v"
    assert "line-unsure" not in rules(strong)
    plain = bench.post(PAGE, again(asked, "plain-chip-0"))
    assert chips(plain)[0][1] == ""
    assert "line-unsure" not in rules(plain)
    for press in ("strong-chip-9", "both-chip-999"):  # no such chip
        assert bench.post(PAGE, again(asked, press)).status_code == 200


ASKED_OF = (
    "I mix 500 ml of water and 20 g of salt. My brother swears by bleach in his. "
    "The man next door swears by spirits of salt."
)


def heard(answer) -> list[tuple[str, bool]]:
    return [(one.said, one.sure) for one in answer.context["check"].dangers]


def test_of_two_amounts_the_maker_says_which(bench: Client) -> None:
    answer = read(bench, "My sister uses 50 g of borax, I use 30 g. 1 L water.")
    assert "line-unsure" in rules(answer)
    same, rather = (bench.post(PAGE, again(answer, f"{word}-chip-0")) for word in ("same", "rather"))
    assert [chips(one)[0][2] for one in (same, rather)] == ["50 g", "30 g"]
    for one, amount in ((same, "50 g"), (rather, "30 g")):
        assert "line-unsure" not in rules(one)
        assert chips(bench.post(PAGE, again(one, "rather-chip-0")))[0][2] == amount, "pressed on a page that is older"
    typed = bench.post(PAGE, again(answer, "look", amount=["40 g", "1 L"]))
    assert "line-unsure" not in rules(typed), "who types an amount has answered"


def test_dangers_that_were_only_named_are_asked_about_one_by_one(bench: Client) -> None:
    answer = read(bench, ASKED_OF, whose="metric")
    named = [said for said, _ in heard(answer)]
    assert len(named) == 2
    carried = {"danger": list(answer.context["check"].dangers_kept)}
    junk = {"danger": ["{", '["glitter", true]', *carried["danger"]]}
    assert heard(bench.post(PAGE, again(answer, "look", **junk))) == heard(
        answer
    )  # what did not arrive whole is passed
    goes_in = bench.post(PAGE, again(answer, "in-danger-1", **carried))
    assert heard(goes_in) == [heard(answer)[0], (named[1], True)]
    out = bench.post(PAGE, again(answer, "out-danger-0", **carried))
    assert heard(out) == heard(answer)[1:]
    kept = {"danger": list(goes_in.context["check"].dangers_kept)}
    assert heard(bench.post(PAGE, again(goes_in, "look", **kept)))[1] == (named[1], True)
    assert heard(bench.post(PAGE, again(answer, "in-danger-9", **carried))) == heard(answer)  # there is no tenth


def test_a_chip_that_may_only_be_talked_of_stays_so_without_an_amount(bench: Client) -> None:
    answer = read(bench, "3 parts 90 % isopropyl alcohol to 1 part aloe")
    asked = bench.post(PAGE, again(answer, "look", talked=["", "on"], amount=["3 part", ""]))
    assert [line.claims.talked for line in asked.context["check"]._lines()] == [False, True]
    sure = bench.post(PAGE, again(asked, "in-chip-1"))
    assert [line.claims.talked for line in sure.context["check"]._lines()] == [False, False]


def test_only_a_missing_amount_has_no_line_of_its_own_among_the_findings(bench: Client) -> None:
    answer = read(bench, "100 ml bleach 5 %, 100 ml vinegar and glycerin")
    lines = {one.rule: one.lines for one in answer.context["check"].findings}
    assert lines["line-not-measured"] == ()
    assert any(places for rule, places in lines.items() if rule != "line-not-measured")


@pytest.mark.parametrize(
    ("perfume", "names"),
    [("perfume", ["fragrance"]), ("a bit of perfume, some dye", ["fragrance", "dye"])],
)
def test_what_is_named_and_not_measured_holds_nothing_up_and_is_said_everywhere(
    bench: Client, perfume: str, names: list[str]
) -> None:
    answer = read(bench, f"630 g ethanol 96 %, 340 g water, 24 g glycerine, {perfume}")
    check = answer.context["check"]
    assert check.without == names
    assert len(check.result.formula.lines) == 3
    page = " ".join(answer.content.decode().split())
    assert page.count(f"Without the {' and '.join(names)}") == 2, "beside the strength, and where it is kept"
    kept = bench.post(
        reverse("formulas:keep"),
        {"signed": answer.context["signed"], "said": answer.context["said"], "name": "Slipway rub"},
    )
    assert kept.status_code == 302
    version = Formula.objects.get(name="Slipway rub").current
    assert f"Named, not measured: {', '.join(names)}." in version.note


def test_an_amount_that_cannot_be_read_is_put_right_before_anything_is_said(bench: Client) -> None:
    answer = read(bench, "630 g ethanol 96 %, 340 g water, perfume")
    for amount in ("2 gobs", "1,2,3 g"):
        wrong = bench.post(PAGE, again(answer, "look", amount=["630 g", "340 g", amount])).context["check"]
        assert (wrong.without, wrong.result) == ([], None), amount
    vague = bench.post(PAGE, again(answer, "look", amount=["630 g", "340 g", "a splash"])).context["check"]
    assert vague.without == ["fragrance"]
    assert vague.result is not None


def test_a_line_told_twice_goes_in_where_the_other_telling_did(bench: Client) -> None:
    """The first amount is dropped; what was done with it is done with the one that stays."""
    told = "100 g water, 24 g glycerine. Stir the glycerine into the water. Leave it overnight. No, 30 g of glycerine."
    answer = read(bench, told)
    check = answer.context["check"]
    assert [line.claims.twice for line in check._lines()] == [False, True, True]
    left = bench.post(PAGE, again(answer, "drop-chip-1")).context["check"]
    assert [act.do for act in left.plan if act.lines or act.do == "rest"] == ["pour", "pour", "rest"]
    assert [line.amount.words for line in left._lines()] == ["100 g", "30 g"]


UNITLESS = "700 grams of water. 150 of SLES paste. Then 60 of betaine."


def test_figures_told_without_a_unit_are_asked_about_once_and_until_they_are_answered(bench: Client) -> None:
    """A unit that is only guessed is no fact: it is said before anything is called clear."""
    answer = read(bench, UNITLESS)
    (asked,) = [one for one in answer.context["findings"] if one.rule == "line-unsure"]
    assert (asked.severity, asked.lines) == (Severity.ASK, (1, 2))
    (doubt,) = answer.context["check"].doubtful
    assert [word for word, _ in doubt.answers] == [
        "All are right", "Not 150 g of sodium laureth sulfate (SLES)", "Not 60 g of cocamidopropyl betaine",
    ]  # fmt: skip
    assert "line-unsure" in rules(bench.post(PAGE, again(answer, "add-chip"))), "another press does not answer it"
    right = bench.post(PAGE, again(answer, "sure-chip-1"))
    assert "line-unsure" not in rules(right)
    assert [chip[2] for chip in chips(right)] == ["700 grams", "150 grams", "60 grams"]
    assert "line-unsure" not in rules(bench.post(PAGE, again(right, "look"))), "and not again"


def test_of_two_figures_without_a_unit_the_one_that_is_wrong_wants_to_be_typed(bench: Client) -> None:
    answer = read(bench, UNITLESS)
    wrong = bench.post(PAGE, again(answer, "bare-chip-1"))
    assert [chip[2] for chip in chips(wrong)] == ["700 grams", "", "60 grams"]
    (asked,) = [one for one in wrong.context["findings"] if one.rule == "line-unsure"]
    assert asked.lines == (2,), "the other is still asked about"
    (doubt,) = wrong.context["check"].doubtful
    assert doubt.answers[0] == ("That is right", "sure-chip-2")
    typed = bench.post(PAGE, again(answer, "look", amount=["700 grams", "150 ml", "60 grams"]))
    assert [one.lines for one in typed.context["findings"] if one.rule == "line-unsure"] == [(2,)], "typed is told"


def test_the_mark_of_a_vessel_told_without_a_unit_is_asked_about(bench: Client) -> None:
    told = "365 ml of isopropyl 99 %, 15 ml of glycerol, then distilled water up to the 500 mark."
    (doubt,) = read(bench, told).context["check"].doubtful
    assert doubt.asks.endswith("the one before: water up to 500 mL")
    assert [word for word, _ in doubt.answers] == ["That is right", "Not water up to 500 mL"]
    assert not read(bench, told.replace("500 mark", "500 ml mark")).context["check"].doubtful


BY_HALVES = """Water 600 g, SLES 70 % 200 g, salt 20 g.
Half the water first. Stir in the SLES. Then the rest of the water. Salt last."""


def test_a_card_is_split_and_joined_and_each_part_is_kept_as_a_line(bench: Client) -> None:
    answer = read(bench, BY_HALVES)
    titles = [title for title, _ in _cards(answer)]
    assert titles == ["Add 300 g water", "Add 200 g SLES", "Add 300 g water", "Add 20 g salt"]
    assert [card.part for card in answer.context["check"].cards] == ["half of it", "", "the rest of it", ""]
    together = pressed(bench, answer, "join-act-2")
    assert [title for title, _ in _cards(together)] == ["Add 600 g water", "Add 200 g SLES", "Add 20 g salt"]
    again_one = pressed(bench, together, "join-act-0")  # and not again: one part has nothing to be joined with
    assert _cards(again_one) == _cards(together)
    parted = pressed(bench, pressed(bench, answer, "split-act-3"), "split-act-3")
    assert [title for title, _ in _cards(parted)][3:] == ["Add 5 g salt", "Add 5 g salt", "Add 10 g salt"]
    lines = parted.context["check"].to_keep.lines
    assert [str(line.amount) for line in lines] == ["300 g", "200 g", "5 g", "300 g", "5 g", "10 g"]
    assert not parted.context["check"].plan_faults


def test_parts_stay_when_a_finding_is_put_right(bench: Client) -> None:
    answer = read(
        bench, "Ethanol 96 % 300 mL, peroxide 3 % 42 mL, water to 1 L. WHO rub. Half of the ethanol, then the peroxide, "
        "then the rest of the ethanol. Top up with water."
    )  # fmt: skip
    rule = next(one.rule for one in answer.context["findings"] if one.fixed is not None)
    told = [act.shares for act in answer.context["check"].plan if act.shares]
    mended = bench.post(PAGE, again(answer, fix(answer, rule)))
    assert told == [(0.5,), (0.5,)]
    assert [act.shares for act in mended.context["check"].plan if act.shares] == told


def test_how_a_cup_goes_in_is_said_once(bench: Client) -> None:
    answer = read(bench, GEL_TOLD.replace("Whisk that into the water", "Pour that into the water slowly"))
    card = next(card for card in answer.context["check"].cards if card.act.source)
    assert (card.title, card.act.how) == ("Pour the cup into the rest", "slowly")


def test_a_cup_moved_behind_its_pouring_out_is_said(bench: Client) -> None:
    answer = read(bench, GEL_TOLD)
    wrong = pressed(bench, answer, "up-act-3")
    assert not wrong.context["check"].plan_faults  # the cup into the empty jug, then the water
    for _ in range(2):
        wrong = pressed(
            bench, wrong, f"up-act-{[card.act.source for card in wrong.context['check'].cards].index('cup')}"
        )
    assert "Step 1 pours out the cup before anything is in it." in " ".join(wrong.content.decode().split())


def test_a_card_of_a_transcript_says_the_words_and_no_times(bench: Client) -> None:
    """The times of a transcript stand between the words that an act came from."""
    text = (
        "0:04\nyou take eight hundred mil of ninety six percent\n0:11\nethanol that goes in the jug first and\n0:14\n"
        "then top it up to one litre with boiled\n0:17\nwater and leave it three days"
    )
    page = read(bench, text)
    told = [card.told for card in page.context["check"].cards]
    assert told[-1].endswith(" with boiled water and leave it three days")
    whole = f" {' '.join(re.sub(r'(?m)^[0-9]:[0-9]+$', '', text).split())} "
    for words in told:  # quoted at whole words, and "…" only where something is left out
        assert f" {words.strip('… ')} " in whole
        assert words.startswith("… ") == (not whole.startswith(f" {words}"))
    assert not any(sign in words for words in told for sign in (":", "\x00"))
