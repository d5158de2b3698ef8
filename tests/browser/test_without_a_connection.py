"""The batch at hand opens without a connection, says of when it is, and nothing of it stays after signing out."""

import re
from datetime import datetime, timedelta

import pytest
from selenium.webdriver.support.ui import WebDriverWait

from conftest import PATIENCE_S
from served import Served

KEPT = """
const done = arguments[0];
caches.open("firkin-batch").then((cache) => cache.keys()).then((keys) => done(keys.map((one) => new URL(one.url).pathname)));
"""


class Device:
    """A browser on a Firkin of its own, which can be switched off."""

    def __init__(self, chromium, served: Served) -> None:
        self.browser, self.server = chromium, served
        self.wait = WebDriverWait(chromium, PATIENCE_S, ignored_exceptions=[Exception])

    def open(self, path: str) -> str:
        self.browser.get(self.server.address + path)
        return self.words()

    def words(self) -> str:
        return self.browser.execute_script("return document.body.textContent.replace(/\\s+/g, ' ')")

    def kept(self) -> list[str]:
        return sorted(self.browser.execute_async_script(KEPT))

    def until_kept(self, *paths: str) -> None:
        self.wait.until(lambda _: self.kept() == sorted(paths))


@pytest.fixture
def device(chromium, served: Served) -> Device:
    return Device(chromium, served)


def test_the_batch_at_hand_opens_without_a_connection_and_no_other(device: Device) -> None:
    device.open("/batches/5/wait/")
    device.until_kept("/batches/5/wait/")
    device.open("/batches/6/make/")
    device.until_kept("/batches/6/make/")  # of one batch at a time
    device.open("/batches/6/check/")
    device.until_kept("/batches/6/make/", "/batches/6/check/")
    device.open("/")
    device.server.kill()
    page = device.open("/batches/6/make/")
    said = re.search(r"No connection. This page is as it was on \w{3} (\d+) \w{3}, \d\d:\d\d;", page)
    assert said, page[:400]  # with its day: it may be read a week later
    assert int(said[1]) in {datetime.now().day, (datetime.now() - timedelta(hours=1)).day}
    assert "Landing rub" in page
    assert device.browser.execute_script("return document.querySelector('form button') !== null")
    assert device.browser.execute_script("return getComputedStyle(document.querySelector('.top')).display") == "block"
    for path in ("/batches/5/wait/", "/shelf/"):
        page = device.open(path)
        assert "No connection to Firkin" in page
        assert "not kept on this device" in page
    device.browser.find_element("css selector", "a").click()
    device.wait.until(lambda _: "This page is as it was on" in device.words())
    device.browser.get_log("browser")  # what a browser says of a server that is gone is no fault here


def test_nothing_of_a_batch_stays_in_the_browser_after_signing_out(device: Device) -> None:
    device.open("/batches/6/make/")
    device.until_kept("/batches/6/make/")
    device.browser.find_element("css selector", ".sign-out button").click()
    device.wait.until(lambda browser: "Sign in" in browser.title)
    assert device.kept() == []


@pytest.mark.long
def test_what_an_installed_firkin_is_told(device: Device) -> None:
    device.open("/")
    told = device.browser.execute_cdp_cmd("Page.getAppManifest", {})
    assert told["errors"] == []
    assert told["url"].endswith("/manifest.webmanifest")
    assert '"display": "standalone"' in told["data"]
    for size in (192, 512):
        wide = device.browser.execute_async_script(
            "const [way, done] = arguments; const one = new Image(); one.onload = () => done(one.naturalWidth); one.src = way;",
            f"/static/firkin/icon-{size}.png",
        )
        assert wide == size
