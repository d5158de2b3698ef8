"""Measuring and breaking text in the two faces of the labels, in millimetres."""

from functools import cache
from importlib import resources
from importlib.resources.abc import Traversable

from fontTools.ttLib import TTFont

#: Face names as used in label drawings, and their files.
FACES = {"display": "bitter-700.ttf", "text": "source-sans-3-400.ttf", "strong": "source-sans-3-700.ttf"}


def face_file(face: str) -> Traversable:
    """The TrueType file of a face."""
    return resources.files("firkin.drawings").joinpath("fonts", FACES[face])


@cache
def _advances(face: str) -> tuple[dict[int, str], dict[str, tuple[int, int]], int]:
    with face_file(face).open("rb") as file:
        font = TTFont(file)
        return font.getBestCmap(), dict(font["hmtx"].metrics), font["head"].unitsPerEm


def width(words: str, face: str, size_mm: float) -> float:
    """Width of a line of text in mm at a size (em) in mm.

    >>> width("", "text", 3.0)
    0.0
    """
    glyphs, metrics, em = _advances(face)
    total = sum(metrics[glyphs.get(ord(letter), ".notdef")][0] for letter in words)
    return float(total * size_mm / em)


def broken(words: str, face: str, size_mm: float, measure_mm: float) -> list[str]:
    """The text broken into lines no wider than ``measure_mm``; a longer word is cut.

    >>> broken("fill to the mark", "text", 3.0, 14.0)
    ['fill to the', 'mark']
    """
    lines: list[str] = []
    line = ""
    for whole in words.split():
        word = whole
        longer = f"{line} {word}".strip()
        if width(longer, face, size_mm) <= measure_mm:
            line = longer
            continue
        if line:
            lines.append(line)
        while width(word, face, size_mm) > measure_mm and len(word) > 1:
            cut = next(n for n in range(len(word) - 1, 0, -1) if n == 1 or width(word[:n], face, size_mm) <= measure_mm)
            lines.append(word[:cut])
            word = word[cut:]
        line = word
    return [*lines, line] if line else lines
