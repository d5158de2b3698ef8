"""Whole answers of every question: kept as text and read through, and every line of arithmetic worked out again."""

import copy
import math
import re
from dataclasses import fields, is_dataclass
from pathlib import Path
from types import UnionType
from typing import Any, TypeVar, Union, get_args, get_origin, get_type_hints

import pytest

from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.questions import QUESTIONS, Answer
from firkin.core.questions.declaration import Stock
from kept import same_as_kept, told

HERE = Path(__file__).parent
SHELF = [
    Stock("Blue can", "ethanol", find("ethanol").read_strength("96 %")),
    Stock("Lock bottle", "isopropanol", find("isopropanol").read_strength("90-91 %")),
]

#: Each question as it opens, and with these changes of its fields.
ASKED: list[tuple[str, dict[str, Any]]] = [
    ("max-additive", {}),
    ("max-additive", {"stock": "60 %"}),
    ("max-additive", {"active": "ethanol", "stock": "Blue can", "bottle": "2 L"}),
    ("required-stock", {}),
    ("required-stock", {"active": "ethanol", "parts.stock": "3", "parts.additive": "0.5"}),
    ("required-stock", {"parts.stock": "1", "parts.additive": "2"}),
    ("dilute", {}),
    ("dilute", {"left": "729.2 mL", "make": "", "stock": "95-96 %"}),
    ("dilute", {"temperature": "28 °C", "make": "5 L"}),
    ("dilute", {"active": "hydrogen-peroxide", "stock": "3 %", "target": "0.5 %"}),
    ("dilute", {"active": "isopropanol", "stock": "Lock bottle", "target": "70 %"}),
    ("blend", {}),
    ("blend", {"stocks.1": "Blue can", "make": "2 L"}),
    ("blend", {"active": "hydrogen-peroxide", "stocks.0": "12 %", "stocks.1": "3 %", "target": "6 %"}),
    ("use-up", {}),
    ("use-up", {"make": "", "stocks.1.strength": "Blue can"}),
    ("use-up", {"use.volume": "1.5 L", "stocks.0.strength": "90 %"}),
    ("strengthen", {}),
    ("strengthen", {"room": "800 mL"}),
    ("strengthen", {"target": "75 %", "with": "Lock bottle", "thickener": "xanthan-gum"}),
    ("strengthen", {"now": "91 %", "target": "70 %", "with": "0 %", "thickener": "carbomer"}),
    ("chlorine", {}),
    ("chlorine", {"rule": "surface-chlorine-05", "make": "5 L", "age_months": "3"}),
    ("chlorine", {"age_months": "14"}),
    ("chlorine", {"rule": "", "target": "1000 ppm", "label": "hypochlorite"}),
    ("chlorine", {"active": "hydrogen-peroxide", "stock": "3 %", "rule": "surface-peroxide"}),
    ("alcoholmeter", {}),
    ("alcoholmeter", {"active": "isopropanol", "reading": "70", "temperature": "5"}),
    ("alcoholmeter", {"temperature": "20"}),
    ("expected-reading", {}),
    ("expected-reading", {"true": "40", "temperature": "4"}),
    ("temperature", {}),
    ("temperature", {"volume": "500 mL", "measured_at": "5", "wanted_at": "30", "allowance": "0"}),
    ("convert", {}),
    ("convert", {"active": "salt", "from": "", "amount": "1 cup"}),
    ("convert", {"active": "isopropanol", "from": "70 % v/v", "amount": "100 g"}),
    ("hardness", {}),
    ("hardness", {"value": "30", "from": "dH", "to": "fH"}),
    ("hardness", {"value": "0.4", "from": "mmol/L", "to": "gpg"}),
    ("neutralise", {}),
    ("neutralise", {"base.amount": "60 g"}),
    ("neutralise", {"acid.strength": "", "base.strength": ""}),
    ("carbonate", {}),
    ("carbonate", {"base.amount": "500 g"}),
    ("soap-per-litre", {}),
    ("soap-per-litre", {"bar_g": "3 bars of 100 g", "volume": "", "g_per_L": "25", "vessel": "5 L"}),
    ("soap-per-litre", {"bar_g": "", "volume": "2 L", "g_per_L": "60"}),
    ("foam", {}),
    ("foam", {"bottle": "500 mL", "parts_water": "3", "soap_price": "9", "headspace_pct": "0"}),
    ("powder", {}),
    ("powder", {"jar": "3 L", "headspace_pct": "20", "powders.0.scoop_g": "150", "hardness": "15 dH"}),
    ("powder", {"jar": "3 L", "headspace_pct": "20", "powders.0.scoop_g": "15", "hardness": "15 dH", "dose": "30 mL"}),
    ("preserve", {}),
    ("preserve", {"ph": "9", "temperature": "70"}),
    ("preserve", {"ph": "5", "temperature": "30", "pct": "0.8", "batch_g": "2 kg"}),
    ("hardness-dose", {}),
    ("hardness-dose", {"load": "40 L", "soil": "heavy"}),
    ("ferment", {}),
    ("ferment", {"peel": "200 g", "starter": "100 mL", "container": "2 x 1 L + 500 mL"}),
    ("ferment", {"container_is": "glass", "others": "100 g", "peel": "300 g"}),
    ("loads", {}),
    ("loads", {"cost": "9.00", "bought_price": "12", "bought_loads": "40"}),
    ("loads", {"dose": "10 mL", "dilute_parts_water": ""}),
    ("pack", {}),
    ("pack", {"batch": "5 L", "headspace_pct": "10"}),
]


def changed(ask: str, changes: dict[str, str]) -> dict[str, Any]:
    written = copy.deepcopy(QUESTIONS[ask].opening)
    for path, value in changes.items():
        *way, last = path.split(".")
        place: Any = written
        for part in way:
            place = place[int(part) if part.isdigit() else part]
        place[int(last) if last.isdigit() else last] = value
    return written


def answered(ask: str, changes: dict[str, str]) -> Answer | str:
    question = QUESTIONS[ask]
    try:
        return question.solve(question.read(changed(ask, changes), SHELF))
    except CannotReckon as refused:
        return f"refused at {'.'.join(map(str, refused.path))}: {refused}"


def name(ask: str, changes: dict[str, str]) -> str:
    return " ".join([ask, *(f"{path}={value}" for path, value in changes.items())])


def test_every_question_is_asked_here() -> None:
    assert {ask for ask, _ in ASKED} == set(QUESTIONS)


def test_answers_are_as_kept() -> None:
    same_as_kept(HERE / "answers.txt", {name(*asked): told(answered(*asked)) for asked in ASKED})


def test_what_each_answer_comes_to_is_as_kept() -> None:
    """One line an ask: its figure, and how much stands beside it."""
    lines = []
    for asked in ASKED:
        answer = answered(*asked)
        if isinstance(answer, str):
            lines.append(f"{name(*asked)}: {answer}")
            continue
        pictures = " and ".join(type(one).__name__ for one in (answer.picture, answer.beside) if one is not None)
        counts = (
            f"{len(answer.rows)} rows, {len(answer.says)} says, {len(answer.warns)} warns, {len(answer.working)} worked"
        )
        lines.append(f"{name(*asked)}: {answer.big} {answer.unit}; {counts}; {pictures or 'no picture'}")
    same_as_kept(HERE / "figures.txt", {"what each comes to": "\n".join(lines)})


def whole(value: object, hint: object) -> None:
    """Raise where a value, or anything in it, is not of the type it is declared to be; words and names are not empty."""
    origin, of = get_origin(hint), get_args(hint)
    if hint is Any or isinstance(hint, TypeVar):
        return
    if origin in (Union, UnionType):
        kinds = [one for one in of if one is not type(None)]
        assert value is not None or type(None) in of
        fitting = [one for one in kinds if isinstance(value, get_origin(one) or one)]
        assert value is None or fitting, f"{value!r} is none of {kinds}"
        if value is not None:
            whole(value, fitting[0])
    elif origin is tuple:
        assert isinstance(value, tuple)
        for i, one in enumerate(value):
            whole(one, of[0] if of[-1] is Ellipsis else of[i])
    elif hint is float:
        assert isinstance(value, int | float)
        assert not isinstance(value, bool)
        assert math.isfinite(value)
    elif isinstance(hint, type) and is_dataclass(hint):
        assert isinstance(value, hint)
        hints = get_type_hints(type(value))
        for field in fields(hint):
            whole(getattr(value, field.name), hints[field.name])
    elif isinstance(hint, type):
        assert isinstance(value, hint), f"{value!r} is no {hint}"


@pytest.mark.parametrize("asked", ASKED, ids=[f"{ask}-{at}" for at, (ask, _) in enumerate(ASKED)])
def test_an_answer_is_whole_and_a_refusal_names_a_field(asked: tuple[str, dict[str, str]]) -> None:
    answer = answered(*asked)
    question = QUESTIONS[asked[0]]
    if isinstance(answer, str):
        place = answer.removeprefix("refused at ").partition(":")[0].split(".")[0]
        assert place in {field.key for field in question.fields} | {"active"}, answer
        return
    for field, hint in get_type_hints(Answer).items():
        if field not in ("formula", "values", "picture", "beside"):
            whole(getattr(answer, field), hint)
    for picture in (answer.picture, answer.beside):
        if picture is not None:
            whole(picture, type(picture))
    assert all(label.strip() and value.strip() for label, value in answer.rows)
    assert all(one.strip() for one in (*answer.says, *answer.warns))
    assert answer.big.strip()
    assert set(answer.values) <= {gives.key for gives in question.gives}


#: How the sums of worked lines are written, as Python writes them.
_WRITTEN = {"×": "*", "÷": "/", "−": "-", "√": "math.sqrt"}
_UNITS = r"(?:mL|L|kg|g|mg|mol|ppm|parts?|drops|loads|°C|points|h|days|EUR|dH|fH|gpg|mmol|min|washes|months)"


def evaluated(sum_: str) -> float | None:
    """What a written sum comes to; None where it is in words."""
    text = sum_
    for sign, python in _WRITTEN.items():
        text = text.replace(sign, python)
    text = re.sub(r"% [vw]/[vw]", "%", text)
    text = re.sub(rf"(\d) ?{_UNITS}(?:/{_UNITS})?(?![a-z])", r"\1", text)
    text = re.sub(r"(\d[\d.]*) ?%", r"(\1/100)", text)
    if not re.fullmatch(r"[\d.\s+\-*/()]+", text) or not re.search(r"[+*/-]", text):
        return None
    return float(eval(text))  # noqa: S307  digits and signs alone


#: A share shown in per cent, millilitres put in litres or the other way.
FACTORS = (1.0, 100.0, 1000.0, 0.001)


@pytest.mark.parametrize("asked", ASKED, ids=lambda asked: asked[0])
def test_every_line_of_arithmetic_comes_to_what_it_says(asked) -> None:
    """Numbers are shown with four figures, so a sum of them is right to a thousandth or so."""
    answer = answered(*asked)
    if isinstance(answer, str):
        return
    for line in answer.working:
        value = evaluated(line.sum)
        if value is not None:
            largest = max(float(number) for number in re.findall(r"\d[\d.]*", line.sum))
            shown = pytest.approx(line.result, rel=4e-3, abs=1e-3 * largest if "−" in line.sum else 0.0)
            reached = [value * factor for factor in FACTORS]
            assert any(one == shown or math.floor(one) == line.result for one in reached), line.text


def test_most_lines_of_arithmetic_are_sums_that_can_be_tried() -> None:
    answers = [answer for asked in ASKED if not isinstance(answer := answered(*asked), str)]
    lines = [line for answer in answers for line in answer.working if line.sum]
    tried = [line for line in lines if evaluated(line.sum) is not None]
    assert len(tried) > 0.5 * len(lines), [line.text for line in lines if line not in tried]
