"""What the drawings show, read back from the SVG and the PDF."""

import io
import itertools
import xml.etree.ElementTree as ET
from dataclasses import replace
from typing import Any

import pytest
import zxingcpp
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image, ImageDraw
from pypdf import PdfReader

from firkin.core.catalogue import find
from firkin.core.errors import CannotReckon
from firkin.core.formula import house_formulas, levels, pour_order, reckon
from firkin.core.questions import QUESTIONS, Asked, Mark, Window
from firkin.drawings.label import (
    _SCALES,
    FORMATS,
    SMALLEST_MM,
    LabelFormat,
    LabelText,
    _set,
    _shorter,
    label_pdf,
    label_svg,
    lay_out,
)
from firkin.drawings.pictures import drawn_picture
from firkin.drawings.rail import LEFT, RIGHT, strength_rail
from firkin.drawings.sheet import layers_of, rail_of, vessel_of
from firkin.drawings.svg import spread
from firkin.drawings.timeline import Rest, time_line
from firkin.drawings.typesetting import FACES, broken, width
from mixes import mix, vv

SVG = "{http://www.w3.org/2000/svg}"

LABEL = LabelText(
    product="Landing rub & <friends>",
    strength="Ethanol 80 % v/v",
    contents="475 mL",
    facts=(
        ("Made on", "1 Nov 2026"),
        ("Batch", "26-001"),
        ("Keep by", "31 Oct 2028"),
        ("Free from", "4 Nov 2026 01:27"),
    ),
    cautions=("Highly flammable liquid and vapour.", "Keep out of eyes.", "Keep away from children."),
    signal="Danger",
    ingredients="Contents: ethanol, water.",
    address="http://127.0.0.1:8640/batches/1/",
    more="More: record of batch 26-001.",
)


def words(svg: str) -> list[str]:
    return [element.text or "" for element in ET.fromstring(svg).iter(f"{SVG}text")]


def test_the_rail_is_to_scale() -> None:
    root = ET.fromstring(strength_rail([Window("60 % line", 60, None, "short")], [Mark("Ethanol", 52.5, 53.1, 52, 54)]))
    window = next(e for e in root.iter(f"{SVG}rect") if "window" in e.get("class", ""))
    assert float(window.get("x")) == pytest.approx(LEFT + 0.6 * (RIGHT - LEFT), abs=0.01)
    assert float(window.get("x")) + float(window.get("width")) == pytest.approx(RIGHT, abs=0.01)
    whisker = next(e for e in root.iter(f"{SVG}line") if e.get("class") == "whisker")
    assert float(whisker.get("x2")) - float(whisker.get("x1")) == pytest.approx(0.02 * (RIGHT - LEFT), abs=0.02)
    assert "52.5 % by label, 53.1 % true" in root.find(f"{SVG}title").text
    assert "short" in root.find(f"{SVG}title").text


def test_the_vessel_marks_levels_in_order_and_to_scale() -> None:
    formula = mix(("ethanol", "700 mL", "96 %"), ("glycerol", "20 mL"), ("water", "q.s."), make="1 L")
    svg = vessel_of(reckon(formula), capacity_mL=2000)
    said = words(svg)
    assert said.index("Water") < said.index("Glycerol") < said.index("Ethanol")  # the last one in stands on top
    assert {"fill to 700 mL", "fill to 720 mL", "top up to 1 L", "brim 2 L"} <= set(said)
    layers = [e for e in ET.fromstring(svg).iter(f"{SVG}rect") if e.get("class", "").startswith("layer layer")]
    heights = [float(layer.get("height")) for layer in layers]
    assert heights[0] / heights[2] == pytest.approx(700 / 280, rel=0.02)


def test_a_mix_without_alcohol_has_no_rail() -> None:
    assert rail_of(reckon(mix(("water", "1 L")))) == ""


def test_names_are_escaped_in_every_drawing() -> None:
    rest = Rest("<script>alert(1)</script>", "Quarantine", -10, 62, "free soon")
    for svg in (time_line([rest]), vessel_of(reckon(mix(("<script>x</script>", "1 L"))))):
        assert "<script" not in svg
        ET.fromstring(svg)


@pytest.mark.parametrize("form", FORMATS.values(), ids=FORMATS)
def test_a_label_has_its_true_size_and_says_what_it_must(form: LabelFormat) -> None:
    svg = label_svg(LABEL, form)
    root = ET.fromstring(svg)
    assert (root.get("width"), root.get("height")) == (f"{form.width:g}mm", f"{form.height:g}mm")
    said = " ".join(" ".join(words(svg)).split())
    page = PdfReader(io.BytesIO(label_pdf([LABEL], form))).pages[0]
    assert float(page.mediabox.width) / 72 * 25.4 == pytest.approx(form.width, abs=0.01)
    printed = " ".join(page.extract_text().split())
    for text in (
        "Landing rub",
        "& <friends>",
        "Ethanol 80 %",
        "475 mL",
        "26-001",
        "31 Oct 2028",
        "Danger",
        "flammable",
    ):
        assert text in said
        assert text in printed
    sizes = [float(group.get("font-size")) for group in root.iter(f"{SVG}g")]
    assert min(sizes) >= SMALLEST_MM


@pytest.mark.parametrize("form", [one for one in FORMATS.values() if one.width >= 60], ids=lambda form: form.id)
def test_text_stays_inside_the_label_and_off_the_code(form: LabelFormat) -> None:
    paper = lay_out(LABEL, form)
    assert paper.blocks
    for run in paper.runs:
        long = width(run.words, run.face, run.size)
        left = run.x - {"start": 0.0, "middle": long / 2, "end": long}[run.anchor]
        assert left >= -0.01
        assert left + long <= form.width + 0.01
        if form.round:
            half = form.width / 2
            for x in (left, left + long):
                assert (x - half) ** 2 + (run.y - half) ** 2 <= half**2
        code_left, code_top = min(block.x for block in paper.blocks), min(block.y for block in paper.blocks)
        assert run.y <= code_top + 0.01 or left + long <= code_left


@pytest.mark.parametrize("key", ["100x70", "60x40", "round-60"])
def test_the_code_on_a_label_is_read_back_as_the_batch_page(key: str) -> None:
    """Read by ZXing, a reader that is not the writer's."""
    paper = lay_out(LABEL, FORMATS[key])
    image = Image.new("L", (int(paper.width * 12), int(paper.height * 12)), 255)
    draw = ImageDraw.Draw(image)
    for block in paper.blocks:
        corner = (block.x + block.width, block.y + block.height)
        draw.rectangle([block.x * 12, block.y * 12, corner[0] * 12 - 1, corner[1] * 12 - 1], fill=0)
    assert [code.text for code in zxingcpp.read_barcodes(image)] == [LABEL.address]


@pytest.mark.parametrize("form", FORMATS.values(), ids=FORMATS)
def test_the_places_of_a_sheet_lie_on_the_page_and_apart(form: LabelFormat) -> None:
    sheet = form.sheet
    assert sheet.left + (sheet.columns - 1) * sheet.step_x + form.width <= sheet.page[0] + 0.01
    assert sheet.top + (sheet.rows - 1) * sheet.step_y + form.height <= sheet.page[1] + 0.01
    assert sheet.step_x >= form.width - 0.01
    assert sheet.step_y >= form.height - 0.01


def test_labels_for_all_bottles_come_on_sheets() -> None:
    reader = PdfReader(io.BytesIO(label_pdf([LABEL] * 10, FORMATS["90x60"])))
    assert len(reader.pages) == 2  # two across, four down
    assert sum(page.extract_text().count("26-001") for page in reader.pages) == 10


def test_a_label_too_small_for_its_words_is_refused() -> None:
    tiny = replace(FORMATS["60x40"], width=30.0, height=12.0)
    with pytest.raises(CannotReckon, match="too small"):
        label_svg(LABEL, tiny)


@given(st.text(max_size=200), st.sampled_from(sorted(FACES)), st.floats(min_value=4, max_value=100))
def test_broken_text_fits_its_measure_and_loses_no_letter(text: str, face: str, measure: float) -> None:
    lines = broken(text, face, 3.0, measure)
    assert "".join(lines).replace(" ", "") == "".join(text.split())
    assert all(width(line, face, 3.0) <= measure or len(line) == 1 for line in lines)


@given(st.lists(st.floats(min_value=0, max_value=200), max_size=8))
def test_spread_labels_keep_their_distance(wanted: list[float]) -> None:
    placed = spread(sorted(wanted), 20.0, 0.0, 400.0)
    assert all(b - a >= 20.0 - 1e-9 for a, b in itertools.pairwise(placed))


@given(st.floats(min_value=61, max_value=99.9), st.floats(min_value=10, max_value=60))
def test_the_drawing_of_the_additive_says_the_answers_own_figure(stock: float, target: float) -> None:
    """At most 14.28 % is 14.2 and not 14.3, in the figure and beside the mark."""
    values = {"active": find("ethanol"), "stock": vv(stock), "target": vv(target)}
    answer = QUESTIONS["max-additive"].answer(Asked("max-additive", values))
    assert f">{answer.big} % additive<" in drawn_picture(answer.picture)


def test_levels_are_those_of_the_order_the_steps_pour_in() -> None:
    """By hand, common practice: 1 part of sugar and 10 of water are in before the peel; a lone water is no full vessel."""
    ferment = house_formulas()["citrus-ferment"].formula
    found, order = levels(ferment), pour_order(ferment)
    assert [found[i] for i in order] == sorted(found)
    assert order == (0, 2, 1)
    assert found[2] < found[1] == pytest.approx(reckon(ferment).total.volume_mL)
    names = [layer.name for layer in layers_of(reckon(ferment))]
    assert names == [ferment.lines[i].material.name for i in order]


@given(st.integers(1, 120), st.sampled_from(sorted(FORMATS)))
def test_a_label_is_set_as_large_as_it_fits_and_in_a_handful_of_tries(letters: int, key: str) -> None:
    """The next larger type does not fit; a long name once took hundreds of tries."""
    label, form = replace(LABEL, product=("mooring " * 20)[:letters]), FORMATS[key]
    said = next((one for one in _shorter(label) if _set(one, form, _SCALES[0]) is not None), None)
    if said is None:
        with pytest.raises(CannotReckon, match="too small"):
            lay_out(label, form)
        return
    tried: list[Any] = []

    def counted(*given: Any) -> Any:
        tried.append(given)
        return _set(*given)

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr("firkin.drawings.label._set", counted)
        paper = lay_out.__wrapped__(label, form)
    assert len(tried) <= len(_shorter(label)) + 7
    fits = [scale for scale in _SCALES if _set(said, form, scale) == paper]
    assert fits
    larger = _SCALES[_SCALES.index(fits[-1]) + 1 :]
    assert not larger or _set(said, form, larger[0]) is None
