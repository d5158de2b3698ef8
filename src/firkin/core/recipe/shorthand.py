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
#: "A cup at a time, five cups or so": so many additions, and no five cups of anything.
_EACH_AND_ALL = re.compile(
    r"\ba (?P<each>cup|spoon|spoonful|ladle|glass|jug|handful|scoop|mug)(?:ful)? at a time,? (?:about |so |say )?"
    r"(?P<many>\d{1,2}|two|three|four|five|six|seven|eight|nine|ten|twelve) (?P=each)(?:ful)?s\b(?: or so| in all| altogether)?",
    re.IGNORECASE,
)
#: "Orange peels in the jar, 300 g, and ...": where they are stands between them and how much.
_IN_THE_JAR = re.compile(
    r" (?:in|into) (?:the|a|my|our|your) (?:jar|bottle|bucket|pot|bowl|jug|tub|pan|drum)"
    r"(?=, \d[\d.,]* ?(?:k?g|ml|l|oz|lbs?|grams?|litres?)\b,)",
    re.IGNORECASE,
)
#: "Then half vinegar half water when you use it": how it is used, and nothing that is made now.
_IN_USE = re.compile(
    r"\b(?:then )?(?:it'?s )?(?:half|one part|\w+ parts?) [^.,;\n]{2,40}? (?:when|each time|every time|before) (?:you|i|we|they) use it\b",
    re.IGNORECASE,
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
#: "Alcohol (the 70)", "720 ml of it, 96.": the strength of an alcohol.
_GRADE_BESIDE = (
    re.compile(rf"(?<=[^\W\d_])\s*\((?:the |it's |mine's |that's )?{_GRADE}\)", re.IGNORECASE),
    re.compile(rf"(?<=\bof it), {_GRADE}(?=\s*[.;\n])", re.IGNORECASE),
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


def each_and_all(text: str) -> Iterable[Edit]:
    """How much at a time, and how many of them, is a number of additions."""
    yield from ((one.start(), one.end(), f"in {one['many']} additions") for one in seek(_EACH_AND_ALL, text))


def in_the_jar(text: str) -> Iterable[Edit]:
    """What stands in its vessel, and then how much of it."""
    yield from ((one.start(), one.end(), "") for one in seek(_IN_THE_JAR, text))


def in_use(text: str) -> Iterable[Edit]:
    """What is thinned when it is used is not made now; something dangerous stays, if it is named nowhere else."""
    for one in seek(_IN_USE, text):
        named = {danger.material.written for danger in dangers_in(one.group())}
        if named <= {danger.material.written for danger in dangers_in(text[: one.start()] + text[one.end() :])}:
            yield one.start(), one.end(), ""


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


#: "BATCH CARD 17 - floor soap, 10 L": what the paper is, before what is made.
_CARD = re.compile(
    r"^\s{0,4}(?:batch|work|recipe|job|lab) (?:card|sheet|record|ticket|note|log)(?: (?:no\.? ?|nr\.? ?|#)?\d{1,5})?\s{0,2}[-–—:]\s",
    re.IGNORECASE,
)
#: "09:10 4.5 L hot water in": when it was done, in each line.
_CLOCK = re.compile(r"^[ \t]{0,3}(?:[01]\d|2[0-3])[:.h][0-5]\d(?=\s)", re.MULTILINE)
_FEWEST_CLOCKS = 2
#: What a form says of itself: "Product: descaler   Batch: 26-31   Size: 1 kg".
_FORM = re.compile(
    r"(?:^|(?<=\n))[ \t]*product(?: name)?[ \t]*:[ \t]*(?=\S)|\bbatch[ \t]*:[ \t]*[A-Z]{0,3}\d{1,6}[/-]\d[\w/-]*"
    r"|\bbatch (?:no\.?|nr\.?|code|number)[ \t]*:[ \t]*[A-Z]{0,3}\d[\w/-]*"
    r"|(?P<size>\b(?:batch )?size[ \t]*:[ \t]*(?=\d))",
    re.IGNORECASE,
)
#: "Water on top": next, and no top-up.
_ON_TOP = re.compile(r"(?<=[^\W\d_]) on top\b(?! up)(?! of)", re.IGNORECASE)
#: "Lye water: 2.5 L cold + 45 g caustic": the heading of a cup, and no caustic.
_LYE_HEADING = re.compile(
    r"(?:(?<=\n)|^)[ \t]{0,4}(?:lye|caustic)(?: (?:water|solution|mix|cup|jug))?[ \t]*[:=](?=[^\n]{0,40}\b(?:caustic|lye|naoh)\b)",
    re.IGNORECASE,
)
#: "2.5 L cold + ...", "3 litres, boiling": so much water.
_OF_WATER = re.compile(
    r"(?P<amount>\b\d[\d.,]*\s?(?:ml|l|litres?|liters?|pints?|quarts?|gallons?|cups?),?) "
    r"(?P<how>(?:ice[ -])?cold|hot|warm|boiling|boiled|lukewarm)(?=\s{0,2}(?:[+;\n]|->|→|$))",
    re.IGNORECASE,
)


def cards(text: str) -> Iterable[Edit]:
    """What a paper calls itself says nothing of what goes in."""
    edits = [(one.start(), one.end(), "") for one in seek(_CARD, text)]
    clocks = [(one.start(), one.end(), "") for one in _CLOCK.finditer(text)]
    edits += clocks if len(clocks) >= _FEWEST_CLOCKS else []
    edits += [(one.start(), one.end(), "\nMakes " if one["size"] else "") for one in seek(_FORM, text)]
    yield from sorted(edits)


def on_top(text: str) -> Iterable[Edit]:
    """What goes on top goes in next."""
    yield from ((one.start(), one.end(), " goes in next") for one in seek(_ON_TOP, text))


def cups(text: str) -> Iterable[Edit]:
    """A cup of lye is told by what goes into it; what is only cold or hot is water."""
    edits = [(one.start(), one.end(), "") for one in seek(_LYE_HEADING, text)]
    edits += [(one.end(), one.end(), " water") for one in seek(_OF_WATER, text)]
    yield from sorted(edits)


#: All of them, in order.
SHORTHAND = (
    cards,
    cups,
    on_top,
    each_and_all,
    in_the_jar,
    in_use,
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
