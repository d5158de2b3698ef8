"""What is said aloud, written as it is meant, before anything else reads it: "oh point eight", "two cups of that".

Each rewriting keeps, sign by sign, its place in the text that was given.
"""

import re
from collections.abc import Iterable
from functools import cache

from firkin.core.catalogue import alcohol_names, names_of_materials
from firkin.core.measures import spellings
from firkin.core.recipe.dangers import Stance, stance_of
from firkin.core.recipe.spans import NUMBER_WORDS
from firkin.core.recipe.tables import PlainText

_TO_NINE = ("zero", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine")
_DIGITS = {word: str(value) for value, word in enumerate(_TO_NINE)}
_DIGITS |= {"oh": "0", "o": "0", "nought": "0", "nil": "0"}
_DIGIT = "|".join(_DIGITS)
#: "Oh point eight", "zero comma one five", "point eight seven of a litre".
_ZERO = "oh|o|zero|nought|nil"
_AFTER_POINT = rf"(?:{_DIGIT})(?:\s+(?:{_DIGIT}))*"
_DECIMAL = re.compile(
    rf"\b(?:(?:{_ZERO})\s+)?(?<!\w\s)(?:point|comma)\s+(?P<digits>{_AFTER_POINT})\b(?:\s+of an?\b)?"
    rf"|\b(?:{_ZERO})\s+(?:point|comma)\s+(?P<more>{_AFTER_POINT})\b",
    re.IGNORECASE,
)
_COUNTED = r"(?:cups?|tablespoons?|teaspoons?|lit(?:re|er)s?|ounces?|drops?|parts?|grams?|mils?|pints?|quarts?|spoons?)"
#: Dictation writes "four cups" as "for cups" and "two cups" as "to cups".
_HOMOPHONE = re.compile(
    rf"(?:^|(?<=[,.;:])|(?<=\band)|(?<=\bits)|(?<=\bit's)|(?<=\bso)|(?<=\bthen))(?P<gap>\s*)(?P<word>for|to|too)"
    rf"(?=\s+{_COUNTED}\s+of\b)",
    re.IGNORECASE,
)
#: "Cold boiled water to the litre".
_TO_THE = re.compile(
    r"(?<!up )\bto the (?P<unit>lit(?:re|er)|gallon|quart|pint|kilo)\b(?! (?:of|mark|line))", re.IGNORECASE
)
_SMALL = "one|two|three|four|five|six|seven|eight|nine|ten|hundred|thousand|quarter"
_NUMBER = (
    rf"(?:\d[\d.,/½¼¾]*|(?:an?|half|eleven|twelve|fifteen|twenty|thirty|forty|fifty|sixty|seventy|eighty|ninety|{_SMALL})"
    rf"(?:[ -](?:and|an?|of|half|{_SMALL}))*)"
)
_TAKEN_BACK = (
    r",?\s+(?:no,?\s+(?:sorry|wait)|sorry,?\s+no|wait,?\s+no|scratch that|correction|i mean|make that)[,:]?\s+"
)
_ANY_TAKEN_BACK = re.compile(_TAKEN_BACK, re.IGNORECASE)
_THAT = re.compile(
    r"\bof (?P<that>that|those|this|it)(?=\s*[,.;!]|\s+(?:and|goes|in|into|then|with)\b|\s*$)", re.IGNORECASE
)
_SAME = re.compile(r"\bthe same (?:again |amount |much )?(?=of\b)", re.IGNORECASE)
#: "Two cups of that" means what was named within so many letters before it.
_NEAR = 160


@cache
def _amount() -> re.Pattern[str]:
    units = "|".join(sorted((re.escape(name) for name in spellings() if len(name) > 1), key=len, reverse=True))
    return re.compile(rf"\b{_NUMBER}\s*(?:{units}|mil|mils)\b", re.IGNORECASE)


@cache
def _corrected() -> re.Pattern[str]:
    amount = _amount().pattern
    return re.compile(
        rf"(?P<wrong>{amount}(?:\s+of\s+(?:the\s+)?[^\W\d_]+(?:\s+[^\W\d_]+)?)?){_TAKEN_BACK}(?={amount})",
        re.IGNORECASE,
    )


@cache
def _names() -> re.Pattern[str]:
    alcohols = alcohol_names()
    known = {*names_of_materials(), *alcohols.unnamed, *alcohols.spirits, *alcohols.unfit}
    listed = sorted((re.escape(name) for name in known if len(name) > 2), key=len, reverse=True)
    return re.compile(rf"\b(?:{'|'.join(listed)})\b", re.IGNORECASE)


#: A rewriting: where it stands from and to, and what it is meant as.
Edit = tuple[int, int, str]


def as_meant(given: str) -> PlainText | None:
    """A text with what is only said aloud written as it is meant; None where nothing is.

    >>> as_meant("oh point eight percent phenoxyethanol").text
    '0.8 percent phenoxyethanol'
    >>> as_meant("Isopropyl, ninety-one percent. Two cups of that.").text
    'Isopropyl, ninety-one percent. Two cups of Isopropyl.'
    >>> as_meant("sixty mil of vinegar no sorry eighty mil of vinegar").text
    'eighty mil of vinegar'
    """
    text = PlainText(given, list(range(len(given))))
    changed = False
    for edits in (_decimals, _counts, _wholes, _corrections, _sames, _thats, _units):
        found = list(edits(text.text))
        if found:
            text, changed = _edited(text, found), True
    return text if changed else None


def _edited(text: PlainText, edits: list[Edit]) -> PlainText:
    """The text after edits that do not overlap, in its order; each stands where what it replaces stood."""
    new = PlainText(left=list(text.left))
    at = 0
    for start, end, words in edits:
        if start < at:
            continue
        new.text += text.text[at:start] + words
        there = text.places[start:end] or [-1]
        new.places += text.places[at:start] + [there[min(i, len(there) - 1)] for i in range(len(words))]
        at = end
    new.text += text.text[at:]
    new.places += text.places[at:]
    return new


def _decimals(text: str) -> Iterable[Edit]:
    for one in _DECIMAL.finditer(text):
        before = re.search(r"(\w+)\s+$", text[max(0, one.start() - 12) : one.start()])
        whole = before is not None and before[1].lower() in NUMBER_WORDS
        if whole and one.group().lower().startswith(("point", "comma")):
            continue  # "forty-one point seven" is read as it stands
        digits = one["digits"] or one["more"]
        yield one.start(), one.end(), "0." + "".join(_DIGITS[word.lower()] for word in digits.split())


def _counts(text: str) -> Iterable[Edit]:
    for one in _HOMOPHONE.finditer(text):
        yield one.start("word"), one.end("word"), "4" if one["word"].lower() == "for" else "2"


def _wholes(text: str) -> Iterable[Edit]:
    for one in _TO_THE.finditer(text):
        yield one.start(), one.end(), f"up to 1 {one['unit']}"


def _corrections(text: str) -> Iterable[Edit]:
    if not _ANY_TAKEN_BACK.search(text):
        return  # the whole pattern is slow, and few texts take anything back
    for one in _corrected().finditer(text):
        yield one.start(), one.end(), ""


def _sames(text: str) -> Iterable[Edit]:
    for one in _SAME.finditer(text):
        before = list(_amount().finditer(text, max(0, one.start() - _NEAR), one.start()))
        if before:
            yield one.start(), one.end(), before[-1].group() + " "


def _thats(text: str) -> Iterable[Edit]:
    for one in _THAT.finditer(text):
        start = max(0, one.start() - _NEAR)
        measured = list(_amount().finditer(text, start, one.start()))
        if not measured or text[measured[-1].end() : one.start()].strip():
            continue  # it is "two cups of that", and not "the smell of it"
        named = list(_names().finditer(text, start, measured[-1].start()))
        named = [name for name in named if stance_of(text, *name.span()) is not Stance.OUT]
        if named and not any(found.start() < named[-1].start() < found.end() + 30 for found in measured[:-1]):
            yield one.start("that"), one.end("that"), named[-1].group()


#: "Sixty millilitres of the soap, a hundred and ninety of water": a number of ten or more.
_ONES = "one|two|three|four|five|six|seven|eight|nine"
_TEENS = "ten|eleven|twelve|thirteen|fourteen|fifteen|sixteen|seventeen|eighteen|nineteen"
_BELOW_100 = rf"(?:(?:twenty|thirty|forty|fifty|sixty|seventy|eighty|ninety)(?:[ -](?:{_ONES}))?|{_TEENS})"
_BARE = re.compile(
    rf"(?<![\w.,/])(?:\d[\d.,]*|(?:an?|{_ONES}) hundred(?: and (?:{_BELOW_100}|{_ONES}))?|{_BELOW_100})"
    r"(?= of (?:the |my |our |that |distilled |boiled |cold |warm |hot )*(?P<name>[a-z]))",
    re.IGNORECASE,
)


def _units(text: str) -> Iterable[Edit]:
    for one in _BARE.finditer(text):
        sentence = re.split(r"[.!?;\n]", text[max(0, one.start() - _NEAR) : one.start()])[-1]
        before = list(_amount().finditer(sentence))
        if before and _names().match(text, one.start("name")):
            unit = re.search(r"[^\W\d_]+$", before[-1].group())
            if unit is not None:
                yield one.end(), one.end(), f" {unit.group()}"
