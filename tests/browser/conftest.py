"""A real headless Chromium against a live server."""

import shutil
import threading
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

import pytest
from django.conf import settings
from django.core.signals import request_finished, request_started
from django.test import Client
from selenium import webdriver
from selenium.common.exceptions import WebDriverException
from selenium.webdriver.chrome.service import Service
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import WebDriverWait

from conftest import PASSWORD, PATIENCE_S
from firkin.shelf.models import Vessel

#: So many Chromiums run at once at the most, however many cores there are.
MOST_BROWSERS = 2
QUIET = (
    "--headless",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
    "--disable-dev-shm-usage",
)


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    here = [item for item in items if Path(item.path).is_relative_to(Path(__file__).parent)]
    for place, item in enumerate(here):
        item.add_marker(pytest.mark.browser)
        item.add_marker(pytest.mark.xdist_group(f"browser {place % MOST_BROWSERS}"))


@pytest.fixture(scope="session")
def one_chromium(live_server, tmp_path_factory: pytest.TempPathFactory) -> Iterator[webdriver.Chrome]:
    """The Chromium of a whole run, with a profile of its own; it lets go of the server before that ends."""
    options = webdriver.ChromeOptions()
    options.binary_location = shutil.which("chromium") or "/usr/bin/chromium"
    profile = tmp_path_factory.mktemp("chromium")
    for flag in (*QUIET, f"--user-data-dir={profile}", "--window-size=1280,800"):
        options.add_argument(flag)
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    driver = webdriver.Chrome(options=options, service=Service(shutil.which("chromedriver")))
    driver.implicitly_wait(0)
    yield driver
    driver.quit()


@pytest.fixture
def chromium(one_chromium: webdriver.Chrome) -> Iterator[webdriver.Chrome]:
    """Chromium as a newcomer finds it: an empty page, no cookies, nothing stored, the usual window."""
    driver = one_chromium
    driver.switch_to.new_window("tab")
    fresh = driver.current_window_handle
    for other in set(driver.window_handles) - {fresh}:
        driver.switch_to.window(other)
        driver.close()
    driver.switch_to.window(fresh)
    driver.execute_cdp_cmd("Network.clearBrowserCookies", {})
    driver.execute_cdp_cmd("Network.clearBrowserCache", {})
    driver.execute_cdp_cmd("Storage.clearDataForOrigin", {"origin": "*", "storageTypes": "all"})
    driver.get_log("browser")
    yield driver
    complaints = [entry["message"] for entry in driver.get_log("browser") if entry["level"] == "SEVERE"]
    assert not (real := [complaint for complaint in complaints if not _left_while_waiting(complaint)]), real


def _left_while_waiting(complaint: str) -> bool:
    """True for what htmx says when a page is left while an answer is on its way: the request is let go, no fault.

    A request that fails says sendError, timeout or responseError besides, and that is kept.
    """
    return any(f'"htmx:{said},' in complaint for said in ("sendAbort", "afterRequest"))


def let_in(driver: webdriver.Chrome, server, maker) -> None:
    """The maker signed in, without the page for it, which test_first_light walks through."""
    client = Client()
    client.force_login(maker)
    name = settings.SESSION_COOKIE_NAME
    cookie = {"name": name, "value": client.cookies[name].value, "url": server.url, "httpOnly": True}
    driver.execute_cdp_cmd("Network.setCookie", cookie)


#: How often it is looked whether what is waited for is there, s.
LOOKS_EACH_S = 0.1
#: What the focus is on: its tag, and what it says or is named.
FOCUS = """const e = document.activeElement;
return [e.tagName, `${e.innerText || ""} ${e.name || ""} ${e.getAttribute("aria-label") || ""}`];"""


class Hand:
    """What a maker does with a page: open, read, type, press. It counts presses, fields filled and keys."""

    def __init__(self, chromium, server, maker) -> None:
        self.browser, self.server, self.maker = chromium, server, maker
        self.counts = Counter({"presses": 0, "fields": 0, "keys": 0})
        self.address = server.url
        self.wait = WebDriverWait(chromium, PATIENCE_S, LOOKS_EACH_S, ignored_exceptions=[Exception])

    def open(self, path: str) -> None:
        self.browser.get(self.address + path)

    def find(self, css: str) -> WebElement:
        return self.browser.find_element(By.CSS_SELECTOR, css)

    def reads(self, words: str, css: str = "main") -> None:
        """Wait until the page, or a part of it, says so."""

        def said(browser) -> bool:
            return words in " ".join(browser.find_element(By.CSS_SELECTOR, css).get_attribute("textContent").split())

        self.wait.until(said, f"never read: {words}")

    def type(self, css: str, words: str) -> None:
        self.counts["fields"] += 1
        field = self.find(css)
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(Keys.DELETE)
        field.send_keys(words)

    def sign_in(self) -> None:
        """In at the door."""
        self.open("/")
        self.type("#id_username", "maker")
        self.type("#id_password", PASSWORD)
        self.press("Sign in")
        self.reads("Check a recipe you heard")

    def begin(self) -> None:
        """In, on the Bench."""
        let_in(self.browser, self.server, self.maker)
        self.open("/")
        self.reads("Check a recipe you heard")

    def keys(self, *keys: str) -> None:
        """Press keys, wherever the focus is. Words typed are one field."""
        words = [key for key in keys if key.isprintable() and len(key) > 1]
        self.counts["fields"] += len(words)
        self.counts["keys"] += len(keys) - len(words)
        ActionChains(self.browser).send_keys(*keys).perform()

    def tab_to(self, words: str) -> WebElement:
        """Press Tab until the focus is on something that says, or is named, this."""
        for _ in range(120):
            try:
                tag, said = self.browser.execute_script(FOCUS)
            except WebDriverException:  # the next page came
                continue
            if words in said and tag != "BODY":
                return self.browser.switch_to.active_element
            self.keys(Keys.TAB)
        raise AssertionError(f"Tab never came to: {words}")

    def press(self, words: str) -> None:
        """Press the button or link that says this, as soon as it is there, and let the next page load."""
        self.counts["presses"] += 1
        path = f"//main//*[self::button or self::a][contains(normalize-space(.), '{words}')]"
        self.wait.until(lambda browser: browser.find_element(By.XPATH, path), f"never there: {words}").click()


@pytest.fixture
def answered() -> Iterator[None]:
    """Ends when every request has its answer: one the browser gave up still holds the tables that are about to go."""
    under_way, changed = [0], threading.Condition()

    def count(by: int) -> None:
        with changed:
            under_way[0] += by
            changed.notify_all()

    def begun(**_: object) -> None:
        count(1)

    def ended(**_: object) -> None:
        count(-1)

    request_started.connect(begun)
    request_finished.connect(ended)
    yield
    with changed:
        changed.wait_for(lambda: under_way[0] <= 0, PATIENCE_S)
    request_started.disconnect(begun)
    request_finished.disconnect(ended)


@pytest.fixture
def hand(chromium, live_server, maker, workshop, answered) -> Hand:
    Vessel.objects.create(workshop=workshop, name="Half-litre flask", kind="bottle", volume_mL=500, count=6)
    return Hand(chromium, live_server, maker)


@pytest.fixture
def at_most(record_property):
    """Holds a path to so many presses, fields or keys; `./firkin bench` reads what it came to and what is promised."""

    def held(what: str, hand: Hand, **most: int) -> None:
        took = {name: hand.counts[name] for name in most}
        said = (", ".join(f"{count} {name}" for name, count in counts.items()) for counts in (most, took))
        record_property("path", "\t".join((what, *said)))
        assert all(took[name] <= most[name] for name in most), took

    return held
