"""Every page against the rules of axe-core (WCAG 2.2 A and AA, best practice), in both themes, at the desk and on a
telephone.
"""

from pathlib import Path

import pytest
from django.test import Client

from addresses import EVERY, filled, whole_demo
from conftest import PATIENCE_S
from firkin.accounts.models import User
from firkin.core.questions import QUESTIONS

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


def pages(client: Client) -> list[str]:
    """Of every address one that answers with a page, and every question."""
    found = []
    for pattern in EVERY:
        for address in filled(pattern, most=20):
            answer = client.get(address)
            page = answer.status_code == 200 and not answer.streaming and b"<!doctype html>" in answer.content
            answer.close()
            if page:
                found.append(address)
                break
    return found + [f"/reckon/{ask}/" for ask in QUESTIONS]


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("size", SIZES)
def test_no_page_keeps_anybody_out(chromium, live_server, size: str) -> None:
    """Every rule in the light theme; in the dark one what a theme changes."""
    whole_demo()
    maker = User.objects.get()
    client = Client()
    client.force_login(maker)
    width, height = SIZES[size]
    screen = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": size == "telephone"}
    chromium.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", screen)
    chromium.set_script_timeout(PATIENCE_S)
    walked = pages(client)
    wrong: list[str] = []
    try:
        for address in ["/accounts/sign-in/", *walked]:
            for theme in ("light", "dark"):
                features = {"prefers-color-scheme": theme, "prefers-reduced-motion": "reduce"}
                media = {"features": [{"name": name, "value": value} for name, value in features.items()]}
                chromium.execute_cdp_cmd("Emulation.setEmulatedMedia", media)
                if theme == "light":
                    chromium.get(live_server.url + address)
                    chromium.execute_script(AXE)
                found = chromium.execute_async_script(RUN, theme == "light")
                wrong += [f"{address} in the {theme}: {one}" for one in found]
            if address == "/accounts/sign-in/":
                let_in(chromium, live_server, maker)
    finally:
        chromium.execute_cdp_cmd("Emulation.clearDeviceMetricsOverride", {})
        chromium.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": []})
    assert not wrong, "\n".join(wrong)
    assert len(walked) > 50
