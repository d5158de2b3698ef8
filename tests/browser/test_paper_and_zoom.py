"""Every page on paper, enlarged to twice its size, and on the narrowest screen."""

import base64
import io
import json

import pytest
from django.test import Client
from pypdf import PdfReader

from addresses import whole_demo
from firkin.accounts.models import User

from .conftest import let_in
from .test_access import pages

#: What is written darker than 4.5 : 1 against white paper (WCAG 1.4.3), and no dark ground: by what is computed.
DARK_INK = """
const light = (colour) => {
  const [r, g, b, a = 1] = colour.match(/[\\d.]+/g).map(Number);
  const linear = [r, g, b].map((v) => ((v /= 255) <= 0.03928 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4));
  return {l: 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2], a};
};
const wrong = [];
for (const one of document.querySelectorAll("main *")) {
  const style = getComputedStyle(one);
  if (!one.getClientRects().length || style.visibility === "hidden" || one.closest("svg, .visually-hidden")) continue;
  const written = [...one.childNodes].some((node) => node.nodeType === 3 && node.textContent.trim());
  const ink = light(style.color);
  if (written && 1.05 / (ink.l + 0.05) < 4.5) wrong.push("light ink " + style.color + " " + one.outerHTML.slice(0, 80));
  const ground = light(style.backgroundColor);
  if (ground.a > 0.5 && ground.l < 0.4) wrong.push("dark ground " + style.backgroundColor + " " + one.outerHTML.slice(0, 80));
}
return wrong;
"""
WIDER = "return [document.documentElement.scrollWidth, document.documentElement.clientWidth]"

pytestmark = pytest.mark.long


@pytest.fixture
def walk(chromium, live_server, transactional_db):
    """The browser signed in to the whole demo, and every page."""
    whole_demo()
    maker = User.objects.get()
    client = Client()
    client.force_login(maker)
    let_in(chromium, live_server, maker)
    yield chromium, [(address, live_server.url + address) for address in pages(client)]
    chromium.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": [], "media": ""})
    chromium.execute_cdp_cmd("Emulation.clearDeviceMetricsOverride", {})


def test_every_page_prints_black_on_white_from_the_dark_theme_and_no_page_of_paper_is_blank(walk) -> None:
    chromium, walked = walk
    dark = [{"name": "prefers-color-scheme", "value": "dark"}]
    wrong = []
    for address, whole in walked:
        chromium.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": dark, "media": "print"})
        chromium.get(whole)
        wrong += [f"{address}: {one}" for one in chromium.execute_script(DARK_INK)[:3]]
        printed = chromium.execute_cdp_cmd("Page.printToPDF", {"preferCSSPageSize": True})["data"]
        sheets = PdfReader(io.BytesIO(base64.b64decode(printed))).pages
        blank = [at for at, sheet in enumerate(sheets) if len(sheet.extract_text().split()) < 2]
        if blank:
            wrong.append(f"{address}: pages {blank} of {len(sheets)} are blank")
    assert not wrong, "\n".join(wrong)


def test_no_page_is_wider_than_the_narrowest_screen(walk) -> None:
    """WCAG 1.4.4 and 1.4.10: 320 points must do without scrolling sideways; 1280 at 200 % is 640, and so is in it."""
    chromium, walked = walk
    screen = {"width": 320, "height": 512, "deviceScaleFactor": 1, "mobile": False}
    chromium.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", screen)
    wide = {}
    for address, whole in walked:
        chromium.get(whole)
        content, screen_width = chromium.execute_script(WIDER)
        if content > screen_width + 1:
            wide[address] = content
    assert not wide, json.dumps(wide, indent=1)
