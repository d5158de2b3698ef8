"""Every kind of drawing, kept element by element and read through: what moves or changes shows as a line that differs."""

import re
from dataclasses import replace
from datetime import datetime, timedelta
from pathlib import Path

import pytest

from core.questions.test_declaration import ASKED, answered, name
from firkin.core.bench import insights
from firkin.core.formula import house_formulas, reckon
from firkin.core.questions import Answer
from firkin.core.use import chart_of
from firkin.drawings.approach import approach_curve
from firkin.drawings.control import control_chart
from firkin.drawings.flow import act_drawn
from firkin.drawings.label import FORMATS, LabelFormat, label_svg, lay_out
from firkin.drawings.own_curve import own_curve_drawn
from firkin.drawings.paper import paper_svg
from firkin.drawings.pictures import drawn_picture
from firkin.drawings.pour_guide import pour_guide
from firkin.drawings.rest_days import DaysOfRest, rest_days
from firkin.drawings.season import Block, ProductRow, SeasonPicture, VesselRow, season
from firkin.drawings.series import aspect_series, number_series, reading_series
from firkin.drawings.sheet import rail_of, strip_of, vessel_of
from firkin.drawings.sureness import sureness
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
    monday = datetime(2026, 11, 30, 9, 30)
    days = [(0.0, 2), (3.5, 1), (14.0, 0)]
    words = ("clear", "hazy", "cloudy")
    sections = {
        "one rest": time_line([rest]),
        "three rests": time_line(
            [rest, replace(rest, start_h=-200.0, ready_h=-3.0), replace(rest, start_h=0.0, ready_h=2160.0)]
        ),
        "no rest": time_line([]),
        "rests, narrow": time_line([rest, replace(rest, start_h=-200.0, ready_h=-3.0)], narrow=True),
        "three days of rest": rest_days(
            DaysOfRest(monday, monday + timedelta(hours=72), monday + timedelta(hours=30), {})
        ),
        "ninety days of rest": rest_days(
            DaysOfRest(
                monday,
                monday + timedelta(days=90),
                monday + timedelta(days=3),
                {monday.date() + timedelta(days=day): "Vent it" for day in (1, 2, 10)},
            )
        ),
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


def test_charts_flows_strips_and_the_season_are_as_kept() -> None:
    """One of each, element by element, with the second and the last of several in it."""
    steady = chart_of([70.1, 70.4, 69.8, 70.0, 70.2, 70.3, 69.9, 74.0])
    few = chart_of([70.1, 70.4])
    level = [900.0, 600.0, 300.0, 0.0, 800.0, 500.0, 200.0]
    blocks = (Block(1, 2, "1 L", "?batch=0", key="0"), Block(1, 4, "2 L", "?batch=1", key="1"))
    row = ProductRow(
        "Quay rub", "1 L a week", level, level, blocks, short=[(3, 4, "0.3 L short")], needs=[(2, "a boat")]
    )
    vessels = [VesselRow("Drum", blocks), VesselRow("The jug with a very long name of its own", blocks[:1])]
    picture = SeasonPicture(
        7, [(0, "1 Dec")], [row], vessels, [(1, 40.0), (4, 90.0)], 90.0, [(2, "1 L Ethanol")], title="T"
    )
    rub = reckon(house_formulas()["who-one"].formula)
    strip = strip_of(rub, "WHO I", 300.0)
    layers = [("water", 0.4), ("alcohol", 0.8)]
    sections = {
        "control": control_chart("Strength", "% v/v", [f"26-{at:03}" for at in range(8)], steady),
        "control of two": control_chart("Strength", "% v/v", ["26-001", "26-002"], few),
        "season": season(picture),
        "sureness": sureness(58.0, 63.0, [0.1, 0.4, 1.0, 0.5, 0.2], 60.5, 60.0, None, "60 % line"),
        "flow": act_drawn(layers, "The jug.", coming=True, resting=False, portions=3),
        "flow at rest": act_drawn(layers, "The jug.", coming=False, resting=True, portions=1),
        "strip": "\n".join(str(one) for one in (*strip.strokes, *strip.runs)),
        "own curve": own_curve_drawn([(60.0, 0), (75.0, 1), (100.0, 2)], ("thin", "syrup", "gel"), 80.0),
    }
    same_as_kept(HERE / "others.txt", {key: elements(svg) for key, svg in sections.items()})


@pytest.mark.parametrize("form", FORMATS.values(), ids=FORMATS)
def test_a_label_is_laid_out_whole_inside_its_outline(form: LabelFormat) -> None:
    paper = lay_out(LABEL, form)
    assert paper.outline == ("round" if form.round else "box")
    assert (paper.width, paper.height) == (form.width, form.height)
    rows = {round(one.y, 4) for one in paper.blocks}
    assert len(rows) in (0, len({round(one.height, 6) for one in paper.blocks}) * len(rows))  # cells of one height
    for one in paper.blocks:
        assert 0.0 <= one.x < one.x + one.width <= form.width
        assert 0.0 <= one.y < one.y + one.height <= form.height
    for run in paper.runs:
        assert run.words.strip()
        assert 0.0 < run.y <= form.height
