"""Things printed at true size: one layout in millimetres, two writers, SVG and PDF."""

from collections.abc import Sequence
from dataclasses import dataclass
from xml.sax.saxutils import escape

from fpdf import FPDF

from firkin.drawings.svg import tag
from firkin.drawings.typesetting import FACES, face_file, width

_INK = "#2b2620"
_PAPER = "#fffdf7"
_FAMILIES = {
    "display": ("Bitter, Georgia, serif", 700),
    "text": ("'Source Sans 3', Arial, sans-serif", 400),
    "strong": ("'Source Sans 3', Arial, sans-serif", 700),
}
_A4 = (210.0, 297.0)


@dataclass(frozen=True, slots=True)
class Run:
    """A line of text, its baseline at y; ``size`` the em in mm, ``anchor`` "start", "middle" or "end"."""

    x: float
    y: float
    words: str
    face: str
    size: float
    anchor: str = "start"


@dataclass(frozen=True, slots=True)
class Stroke:
    """A straight line."""

    x1: float
    y1: float
    x2: float
    y2: float
    wide: float = 0.25


@dataclass(frozen=True, slots=True)
class Block:
    """A filled rectangle, such as a module of a QR code."""

    x: float
    y: float
    width: float
    height: float


@dataclass(frozen=True, slots=True)
class Paper:
    """A layout; ``outline`` "box", "round" or "" for none."""

    width: float
    height: float
    title: str
    runs: tuple[Run, ...] = ()
    strokes: tuple[Stroke, ...] = ()
    blocks: tuple[Block, ...] = ()
    outline: str = ""


@dataclass(frozen=True, slots=True)
class Sheet:
    """Where labels stand on a page, in mm: columns and rows, the first one's corner, the steps between."""

    columns: int
    rows: int
    left: float
    top: float
    step_x: float
    step_y: float
    page: tuple[float, float] = _A4

    @property
    def count(self) -> int:
        """Labels on one page."""
        return self.columns * self.rows


def paper_svg(paper: Paper) -> str:
    """The layout as a stand-alone SVG document of true size."""
    parts: list[str] = []
    if paper.outline == "box":
        parts.append(
            tag(
                "rect", x=0.15, y=0.15, width=paper.width - 0.3, height=paper.height - 0.3, rx=2.0,
                fill=_PAPER, stroke=_INK, stroke_width=0.3,
            )
        )  # fmt: skip
    elif paper.outline == "round":
        half = paper.width / 2
        parts.append(tag("circle", cx=half, cy=half, r=half - 0.15, fill=_PAPER, stroke=_INK, stroke_width=0.3))
    parts += [tag("line", x1=s.x1, x2=s.x2, y1=s.y1, y2=s.y2, stroke=_INK, stroke_width=s.wide) for s in paper.strokes]
    if paper.blocks:
        path = "".join(f"M{b.x:.3f} {b.y:.3f}h{b.width:.3f}v{b.height:.3f}h{-b.width:.3f}z" for b in paper.blocks)
        parts.append(tag("path", d=path, fill=_INK))
    for run in paper.runs:
        family, weight = _FAMILIES[run.face]
        parts.append(
            tag(
                "g",
                _as_wide_as_measured(run),
                font_family=family,
                font_weight=weight,
                font_size=round(run.size, 3),
                fill=_INK,
            )
        )
    return tag(
        "svg",
        tag("title", escape(paper.title)),
        *parts,
        xmlns="http://www.w3.org/2000/svg",
        width=f"{paper.width:.6g}mm",
        height=f"{paper.height:.6g}mm",
        viewBox=f"0 0 {paper.width:.6g} {paper.height:.6g}",
    )


def _as_wide_as_measured(run: Run) -> str:
    """The text at the width it was set for, whatever face the reader's machine has."""
    return tag(
        "text", escape(run.words), x=run.x, y=run.y, text_anchor=run.anchor,
        textLength=width(run.words, run.face, run.size), lengthAdjust="spacingAndGlyphs",
    )  # fmt: skip


def paper_pdf(papers: Sequence[Paper], sheet: Sheet | None = None, skip: int = 0) -> bytes:
    """Layouts as a PDF at true size: each on a page of its own size, or in the places of a sheet.

    ``skip`` places of the first sheet stay empty.
    """
    pdf = _document(sheet.page if sheet else (papers[0].width, papers[0].height))
    for i, paper in enumerate(papers):
        if sheet is None:
            pdf.add_page(format=(paper.width, paper.height))
            _paint(pdf, paper, 0.0, 0.0)
            continue
        place = (i + skip) % sheet.count
        if place == 0 or i == 0:
            pdf.add_page()
        left = sheet.left + place % sheet.columns * sheet.step_x
        _paint(pdf, paper, left, sheet.top + place // sheet.columns * sheet.step_y)
    return bytes(pdf.output())


def _document(size: tuple[float, float]) -> FPDF:
    pdf = FPDF(unit="mm", format=size)
    pdf.set_auto_page_break(False)
    pdf.set_margin(0)
    for face in FACES:
        pdf.add_font(face, fname=str(face_file(face)))
    return pdf


def _paint(pdf: FPDF, paper: Paper, left: float, top: float) -> None:
    for colour in (pdf.set_draw_color, pdf.set_text_color, pdf.set_fill_color):
        colour(0x2B, 0x26, 0x20)
    pdf.set_line_width(0.2)
    if paper.outline == "box":
        pdf.rect(left + 0.1, top + 0.1, paper.width - 0.2, paper.height - 0.2)
    elif paper.outline == "round":
        pdf.ellipse(left + 0.1, top + 0.1, paper.width - 0.2, paper.height - 0.2)
    for stroke in paper.strokes:
        pdf.set_line_width(stroke.wide)
        pdf.line(left + stroke.x1, top + stroke.y1, left + stroke.x2, top + stroke.y2)
    if paper.blocks:  # in one go: a code has hundreds of them, and a sheet dozens of codes
        scale, height = pdf.k, pdf.h
        boxes = (
            f"{(left + b.x) * scale:.2f} {(height - top - b.y) * scale:.2f} {b.width * scale:.2f} "
            f"{-b.height * scale:.2f} re"
            for b in paper.blocks
        )
        pdf._out(f"{' '.join(boxes)} f")
    for run in paper.runs:
        pdf.set_font(run.face, size=run.size * 72.0 / 25.4)
        back = {"end": 1.0, "middle": 0.5}.get(run.anchor, 0.0) * width(run.words, run.face, run.size)
        pdf.text(left + run.x - back, top + run.y, run.words)
