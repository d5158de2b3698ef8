"""Bottle labels at true size: one layout in millimetres, written as SVG or as PDF."""

from collections.abc import Sequence
from dataclasses import dataclass

from fpdf import FPDF

from firkin.core.errors import CannotReckon
from firkin.drawings.svg import tag, text
from firkin.drawings.typesetting import FACES, broken, face_file, width

#: Label sizes in mm, width by height, as found on common sheets.
SIZES = ((100, 70), (90, 60), (70, 50), (60, 40))
_SHEET = (210.0, 297.0)
_SMALLEST_MM = 2.0  # body text; about 5.7 pt, the least that reads at arm's length


@dataclass(frozen=True, slots=True)
class LabelText:
    """What a label says. ``facts`` are name and value, ``cautions`` short sentences."""

    product: str
    strength: str
    contents: str
    facts: tuple[tuple[str, str], ...]
    cautions: tuple[str, ...]
    signal: str = ""
    ingredients: str = ""


@dataclass(frozen=True, slots=True)
class _Run:
    x: float
    y: float
    words: str
    face: str
    size: float
    anchor: str = "start"


@dataclass(frozen=True, slots=True)
class _Layout:
    width: float
    height: float
    runs: tuple[_Run, ...]
    rules: tuple[tuple[float, float, float], ...]  # x, y, width


def _lay_out(label: LabelText, wide: float, high: float) -> _Layout:
    """Set the label as large as it fits; CannotReckon when it would not be legible."""
    for percent in range(150, 40, -3):
        scale = percent / 100.0
        if 2.9 * scale < _SMALLEST_MM:
            break
        layout, bottom = _set(label, wide, high, scale)
        if bottom <= high - 2.5:
            return layout
    raise CannotReckon(f"A label of {wide:g} × {high:g} mm is too small for what it must say. Choose a larger one.")


def _set(label: LabelText, wide: float, high: float, scale: float) -> tuple[_Layout, float]:
    margin = 3.5
    measure = wide - 2 * margin
    runs: list[_Run] = []
    rules: list[tuple[float, float, float]] = []
    y = margin

    def put(words: str, face: str, size: float, lead: float = 1.22) -> None:
        nonlocal y
        for line in broken(words, face, size, measure):
            y += size * lead
            runs.append(_Run(margin, y - size * 0.25, line, face, size))

    put(label.product, "display", 6.0 * scale, 1.12)
    y += 0.6 * scale
    if width(label.strength + label.contents, "strong", 4.0 * scale) + 4 < measure:
        y += 4.0 * scale * 1.25
        runs.append(_Run(margin, y - scale, label.strength, "strong", 4.0 * scale))
        runs.append(_Run(wide - margin, y - scale, label.contents, "strong", 4.0 * scale, "end"))
    else:
        put(label.strength, "strong", 4.0 * scale)
        put(label.contents, "strong", 4.0 * scale)
    y += 1.2 * scale
    rules.append((margin, y, measure))
    y += 0.6 * scale
    size = 2.9 * scale
    column = measure / 2
    for i in range(0, len(label.facts), 2):
        y += size * 1.3
        for place, (name, value) in enumerate(label.facts[i : i + 2]):
            x = margin + place * column
            runs.append(_Run(x, y - size * 0.25, name, "text", size))
            runs.append(_Run(x + width(name + " ", "text", size), y - size * 0.25, value, "strong", size))
    y += 1.2 * scale
    rules.append((margin, y, measure))
    y += 0.4 * scale
    if label.signal:
        put(label.signal, "display", 3.4 * scale)
    put(" ".join(label.cautions), "text", size)
    if label.ingredients:
        put(label.ingredients, "text", size)
    return _Layout(wide, high, tuple(runs), tuple(rules)), y


def label_svg(label: LabelText, width_mm: float, height_mm: float) -> str:
    """The label as a stand-alone SVG document of true size."""
    layout = _lay_out(label, width_mm, height_mm)
    style = {
        "display": ("Bitter, Georgia, serif", 700),
        "text": ("'Source Sans 3', Arial, sans-serif", 400),
        "strong": ("'Source Sans 3', Arial, sans-serif", 700),
    }
    parts = [
        tag(
            "rect", x=0.15, y=0.15, width=width_mm - 0.3, height=height_mm - 0.3, rx=2.0,
            fill="#fffdf7", stroke="#2b2620", stroke_width=0.3,
        )
    ]  # fmt: skip
    parts += [
        tag("line", x1=x, x2=x + wide, y1=y, y2=y, stroke="#2b2620", stroke_width=0.25) for x, y, wide in layout.rules
    ]
    for run in layout.runs:
        family, weight = style[run.face]
        parts.append(
            tag(
                "g",
                text(run.x, run.y, run.words, anchor=run.anchor),
                font_family=family,
                font_weight=weight,
                font_size=round(run.size, 3),
                fill="#2b2620",
            )
        )
    return tag(
        "svg",
        tag("title", f"Label: {_plain(label.product)}"),
        *parts,
        xmlns="http://www.w3.org/2000/svg",
        width=f"{width_mm:g}mm",
        height=f"{height_mm:g}mm",
        viewBox=f"0 0 {width_mm:g} {height_mm:g}",
    )


def _plain(words: str) -> str:
    return words.replace("&", "and").replace("<", "").replace(">", "")


def label_pdf(labels: Sequence[LabelText], width_mm: float, height_mm: float) -> bytes:
    """Labels as PDF at true size: one alone on a page of its size, several on A4 sheets."""
    if len(labels) == 1:
        pdf = _document((width_mm, height_mm))
        pdf.add_page()
        _paint(pdf, _lay_out(labels[0], width_mm, height_mm), 0.0, 0.0)
        return bytes(pdf.output())
    pdf = _document(_SHEET)
    across = int((_SHEET[0] - 10.0) // width_mm)
    down = int((_SHEET[1] - 10.0) // height_mm)
    left = (_SHEET[0] - across * width_mm) / 2
    top = (_SHEET[1] - down * height_mm) / 2
    for i, label in enumerate(labels):
        place = i % (across * down)
        if place == 0:
            pdf.add_page()
        x, y = left + place % across * width_mm, top + place // across * height_mm
        _paint(pdf, _lay_out(label, width_mm, height_mm), x, y)
    return bytes(pdf.output())


def _document(size: tuple[float, float]) -> FPDF:
    pdf = FPDF(unit="mm", format=size)
    pdf.set_auto_page_break(False)
    pdf.set_margin(0)
    for face in FACES:
        pdf.add_font(face, fname=str(face_file(face)))
    return pdf


def _paint(pdf: FPDF, layout: _Layout, left: float, top: float) -> None:
    pdf.set_draw_color(0x2B, 0x26, 0x20)
    pdf.set_text_color(0x2B, 0x26, 0x20)
    pdf.set_line_width(0.2)
    pdf.rect(left + 0.1, top + 0.1, layout.width - 0.2, layout.height - 0.2)
    for x, y, wide in layout.rules:
        pdf.line(left + x, top + y, left + x + wide, top + y)
    for run in layout.runs:
        pdf.set_font(run.face, size=run.size * 72.0 / 25.4)
        x = left + run.x - (width(run.words, run.face, run.size) if run.anchor == "end" else 0.0)
        pdf.text(x, top + run.y, run.words)
