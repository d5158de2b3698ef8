"""Short ways of the bench, written out: "o/n", "thirds", "a gallon at a time", "the 96", "what's left is water"."""

import re
from collections.abc import Iterable

from firkin.core.catalogue import dangers_in
from firkin.core.recipe.neighbours import Edit
from firkin.core.recipe.sought import seek
from firkin.core.recipe.wordings import amounts

_OVERNIGHT = re.compile(r"(?<![\w/])o/n\b", re.IGNORECASE)
_NIGHTS = re.compile(r"\b(?P<count>[2-9]|two|three|four|five|six|seven) nights\b", re.IGNORECASE)
#: "Salt 60 g, thirds", "salt, in halves".
_SHARES = {"halves": 2, "thirds": 3, "quarters": 4, "fifths": 5}
_IN_SHARES = re.compile(
    rf"(?:(?<=, )|(?<=\())(?:in )?(?P<share>{'|'.join(_SHARES)})(?=\s*(?:[,.;)\n]|$))", re.IGNORECASE
)
#: "We do a gallon at a time": how large a batch is, and not how it goes in.
_BATCH = re.compile(
    r"\b(?:i|we|you|she|he|they)\s+(?:always |usually |only )?(?:do|make|mix|brew|cook)s?\s+"
    r"(?P<size>[^.,;\n]{2,24}?)\s+at a time\b",
    re.IGNORECASE,
)
#: "What's left to the gallon line is aloe juice": it is topped up with that.
_WHATS_LEFT = re.compile(
    r"\b(?:what(?:'s| is)|whatever(?:'s| is)) left(?: up)? to (?:the )?(?P<size>[^.,;\n]{1,20}?)(?: line| mark)? is "
    r"(?:the )?",
    re.IGNORECASE,
)
_GRADE = r"(?P<grade>[5-9]\d(?:\.\d)?)"
#: "Alcohol (the 70)", "720 ml of it, 96.", "the ethanol, 96, ...": the strength of an alcohol.
_GRADE_BESIDE = (
    re.compile(rf"(?<=[^\W\d_])\s*\((?:the |it's |mine's |that's )?{_GRADE}\)", re.IGNORECASE),
    re.compile(rf"(?<=\bof it), {_GRADE}(?=\s*[.;\n])", re.IGNORECASE),
    re.compile(
        r"(?:(?<=ethanol)|(?<=alcohol)|(?<=isopropyl)|(?<=isopropanol)|(?<=spirits)|(?<=spirit)|(?<=meths)),? "
        rf"{_GRADE}(?=\s*,\s*(?:that.s |that is |which is |about |say )?(?:[\d½¼¾][\d½¼¾.,/]* ?|[a-z-]+ )(?:m?l|k?g"
        r"|grams?|cups?|lit(?:re|er)s?|oz|ounces?|pints?|parts?|gallons?)\b)",
        re.IGNORECASE,
    ),
)
#: "Take your 96 percent", "put the 70 percent in first": the stuff of that strength.
_BY_GRADE = re.compile(
    rf"\b(?:your|the|my|our|that) {_GRADE} ?(?:percent|per cent|%)"
    r"(?=\s+(?:in|goes|you|and|then|first|into|i|we|stuff)\b|\s*[,.;])",
    re.IGNORECASE,
)
#: "8 litres of the 96 into the drum".
_OF_THE_GRADE = re.compile(
    r"(?<=\bof the )(?P<grade>[6-9]\d(?:\.\d)?)(?=\s+(?:in|into|goes|and|then|first)\b|\s*[,.;\n])", re.IGNORECASE
)
#: What else is sold as strong as an alcohol, and called by its strength.
_NO_SPIRIT = re.compile(r"\b(?:sles|labsa|sulf?phonic|sulphonate|sulfonate|laureth|lactic|acetic|essence)\b", re.I)


#: "Gallon of water", at the head of its place in a list: one of it.
_ONE_OF = re.compile(
    r"(?=(?:gallon|quart|pint|cup|litre|liter|teaspoon|tablespoon|spoon|jug) of )"
    r"(?:^|(?<=[,;:+&(\n] )|(?<=\band )|(?<=\bthen )|(?<=\bwith )|(?<=\bplus ))",
    re.IGNORECASE | re.MULTILINE,
)
#: "Another litre of water", "another half litre".
_ANOTHER = re.compile(
    r"\banother (?P<half>half(?: an?)? )?(?=(?:gallon|quart|pint|cup|lit(?:re|er)|kilo|teaspoon|tablespoon|spoon)\b)",
    re.I,
)
#: "Glass cleaner v3 (v1 streaked, had 10 ml dish soap)": an earlier one, and the number of this one.
_EARLIER = re.compile(r"\((?:v|version |batch |try )\d+\b[^)\n]{0,120}\)|\bv\d{1,2}\b(?!\s*[/%])", re.IGNORECASE)
#: "(alcohol = 96° kitchen spirit)": how strong what is called so is.
_DEFINED = re.compile(
    r"[(\[]?\s{0,3}\b(?P<name>alcohol|spirit|bleach|vinegar|peroxide)\s*(?:=|means|being)\s*(?:a |an |the )?"
    rf"{_GRADE}\s*[°º%]"
    r"[^)\].;\n]{0,60}[)\]]?",
    re.IGNORECASE,
)
#: "I bought 5 L of 99.9 % isopropyl for 18 euro": what was paid for, and not what goes in.
_BOUGHT = re.compile(
    r"\b(?:bought|got|ordered|picked up|paid for)\s+(?P<much>(?:an? )?[^.,;\n]{1,20}? of )"
    r"(?=(?:[^.;\n]|\.(?=\d)){2,60}? for (?:about )?"
    r"(?:[£$€]\s?)?\d[\d.,]*(?:\s?(?:euros?|dollars?|pounds?|bucks|quid|[£$€]))?\b)",
    re.IGNORECASE,
)


def overnight(text: str) -> Iterable[Edit]:
    """A bench's short word for overnight, and several nights as days."""
    edits = [(one.start(), one.end(), "overnight") for one in seek(_OVERNIGHT, text)]
    edits += [(one.start(), one.end(), f"{one['count']} days") for one in seek(_NIGHTS, text)]
    yield from sorted(edits)


def in_shares(text: str) -> Iterable[Edit]:
    """Thirds of an amount are three additions."""
    for one in seek(_IN_SHARES, text):
        yield one.start(), one.end(), f"in {_SHARES[one['share'].lower()]} additions"


def batch(text: str) -> Iterable[Edit]:
    """What is made at a time is a size."""
    for one in seek(_BATCH, text):
        if amounts().fullmatch(one["size"]):
            yield one.start(), one.end(), f"this makes {one['size']},"


def whats_left(text: str) -> Iterable[Edit]:
    """What is left to a size is topped up."""
    for one in seek(_WHATS_LEFT, text):
        size = one["size"] if any(sign.isdigit() for sign in one["size"]) else f"1 {one['size']}"
        yield one.start(), one.end(), f"top up to {size} with "


def grades(text: str) -> Iterable[Edit]:
    """A bare figure as high as an alcohol's strength, beside it, is that; and the stuff of that strength is alcohol."""
    if _NO_SPIRIT.search(text):
        return
    edits = [(one.start(), one.end(), f", {one['grade']} %") for way in _GRADE_BESIDE for one in seek(way, text)]
    edits += [(one.end(), one.end(), " alcohol") for one in seek(_BY_GRADE, text)]
    edits += [(one.end(), one.end(), " % alcohol") for one in seek(_OF_THE_GRADE, text)]
    yield from sorted(edits)


def one_of(text: str) -> Iterable[Edit]:
    """A measure without a number, where an amount would stand, is one of it."""
    edits = [(one.start(), one.end(), "a ") for one in seek(_ONE_OF, text)]
    edits += [(one.start(), one.end(), f"another {'0.5' if one['half'] else '1'} ") for one in seek(_ANOTHER, text)]
    yield from sorted(edits)


def earlier_ones(text: str) -> Iterable[Edit]:
    """What an earlier version had is not in this one; something dangerous is left, and asked about."""
    yield from ((one.start(), one.end(), "") for one in seek(_EARLIER, text) if not dangers_in(one.group()))


def defined(text: str) -> Iterable[Edit]:
    """The strength that a name stands for is told where the name first stands."""
    for one in seek(_DEFINED, text):
        first = re.compile(rf"\b{one['name']}\b", re.IGNORECASE).search(text, 0, one.start())
        if first is not None:
            yield first.start(), first.start(), f"{one['grade']} % "
            yield one.start(), one.end(), ""


def bought(text: str) -> Iterable[Edit]:
    """How much was bought is no amount."""
    for one in seek(_BOUGHT, text):
        if amounts().match(text, one.start("much")):
            yield one.start("much"), one.end("much"), ""


#: All of them, in order.
SHORTHAND = (
    overnight,
    in_shares,
    batch,
    whats_left,
    grades,
    one_of,
    earlier_ones,
    defined,
    bought,
)
