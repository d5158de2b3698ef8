"""A text document of several pages as PDF, A4: headings, paragraphs, tables, pictures, in the faces of the labels."""

import io
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from fpdf import FPDF
from fpdf.enums import TableBordersLayout
from fpdf.fonts import FontFace
from PIL import Image

from firkin.drawings.typesetting import FACES, face_file

_INK = (0x2B, 0x26, 0x20)
_SOFT = (0x66, 0x5A, 0x4C)
_MARGIN_MM = 18.0
_PICTURE_MM = 70.0


@dataclass(frozen=True, slots=True)
class Heading:
    """The title of a part."""

    words: str


@dataclass(frozen=True, slots=True)
class Paragraph:
    """A paragraph; ``strong`` in the bold face."""

    words: str
    strong: bool = False


@dataclass(frozen=True, slots=True)
class Grid:
    """A table: its head, its rows of as many cells, and how wide the columns are against each other.

    ``right`` are the columns of numbers.
    """

    head: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    widths: tuple[int, ...]
    right: frozenset[int] = frozenset()


@dataclass(frozen=True, slots=True)
class Picture:
    """A JPEG and what stands under it."""

    jpeg: bytes
    words: str = ""


Part = Heading | Paragraph | Grid | Picture


def document_pdf(title: str, under: str, parts: Sequence[Part], made_at: datetime) -> bytes:
    """A document: its title, a line under it, its parts, and the page numbers at the foot."""
    pdf = _Document()
    pdf.title_at_foot = title
    pdf.set_title(title)
    pdf.set_creation_date(made_at)
    pdf.add_page()
    _write(pdf, title, "display", 20)
    _write(pdf, under, "text", 10, _SOFT)
    for part in parts:
        match part:
            case Heading():
                if pdf.will_page_break(30):
                    pdf.add_page()
                pdf.ln(4)
                _write(pdf, part.words, "display", 13)
            case Paragraph():
                _write(pdf, part.words, "strong" if part.strong else "text", 10.5)
            case Grid():
                _table(pdf, part)
            case Picture():
                _picture(pdf, part)
    return bytes(pdf.output())


class _Document(FPDF):
    """A4 with page numbers."""

    title_at_foot = ""

    def __init__(self) -> None:
        super().__init__(unit="mm", format="A4")
        self.set_margin(_MARGIN_MM)
        self.set_auto_page_break(True, _MARGIN_MM)
        for face in FACES:
            self.add_font(face, fname=str(face_file(face)))

    def footer(self) -> None:
        """What it is, and which page."""
        self.set_y(-12)
        self.set_font("text", size=8)
        self.set_text_color(*_SOFT)
        self.cell(0, 5, f"{self.title_at_foot} · page {self.page_no()}", align="R")


def _write(pdf: FPDF, words: str, face: str, points: float, colour: tuple[int, int, int] = _INK) -> None:
    pdf.set_font(face, size=points)
    pdf.set_text_color(*colour)
    pdf.multi_cell(0, points * 0.5, words, new_x="LMARGIN", new_y="NEXT", align="L")


def _table(pdf: FPDF, grid: Grid) -> None:
    pdf.ln(1)
    pdf.set_font("text", size=9.5)
    pdf.set_text_color(*_INK)
    pdf.set_draw_color(*_SOFT)
    pdf.set_line_width(0.1)
    aligns = tuple("RIGHT" if at in grid.right else "LEFT" for at in range(len(grid.head)))
    with pdf.table(
        col_widths=grid.widths,
        text_align=aligns,
        line_height=5,
        padding=(0.8, 1.0),
        borders_layout=TableBordersLayout.HORIZONTAL_LINES,
        headings_style=FontFace(family="strong", emphasis=""),
    ) as table:
        for cells in (grid.head, *grid.rows):
            row = table.row()
            for words in cells:
                row.cell(words)
    pdf.ln(2)


def _picture(pdf: FPDF, picture: Picture) -> None:
    try:
        whole = Image.open(io.BytesIO(picture.jpeg), formats=["JPEG"])
        whole.load()
    except Exception:  # what comes out of a damaged picture is of many kinds
        _write(pdf, f"A photo that cannot be read. {picture.words}", "text", 9, _SOFT)
        return
    pdf.image(whole, w=_PICTURE_MM, h=_PICTURE_MM, keep_aspect_ratio=True)
    pdf.ln(1)
    if picture.words:
        _write(pdf, picture.words, "text", 9, _SOFT)
