"""Bottle labels at true size, set as large as they fit, on common label formats by dimension."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from math import sqrt

import segno

from firkin.core.errors import CannotReckon
from firkin.drawings.paper import Block, Paper, Run, Sheet, Stroke, paper_pdf, paper_svg
from firkin.drawings.typesetting import broken, width

SMALLEST_MM = 2.0  # em of body text; about 5.7 pt, the least that reads at arm's length
_MARGIN = 3.0
_QR_MM = 13.0
_TIGHT_MM = 45.0


@dataclass(frozen=True, slots=True)
class LabelFormat:
    """A label format: size in mm, round or not, and where its labels stand on a sheet."""

    id: str
    width: float
    height: float
    sheet: Sheet
    round: bool = False

    @property
    def name(self) -> str:
        """Its dimensions in words."""
        if self.round:
            return f"round, {self.width:g} mm"
        return f"{self.width:g} × {self.height:g} mm"


_LETTER = (215.9, 279.4)

#: Formats by dimension; places on the sheet are common ones from memory: print one on plain paper first.
FORMATS = {
    one.id: one
    for one in (
        LabelFormat("100x70", 100.0, 70.0, Sheet(2, 4, 5.0, 8.5, 100.0, 70.0)),
        LabelFormat("99x68", 99.1, 67.7, Sheet(2, 4, 4.7, 13.1, 101.6, 67.7)),
        LabelFormat("102x51", 101.6, 50.8, Sheet(2, 5, 4.0, 12.7, 106.3, 50.8, _LETTER)),
        LabelFormat("90x60", 90.0, 60.0, Sheet(2, 4, 15.0, 28.5, 90.0, 60.0)),
        LabelFormat("70x50", 70.0, 50.0, Sheet(3, 5, 0.0, 23.5, 70.0, 50.0)),
        LabelFormat("64x72", 63.5, 72.0, Sheet(3, 4, 7.2, 4.5, 66.0, 72.0)),
        LabelFormat("60x40", 60.0, 40.0, Sheet(3, 7, 15.0, 8.5, 60.0, 40.0)),
        LabelFormat("64x38", 63.5, 38.1, Sheet(3, 7, 7.2, 15.1, 66.0, 38.1)),
        LabelFormat("round-80", 80.0, 80.0, Sheet(2, 3, 15.0, 18.5, 100.0, 90.0), round=True),
        LabelFormat("round-60", 60.0, 60.0, Sheet(3, 4, 9.5, 18.5, 65.5, 66.7), round=True),
        LabelFormat("round-40", 40.0, 40.0, Sheet(4, 6, 16.0, 13.5, 46.0, 46.0), round=True),
    )
}
USUAL = "90x60"


@dataclass(frozen=True, slots=True)
class LabelText:
    """What a label says. ``facts`` are name and value, ``cautions`` short sentences, the gravest first.

    ``address`` is that of the batch page, for a QR code; ``more`` what a label too small for all of it says instead.
    ``notice`` says that it fails its line, and always stands; ``words`` are the maker's own, above the cautions.
    """

    product: str
    strength: str
    contents: str
    facts: tuple[tuple[str, str], ...]
    cautions: tuple[str, ...]
    signal: str = ""
    ingredients: str = ""
    address: str = ""
    more: str = ""
    notice: str = ""
    words: str = ""


def label_svg(label: LabelText, form: LabelFormat) -> str:
    """The label as a stand-alone SVG document of true size; CannotReckon when it would not be legible."""
    return paper_svg(lay_out(label, form))


def label_pdf(labels: Sequence[LabelText], form: LabelFormat, start: int | None = None) -> bytes:
    """Labels as PDF at true size: one alone on a page of its size, several on sheets.

    With ``start``, counted from 1, they stand on sheets from that place on: the labels before it are gone already.
    """
    papers = [lay_out(label, form) for label in labels]
    on_sheets = start is not None or len(papers) > 1
    return paper_pdf(papers, form.sheet if on_sheets else None, skip=(start or 1) - 1)


@lru_cache(maxsize=64)
def lay_out(label: LabelText, form: LabelFormat) -> Paper:
    """Set the label as large as it fits.

    A label too small for everything gives up the list of contents, then the gravest cautions stay and the rest stand
    on the batch's page. What it is, how strong, since and until when, and the signal word always stand.
    """
    for said in _shorter(label):
        paper = _set(said, form, _SCALES[0])
        if paper is not None:
            return _largest(said, form, paper)
    raise CannotReckon(f"A label of {form.name} is too small for what it must say. Choose a larger one.")


#: Sizes of type, the smallest first: from the least that is legible to half as large again.
_SCALES = [percent / 100.0 for percent in range(42, 151, 3) if 2.9 * percent / 100.0 >= SMALLEST_MM]


def _largest(label: LabelText, form: LabelFormat, smallest: Paper) -> Paper:
    """The label at the largest size of type it fits in, by halving: it is set a handful of times, however long."""
    low, high, best = 0, len(_SCALES), smallest
    while high - low > 1:
        middle = (low + high) // 2
        paper = _set(label, form, _SCALES[middle])
        if paper is None:
            high = middle
        else:
            low, best = middle, paper
    return best


def _shorter(label: LabelText) -> list[LabelText]:
    """The label as it is, and with less and less of what can be looked up."""
    bare = replace(label, ingredients="")
    few = [replace(bare, cautions=(*label.cautions[:most], label.more)) for most in (3, 2, 1) if label.more]
    least = replace(bare, cautions=label.cautions[:1], facts=label.facts[:3], words="")
    whole = [label, bare]
    return [*whole, *map(_without_code, whole), *few, *map(_without_code, [*few, least])]


def _without_code(label: LabelText) -> LabelText:
    return replace(label, address="")


def _set(label: LabelText, form: LabelFormat, scale: float) -> Paper | None:
    """The label at one size of type; None when it does not fit."""
    setter = _Setter(form, scale)
    if label.address and not setter.code(label.address):
        return None
    big, strong, signal = (6.0, 4.0, 3.4) if form.height > _TIGHT_MM else (4.4, 3.3, 3.0)
    setter.put(label.product, "display", big * scale, 1.12)
    setter.space(0.6)
    setter.pair(label.strength, label.contents, strong * scale)
    if label.notice:
        setter.put(label.notice, "strong", 2.9 * scale)
    setter.rule()
    setter.facts(label.facts, 2.9 * scale)
    setter.rule()
    if label.signal:
        setter.put(label.signal, "display", signal * scale)
    if label.words:
        setter.put(label.words, "strong", 2.9 * scale)
    setter.put(" ".join(label.cautions), "text", 2.9 * scale)
    if label.ingredients:
        setter.put(label.ingredients, "text", 2.9 * scale)
    return setter.paper(f"Label: {label.product}") if setter.fits else None


@lru_cache(maxsize=64)
def _modules(address: str) -> tuple[tuple[int, ...], ...]:
    """The dark and light modules of an address's QR code, row by row."""
    return tuple(map(tuple, segno.make(address, error="m", boost_error=False).matrix))


class _Setter:
    """Sets text from the top down, in the width that is free at each height."""

    def __init__(self, form: LabelFormat, scale: float) -> None:
        self.form, self.scale = form, scale
        self.y = form.height * 0.09 if form.round else _MARGIN
        self.fits = True
        self.runs: list[Run] = []
        self.strokes: list[Stroke] = []
        self.blocks: list[Block] = []
        self.corner = (0.0, 0.0)  # width and height taken by the code, at the foot on the right

    def code(self, address: str) -> bool:
        """A QR code at the foot: in the corner, or in the middle of a round label."""
        matrix = _modules(address)
        modules = len(matrix)
        side = min(_QR_MM * max(1.0, self.form.height / 60.0), self.form.height * 0.3)
        cell = side / modules
        if cell < 0.3:  # finer than a home printer and a telephone agree on
            return False
        if self.form.round:
            left, top = (self.form.width - side) / 2, self.form.height * 0.94 - side
        else:
            left, top = self.form.width - _MARGIN - side, self.form.height - _MARGIN - side
            self.corner = (side + 1.5, side + 1.0)
        for row, bits in enumerate(matrix):
            start = None
            for column, bit in enumerate([*bits, 0]):
                if bit and start is None:
                    start = column
                elif not bit and start is not None:
                    x, y = left + start * cell, top + row * cell
                    self.blocks.append(Block(x, y, (column - start) * cell, cell))
                    start = None
        self.foot = top - 0.8 if self.form.round else self.form.height - _MARGIN + 0.6
        return True

    def _free(self, top: float, bottom: float) -> tuple[float, float]:
        """Left edge and width of what is free between two heights."""
        if self.form.round:
            radius = self.form.width / 2
            reach = max(abs(top - radius), abs(bottom - radius))
            half = sqrt(max(0.0, (radius - 1.5) ** 2 - reach**2))
            return radius - half, 2 * half
        wide = self.form.width - 2 * _MARGIN
        if self.corner[0] and bottom > self.form.height - _MARGIN - self.corner[1]:
            wide -= self.corner[0]
        return _MARGIN, wide

    def put(self, words: str, face: str, size: float, lead: float = 1.22) -> None:
        """Set a text, broken line by line to what is free at its height."""
        left_over = " ".join(words.split())
        while left_over and self.fits:
            x, wide = self._free(self.y, self.y + size * lead)
            if wide < size * 2:
                self.fits = False
                return
            line = broken(left_over, face, size, wide)[0]
            left_over = left_over[len(line) :].strip()
            self.y += size * lead
            self._line(x, wide, line, face, size)
        self._look()

    def _line(self, x: float, wide: float, line: str, face: str, size: float) -> None:
        y = self.y - size * 0.25
        if self.form.round:
            self.runs.append(Run(x + wide / 2, y, line, face, size, "middle"))
        else:
            self.runs.append(Run(x, y, line, face, size))

    def pair(self, one: str, other: str, size: float) -> None:
        """Two texts on one line, left and right, or one below the other where there is no room."""
        x, wide = self._free(self.y, self.y + size * 1.25)
        if not self.form.round and width(one + other, "strong", size) + 4 < wide:
            self.y += size * 1.25
            self.runs.append(Run(x, self.y - size * 0.25, one, "strong", size))
            self.runs.append(Run(x + wide, self.y - size * 0.25, other, "strong", size, "end"))
            return
        self.put(one, "strong", size)
        self.put(other, "strong", size)

    def facts(self, facts: tuple[tuple[str, str], ...], size: float) -> None:
        """Names and values, two to a line."""
        for i in range(0, len(facts), 2):
            two = facts[i : i + 2]
            if self.form.round:
                self.put(" · ".join(f"{name} {value}" for name, value in two), "strong", size)
                continue
            self.y += size * 1.3
            column = (self.form.width - 2 * _MARGIN) / 2
            for place, (name, value) in enumerate(two):
                x, wide = _MARGIN + place * column, width(f"{name} {value}", "strong", size)
                if wide > column:
                    self.fits = False
                self.runs.append(Run(x, self.y - size * 0.25, name, "text", size))
                value_x = x + width(name + " ", "text", size)
                self.runs.append(Run(value_x, self.y - size * 0.25, value, "strong", size))
        self._look()

    def rule(self) -> None:
        """A thin line across."""
        self.space(1.2)
        x, wide = self._free(self.y, self.y)
        self.strokes.append(Stroke(x, self.y, x + wide, self.y))
        self.space(0.5)

    def space(self, millimetres: float) -> None:
        """Go down a little."""
        self.y += millimetres * self.scale

    foot: float = 0.0

    def _look(self) -> None:
        foot = self.foot or (self.form.height * 0.93 if self.form.round else self.form.height - _MARGIN + 0.6)
        if self.y > foot:
            self.fits = False

    def paper(self, title: str) -> Paper:
        """What was set."""
        outline = "round" if self.form.round else "box"
        parts = (tuple(self.runs), tuple(self.strokes), tuple(self.blocks))
        return Paper(self.form.width, self.form.height, title, *parts, outline)
