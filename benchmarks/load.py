"""Fifty makers at once: reading, live recalculation and journal entries, on loopback, for a minute.

Part of `./firkin bench`. No answer may be a fault, no acknowledged entry may be missing afterwards; the 95th percentile
of the answers is told against that of an empty page under the same load.
"""

import random
import sqlite3
import subprocess
import sys
import threading
import time
import uuid
from collections.abc import Callable
from pathlib import Path
from urllib.parse import quote

from serving import LIVE, Browser, Row, serve

MAKERS, SECONDS, WARM_S = 50, 60.0, 10.0
READ = ("/", "/formulas/", "/formulas/1/", "/batches/", "/batches/6/make/", "/batches/1/record/", "/shelf/", "/guide/")


def together(
    ask: Callable[[Browser, random.Random], None], port: int, lasting_s: float
) -> tuple[list[float], list[str]]:
    """Each maker asks again and again for so long: the seconds of every answer, and what went wrong."""
    taken: list[float] = []
    wrong: list[str] = []
    begins, ends = threading.Barrier(MAKERS), time.monotonic() + lasting_s

    def one(number: int) -> None:
        browser, chance = Browser(port), random.Random(number)
        begins.wait()
        while time.monotonic() < ends:
            started = time.perf_counter()
            try:
                ask(browser, chance)
            except Exception as fault:
                wrong.append(repr(fault))
                browser = Browser(port)
            taken.append(time.perf_counter() - started)

    hands = [threading.Thread(target=one, args=(number,)) for number in range(MAKERS)]
    for hand in hands:
        hand.start()
    for hand in hands:
        hand.join()
    return taken, wrong


def p95(taken: list[float]) -> float:
    """The time that 95 of 100 answers stay below, s."""
    return sorted(taken)[int(0.95 * len(taken))]


def load() -> Row:
    """The row of the table."""
    server = subprocess.Popen([sys.executable, __file__], stdout=subprocess.PIPE, text=True)
    assert server.stdout is not None
    port, database = server.stdout.readline().split(maxsplit=1)
    written: list[str] = []

    def nothing(browser: Browser, chance: random.Random) -> None:
        browser.ask("GET", "/empty/")

    def work(browser: Browser, chance: random.Random) -> None:
        what = chance.random()
        if what < 0.5:
            browser.ask("GET", chance.choice(READ))
        elif what < 0.8:
            browser.ask("GET", LIVE, htmx=True)
        else:
            path = f"/batches/{chance.randint(1, 10)}/record/"
            page = browser.ask("GET", path).decode()
            token = page.split('name="csrfmiddlewaretoken" value="')[1].split('"')[0]
            text = f"load {uuid.uuid4()}"
            browser.ask("POST", path, f"csrfmiddlewaretoken={token}&key={uuid.uuid4()}&text={quote(text)}")
            written.append(text)

    try:
        bare, _ = together(nothing, int(port), WARM_S)
        taken, wrong = together(work, int(port), SECONDS)
        with sqlite3.connect(database.strip()) as kept:
            there = {text for (text,) in kept.execute("SELECT text FROM batches_entry WHERE text LIKE 'load %'")}
    finally:
        server.kill()
    lost = len(set(written) - there)
    ratio = p95(taken) / p95(bare)
    said = (
        f"{len(taken):,} answers, {len(wrong)} faults, {lost} of {len(written)} entries lost; "
        f"p95 {ratio:.1f} times ({p95(taken) * 1000:.0f} ms and {p95(bare) * 1000:.0f} ms)"
    )
    return f"{MAKERS} makers at once for a minute", "no fault, no entry lost", said, not wrong and not lost


if __name__ == "__main__":
    from django.conf import settings

    here = serve()
    print(here, Path(str(settings.DATABASES["default"]["NAME"])), flush=True)
    threading.Event().wait()
