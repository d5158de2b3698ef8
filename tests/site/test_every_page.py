"""What holds for every page: labels, headings, no nonsense breaks one."""

from html.parser import HTMLParser

import pytest
from django.test import Client
from django.urls import reverse
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from firkin.accounts.models import User
from firkin.batches.models import Batch, Entry
from firkin.core.questions import QUESTIONS
from firkin.formulas.models import Formula
from quay import lantern_quay


@pytest.fixture
def quay(client: Client, db) -> Client:
    lantern_quay()
    client.force_login(User.objects.get(username="lantern-quay"))
    client.raise_request_exception = True
    return client


def addresses() -> list[str]:
    plain = [
        "bench",
        "reckoner:strength",
        "formulas:book",
        "formulas:new",
        "formulas:check",
        "batches:list",
        "batches:calendar",
        "batches:instruments",
        "batches:compare_any",
        "batches:label_sheets",
        "shelf:shelf",
        "guide:guide",
        "accounts:workshop",
        "accounts:me",
        "copies",
    ]
    found = [reverse(name) for name in plain]
    found += [reverse("reckoner:question", args=[slug]) for slug in QUESTIONS]
    found += [reverse(f"formulas:{name}", args=[1]) for name in ("sheet", "edit")]
    found += [reverse("formulas:house", args=["xanthan-gel"]), reverse("formulas:swap", args=[1, 0])]
    found += [reverse("batches:compare", args=[1])]
    found += [reverse("shelf:add", args=[kind]) for kind in ("stock", "vessel", "tool", "material")]
    found += [reverse("shelf:item", args=[kind, 1]) for kind in ("stock", "vessel", "tool")]
    stages = [
        ("make", 6),
        ("wait", 5),
        ("fill", 2),
        ("label", 1),
        ("record", 1),
        ("pour", 6),
        ("check", 8),
        ("rescue", 8),
    ]
    return found + [reverse(f"batches:{name}", args=[number]) for name, number in stages]


class Page(HTMLParser):
    """What a page's markup says of itself."""

    def __init__(self, text: str) -> None:
        super().__init__()
        self.inputs: list[dict[str, str]] = []
        self.labelled: set[str] = set()
        self.ids: list[str] = []
        self.headings: list[str] = []
        self.language = self.title = ""
        self.feed(text)

    def handle_starttag(self, tag: str, attrs) -> None:
        values = {key: value or "" for key, value in attrs}
        if "id" in values:
            self.ids.append(values["id"])
        if tag == "html":
            self.language = values.get("lang", "")
        if tag == "label" and "for" in values:
            self.labelled.add(values["for"])
        if tag in ("input", "select", "textarea") and values.get("type") not in ("hidden", "submit"):
            self.inputs.append(values)
        if tag in ("h1", "h2", "h3"):
            self.headings.append(tag)


@pytest.mark.parametrize("place", range(len(addresses())))
def test_every_control_has_a_label_and_every_page_a_heading(quay: Client, place: int) -> None:
    address = addresses()[place]
    page = Page(quay.get(address, follow=True).content.decode())
    unlabelled = [one for one in page.inputs if one.get("id") not in page.labelled and "aria-label" not in one]
    assert not unlabelled, (address, unlabelled)
    assert page.language == "en"
    assert page.headings.count("h1") == 1
    assert page.headings[0] == "h1"
    own = [one for one in page.ids if not one.startswith("weave-")]
    assert len(own) == len(set(own)), [one for one in own if own.count(one) > 1]


words = st.text(max_size=40) | st.sampled_from(["1 L", "-1", "9" * 30, "½ cup", "96 %", "<b>", "\x00", "q.s.", "1e999"])


@pytest.mark.long
@settings(max_examples=25, suppress_health_check=[HealthCheck.function_scoped_fixture], deadline=None)
@given(st.data())
def test_no_form_breaks_whatever_is_typed(quay: Client, data: st.DataObject) -> None:
    """Any input gets an answer or a clear error, never a fault of ours."""
    before = Entry.objects.count(), Batch.objects.count(), Formula.objects.count()
    forms = {
        "/shelf/": ["add-stock", "stock-name", "stock-material", "stock-strength_text", "stock-size", "stock-price"],
        "/batches/6/make/": ["amount", "key", "task"],
        "/batches/2/fill/": ["vessel", "count", "fill", "key"],
        "/batches/5/wait/": [],
        "/batches/6/make/undo/": ["entry"],
        "/formulas/keep/": ["name", "signed"],
        "/formulas/1/edit/": ["act", "name", "material", "amount", "strength", "make", "step_do", "step_lines"],
        "/formulas/1/compare/": ["with"],
        "/batches/start/": ["make", "version"],
        "/formulas/check/": [
            "act",
            "text",
            "whose",
            "material",
            "amount",
            "strength",
            "share",
            "on_hand",
            "claim",
            "vessel",
            "loads",
            "dose",
        ],
        "/formulas/1/swap/0/": ["to", "strength", "keep"],
        "/batches/8/check/": ["act", "what", "value", "celsius", "colour", "key", "caption"],
        "/batches/8/rescue/": ["trouble", "now", "stock", "mass", "soap", "key"],
        "/batches/6/pour/scale/": ["act"],
        "/batches/calendar/feeds/": ["revoke"],
        "/accounts/sign-in/": ["username", "next"],
    }
    address = data.draw(st.sampled_from(sorted(forms)))
    posted = {name: data.draw(words) for name in forms[address]}
    answer = quay.post(address, posted)
    assert answer.status_code in (200, 302, 403, 404, 422, 429), address
    query = {name: data.draw(words) for name in ("make", "way", "kitchen", "version", "diameter", "size", "q")}
    query |= {name: data.draw(words) for name in ("b", "month", "trouble", "now", "mass", "to", "strength", "take")}
    for page in (
        "/batches/calendar/",
        "/batches/compare/1/",
        "/batches/8/rescue/",
        "/formulas/1/swap/0/",
        "/batches/8/check/",
    ):
        assert quay.get(page, query).status_code in (200, 302, 404), page
    for page in (
        "/formulas/1/",
        "/formulas/1/strip.svg",
        "/formulas/1/strip.pdf",
        "/formulas/",
        "/batches/1/label/",
        "/batches/1/label.pdf",
    ):
        assert quay.get(page, query).status_code in (200, 302, 404, 422), page
    after = Entry.objects.count(), Batch.objects.count(), Formula.objects.count()
    assert all(now >= then for then, now in zip(before, after, strict=True))
