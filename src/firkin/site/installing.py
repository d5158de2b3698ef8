"""What makes Firkin installable where HTTPS serves it: a manifest, and the worker that keeps the batch at hand."""

from pathlib import Path

from django.contrib.auth.decorators import login_not_required
from django.contrib.staticfiles import finders
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.templatetags.static import static
from django.urls import reverse
from django.views.decorators.cache import cache_control

#: The ground and the bar of the light theme (static/firkin/tokens.css).
_PAPER, _BAR = "#f4ecdd", "#4a2e15"


@login_not_required
@cache_control(max_age=3600)
def manifest(_: HttpRequest) -> JsonResponse:
    """The web application manifest (W3C): its name, where it starts, and its pictures."""
    icons = [
        {"src": static(f"firkin/icon-{size}.png"), "sizes": f"{size}x{size}", "type": "image/png", "purpose": purpose}
        for size in (192, 512)
        for purpose in ("any", "maskable")
    ]
    told = {
        "name": "Firkin",
        "short_name": "Firkin",
        "description": "A bench companion for home makers of hand rub, soap and household detergents.",
        "start_url": reverse("bench"),
        "scope": "/",
        "display": "standalone",
        "background_color": _PAPER,
        "theme_color": _BAR,
        "icons": icons,
    }
    return JsonResponse(told, content_type="application/manifest+json")


@login_not_required
@cache_control(no_cache=True)
def worker(_: HttpRequest) -> HttpResponse:
    """The service worker, at the root: only from there may it keep pages of every room."""
    source = Path(str(finders.find("firkin/worker.js"))).read_text(encoding="utf-8")
    return HttpResponse(source, content_type="text/javascript")
