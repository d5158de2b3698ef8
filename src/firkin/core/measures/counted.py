"""Amounts as people count them out: "2 x 1 L + 500 mL", "3 bars of 100 g", "half a bucket"."""

import re

from firkin.core.errors import CannotRead
from firkin.core.texts import quoted

_NUMBERS = {
    "a": "1", "an": "1", "one": "1", "two": "2", "three": "3", "four": "4", "five": "5", "six": "6", "seven": "7",
    "eight": "8", "nine": "9", "ten": "10", "eleven": "11", "twelve": "12", "dozen": "12", "couple": "2",
    "half": "0.5", "quarter": "0.25", "twice": "2 x", "once": "1 x",
}  # fmt: skip
_VESSEL = r"(?:bottle|jug|jar|can|tin|carton|bag|pack|packet|box|tub|flask|container|jerrycan|canister|bar|tube)s?"
_A_HALF = re.compile(r"\b(a|an|one|\d+)\s+(?:(\w+(?:\s+strokes?)?)\s+)?and\s+a\s+half\b", re.IGNORECASE)
_PART_OF = re.compile(
    r"\b(half|(?:a\s+)?quarter|an?\s+half|an?\s+dozen|a\s+couple)(?:\s+of)?(?:\s+an?\b)?\s+", re.IGNORECASE
)
_JOINT = re.compile(r"(?<=\S)\s*(\+)\s*|\s+(plus|and|less|minus)\s+", re.IGNORECASE)
_TIMES = re.compile(r"(\d[\d.,/ ]*?)\s*(?:[x×*]|times)\s*(.+)", re.IGNORECASE)
_TIMES_AFTER = re.compile(r"(.+?)\s*[x×*]\s*(\d[\d.,]*)", re.IGNORECASE)
_OF_EACH = re.compile(
    r"(\d[\d.,]*)\s+[a-z]+(?:\s+[a-z]+)?\s+(?:of|at|with)\s+(?:the\s+|a\s+)?(.+?)(?:\s+each)?", re.IGNORECASE
)
_SIZED = re.compile(rf"(?:(\d+)\s+)?(\d.*?[a-z.])\s+{_VESSEL}", re.IGNORECASE)
_UNSURE = re.compile(rf"\d+\s+\d+\s*/\s*\d+.*[a-z]\s+{_VESSEL.removesuffix('?')}", re.IGNORECASE)


def counted_out(text: str) -> list[tuple[str, str]]:
    """What a text adds up: how often, as a number is written, and each amount; what is taken off has a "-" before.

    A text that counts nothing out comes back as it is, once. Raises CannotRead where it can be read in two ways.

    >>> counted_out("two 2 litre bottles and half a litre"), counted_out("5 L less 250 ml")
    ([('2', '2 litre'), ('1', '0.5 litre')], [('1', '5 L'), ('-1', '250 ml')])
    >>> counted_out("833.3 mL"), counted_out("3 bars of 100 g")
    ([('1', '833.3 mL')], [('3', '100 g')])
    """
    if _UNSURE.fullmatch(text):
        raise CannotRead(f"{quoted(text)} can be read in two ways. Write it as 2 x 0.5 L, or as 2.5 L.")
    text = _A_HALF.sub(lambda found: f"{_number(found[1])}.5 {found[2] or ''}".strip(), text)
    parts = _JOINT.split(text)
    terms = [_term(parts[0])]
    for sign, words, amount in zip(parts[1::3], parts[2::3], parts[3::3], strict=True):
        count, each = _term(amount)
        terms.append((f"-{count}" if (sign or words).lower() in ("less", "minus") else count, each))
    return terms


def _number(word: str) -> str:
    return _NUMBERS.get(word.lower(), word)


def _term(said: str) -> tuple[str, str]:
    """One amount and how often it is counted."""
    words = _PART_OF.sub(lambda found: f"{_number(found[1].lower().split()[-1])} ", said.strip())
    first, _, rest = words.partition(" ")
    words = f"{_number(first)} {rest}" if rest and first.lower() in _NUMBERS else words
    if found := _TIMES.fullmatch(words):
        return found[1], _without_vessel(found[2])
    if found := _TIMES_AFTER.fullmatch(words):
        return found[2], _without_vessel(found[1])
    if (found := _OF_EACH.fullmatch(words)) and found[2][0].isdigit():
        return found[1], _without_vessel(found[2])
    if found := _SIZED.fullmatch(words):
        return found[1] or "1", found[2]
    return "1", words


def _without_vessel(amount: str) -> str:
    found = _SIZED.fullmatch(amount)
    return found[2] if found and not found[1] else amount
