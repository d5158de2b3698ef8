"""The season and the spread of a strength: everything is drawn, to scale, inside the frame, and well-formed."""

import re
from xml.etree import ElementTree

import pytest
from hypothesis import given
from hypothesis import strategies as st

from firkin.drawings.season import LEFT, RIGHT, WIDTH, Block, ProductRow, SeasonPicture, VesselRow, season
from firkin.drawings.sureness import sureness

SVG = "{http://www.w3.org/2000/svg}"


def numbers(words):
    return [float(one) for one in re.findall(r"-?\d+(?:\.\d+)?", words)]


def drawn(picture):
    return ElementTree.fromstring(season(picture))


def picture(days=28, blocks=(), **more):
    level = [1000.0 - 30.0 * day for day in range(days)]
    row = ProductRow("Quay rub", "1 L a week", level, level, blocks, **more)
    weeks = [(day, words) for day, words in ((0, "1 Dec"), (7, "8 Dec")) if day < days]
    evenings = [(3, 40.0)] if days > 3 else []
    return SeasonPicture(days, weeks, [row], [VesselRow("Drum", blocks)], evenings, 90.0, title="T")


@pytest.mark.parametrize(("day", "anchor"), [(26, "start"), (27, "end"), (28, "end")])
def test_the_date_of_the_last_week_is_not_cut(day, anchor):
    """Each letter of it takes six units and a half, and the frame ends a little behind the last day."""
    root = ElementTree.fromstring(season(SeasonPicture(28, [(day, "25 January")], [], [], [], 90.0, title="T")))
    (word,) = root.findall(f".//{SVG}text[@class='week-word']")
    assert word.get("text-anchor") == anchor
    at, wide = float(word.get("x")), 6.6 * len("25 January")
    assert (at + wide if anchor == "start" else at) <= WIDTH


@given(st.lists(st.tuples(st.integers(0, 27), st.integers(0, 6)), max_size=6), st.integers(1, 400))
def test_every_batch_stands_on_its_day(starts, days):
    starts = [(start, rest) for start, rest in starts if start + rest < days]
    blocks = [
        Block(start, start + rest, f"{at + 1} L", f"?batch={at}", key=str(at))
        for at, (start, rest) in enumerate(starts)
    ]
    root = drawn(picture(days, blocks))
    links = root.findall(f".//{SVG}a")
    assert sorted(link.get("data-batch") for link in links) == sorted(block.key for block in blocks)
    per_day = (RIGHT - LEFT) / days
    for link in links:
        start, rest = starts[int(link.get("data-batch"))]
        wait = link.find(f"{SVG}rect[@class='wait']")
        assert float(wait.get("x")) == pytest.approx(max(LEFT + start * per_day, LEFT - 8.0), abs=0.01)
        assert float(wait.get("width")) == pytest.approx(rest * per_day, abs=0.02)
        assert link.get("aria-label")


@given(st.integers(1, 400), st.lists(st.floats(0.0, 1e6), min_size=1, max_size=1))
def test_levels_stay_in_their_frame(days, most):
    before = [most[0] * (day % 7) / 7.0 for day in range(days)]
    row = ProductRow("A product with a very long name indeed", "says", before, before, ())
    root = drawn(SeasonPicture(days, [], [row], [], [], 60.0, title="T"))
    frame = root.find(f".//{SVG}rect[@class='level-frame']")
    top, bottom = float(frame.get("y")), float(frame.get("y")) + float(frame.get("height"))
    points = numbers(root.find(f".//{SVG}polyline").get("points"))
    assert all(LEFT - 0.1 <= x <= RIGHT + 0.1 for x in points[::2])
    assert all(top - 0.1 <= y <= bottom + 0.1 for y in points[1::2])
    assert "…" in "".join(root.itertext())


def test_shortages_needs_and_the_band_are_drawn_and_words_stay_inside():
    level = [100.0] * 28
    root = drawn(
        picture(
            short=[(2, 6, "2 L short on 3 Dec"), (27, 28, "1 L short on 28 Dec")],
            needs=[(2, "the market, 4 L"), (27, "the very last boat of the year, 10 L")],
            band=(level, [200.0] * 28),
        )
    )
    assert len(root.findall(f".//{SVG}rect[@class='dry']")) == 2
    assert len(root.findall(f".//{SVG}path[@class='need']")) == 2
    assert root.find(f".//{SVG}polygon[@class='band']") is not None
    for text in root.iter(f"{SVG}text"):
        x, wide = float(text.get("x")), 6.6 * len(text.text or "")
        left = x - wide if text.get("text-anchor") == "end" else x
        assert left >= -1.0
        assert left + wide <= WIDTH + 30.0, text.text


def test_purchases_that_would_meet_stand_a_line_lower():
    row = ProductRow("Rub", "1 L a week", [1.0] * 28, [1.0] * 28, ())
    bought = [(0, "10 L Ethanol 96 %"), (0, "500 mL Hydrogen peroxide 3 %"), (25, "1 L Glycerol of the last week")]
    root = drawn(SeasonPicture(28, [], [row], [], [], 60.0, bought, title="T"))
    heights = [float(one.get("y")) for one in root.iter(f"{SVG}text") if one.get("class") == "flag-word"]
    assert heights[0] != heights[1]
    assert heights[2] == heights[0]


def test_a_name_that_is_mark_up_is_only_a_name():
    blocks = [Block(1, 2, '<b>"&', "?batch=0#chosen", key='"<')]
    root = drawn(picture(blocks=blocks))
    assert root.find(f".//{SVG}a").get("data-batch") == '"<'


@given(
    st.floats(0.0, 99.0),
    st.floats(0.0, 1.0),
    st.one_of(st.none(), st.floats(0.0, 100.0)),
    st.one_of(st.none(), st.floats(0.0, 100.0)),
)
def test_the_spread_is_drawn_to_scale_with_its_rule(low, wide, minimum, maximum):
    heights = [0.2, 1.0, 0.5, 0.0]
    root = ElementTree.fromstring(sureness(low, low + wide, heights, low + wide / 2.0, minimum, maximum, "CDC 60 %"))
    bars = [one for one in root.iter(f"{SVG}rect") if one.get("class") in ("sure-in", "sure-out")]
    assert len(bars) == 3
    tall = [float(one.get("height")) for one in bars]
    assert tall[1] == pytest.approx(max(tall))
    assert tall[0] / tall[1] == pytest.approx(0.2, abs=0.01)
    rules = [one for one in root.iter(f"{SVG}line") if one.get("class") == "sure-rule"]
    assert len(rules) == (minimum is not None) + (maximum is not None)
    outside = [one for one in bars if one.get("class") == "sure-out"]
    if minimum is not None and minimum > low + wide:
        assert len(outside) == 3
    if minimum is None and maximum is None:
        assert not outside


@pytest.mark.parametrize(("minimum", "out"), [(69.9, 0), (70.25, 0), (70.3, 1), (70.8, 2), (71.0, 2)])
def test_a_step_is_outside_by_its_middle(minimum, out):
    """Two steps, 70 to 70.5 and 70.5 to 71: their middles are 70.25 and 70.75."""
    root = ElementTree.fromstring(sureness(70.0, 71.0, [1.0, 1.0], 70.5, minimum, None, "rule"))
    assert sum(one.get("class") == "sure-out" for one in root.iter(f"{SVG}rect")) == out
