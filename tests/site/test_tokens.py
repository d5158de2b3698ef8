"""Inks on their grounds, light and dark, by the contrast WCAG 2.2 asks for: 4.5 for words, 3 for the edge of a field."""

import re
from pathlib import Path

import pytest

from firkin import site

CSS = (Path(site.__file__).parent / "static" / "firkin" / "tokens.css").read_text()
LIGHT, DARK = CSS.split("prefers-color-scheme: dark")
GROUNDS = ("paper", "sheet")
WORDS = [
    *((ink, ground) for ink in ("ink", "ink-soft", "oak") for ground in GROUNDS),
    ("hint", "sheet"),
    *((verdict, f"{verdict}-ground") for verdict in ("meets", "on-the-line", "short", "too-strong")),
]
EDGES = [("field-rule", ground) for ground in GROUNDS]


def tokens(text: str) -> dict[str, str]:
    return dict(re.findall(r"--([a-z-]+): (#[0-9a-fA-F]{6});", text))


def luminance(colour: str) -> float:
    parts = [int(colour[at : at + 2], 16) / 255.0 for at in (1, 3, 5)]
    red, green, blue = (one / 12.92 if one <= 0.04045 else ((one + 0.055) / 1.055) ** 2.4 for one in parts)
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def contrast(one: str, other: str) -> float:
    low, high = sorted((luminance(one), luminance(other)))
    return (high + 0.05) / (low + 0.05)


@pytest.mark.parametrize("scheme", [LIGHT, DARK], ids=["light", "dark"])
def test_words_and_edges_of_fields_stand_out_from_their_ground(scheme: str) -> None:
    found = tokens(scheme)
    for pairs, least in ((WORDS, 4.5), (EDGES, 3.0)):
        for ink, ground in pairs:
            assert contrast(found[ink], found[ground]) >= least, (ink, ground)


def test_contrast_is_counted_as_the_standard_does() -> None:
    """WCAG 2.2: black on white is 21, white on white 1."""
    assert contrast("#000000", "#ffffff") == pytest.approx(21.0)
    assert contrast("#ffffff", "#ffffff") == 1.0
