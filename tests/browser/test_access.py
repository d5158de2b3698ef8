"""Every page against the rules of axe-core (WCAG 2.2 A and AA, best practice), in both themes, at the desk and on a
telephone.
"""

from collections.abc import Iterable
from datetime import timedelta
from pathlib import Path

import pytest
from django.test import Client
from django.utils import timezone
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from addresses import EVERY, filled, whole_demo
from conftest import PATIENCE_S, WHO_I
from firkin.accounts.models import User
from firkin.batches.models import Batch, Wait
from firkin.core.formula import formula_from_dict
from firkin.core.questions import QUESTIONS
from firkin.formulas.models import Formula

from .conftest import let_in

AXE = (Path(__file__).parent / "axe.min.js").read_text()
SIZES = {"desk": (1280, 800), "telephone": (390, 844)}
RUN = """
const [every, done] = arguments;
const options = every ? {} : {runOnly: {type: "rule", values: ["color-contrast"]}};
axe.run(document, {...options, resultTypes: ["violations"]}).then(
  (result) => done(result.violations.map((one) =>
    one.id + ": " + one.nodes.slice(0, 3).map((node) => node.html.slice(0, 120) + " " + node.failureSummary).join(" | "))),
  (error) => done(["axe: " + error]),
);
"""


#: What can be pressed and is smaller one way than so many px. A link in the midst of a sentence may be.
SMALL = """
const pressed = "a[href], button, input:not([type=hidden]), select, textarea, summary, [role=button]";
const shown = (one) => one.checkVisibility({visibilityProperty: true, opacityProperty: true}) && !one.closest(".visually-hidden");
const words = (one) => [...one.childNodes].map((node) => node.nodeType === 3 ? node.textContent : node.matches?.("a, button") ? "" : words(node)).join("");
const inSentence = (one) => {
  const block = one.closest("h1, h2, h3, h4, p, li, dd, dt, td, th, caption, div, section, label, main, body");
  return one.tagName === "A" && getComputedStyle(one).display === "inline" && /\\p{L}/u.test(words(block));
};
const reach = (one) => {
  const labels = [...(one.labels ?? []), one].map((part) => part.getBoundingClientRect());
  return [Math.max(...labels.map((box) => box.width)), Math.max(...labels.map((box) => box.height))];
};
return [...document.querySelectorAll(pressed)].filter((one) => shown(one) && !inSentence(one)).map((one) => [one, reach(one)])
  .filter(([one, [width, height]]) => width > 1 && (width < arguments[0] || height < arguments[0]))
  .map(([one, [width, height]]) => `${one.outerHTML.slice(0, 90)} ${width.toFixed(1)} x ${height.toFixed(1)}`);
"""


#: Questions whose pages stand for all of them, which are made alike from one declaration.
FOR_ALL = ("blend", "powder")


def pages(client: Client, questions: Iterable[str] = FOR_ALL) -> list[str]:
    """Of every address one that answers with a page, and these questions."""
    found = []
    for pattern in EVERY:
        for address in filled(pattern, most=20):
            answer = client.get(address)
            page = answer.status_code == 200 and answer.headers["Content-Type"].startswith("text/html")
            page = page and not answer.streaming and b"<!doctype html>" in answer.content
            answer.close()
            if page:
                found.append(address)
                break
    return found + [f"/reckon/{ask}/" for ask in questions]


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("size", SIZES)
@pytest.mark.long
def test_no_page_keeps_anybody_out(chromium, live_server, size: str) -> None:
    """Every rule in the light theme; in the dark one what a theme changes, of questions in those that stand for all.

    What is pressed is 24 px both ways (WCAG 2.5.8), and 44 on the make page of a telephone, where hands are wet (2.5.5).
    """
    whole_demo()
    maker = User.objects.get()
    client = Client()
    client.force_login(maker)
    width, height = SIZES[size]
    screen = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": size == "telephone"}
    chromium.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", screen)
    chromium.set_script_timeout(PATIENCE_S)
    walked = pages(client, QUESTIONS if size == "desk" else FOR_ALL)
    wrong: list[str] = []
    try:
        for address in ["/accounts/sign-in/", *walked]:
            alike = address in {f"/reckon/{ask}/" for ask in QUESTIONS if ask not in FOR_ALL}
            for theme in ("light",) if alike else ("light", "dark"):
                features = {"prefers-color-scheme": theme, "prefers-reduced-motion": "reduce"}
                media = {"features": [{"name": name, "value": value} for name, value in features.items()]}
                chromium.execute_cdp_cmd("Emulation.setEmulatedMedia", media)
                if theme == "light":
                    chromium.get(live_server.url + address)
                    chromium.execute_script(AXE)
                    least = 44 if size == "telephone" and address.endswith("/make/") else 24
                    wrong += [f"{address}: {one} is too small" for one in chromium.execute_script(SMALL, least)]
                found = chromium.execute_async_script(RUN, theme == "light")
                wrong += [f"{address} in the {theme}: {one}" for one in found]
            if address == "/accounts/sign-in/":
                let_in(chromium, live_server, maker)
    finally:
        chromium.execute_cdp_cmd("Emulation.clearDeviceMetricsOverride", {})
        chromium.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": []})
    assert not wrong, "\n".join(wrong)
    assert len(walked) > (50 if size == "desk" else 30)


@pytest.mark.long
def test_an_answer_that_does_not_come_is_said_beside_what_stands_there(hand) -> None:
    """The server is gone for a moment: what was worked out is from before the change, and the page says so."""
    hand.begin()
    hand.open("/reckon/strength/")
    hand.reads("% v/v", "#answer")
    offline = {"offline": True, "latency": 0, "downloadThroughput": -1, "uploadThroughput": -1}
    hand.browser.execute_cdp_cmd("Network.enable", {})
    hand.browser.execute_cdp_cmd("Network.emulateNetworkConditions", offline)
    hand.type("#id_strength_0", "80 %")
    hand.reads("Firkin did not answer", ".unanswered")
    hand.browser.execute_cdp_cmd("Network.emulateNetworkConditions", offline | {"offline": False})
    hand.type("#id_strength_0", "90 %")
    hand.wait.until(lambda browser: not browser.find_elements(By.CSS_SELECTOR, ".unanswered"))
    assert hand.browser.execute_script("return document.querySelector('#id_strength_0').value") == "90 %"
    hand.browser.get_log("browser")  # Chromium's own word that the net was away


@pytest.mark.long
def test_the_whole_job_by_keyboard_alone_with_the_focus_always_somewhere(hand, maker, workshop) -> None:
    """From a formula to the label: Tab and Enter, nothing else."""
    kept = Formula.objects.keep(formula_from_dict(WHO_I), workshop, maker)
    hand.begin()
    hand.open(f"/formulas/{kept.pk}/")
    hand.tab_to("Start a batch")
    hand.keys(Keys.ENTER)
    hand.reads("Prepare", "h1, .stages, main")
    hand.tab_to("Ready: begin making")
    hand.keys(Keys.ENTER)
    for task in range(1, 7):
        hand.reads(f"{task} of 6")
        here = hand.browser.switch_to.active_element
        assert here.tag_name != "body", f"task {task}: nobody knows where the focus is"
        hand.keys(Keys.ENTER)
    hand.reads("Quarantine")
    batch = Batch.objects.get()
    Wait.objects.filter(batch=batch).update(free_at=timezone.now() - timedelta(minutes=1))
    Batch.objects.filter(pk=batch.pk).update(rests_until=timezone.now() - timedelta(minutes=1))
    hand.open(f"/batches/{batch.pk}/fill/")
    hand.tab_to("count")
    hand.keys(Keys.CONTROL, "a")
    hand.keys("2")
    hand.keys(Keys.ENTER)
    hand.reads("2 × Half-litre flask")
    hand.tab_to("Label")
    hand.keys(Keys.ENTER)
    hand.reads("Landing rub")
    assert batch.fillings.get().count == 2
