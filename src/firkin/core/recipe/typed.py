"""How a text was typed, before what it says: short forms of units, "&", two spaces for one, old ways of counting."""

import re
from collections.abc import Iterable, Iterator

from firkin.core.recipe.neighbours import Edit
from firkin.core.recipe.sought import seek
from firkin.core.recipe.wordings import NUMBER, names

#: "4 gr", "200 ccm": short forms that many write and no standard has, behind a figure. NIST Handbook 44
#: keeps "gr" for the grain; nobody weighs out a soap in grains, and a kitchen scale has grams.
_SHORT_FORM = re.compile(
    r"(?<=[\d½¼¾⅓⅔])[ \t\u00a0]?(?P<unit>grms?|grs?|ccm|c\.c|lts)\b(?:\.(?=[ \t]+[a-z(]))?",
    re.IGNORECASE,
)
_MEANT = {"g": "g", "c": "ml", "l": "l"}
#: "Water & salt", "salt &amp; water".
_AMPERSAND = re.compile(r"(?<=\s)&(?:amp;)?(?=\s)")
#: "Four-and-twenty hours".
_ONES_FIRST = re.compile(
    r"\b(?P<ones>one|two|three|four|five|six|seven|eight|nine)[ -]and[ -]"
    r"(?P<tens>twenty|thirty|forty|fifty|sixty|seventy|eighty|ninety)\b",
    re.IGNORECASE,
)
#: "To begin with": first. Not "to start with soap and end with water".
_TO_BEGIN = re.compile(
    r"\bto (?:begin|start) with\b(?! (?:soap|water|alcohol|oil)s?\b)|\bfor starters\b", re.IGNORECASE
)
#: "Next the alcohol goes on top", "after that the salt": then. Not "next day", "the next one", "after that has cooled".
_THEN = re.compile(
    r"\bnext\b(?<!the next)(?<!very next)(?<!what next)(?<!what's next)(?<!then next)(?<!and's next)"
    r"(?! (?:to|day|morning|evening|night|time|week|month|year|door|batch|one|thing|step|up|comes?|is|was|goes|if)\b"
    r"|[-'’:])(?!\s*(?:[.,;!)]|$))|(?:(?<=[.!?;\n]\s)|^)next(?=,)"
    r"|\bafter that\b(?<!day after that)(?<!hour after that)(?<!minute after that)"
    r"(?!'|’| (?:has|have|is|was|cools?|dissolves|settles|thickens|clears|goes|one|step|point|time|day|hour|week)\b)"
    r"|(?:(?<=[.,;\n]\s)|(?<=\band )|^)(?:afterwards?|thereafter|following (?:that|this)|subsequently)\b(?=,? )"
    r"|\b(?:afterwards|thereafter|following that|subsequently)\b"
    r"(?= (?:the|an?|you|we|i|add|poo?r|pour|put|stir|mix|whisk|tip|leave|let|half|\d))",
    re.IGNORECASE,
)
#: "1st the water".
_ORDINAL = re.compile(
    r"(?<!\bof )(?<!\bon the )\b(?P<figure>[1-4])(?:st|nd|rd|th)\b(?=[ \t]+(?!of\b)[a-z])", re.IGNORECASE
)
_ORDINALS = ("first", "second", "third", "fourth")
#: "Add the alcohol in 4 parts, stirring": so many portions of it. Not "1 part soap in 4 parts".
_IN_PARTS = re.compile(
    r"\bin (?:\d{1,2}|two|three|four|five|six|seven|eight|nine|ten) (?:equal |small )?(?P<parts>parts)"
    r"(?=\s*(?:[.,;)\n]|$|and\b|stirring|whisking|with\b|each\b|over\b))",
    re.IGNORECASE,
)
_A_PART, _SO_NEAR = re.compile(r"\bparts?\b[^.;\n]*$", re.IGNORECASE), 66
#: "Split the salt into three and add it": into so many portions.
_SPLIT = re.compile(
    r"\b(?:split|divide)s? [^.,;\n]{1,40}? in(?:to)? (?:\d{1,2}|two|three|four|five|six|eight|ten)"
    r"(?P<end>)(?=,| and (?:add|stir|pour|put|mix)\b)",
    re.IGNORECASE,
)
#: "Mix the gum up with the glycerol" tops nothing up.
_MIXED_UP = re.compile(
    r"\b(?:mix|stir|whisk|blend|beat|shake|swirl|mash|rub)(?:s|es|ed|ing)?"
    r"(?: [\w'’]+){0,4}? (?P<up>up )(?=with|in\b|into)",
    re.IGNORECASE,
)
_GAP = re.compile(r"(?<=\S)[ \t\u00a0]+(?=\S)")
#: So many words in a line are a sentence, and so many gaps of two spaces are a habit and no columns.
_A_SENTENCE, _A_HABIT = 8, 4


def short_forms(text: str) -> Iterable[Edit]:
    """ "4 gr." is four grams, "200 ccm" is millilitres."""
    for one in seek(_SHORT_FORM, text):
        yield one.start("unit"), one.end(), _MEANT[one["unit"][0].lower()]


def and_signs(text: str) -> Iterable[Edit]:
    """ "Salt & water"."""
    yield from ((one.start(), one.end(), "and") for one in seek(_AMPERSAND, text))


def ones_first(text: str) -> Iterable[Edit]:
    """ "Four-and-twenty" is twenty-four."""
    for one in seek(_ONES_FIRST, text):
        if text[max(0, one.start() - len("between ")) : one.start()].lower() != "between ":
            yield one.start(), one.end(), f"{one['tens']}-{one['ones']}"


def order_words(text: str) -> Iterable[Edit]:
    """ "Next", "after that", "afterwards": then. "To begin with": first."""
    found = [(one.start(), one.end(), "then") for one in seek(_THEN, text)]
    yield from sorted([*found, *((one.start(), one.end(), "first") for one in seek(_TO_BEGIN, text))])


def ordinals(text: str) -> Iterable[Edit]:
    """ "1st water, 2nd salt"."""
    for one in seek(_ORDINAL, text):
        yield one.start(), one.end(), _ORDINALS[int(one["figure"]) - 1]


def portions(text: str) -> Iterable[Edit]:
    """ "In four parts", "split into three", is how a thing goes in, where no part of anything was told before."""
    yield from sorted(
        [*_in_parts(text), *((one.start("end"), one.end("end"), " portions") for one in seek(_SPLIT, text))]
    )


def _in_parts(text: str) -> Iterable[Edit]:
    for one in seek(_IN_PARTS, text):
        if not _A_PART.search(text, max(0, one.start() - _SO_NEAR), one.start()):
            yield one.start("parts"), one.end("parts"), "portions"


def mixed_up(text: str) -> Iterable[Edit]:
    """ "Mix the gum up with the glycerol"."""
    for one in seek(_MIXED_UP, text):
        yield one.start("up"), one.end("up"), ""


def wide_gaps(text: str) -> Iterable[Edit]:
    """Two spaces where a typist or a printer's even margin put them, and no column begins."""
    if "  " not in text:
        return
    start = 0
    for line in text.split("\n"):
        gaps = list(_GAP.finditer(line))
        wide = [gap for gap in gaps if len(gap.group()) > 1 and "\t" not in gap.group()]
        habit = len(wide) >= _A_HABIT and len(gaps) >= _A_SENTENCE and all(len(gap.group()) == 2 for gap in wide)
        every = len(wide) == len(gaps) > 1 and all(len(gap.group()) == 2 for gap in wide)
        for gap in wide:
            if habit or every or (line[gap.start() - 1] in ".!?" and line[gap.end()].isalpha()):
                yield start + gap.start(), start + gap.end(), " "
        start += len(line) + 1


#: "Bleach at 5 %, 75 g. salt, 75 g. glycerol, 400 g": a stop behind a unit, and no capital behind it.
_COUNTED = rf"(?:{NUMBER}|[½¼¾⅓⅔])"
_UNIT = r"\s?(?:k?g|m?[lL]|oz)"
_SMALL_AFTER = re.compile(rf"(?:\b{NUMBER}|[½¼¾⅓⅔]){_UNIT}(?P<stop>\.) (?=[a-z])")
_ITEM = re.compile(r"[.;:] (?=[a-z])|^\s*[-*•]\s+")
_LONGEST_ITEM = 100
_ITS_AMOUNT = re.compile(
    rf"[^.;:]{{0,24}}[,:(]\s?(?:[^.,:;]{{0,20}}\s)?{_COUNTED}\b|\s{_COUNTED}\b|:\s?\w", re.IGNORECASE
)
_ENDS_MEASURED = re.compile(rf"[,:(]\s?(?:[^.,:;]{{0,20}}\s)?{_COUNTED}{_UNIT}\)?\.?\s*$", re.IGNORECASE)


def small_sentences(text: str) -> Iterable[Edit]:
    """A stop behind a unit ends what begins with a name and ends in its amount, before another name."""
    for start, line in _lines(text):
        for one in _SMALL_AFTER.finditer(line):
            at = one.start("stop")
            before = _ITEM.split(line[max(0, at - _LONGEST_ITEM) : at])[-1]
            name = names().match(line, at + 2)
            named = names().match(before) is not None and _ENDS_MEASURED.search(before) is not None
            if named and name is not None and _ITS_AMOUNT.match(line, name.end()):
                yield start + at, start + at + 1, ";"


def _lines(text: str) -> Iterator[tuple[int, str]]:
    start = 0
    for line in text.split("\n"):
        yield start, line
        start += len(line) + 1


TYPED = (small_sentences, wide_gaps, and_signs, short_forms, ones_first, order_words, ordinals, portions, mixed_up)
