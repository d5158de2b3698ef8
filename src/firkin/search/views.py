"""The page of the search."""

from django.http import HttpResponse
from django.shortcuts import render
from django.urls import reverse

from firkin.accounts.middleware import MakerRequest
from firkin.search import guide
from firkin.search.index import Found, found

_PAGES = {
    "formula": lambda ref: reverse("formulas:sheet", args=[ref]),
    "batch": lambda ref: reverse("batches:batch", args=[ref]),
    "stock": lambda ref: reverse("shelf:item", args=["stock", ref]),
    "vessel": lambda ref: reverse("shelf:item", args=["vessel", ref]),
    "holder": lambda ref: reverse("use:holder", args=[ref]),
}
_WORDS = {"formula": "formula", "batch": "batch", "stock": "on the shelf", "vessel": "vessel", "holder": "has bottles"}


def search(request: MakerRequest) -> HttpResponse:
    """Finds in the workshop, and in what Firkin knows."""
    asked = request.GET.get("q", "")[:200].strip()
    finds = [(one, _PAGES[one.kind](one.ref), _WORDS[one.kind]) for one in _finds(request, asked)]
    return render(request, "search/search.html", {"asked": asked, "finds": finds, "known": guide.found(asked)})


def _finds(request: MakerRequest, asked: str) -> list[Found]:
    return found(request.workshop, asked)
