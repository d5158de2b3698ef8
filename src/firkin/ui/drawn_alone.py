"""The drawings of a page as files of their own, at the page's address with ``drawing=`` and the drawing's name.

The page is worked out, and the drawing of that name goes out in its place, with the inks it needs. A page that has no
such drawing (any more) is shown. One menu at the foot of a page leads to all of them; a part of a page that is drawn
anew brings its menu along.
"""

import re
from collections.abc import Callable
from dataclasses import dataclass, field
from functools import cache
from html import unescape
from pathlib import Path

from django.contrib.staticfiles import finders
from django.http import HttpRequest, HttpResponse
from django.template.loader import render_to_string

_ASKED = "drawing"


@dataclass
class _Drawings:
    """The drawings of one page: which one is wanted alone, that one once it was drawn, and where each is to be had."""

    wanted: str
    found: str = ""
    files: list[tuple[str, str]] = field(default_factory=list)  # title, address


def as_file(request: HttpRequest, svg: str, name: str) -> None:
    """Note a page's drawing for the menu of files, and keep it when it is the one that is asked for."""
    drawings: _Drawings = request.drawings  # type: ignore[attr-defined]
    if drawings.wanted == name:
        drawings.found = svg
    query = request.GET.copy()
    query[_ASKED] = name
    said = re.search(r"<title>(.*?)</title>", svg)
    drawings.files.append((unescape(said[1]) if said else "Drawing", f"{request.path}?{query.urlencode()}"))


def menu(request: HttpRequest, **context: object) -> str:
    """The menu of a page's drawings, empty where it has none."""
    drawings = getattr(request, "drawings", None)  # a request that was refused at the door has none
    return render_to_string("ui/drawings_menu.html", {"files": drawings.files if drawings else [], **context})


def drawing_alone(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Answer with the drawing in place of the page, where one was asked for and is there; a part brings its menu."""

    def middleware(request: HttpRequest) -> HttpResponse:
        drawings = _Drawings(request.GET.get(_ASKED, ""))
        request.drawings = drawings  # type: ignore[attr-defined]
        if drawings.wanted:  # the page itself is asked for without that word, which is none of its own
            query = request.GET.copy()
            del query[_ASKED]
            request.GET = query  # type: ignore[assignment]
        response = get_response(request)
        if not drawings.found:
            part = bool(request.headers.get("HX-Request")) and not response.streaming
            if part and drawings.files and b'id="drawings-menu"' not in response.content:
                response.content += menu(request, part=True).encode()
                if response.has_header("Content-Length"):  # counted before, by a middleware within
                    response["Content-Length"] = str(len(response.content))
            return response
        headers = {"Content-Disposition": f'attachment; filename="firkin-{drawings.wanted}.svg"'}
        return HttpResponse(stand_alone(drawings.found), content_type="image/svg+xml", headers=headers)

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
