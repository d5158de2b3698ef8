"""Every drawing of every page is to be had as a file: the same drawing, sound by itself, with its inks."""

import re
from html.parser import HTMLParser
from xml.etree import ElementTree

import pytest
from django.test import Client

from firkin.accounts.models import User
from firkin.batches.models import Batch
from quay import lantern_quay

SVG = "{http://www.w3.org/2000/svg}"


@pytest.fixture
def quay(client: Client, db) -> Client:
    lantern_quay()
    client.force_login(User.objects.get())
    return client


def drawings(page: str) -> list[str]:
    """Every drawing once: a phone has the time line in a form of its own."""
    return re.findall(r'<svg [^>]*class="drawing(?! time-line-narrow).*?</svg>', page, re.DOTALL)


def shapes(svg: str) -> list[tuple[str, str]]:
    """What it draws and says, without its size and inks; a time line's mark of now may have moved on."""
    root = ElementTree.fromstring(svg)
    return [(one.tag, (one.text or "").strip()) for one in root.iter() if one.tag != f"{SVG}style"]


PAGES = [
    "/", "/guide/", "/formulas/1/", "/formulas/1/?make=2 L", "/reckon/dilute/", "/reckon/chlorine/",
    "/reckon/strength/", "/batches/5/wait/", "/batches/6/make/", "/batches/2/fill/", "/batches/8/check/",
]  # fmt: skip


@pytest.mark.parametrize("address", PAGES)
def test_each_drawing_of_a_page_is_the_file_its_menu_leads_to(quay: Client, address: str) -> None:
    page = quay.get(address).content.decode()
    links = re.findall(r'<li><a href="([^"]*)" download>', page)
    drawn = drawings(page)
    assert len(links) == len(drawn) == len(set(links)), "two drawings of a page have one name"
    for link, svg in zip(links, drawn, strict=True):
        answer = quay.get(link.replace("&amp;", "&"))
        assert answer["Content-Type"] == "image/svg+xml"
        assert answer["Content-Disposition"].startswith("attachment")
        file = answer.content.decode()
        assert shapes(file) == shapes(svg)
        root = ElementTree.fromstring(file)
        assert [float(part) for part in root.attrib["viewBox"].split()[2:]] == [
            float(root.attrib[side]) for side in ("width", "height")
        ]
        used = set(re.findall(r"var\((--[\w-]+)\)", file))
        assert used
        assert all(f"{ink}:" in file for ink in used), used


def test_a_part_drawn_anew_brings_its_menu_along(quay: Client) -> None:
    answer = quay.get(
        "/reckon/dilute/?active=ethanol&stock=96 %25&target=60 %25&make=2 L", headers={"HX-Request": "true"}
    )
    part = answer.content.decode()
    assert int(answer["Content-Length"]) == len(answer.content), "nothing is cut off on its way"
    assert part.count('id="drawings-menu"') == 1
    assert 'hx-swap-oob="true"' in part
    link = re.search(r'<li><a href="([^"]*)" download>', part)
    assert link
    file = quay.get(link[1].replace("&amp;", "&"))
    assert shapes(file.content.decode()) == shapes(drawings(part)[0])


def test_a_whole_page_has_its_menu_once(quay: Client) -> None:
    page = quay.get("/reckon/strength/?more=line", headers={"HX-Request": "true"}).content.decode()
    assert page.count('id="drawings-menu"') == 1


def test_there_are_drawings_on_these_pages(quay: Client) -> None:
    assert sum(len(drawings(quay.get(address).content.decode())) for address in PAGES) > 10


@pytest.mark.parametrize("name", ["99", "0", "x", "-1", ""])
def test_a_drawing_that_is_not_there_leads_to_the_page(quay: Client, name: str) -> None:
    answer = quay.get(f"/formulas/1/?drawing={name}")
    assert answer.status_code == 200
    assert answer["Content-Type"].startswith("text/html")


def test_a_name_with_quotes_in_it_stays_in_its_place(quay: Client) -> None:
    Batch.objects.update(name='a" onclick="b')
    for address in ("/", "/batches/5/wait/"):
        page = HTMLParser()
        attributes: set[str] = set()
        page.handle_starttag = lambda _, attrs, found=attributes: found.update(name for name, _ in attrs)
        page.feed(quay.get(address).content.decode())
        assert "aria-label" in attributes
        assert "onclick" not in attributes
