"""Whatever an answer puts anew on the page, the keyboard stays where it was: every control of every page that does so."""

import re
from collections import Counter
from contextlib import suppress

import pytest
from selenium.common.exceptions import TimeoutException
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import WebDriverWait

from addresses import whole_demo
from conftest import PATIENCE_S
from firkin.accounts.models import User
from firkin.formulas.models import Formula

from .conftest import let_in

#: How long an answer is waited for after a key that may ask for none, s.
ANSWERED_S = 1.0
TEXT = "2 cups 91% isopropyl alcohol and 1 cup of aloe gel, makes 3 cups"
#: Answers that came and are in their place, and what the focus is on: by its number, its name, or what it says.
WATCH = """
window.came = 0;
document.addEventListener("htmx:afterSettle", () => { window.came += 1; });
window.named = (one) => !one || one === document.body ? "nothing"
  : one.id || [one.name, one.value, one.textContent.trim()].filter(Boolean).join(" ").slice(0, 60);
window.controls = () => [...document.querySelectorAll(
  "[hx-get] :is(input, select, textarea), [hx-post] :is(input, select, textarea), :is(button, a)[hx-get], :is(button, a)[hx-post]"
)].filter((one) => one.checkVisibility() && !one.disabled && one.type !== "hidden" && one.type !== "radio" && one.tabIndex >= 0);
"""


def pages() -> dict[str, str]:
    formula = Formula.objects.order_by("pk").first()
    return {
        "book": "/formulas/",
        "sheet": f"/formulas/{formula.pk}/",
        "editor": f"/formulas/{formula.pk}/edit/",
        "strength": "/reckon/strength/",
        "blend": "/reckon/blend/",
        "powder": "/reckon/powder/",
        "check": "/formulas/check/",
    }


def keys_for(control: WebElement) -> tuple[str, ...]:
    """What changes a control, and leaves a field as Tab does; or presses it."""
    if control.tag_name in ("button", "a"):
        return (Keys.ENTER,)
    if control.tag_name == "select":
        return (Keys.ARROW_DOWN,)
    if control.get_attribute("type") == "checkbox":
        return (Keys.SPACE,)
    return (Keys.END, "1", Keys.TAB)


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("page", ["book", "sheet", "editor", "strength", "blend", "powder", "check"])
@pytest.mark.long
def test_the_focus_stays_through_every_answer(chromium, live_server, page: str) -> None:
    whole_demo()
    maker = User.objects.get()
    let_in(chromium, live_server, maker)
    chromium.get(live_server.url + pages()[page])
    if page == "check":
        chromium.find_element("name", "text").send_keys(TEXT)
        chromium.find_element("css selector", "button[value='read']").click()
        WebDriverWait(chromium, PATIENCE_S).until(lambda b: b.find_elements("name", "material"))
    chromium.execute_script(WATCH)
    asked = chromium.execute_script("return controls().map(named)")
    assert asked
    alike = Counter()
    for name in list(asked):  # two of those that differ by a number alone
        alike[re.sub(r"\d+", "", name)] += 1
        if alike[re.sub(r"\d+", "", name)] > 2:
            asked.remove(name)
    lost, answered = [], 0
    for name in asked:
        control = chromium.execute_script("return controls().find((one) => named(one) === arguments[0])", name)
        if control is None:  # an answer before this one took it away, as taking out a line does
            continue
        came = chromium.execute_script("arguments[0].focus(); return came", control)
        presses = control.tag_name in ("button", "a")
        chromium.switch_to.active_element.send_keys(*keys_for(control))
        there = chromium.execute_script("return named(document.activeElement)")
        with suppress(TimeoutException):  # not every key asks for an answer
            WebDriverWait(chromium, ANSWERED_S, poll_frequency=0.05).until(
                lambda browser, came=came: browser.execute_script("return came") > came
            )
            answered += 1
        after, still_there = chromium.execute_script(
            "return [named(document.activeElement), [...document.querySelectorAll('*')].some((one) => named(one) === arguments[0])]",
            there,
        )
        if after == "nothing" or (not presses and still_there and after != there):
            lost.append(f"{name}: {there}, then {after}")
    assert not lost, lost
    assert answered
