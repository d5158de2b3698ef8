"""A maker who presses at random: every form and link that a page shows, with sense and nonsense, thousands of times.

After every press no answer is a fault, and every page of what was touched still opens. FIRKIN_STEPS makes it longer,
FIRKIN_SEED another walk.
"""

import os
import random
import re
import time
from html.parser import HTMLParser

import pytest
from django.test import Client
from django.urls import reverse

from firkin.accounts.models import User
from firkin.batches.models import Batch
from firkin.formulas.models import Formula
from firkin.shelf.models import Stock, Vessel
from quay import lantern_quay

STEPS = int(os.environ.get("FIRKIN_STEPS", "120"))
SEED = int(os.environ.get("FIRKIN_SEED", "20261126"))
#: What is typed into any field, besides what stands there: sense, edges and nonsense.
TYPED = [
    "1", "0", "-3", "2.5", "1,5", "1e9", "1e-12", "1e400", "nan", "99999999999999999999", "½", "2 1/2", "100 mL", "1 L", "3 kg", "2 parts",
    "q.s.", "50 %", "0 %", "101 %", "70 % v/v", "190 proof", "12 drops", "2 x 1 L + 500 mL", "a bucket", "7", "14.1", "20 °C", "-300 C",
    "72 h", "1000000 days", "ethanol", "water", "caustic soda", "citrus peel", "citric acid", "washing soda", "nothing known", "x" * 300, "' OR 1=1 --",
    "<script>alert(1)</script>", "\u202e\u0000é🧴", "   ", "3.7 mL", "0.0001 g", "2026-02-30", "2026-05-01", "9999-12-31", "00000000-0000-0000-0000-000000000000",
]  # fmt: skip
#: Left alone: what ends the walk.
LEAVES = re.compile(r"sign-out|\.pdf|\.svg|\.ics|\.csv|\.zip|\.md|\.json|drawing=|/static/|^https?:|^mailto:|photos/")

pytestmark = pytest.mark.long


class Forms(HTMLParser):
    """The forms of a page, with their fields and what may be chosen, and its links."""

    def __init__(self, page: str) -> None:
        super().__init__()
        self.forms: list[dict] = []
        self.links: list[str] = []
        self._form: dict | None = None
        self._select: str | None = None
        self._by_id: dict[str, dict] = {}
        self.feed(page)

    def handle_starttag(self, tag: str, attrs) -> None:
        given = dict(attrs)
        if tag == "a" and given.get("href"):
            self.links.append(given["href"])
        if tag == "form":
            self._form = {
                "action": given.get("action") or "",
                "method": given.get("method", "get"),
                "fields": [],
                "buttons": [],
            }
            self.forms.append(self._form)
        form = self._form
        if form is None:
            return
        name = given.get("name")
        if tag == "input" and name:
            form["fields"].append((name, given.get("type", "text"), given.get("value") or "", None))
        elif tag == "textarea" and name:
            form["fields"].append((name, "text", "", None))
        elif tag == "select" and name:
            self._select = name
            form["fields"].append((name, "select", "", []))
        elif tag == "option" and self._select:
            form["fields"][-1][3].append(given.get("value") or "")
        elif tag == "button" and name:
            form["buttons"].append((name, given.get("value") or "", given.get("formaction") or ""))

    def handle_endtag(self, tag: str) -> None:
        if tag == "form":
            self._form = None
        elif tag == "select":
            self._select = None


#: What an answer may cost of the processor's time, s: a busy machine is no fault, a slow page is.
MOST_S = 2.0


class Walker:
    """A client that presses at random."""

    def __init__(self, client: Client, seed: int) -> None:
        self.client, self.chance, self.here = client, random.Random(seed), "/"
        self.trail: list[str] = []
        self.worked_s = time.process_time()

    def answered(self, said: str, answer) -> str:
        self.trail.append(said)
        worked_s, self.worked_s = time.process_time() - self.worked_s, time.process_time()
        assert answer.status_code < 500, "\n".join(self.trail[-8:])
        assert worked_s < MOST_S, f"{worked_s:.1f} s of work: " + "\n".join(self.trail[-2:])
        return answer.content.decode(errors="replace") if not answer.streaming else ""

    def open(self, path: str) -> str:
        return self.answered(f"GET {path}", self.client.get(path, follow=True))

    def step(self) -> None:
        found = Forms(self.open(self.here))
        links = [link for link in found.links if not LEAVES.search(link) and link.startswith(("/", "?"))]
        forms = [form for form in found.forms if not LEAVES.search(form["action"] or "")]
        posts = [form for form in forms if form["method"].lower() == "post"]  # the search of each page is no deed
        if forms and self.chance.random() < 0.75:
            self.press(self.chance.choice(posts if posts and self.chance.random() < 0.5 else forms))
        elif links:
            link = self.chance.choice(links)
            self.here = link if link.startswith("/") else self.here.split("?")[0] + link
        else:
            self.here = "/"
        if self.chance.random() < 0.08:
            self.here = self.chance.choice(self.places())

    def press(self, form: dict) -> None:
        data: dict[str, list[str]] = {}
        for name, kind, there, options in form["fields"]:
            if kind == "file" or (kind in ("checkbox", "radio") and self.chance.random() < 0.5):
                continue
            data.setdefault(name, []).append(self.typed(kind, there, options))
        path = form["action"] or self.here
        if form["buttons"]:
            name, value, action = self.chance.choice(form["buttons"])
            data.setdefault(name, []).append(value)
            path = action or path
        path = path if path.startswith("/") else self.here.split("?")[0] + path
        if LEAVES.search(path):
            return
        post = form["method"].lower() == "post"
        answer = (self.client.post if post else self.client.get)(path, data, follow=True)
        self.answered(f"{'POST' if post else 'GET'} {path} {data}", answer)
        if answer.redirect_chain:
            self.here = answer.redirect_chain[-1][0]
        if post:
            self.look_around(path)

    def typed(self, kind: str, there: str, options: list[str] | None) -> str:
        """What is typed into a field: what stands there, or something else."""
        if kind == "select":
            return self.chance.choice(options) if options and self.chance.random() < 0.95 else "no such choice"
        anew = self.chance.random() < (0.01 if kind == "hidden" else 0.45)
        return self.chance.choice(TYPED) if anew else there

    def look_around(self, path: str) -> None:
        """Every page of the batch, the formula or the shelf that was pressed on still opens."""
        at = re.match(r"/(batches|formulas)/(\d+)/", path)
        if at and at[1] == "batches":
            for stage in ("make", "check", "record", "fill", "label", "wait", "rescue", "compare", "label_svg"):
                self.open(reverse(f"batches:{stage}", args=[at[2]]))
        elif at:
            for page in ("sheet", "edit"):
                self.open(reverse(f"formulas:{page}", args=[at[2]]))
        self.open(self.chance.choice(["/", "/batches/", "/formulas/", "/shelf/", "/batches/calendar/"]))

    def places(self) -> list[str]:
        places = ["/", "/formulas/new/", "/formulas/check/", "/shelf/", "/accounts/workshop/", "/batches/compare/"]
        places += [f"/formulas/{pk}/" for pk in Formula.objects.values_list("pk", flat=True)]
        places += [f"/batches/{pk}/" for pk in Batch.objects.values_list("pk", flat=True)]
        places += [f"/shelf/stock/{pk}/" for pk in Stock.objects.values_list("pk", flat=True)[:5]]
        places += [f"/shelf/vessel/{pk}/" for pk in Vessel.objects.values_list("pk", flat=True)[:5]]
        return places


@pytest.mark.django_db
def test_whatever_is_pressed_no_answer_is_a_fault_and_every_page_still_opens(client: Client) -> None:
    lantern_quay()
    client.force_login(User.objects.get(username="lantern-quay"))
    walker = Walker(client, SEED)
    for _ in range(STEPS):
        walker.step()
    presses = [said for said in walker.trail if said.startswith("POST")]
    rooms = {re.sub(r"\d+", "N", said.split()[1]) for said in presses}
    assert (len(presses) > STEPS / 6, len(rooms) > min(20, STEPS / 12)) == (True, True), sorted(
        rooms
    )  # it really walks
