"""What a drawing shows is read back out of it: every mark stands where the drawing's own scale says."""

import re
import xml.etree.ElementTree as ET
from datetime import datetime, timedelta
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.core.questions.pictures import Bar, Block, Bottle, Bottles, Scale, StockLine, Zone
from firkin.drawings.approach import approach_curve
from firkin.drawings.bars import bars, scale
from firkin.drawings.bottles import bottles
from firkin.drawings.curve import additive_curve
from firkin.drawings.flow import act_drawn
from firkin.drawings.levelling import levelling
from firkin.drawings.own_curve import own_curve_drawn
from firkin.drawings.pour_guide import pour_guide
from firkin.drawings.rest_days import DaysOfRest, rest_days
from firkin.drawings.series import aspect_series, number_series, reading_series
from firkin.drawings.stem import alcoholmeter_stem
from firkin.drawings.timeline import Rest, time_line

SVG = "{http://www.w3.org/2000/svg}"


def found(svg: str, tag: str, klass: str = "") -> list[ET.Element]:
    """The elements of a tag, and of a class where one is named, in order."""
    every = ET.fromstring(svg).iter(f"{SVG}{tag}")
    return [one for one in every if not klass or klass in one.get("class", "").split()]


def at(element: ET.Element, *names: str) -> list[float]:
    return [float(element.get(name)) for name in names]


def straight(pairs: list[tuple[float, float]]) -> None:
    """The pairs of value and place lie on one straight line, within a few hundredths of a unit of the drawing."""
    pairs = sorted(set(pairs))
    (v0, p0), (v1, p1) = pairs[0], pairs[-1]
    assert v1 > v0
    for value, place in pairs:
        assert place == pytest.approx(p0 + (p1 - p0) * (value - v0) / (v1 - v0), abs=0.05), (value, place)


values = st.floats(0.5, 500)


@given(st.lists(values, min_size=2, max_size=5))
def test_bars_are_as_long_as_their_values(of: list[float]) -> None:
    drawn = found(bars([Bar(f"bar {n}", value, f"{value}", "plain") for n, value in enumerate(of)]), "rect", "bar")
    lengths = [at(one, "width")[0] for one in drawn]
    longest = max(of)
    for value, length in zip(of, lengths, strict=True):
        assert length == pytest.approx(max(lengths) * value / longest, abs=2.1)  # a bar of little is still seen


@given(st.floats(0.1, 0.9), st.floats(0.2, 1.8))
def test_a_scale_s_mark_stands_at_its_value_between_the_ends_of_its_zones(first: float, mark: float) -> None:
    svg = scale(Scale((Zone("low", first), Zone("high", 1.0), Zone("over", 2.0)), mark, "here"))
    zones = [at(one, "x", "width") for one in found(svg, "rect", "zone")]
    begins = [0.0, first, 1.0, 2.0]
    for (x, width), (after, _) in pairwise(zones):
        assert x + width == pytest.approx(after, abs=0.02)
    place = next(n for n in range(3) if mark <= begins[n + 1])
    x, width = zones[place]
    pointer = float(found(svg, "polygon")[0].get("points").split(",")[0])
    straight([(begins[place], x), (begins[place + 1], x + width), (mark, pointer)])
    ends = {float(one.text): at(one, "x")[0] for one in found(svg, "text", "scale")}
    assert list(ends.values()) == pytest.approx([x for x, _ in zones], abs=0.02)


@given(st.floats(50, 1000), st.floats(0.05, 1.0))
def test_a_bottle_is_as_full_as_it_is_filled(brim: float, full: float) -> None:
    svg = bottles(Bottles((Bottle("flask", brim, brim * full, 1),), 0.0))
    level = next(one for one in found(svg, "rect") if "layer" in one.get("class", ""))
    top, height = at(level, "y", "height")
    outline = next(one.get("d") for one in found(svg, "path") if one.get("d"))
    heights = [float(part) for part in re.findall(r"[\d.]+", outline)]
    assert top + height == pytest.approx(max(heights[1::2]), abs=3)
    double = bottles(Bottles((Bottle("flask", brim, brim * full / 2, 1),), 0.0))
    half = at(next(one for one in found(double, "rect") if "layer" in one.get("class", "")), "height")[0]
    assert half == pytest.approx(height / 2, abs=0.1)


@pytest.mark.parametrize("reading", range(10, 100, 10))
@pytest.mark.parametrize("off", [-10, 10])
def test_the_stem_s_two_marks_stand_at_its_own_ticks(reading: int, off: int) -> None:
    """The stem's scale is no straight one: its ticks stand as densities do."""
    true = min(100, max(0, reading + off))
    svg = alcoholmeter_stem(float(reading), float(true), 25.0)
    ticks = [at(one, "y1")[0] for one in found(svg, "line", "tick")]
    numbers = {int(one.text): at(one, "y")[0] - 4.0 for one in found(svg, "text", "stem-number")}
    assert len(ticks) == 11
    assert {percent: ticks[percent // 10] for percent in numbers} == pytest.approx(numbers)
    assert ticks == sorted(ticks) or ticks == sorted(ticks, reverse=True)
    surface = at(found(svg, "line", "surface")[0], "y1")[0]
    assert surface == pytest.approx(ticks[reading // 10], abs=0.02)
    leaders = [float(one.get("points").split()[0].split(",")[1]) for one in found(svg, "polyline", "leader")]
    assert leaders == pytest.approx([ticks[reading // 10], ticks[true // 10]], abs=0.06)


@given(st.floats(1, 40), st.floats(50, 90), st.floats(0.1, 0.9))
def test_levelling_draws_each_strength_at_its_height(weak: float, strong: float, share: float) -> None:
    target = weak + (strong - weak) * share
    svg = levelling(Block("strong", strong, 1.0, 1.0), Block("weak", weak, 1.0, 1.0), target)
    line = at(found(svg, "line", "level-line")[0], "y1", "y2")
    assert line[0] == line[1]
    ticks = [
        (float(one.text), at(one, "y")[0] - 4.5)
        for one in found(svg, "text", "scale")
        if re.fullmatch(r"\d+", one.text)
    ]
    straight([*ticks, (target, line[0])])


@given(st.floats(60, 99), st.floats(40, 59))
def test_the_curve_of_an_additive_crosses_the_line_where_it_is_said(stock: float, line: float) -> None:
    share = 100.0 * (1.0 - line / stock)
    svg = additive_curve([StockLine("stock", stock, chosen=True)], [("line", line)], share)
    y_line = at(next(one for one in found(svg, "line") if "rule" in one.get("class", "")), "y1")[0]
    dot = found(svg, "circle")[0]
    assert at(dot, "cy")[0] == pytest.approx(y_line, abs=0.6)


@given(st.floats(1, 2000), st.floats(0, 1.1))
def test_the_pour_guide_s_pointer_stands_at_what_is_shown(target: float, share: float) -> None:
    svg, _ = pour_guide(share * target, target, 0.02 * target)
    band = at(found(svg, "rect", "pour-band")[0], "x", "width")
    poured = at(found(svg, "rect", "pour-in")[0], "x", "width")
    straight([(0.0, poured[0]), (share, poured[0] + poured[1]), (0.98, band[0]), (1.02, band[0] + band[1])])


@given(st.lists(st.tuples(st.floats(-300, -1), st.floats(2, 2000)), min_size=1, max_size=4))
def test_waits_begin_and_end_where_their_hours_say(rests: list[tuple[float, float]]) -> None:
    svg = time_line([Rest(f"batch {n}", "rest", start, free, "soon") for n, (start, free) in enumerate(rests)])
    now = at(found(svg, "line", "now")[0], "x1")[0]
    staves = [at(one, "x", "width") for one in found(svg, "rect", "rest-stave")]
    pairs = [(0.0, now)]
    ends = [at(one, "x1")[0] for one in found(svg, "line", "rest-end")]  # a short stave is drawn longer, to be seen
    for (start, free), (x, width), end in zip(rests, staves, ends, strict=True):
        pairs += [(start, x), (free, end)]
        assert x + max(width, 3.0) >= end - 0.05
    straight(pairs)


@given(
    st.datetimes(datetime(2026, 1, 1), datetime(2026, 12, 31)),
    st.floats(0.5, 2200),
    st.floats(-0.1, 1.2),
    st.integers(0, 90),
)
def test_the_days_of_a_rest_are_filled_as_far_as_it_is_over(
    start: datetime, hours: float, share: float, day: int
) -> None:
    """The filled parts of all days sum to what is over, the pale ones to the whole rest; each due day has its dot."""
    ready, now = start + timedelta(hours=hours), start + timedelta(hours=hours * share)
    due = {start.date() + timedelta(days=day): "Vent it"}
    rest = DaysOfRest(start, ready, now, due)
    svg = rest_days(rest)
    a_day = at(found(svg, "rect", "day")[0], "width")[0]
    filled, whole = (
        sum(at(one, "width")[0] for one in found(svg, "rect", klass)) for klass in ("day-over", "day-rest")
    )
    assert whole / a_day * 24 == pytest.approx(hours, abs=0.05 * len(rest.days))
    assert filled / a_day * 24 == pytest.approx(hours * min(max(share, 0.0), 1.0), abs=0.05 * len(rest.days))
    assert len(found(svg, "rect", "day")) == len(rest.days)
    assert len(found(svg, "circle")) == 2 * len(rest.to_do)  # the day's, and the one in the line that explains it
    assert len(found(svg, "line", "rest-end")) == 1


def test_a_rest_that_ended_before_it_began_is_drawn() -> None:
    """A clock that was put back."""
    start = datetime(2026, 11, 30, 9, 0)
    svg = rest_days(DaysOfRest(start, start - timedelta(days=5), start, {}))
    assert len(found(svg, "rect", "day")) == 1
    assert not found(svg, "rect", "day-rest")
    assert "all of it is over" in svg


@pytest.mark.parametrize(("days", "row"), [(6, 1), (7, 2)])
def test_up_to_seven_days_stand_in_one_row(days: int, row: int) -> None:
    """A rest that touches seven days is one row; one of eight has the days of the week above two weeks a row."""
    start = datetime(2026, 11, 30, 9, 0)  # a Monday
    svg = rest_days(DaysOfRest(start, start + timedelta(days=days), start, {}))
    assert len({at(one, "y")[0] for one in found(svg, "rect", "day")}) == 1
    assert ("Mon 30" in svg) is (row == 1)


days = st.lists(st.floats(0.5, 90), min_size=2, max_size=6, unique=True).map(sorted)


@given(days, st.data())
def test_readings_and_looks_stand_at_their_day_and_value(at_days: list[float], data: st.DataObject) -> None:
    numbers = data.draw(st.lists(st.floats(2, 12), min_size=len(at_days), max_size=len(at_days)))
    points = list(zip(at_days, numbers, strict=True))
    dots = [at(one, "cx", "cy") for one in found(reading_series("pH", points, (3.0, 4.0), 90.0), "circle")]
    straight([(day, x) for (day, _), (x, _) in zip(points, dots, strict=True)])
    if max(numbers) - min(numbers) > 0.1:
        straight([(value, y) for (_, value), (_, y) in zip(points, dots, strict=True)])
    levels = data.draw(st.lists(st.integers(0, 2), min_size=len(at_days), max_size=len(at_days)))
    words = ("clear", "hazy", "cloudy")
    svg = aspect_series("clarity", list(zip(at_days, levels, strict=True)), words)
    named = {one.text: at(one, "y")[0] for one in found(svg, "text")}
    for level, dot in zip(levels, found(svg, "circle"), strict=True):
        assert at(dot, "cy")[0] == pytest.approx(named[words[level]] - 4.5, abs=0.6)


@given(st.lists(st.tuples(st.floats(10, 200), st.integers(0, 2)), min_size=2, max_size=6), st.floats(10, 200))
def test_own_batches_stand_at_their_grams_and_the_suggestion_at_its_own(points, suggested: float) -> None:
    svg = own_curve_drawn(points, ("thin", "cream", "thick"), suggested)
    dots = [at(one, "cx")[0] for one in found(svg, "circle")][: len(points)]
    grams = [one for one, _ in points]
    if max(grams) - min(grams) > 1:
        straight(list(zip(grams, dots, strict=True)))


@given(st.lists(st.floats(1, 100), min_size=2, max_size=6))
def test_batches_side_by_side_stand_as_high_as_their_numbers(numbers: list[float]) -> None:
    svg = number_series("strength", "%", [(f"26-{n:03d}", value) for n, value in enumerate(numbers)])
    heights = [at(one, "cy")[0] for one in found(svg, "circle")]
    if max(numbers) - min(numbers) > 0.5:
        straight(list(zip(numbers, heights, strict=True)))


@given(st.lists(st.tuples(st.floats(0, 50), st.floats(2, 12)), min_size=2, max_size=5), st.floats(3, 6))
def test_an_approach_s_readings_stand_at_what_was_in_and_what_was_read(points, low: float) -> None:
    svg = approach_curve(points, (low, low + 1.5), 25.0, "mL", "pH")
    dots = [at(one, "cx", "cy") for one in found(svg, "circle")][: len(points)]
    amounts, readings = [one for one, _ in points], [one for _, one in points]
    band = at(found(svg, "rect")[0], "y", "height")
    if max(amounts) - min(amounts) > 1:
        straight(list(zip(amounts, [x for x, _ in dots], strict=True)))
    pairs = list(zip(readings, [y for _, y in dots], strict=True))
    straight([*pairs, (low + 1.5, band[0]), (low, band[0] + band[1])])


@given(st.lists(st.floats(0.06, 0.4), min_size=1, max_size=5), st.integers(0, 24), st.booleans())
def test_the_jug_of_an_act_is_as_full_as_it_is_told(shares: list[float], portions: int, resting: bool) -> None:
    levels, full = [], 0.0
    for share in shares:
        full = min(1.0, full + share)
        levels.append(("water", full))
    svg = act_drawn(levels, "The jug.", coming=True, resting=resting, portions=portions)
    tops = [at(one, "y")[0] for one in found(svg, "rect", "layer")]
    seen = list(
        dict.fromkeys(level for _, level in levels)
    )  # what comes on top of a full jug shows no layer of its own
    straight([*zip(seen, tops, strict=True), (0.0, 64.0)])  # the foot of the jug is at 64
    ticks = found(svg, "line", "flow-tick")
    assert len(ticks) == (0 if portions == 1 else min(portions or 5, 12))
    assert bool(found(svg, "circle", "flow-clock")) == resting
