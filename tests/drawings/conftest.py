"""Every drawing that a test here makes is looked over as it is made: each element whole, and in its frame."""

import re
from xml.etree import ElementTree as ET

import pytest

from firkin.drawings import svg

NEEDS = {
    "line": ("x1", "x2", "y1", "y2"),
    "rect": ("x", "y", "width", "height"),
    "circle": ("cx", "cy", "r"),
    "ellipse": ("cx", "cy", "rx", "ry"),
    "text": ("x", "y", "text-anchor"),
    "path": ("d",),
    "polygon": ("points",),
    "polyline": ("points",),
}
ACROSS, DOWN = ("x", "x1", "x2", "cx"), ("y", "y1", "y2", "cy")
#: A stroke's own half, and a mark that peeps over an edge.
SLACK = 6.0
PATH = re.compile(r"([MLHVCSQTAZmlhvcsqtaz]\s*|[-+]?(\d+\.?\d*|\.\d+)[\s,]*)+")


def look_over(drawn: str) -> None:
    """Raise where an element lacks what it is drawn by, says nothing, or stands outside the frame."""
    root = ET.fromstring(drawn)
    _, _, wide, high = map(float, root.attrib["viewBox"].split())
    moved = {id(below) for above in root.iter() if "transform" in above.attrib for below in above.iter()}
    for element in root.iter():
        name = element.tag.rpartition("}")[2]
        missing = [key for key in NEEDS.get(name, ()) if key not in element.attrib]
        assert not missing, f"{ET.tostring(element).decode()} lacks {missing}"
        if name == "text":
            assert "".join(element.itertext()).strip(), "a text that says nothing"
        assert "None" not in "".join(element.attrib.values()), ET.tostring(element).decode()
        if name == "path":
            assert PATH.fullmatch(element.attrib["d"]), element.attrib["d"]
        if name == "rect":
            assert float(element.attrib["width"]) >= 0.0 <= float(element.attrib["height"])
        if id(element) not in moved and name in NEEDS:
            for keys, most in ((ACROSS, wide), (DOWN, high)):
                for key in keys:
                    assert -SLACK <= float(element.attrib.get(key, 0.0)) <= most + SLACK, ET.tostring(element).decode()
    links = any("href" in element.attrib for element in root.iter())
    assert root.attrib["role"] == ("group" if links else "img"), "a link within a picture: nobody comes to it"
    assert root.attrib["class"].split()[0] == "drawing"
    (title,) = [element for element in root if element.tag.endswith("title")]
    assert (title.text or "").strip()


@pytest.fixture(autouse=True)
def _looked_over(monkeypatch: pytest.MonkeyPatch) -> None:
    plain = svg.tag

    def watched(name: str, *content: str, **attributes: object) -> str:
        made = plain(name, *content, **attributes)
        if name == "svg":
            look_over(made)
        return made

    monkeypatch.setattr(svg, "tag", watched)
