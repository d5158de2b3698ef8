"""A drawing of a page as a file of its own, at the page's address with ``drawing=`` and the drawing's name.

The page is worked out, and the drawing of that name goes out in its place, with the inks it needs. A page that has no
such drawing (any more) is shown.
"""

import re
from collections.abc import Callable
from dataclasses import dataclass
from functools import cache
from html import unescape
from pathlib import Path

from django.contrib.staticfiles import finders
from django.http import HttpRequest, HttpResponse
from django.utils.html import format_html
from django.utils.safestring import SafeString

_ASKED = "drawing"


@dataclass
class _Wanted:
    """Which drawing of a page is wanted alone, and that drawing once it was drawn."""

    name: str
    found: str = ""


def as_file(request: HttpRequest, svg: str, name: str) -> SafeString:
    """The link to a page's drawing as a file; the drawing is kept when it is the one that is asked for."""
    wanted: _Wanted = request.drawing_alone  # type: ignore[attr-defined]
    if wanted.name == name:
        wanted.found = svg
    query = request.GET.copy()
    query[_ASKED] = name
    said = re.search(r"<title>(.*?)</title>", svg)
    return format_html(
        '<a class="as-file no-print" href="{}?{}" download aria-label="As a file, SVG: {}">SVG</a>',
        request.path, query.urlencode(), unescape(said[1]) if said else "the drawing",
    )  # fmt: skip


def drawing_alone(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Answer with the drawing in place of the page, where one was asked for and is there."""

    def middleware(request: HttpRequest) -> HttpResponse:
        wanted = _Wanted(request.GET.get(_ASKED, ""))
        request.drawing_alone = wanted  # type: ignore[attr-defined]
        if wanted.name:  # the page itself is asked for without that word, which is none of its own
            query = request.GET.copy()
            del query[_ASKED]
            request.GET = query  # type: ignore[assignment]
        response = get_response(request)
        if not wanted.found:
            return response
        headers = {"Content-Disposition": f'attachment; filename="firkin-{wanted.name}.svg"'}
        return HttpResponse(stand_alone(wanted.found), content_type="image/svg+xml", headers=headers)

    return middleware


def stand_alone(svg: str) -> str:
    """A drawing with its size and its inks in it, as on light paper."""
    width, height = re.findall(r"[\d.]+", re.search(r'viewBox="([^"]*)"', svg)[1])[2:]  # type: ignore[index]
    style = f"<style>{_inks()}</style>"
    sized = svg.replace("<svg ", f'<svg width="{width}" height="{height}" ', 1)
    return re.sub(r"(<svg [^>]*>)", lambda found: found[1] + style, sized, count=1)


@cache
def _inks() -> str:
    """The colours of the light theme and the rules of the drawings, out of the pages' own style sheets."""
    tokens, drawings = (Path(str(finders.find(f"firkin/{name}.css"))).read_text() for name in ("tokens", "drawings"))
    light = re.search(r":root \{.*?\n\}", tokens, re.DOTALL)
    return (light[0] if light else "") + re.sub(r"/\*.*?\*/", "", drawings, flags=re.DOTALL)
