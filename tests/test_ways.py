"""However a text is pasted, typed or worded, it tells the same: nothing is asked of it but what it says as it stands."""

import json
import re
import textwrap
from collections.abc import Callable
from functools import cache, partial
from pathlib import Path

import pytest

from core.recipe.texts import texts
from firkin.core.recipe import read_recipe
from firkin.core.recipe.wordings import names
from often import some

PROCEDURES = json.loads((Path(__file__).parent / "core" / "plan" / "procedures.json").read_text("utf-8"))
#: Their words and whose measures they are.
TEXTS = [
    *((one["text"], one["household"]) for one in PROCEDURES),
    *((one.words, one.whose) for name in ("unseen", "held", "late", "last") for one in texts(name)),
]
TALK = ["My sister laughed at this.", "It rained all morning.", "I learned it from a neighbour.", "Lovely."]


def _as_it_stood(other: str, found: re.Match[str]) -> str:
    return other.capitalize() if found[0][0].isupper() else other


def instead(*pairs: tuple[str, str]) -> Callable[[str], str]:
    """Words for others, in small letters or with a capital as they stood."""

    def change(text: str) -> str:
        for word, other in pairs:
            text = re.sub(rf"(?<![\w-]){word}(?![\w-])", partial(_as_it_stood, other), text, flags=re.IGNORECASE)
        return text

    return change


def talked(text: str) -> str:
    """With a sentence of talk behind each sentence."""
    count = iter(range(1_000))
    return re.sub(r"(?<=[a-z]\. )(?=[A-Z][a-z]+ )", lambda _: TALK[next(count) % len(TALK)] + " ", text)


def broken(text: str, width: int) -> str:
    """With each line broken at a width."""
    return "\n".join("\n".join(textwrap.wrap(line, width)) or line for line in text.split("\n"))


def captioned(text: str, width: int, head: str) -> str:
    """As a machine writes down what is said: in short lines, with the time before each."""
    lines = textwrap.wrap(text, width)
    if "\n" in text.strip() or len(lines) < 3:  # nobody says so little
        return text
    return "\n".join(head.format(at // 15, at * 4 % 60) + line for at, line in enumerate(lines))


#: An amount in figures; a per cent; a name behind either.
_AMOUNT = re.compile(r"(?<![\w.,/~–-])(?P<figure>\d+(?:\.\d+)?)(?P<unit> ?(?:mL|ml|g|kg|L|l|cups?|oz))\b")
_PERCENT = re.compile(r"(?<![\w.,/~–-])(?P<figure>\d+)(?P<unit> ?%)(?! of)")


def at_first(text: str, told: re.Pattern[str], form: str) -> str:
    """With another figure told first, and taken back."""
    found = told.search(text)
    if found is None:
        return text
    wrong = f"{float(found['figure']) * 2:g}{found['unit']}"
    return text[: found.start()] + form.format(wrong=wrong, right=found[0]) + text[found.end() :]


def further_on(text: str, told: re.Pattern[str], form: str) -> str:
    """With another figure in its place, and put right behind it all."""
    for found in told.finditer(text):
        of = re.compile(" (?:of )?").match(text, found.end())
        name = names().match(text, of.end()) if of else None
        if name and text.count(found[0]) == 1 and len(re.findall(rf"\b{re.escape(name[0])}\b", text, re.I)) == 1:
            wrong = f"{float(found['figure']) * 2:g}{found['unit']}"
            whole = text[: found.start()] + wrong + text[found.end() :].rstrip()
            stop = "" if whole[-1] in ".!?" else "."
            return whole + stop + form.format(name=name[0], right=found[0], wrong=wrong)
    return text


def another(text: str, form: str) -> str:
    """With another thing named first, and taken back."""
    for found in _AMOUNT.finditer(text):
        of = re.compile(" (?:of )?").match(text, found.end())
        name = names().match(text, of.end()) if of else None
        if name and name[0].lower() not in ("urea", "water") and re.match(r"\s*[,.\n;]", text[name.end() :]):
            return text[: name.start()] + form.format(name[0]) + text[name.end() :]
    return text


#: How it can be told otherwise, and of how many of a hundred texts less than all the same is read.
WAYS: dict[str, tuple[Callable[[str], str], int]] = {
    "in small letters": (str.lower, 98),
    "in capitals": (str.upper, 97),
    "quoted": (lambda text: "\n".join("> " + line for line in text.split("\n")), 98),
    "at 62": (lambda text: broken(text, 62), 95),
    "at 76": (lambda text: broken(text, 76), 95),
    "with times above": (lambda text: captioned(text, 36, "{}:{:02d}\n"), 95),
    "with times before": (lambda text: captioned(text, 60, "[00:{:02d}:{:02d}] "), 97),
    "spaced out": (lambda text: text.replace("\n", "\n\n"), 95),
    "lines of a machine": (lambda text: text.replace("\n", "\r\n"), 98),
    "behind a greeting": (lambda text: f"Hi all, here is what I make, hope it helps!\n\n{text}\n\nLove to the kids.\nM.", 98),
    "in the past": (
        instead(("add", "added"), ("stir", "stirred"), ("pour", "poured"), ("mix", "mixed"), ("shake", "shook")),
        95,
    ),
    "of somebody": (instead(("add", "adds"), ("stir", "stirs"), ("pour", "pours"), ("mix", "mixes")), 95),
    "behind a date": (lambda text: f"12 March 2024\n{text}", 98),
    "between talk": (talked, 98),
    "out of breath": (lambda text: re.sub(r"\.(?= [A-Z]|$)", "!", text), 98),
    "okay": (lambda text: re.sub(r"\. (?=[A-Z])", ". Okay. ", text), 98),
    "a line for each sentence": (lambda text: re.sub(r"\. (?=[A-Z])", ".\n", text), 97),
    "units close": (lambda text: re.sub(r"(?<=\d) (mL|ml|g|kg|L|%)\b", r"\1", text), 96),
    "gr and ccm": (lambda text: re.sub(r"(?<=\d) ?(mL|ml|g)\b", lambda one: " gr" if one[1] == "g" else " ccm", text), 96),
    "per cent": (lambda text: re.sub(r"(?<=\d) ?%", " percent", text), 98),
    "&": (lambda text: re.sub(r" and (?=[a-z])", " & ", text), 98),
    "no-break spaces": (lambda text: re.sub(r"(?<=\d) (?=\w)", "\u00a0", text), 98),
    "next": (instead(("then", "next"), ("finally", "last of all")), 97),
    "after that": (instead(("then", "after that"), ("finally", "at the very end")), 97),
    "following that": (instead(("then", "following that"), ("first", "to begin with")), 95),
    "tip and swirl": (instead(("stir", "swirl"), ("pour", "tip")), 96),
    "place and jumble": (instead(("put", "place"), ("mix", "jumble"), ("pour", "empty")), 96),
    "till the morning": (instead(("overnight", "till the morning"), ("leave it", "let it stand")), 95),
    "no, make that": (lambda text: at_first(text, _AMOUNT, "{wrong}, no, make that {right}"), 99),
    "sorry": (lambda text: at_first(text, _AMOUNT, "{wrong} (sorry, {right})"), 99),
    "struck out": (lambda text: at_first(text, _AMOUNT, "~~{wrong}~~ {right}"), 99),
    "another strength": (lambda text: at_first(text, _PERCENT, "{wrong}, no, {right}"), 99),
    "another thing": (lambda text: another(text, "urea, no wait, {}"), 97),
    "a correction": (lambda text: further_on(text, _AMOUNT, "\n\nCorrection: the {name} should be {right}."), 97),
    "I meant": (lambda text: further_on(text, _AMOUNT, " Sorry, I said {wrong} of {name}, I meant {right}."), 97),
    "oh, and make": (lambda text: further_on(text, _AMOUNT, "\nOh, and make the {name} {right}."), 97),
    "a strength put right": (lambda text: further_on(text, _PERCENT, " Correction: the {name} is {right}."), 95),
    "my water": (instead(("the water", "your water"), ("the alcohol", "that alcohol"), ("the soap", "my soap")), 95),
    "other names": (instead(("glycerin", "glycerine"), ("glycerol", "glycerin"), ("isopropyl alcohol", "isopropanol")), 96),
}  # fmt: skip

Told = tuple[list[tuple[str, str, str]], list[tuple[object, ...]]]


@cache
def told(text: str, whose: str) -> Told:
    """What a text tells: its lines, and how it is made."""
    recipe = read_recipe(text, whose)
    lines = [(line.material.written, str(line.strength or ""), _base(str(line.amount or ""))) for line in recipe.lines]
    plan = [(act.do, act.lines, act.shares, bool(act.vessel), act.portions, act.wait_h) for act in recipe.plan]
    return lines, [act for act in plan if act[1] or act[5]]


def _base(amount: str) -> str:
    return amount.replace("cc", "mL")


@pytest.mark.parametrize("way", WAYS)
def test_told_otherwise_it_says_the_same(way: str) -> None:
    """Every way, of many texts: only so few are read otherwise."""
    change, at_least = WAYS[way]
    changed = [(text, change(text), whose) for text, whose in some(TEXTS, 45) if change(text) != text]
    otherwise = [text for text, other, whose in changed if told(text, whose) != told(other, whose)]
    allowed = max(1, len(changed) * (100 - at_least) // 100)
    assert len(otherwise) <= allowed, f"{len(otherwise)} of {len(changed)}:\n" + "\n---\n".join(otherwise[:3])
