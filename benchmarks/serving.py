"""A server of the demo for a measurement, and a browser that asks it."""

import http.client
import os
import tempfile
import threading
from urllib.parse import quote

#: What was measured, what is promised of it, what came out, and whether that holds.
Row = tuple[str, str, str, bool]

LIVE = "/reckon/strength/?" + "&".join(
    f"{name}={quote(value)}"
    for name, value in (
        *(("material", "Isopropanol"), ("strength", "91 %"), ("amount", "2 parts"), ("error", "")),
        *(("material", "Aloe gel"), ("strength", ""), ("amount", "1 part"), ("error", "")),
        *(("rule", "cdc-alcohol-60"), ("family", "aloe-rub"), ("make", "1.5 L")),
    )
)


def serve() -> int:
    """Serve the demo, with an empty page beside it, from a throw-away data folder; return the port."""
    os.environ |= {"FIRKIN_MODE": "demo", "DJANGO_SETTINGS_MODULE": "firkin.site.settings"}
    os.environ["FIRKIN_DATA"] = tempfile.mkdtemp(prefix="firkin-bench-")
    from firkin.site import folder, run

    place = folder.data_folder("demo")
    folder.ready(place)
    run.prepare(place)
    run.load_demo(fresh=False)
    from django.core.wsgi import get_wsgi_application
    from django.http import HttpRequest, HttpResponse
    from django.template import engines
    from django.urls import path
    from waitress import create_server

    from firkin.site import urls

    empty = engines["django"].from_string('{% extends "site/base.html" %}')

    def empty_page(request: HttpRequest) -> HttpResponse:
        return HttpResponse(empty.render({}, request))

    urls.urlpatterns.append(path("empty/", empty_page))
    server = create_server(get_wsgi_application(), host="127.0.0.1", port=0, threads=6)
    threading.Thread(target=server.run, daemon=True).start()
    return int(server.effective_port)


class Browser:
    """A kept connection to the server, with its cookies."""

    def __init__(self, port: int) -> None:
        self.connection = http.client.HTTPConnection("127.0.0.1", port)
        self.cookies: dict[str, str] = {}

    def ask(self, method: str, path: str, body: str = "", *, htmx: bool = False) -> bytes:
        """The body of an answer; redirects are not followed."""
        headers = {"Cookie": "; ".join(f"{name}={value}" for name, value in self.cookies.items())}
        if htmx:
            headers["HX-Request"] = "true"
        if body:
            headers["Content-Type"] = "application/x-www-form-urlencoded"
            headers["Referer"] = "http://127.0.0.1/"
        self.connection.request(method, path, body or None, headers)
        answer = self.connection.getresponse()
        got = answer.read()
        if answer.status not in (200, 302):
            raise RuntimeError(f"{path}: {answer.status}")
        for cookie in answer.headers.get_all("Set-Cookie") or []:
            name, _, value = cookie.split(";")[0].partition("=")
            self.cookies[name] = value
        return got
