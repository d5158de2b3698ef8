"""How a text is laid out or put right by its writer, rewritten plainly: steps numbered in one line, "A? no, B"."""

import re
from collections.abc import Iterable
from itertools import pairwise

from firkin.core.recipe.neighbours import Edit
from firkin.core.recipe.sought import seek

#: "1) Tare. 2) Water." in one line: steps, each on a line of its own.
_NUMBERED = re.compile(r"(?<![\w.,/(])(?P<number>\d{1,2})\)[ \t]+(?=\S)")
_FEWEST_STEPS = 3
_AMOUNT = r"\d[\d.,/½¼¾]*\s?(?:[a-zA-Z]+\.?)"
#: "400 g molasses? no, brown sugar, 100 g", "8 cups?? no, 8 ounces".
_ASKED_BACK = re.compile(
    rf"(?P<wrong>\b{_AMOUNT}(?: [^\W\d_]+){{0,4}})\s?\?+\s{{1,3}}(?:no+|nope|nah)[,.]?\s+(?:it'?s |that'?s )?"
    rf"(?=(?:[^\W\d_]+ ){{0,3}}[^\W\d_]*,?\s?{_AMOUNT})",
    re.IGNORECASE,
)
#: "Essential oil if you want, 2 ml".
_IF_YOU_WANT = re.compile(
    r",?\s+if (?:you|they|one) (?:wants?|likes?|fancy|wish|have (?:it|any|some))(?: to| it| some| any)?,?\s+"
    rf"(?P<amount>{_AMOUNT})",
    re.IGNORECASE,
)
#: "A ladle at a time", whatever the measure is.
_SOME_AT_A_TIME = re.compile(
    r"\b(?:an?|one)\s+(?!drop\b)[^\W\d_]{2,12}\s+at\s+(?:a|one)\s+(?:time|go)\b", re.IGNORECASE
)
#: "To the 4.9 mark", "fill it to 5 with water", "top it up to the 6": counted in what the size is told in.
_BARE_MARK = re.compile(
    r"\b(?:(?:to|up to|till|until) the|(?:fill|top)\w*(?: it| the [^\W\d_]+)?(?: up)? to(?: the)?) "
    r"(?P<figure>\d{1,4}(?:[.,]\d{1,2})?)(?= (?:mark|line|with)\b|[.,;](?:\s|$))",
    re.IGNORECASE,
)
#: "1 kg 345": a kilo and so many grams.
_AND_GRAMS = re.compile(
    r"(?<![\w.,])(?P<whole>\d{1,2})\s?(?P<unit>kg|l)\s(?P<more>\d{3})(?:\s?(?:g|ml))?(?=[.,;]\s|\s*$|\n)", re.I
)
#: "(all ml)", "everything in grams": what bare figures are counted in.
_ALL_IN = re.compile(
    r"[(\[]?\b(?:all|everything|amounts|figures)(?: (?:is|are|of it))?(?: in)? "
    r"(?P<unit>ml|mls|millilit(?:re|er)s?|g|grams?|oz|ounces)\b"
    r"(?![^\W\d_])[)\]]?",
    re.IGNORECASE,
)
_UNIT_BEHIND = re.compile(r"[(\[](?:all )?(?:in )?(?P<unit>grams?|g|ml|mls)[)\]][ .]*(?=\n|$)", re.IGNORECASE)
_FEWEST_BARE = 3
#: "Per 100 g: water 61.5, ...", "for 100 ml:": so is a list by the hundred.
_PER_HUNDRED = re.compile(r"\b(?:per|for|to make) 100\s?(?P<unit>g|ml|grams|millilit(?:re|er)s)\s*[:\n]", re.IGNORECASE)
_FIGURE = r"(?<![\w.,/%-])\d{1,5}(?:[.,]\d{1,2})?"
#: What a bare figure counts by itself.
_COUNTED = (
    r"(?:hours?|minutes?|mins|days?|weeks?|months?|times|drops?|parts?|cups?|grams?|ounces|pints?|quarts?|lit(?:re|er)s?|degrees|percent"
    r"|proof|bottles?|bars?|spoons?|tbsp|tablespoons?|teaspoons?|mills?|mils|people|loads)\b"
)
#: "Glycerine 15," and "15 glycerine", "800 of alcohol": figures without a unit beside a name.
_BARE_FIGURE = re.compile(
    rf"(?<=[^\W\d_]|[%)])\s+{_FIGURE}(?=\s*[,;(\[\n]|\s+and\b|\s*\.?$)|{_FIGURE}(?=\s+(?:of\s+)?(?!{_COUNTED})[^\W\d_]{{4,}})"
)
_SIZE = re.compile(
    r"(?<![\w.,])(?P<figure>\d{1,4}(?:[.,]\d{1,3})?)\s?(?P<unit>ml|l|lit(?:re|er)s?|gal(?:lons?)?|kg|oz)\b",
    re.IGNORECASE,
)
#: A mark is read as one of the size where it is at least this share of it.
_MOST_OF_IT = 0.5


def numbered(text: str) -> Iterable[Edit]:
    """Each step that is numbered within a line, on its own line."""
    if text.count(")") < _FEWEST_STEPS:
        return
    run: list[re.Match[str]] = []
    for one in seek(_NUMBERED, text):
        wanted = int(run[-1]["number"]) + 1 if run else 1
        if int(one["number"]) == wanted:
            run.append(one)
    in_a_line = any("\n" not in text[one.end() : other.start()] for one, other in pairwise(run))
    if len(run) >= _FEWEST_STEPS and in_a_line:
        yield from ((one.start(), one.end(), "\n") for one in run)


def asked_back(text: str) -> Iterable[Edit]:
    """What is asked back and answered "no" is not said."""
    if "?" in text:
        yield from ((one.start(), one.end(), "") for one in seek(_ASKED_BACK, text))


def wanted_or_not(text: str) -> Iterable[Edit]:
    """An amount behind "if you want" belongs to what is named before it, which may be left out."""
    if " if " in text:
        yield from ((one.start(), one.end(), f", {one['amount']} (optional)") for one in seek(_IF_YOU_WANT, text))


def some_at_a_time(text: str) -> Iterable[Edit]:
    """Any measure at a time is a little at a time."""
    yield from ((one.start(), one.end(), "a little at a time") for one in seek(_SOME_AT_A_TIME, text))


def bare_marks(text: str) -> Iterable[Edit]:
    """A mark without a unit has the unit of the size it is most of."""
    for one in seek(_BARE_MARK, text):
        mark = float(one["figure"].replace(",", "."))
        for size in _SIZE.finditer(text, 0, one.start()):
            if _MOST_OF_IT <= mark / max(float(size["figure"].replace(",", ".")), 1e-9) <= 1.0:
                yield one.end(), one.end(), f" {size['unit']}"
                break


def and_grams(text: str) -> Iterable[Edit]:
    """A kilo and so many grams as grams, a litre and so many millilitres as millilitres."""
    for one in seek(_AND_GRAMS, text):
        small = "g" if one["unit"].lower() == "kg" else "ml"
        yield one.start(), one.end(), f"{1000 * int(one['whole']) + int(one['more'])} {small}"


def _behind_a_list(text: str) -> re.Match[str] | None:
    """ "Water 600, betaine 100, salt 2 (grams)": the unit of three figures or more, told behind them."""
    said = _UNIT_BEHIND.search(text)
    if said is None:
        return None
    before = text[text.rfind("\n", 0, said.start()) + 1 : said.start()]
    return said if len(_BARE_FIGURE.findall(before)) >= _FEWEST_BARE else None


def all_in_one_unit(text: str) -> Iterable[Edit]:
    """Figures of a text that says once what all are counted in."""
    said = _ALL_IN.search(text) or _PER_HUNDRED.search(text) or _behind_a_list(text)
    if said is None:
        return
    edits: list[Edit] = [(said.start(), said.end(), "")]
    edits += [(one.end(), one.end(), f" {said['unit']}") for one in seek(_BARE_FIGURE, text)]
    yield from sorted(edits)
