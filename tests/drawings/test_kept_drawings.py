"""Every kind of drawing, kept element by element and read through: what moves or changes shows as a line that differs."""

import re
from dataclasses import replace
from pathlib import Path

import pytest

from core.questions.test_declaration import ASKED, answered, name
from firkin.core.bench import insights
from firkin.core.formula import house_formulas, reckon
from firkin.core.questions import Answer
from firkin.drawings.approach import approach_curve
from firkin.drawings.label import FORMATS, label_svg
from firkin.drawings.own_curve import own_curve_drawn
from firkin.drawings.paper import paper_svg
from firkin.drawings.pictures import drawn_picture
from firkin.drawings.pour_guide import pour_guide
from firkin.drawings.series import aspect_series, number_series, reading_series
from firkin.drawings.sheet import rail_of, strip_of, vessel_of
from firkin.drawings.timeline import Rest, time_line
from kept import same_as_kept

from .test_drawings import LABEL

HERE = Path(__file__).parent


def elements(svg: str) -> str:
    """One element a line; a path of a code as its length."""
    svg = re.sub(r' d="([^"]{400})[^"]*"', r' d="\1..."', svg)
    return svg.replace("><", ">\n<")


def test_the_pictures_of_the_questions_are_as_kept() -> None:
    sections, seen = {}, set()
    for asked in ASKED:
        answer = answered(*asked)
        if not isinstance(answer, Answer):
            continue
        for which, picture in (("", answer.picture), (" beside", answer.beside)):
            kind = (type(picture), asked[0], which)
            if picture is not None and (
                kind not in seen or asked[1].keys() & {"room", "batch", "headspace_pct", "stock"}
            ):
                seen.add(kind)
                sections[name(*asked) + which] = elements(drawn_picture(picture))
    same_as_kept(HERE / "pictures.txt", sections)


def test_vessels_rails_strips_and_panels_of_formulas_are_as_kept() -> None:
    sections = {}
    for key, house in house_formulas().items():
        result = reckon(house.formula)
        sections[f"{key} vessel"] = elements(vessel_of(result, 2.5 * result.total.volume_mL))
        sections[f"{key} rail"] = elements(rail_of(result))
        for panel in insights(result):
            if panel.picture is not None:
                sections[f"{key} {panel.title}"] = elements(drawn_picture(panel.picture))
        if key in ("who-one", "laundry-concentrate", "powder-hard"):
            sections[f"{key} strip"] = elements(paper_svg(strip_of(result, house.formula.name, 300.0)))
    same_as_kept(HERE / "formulas.txt", sections)


def test_drawings_of_batches_are_as_kept() -> None:
    rest = Rest("26-001 Landing rub", "quarantine", -10.0, 62.0, "free on Monday")
    days = [(0.0, 2), (3.5, 1), (14.0, 0)]
    words = ("clear", "hazy", "cloudy")
    sections = {
        "one rest": time_line([rest]),
        "three rests": time_line(
            [rest, replace(rest, start_h=-200.0, free_h=-3.0), replace(rest, start_h=0.0, free_h=2160.0)]
        ),
        "no rest": time_line([]),
        "approach": approach_curve([(0.0, 4.1), (2.0, 4.9), (3.5, 5.6)], (5.5, 7.0), 4.0, "mL", "pH"),
        "approach by words": approach_curve(
            [(0.0, 0), (20.0, 2), (30.0, 1)], (1.0, 1.0), 25.0, "g", "thickness", words
        ),
        "own curve": own_curve_drawn([(60.0, 0), (75.0, 1), (100.0, 2)], words, 80.0),
        "aspect": aspect_series("clarity", days, words),
        "readings": reading_series("pH", [(0.0, 6.1), (20.0, 4.0), (88.0, 3.5)], (3.0, 4.0), 90.0),
        "numbers": number_series("strength", "% v/v", [("26-001", 79.5), ("26-002", 80.25), ("26-003", 60.0)]),
        **{f"pour {shown}": pour_guide(shown, 100.0, 2.0)[0] for shown in (0.0, 40.0, 97.9, 100.0, 119.0, 150.0)},
        "overload": pour_guide(150.0, 100.0, 2.0, overload=True)[0],
        **{f"label {key}": label_svg(LABEL, form) for key, form in FORMATS.items()},
    }
    same_as_kept(HERE / "batches.txt", {key: elements(svg) for key, svg in sections.items()})


@pytest.mark.parametrize("shown", [0.0, 40.0, 97.9, 98.0, 99.0, 101.9, 102.1, 119.0, 150.0])
def test_the_word_of_the_pour_follows_its_band(shown: float) -> None:
    """Within the tolerance it is enough; beyond, too much; near it, slowly."""
    word = pour_guide(shown, 100.0, 2.0)[1]
    assert (word == "too much") is (shown > 102.0)
    assert (word == "stop") is (98.0 <= shown <= 102.0)
