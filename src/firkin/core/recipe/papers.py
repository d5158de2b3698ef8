"""What the papers of a bench say of themselves, and of the cups they tell of: cards, forms, clocks, a cup of lye."""

import re
from collections.abc import Iterable

from firkin.core.catalogue import dangers_in, is_unfit
from firkin.core.recipe.neighbours import Edit
from firkin.core.recipe.sought import seek
from firkin.core.recipe.wordings import name_before

#: "BATCH CARD 17 - floor soap, 10 L": what the paper is, before what is made.
_CARD = re.compile(
    r"^\s{0,4}(?:batch|work|recipe|job|lab) (?:card|sheet|record|ticket|note|log)"
    r"(?: (?:no\.? ?|nr\.? ?|#)?\d{1,5})?\s{0,2}[-–—:]\s",
    re.IGNORECASE,
)
#: "09:10 4.5 L hot water in": when it was done, in each line.
_CLOCK = re.compile(r"^[ \t]{0,3}(?:[01]\d|2[0-3])[:h][0-5]\d(?=\s)", re.MULTILINE)
_FEWEST_CLOCKS = 2
#: What a form says of itself: "Product: descaler   Batch: 26-31   Size: 1 kg".
_FORM = re.compile(
    r"(?:^|(?<=\n))[ \t]*product(?: name)?[ \t]*:[ \t]*(?=\S)|\bbatch[ \t]*:[ \t]*[A-Z]{0,3}\d{1,6}[/-]\d[\w/-]*"
    r"|\bbatch (?:no\.?|nr\.?|code|number)[ \t]*:[ \t]*[A-Z]{0,3}\d[\w/-]*"
    r"|(?P<size>\b(?:batch )?size[ \t]*:[ \t]*(?=\d))",
    re.IGNORECASE,
)
#: "Water on top": next, and no top-up.
_ON_TOP = re.compile(r"(?<=[^\W\d_]) (?:on|over the) top\b(?! up)(?! of)", re.IGNORECASE)
#: "Lye water: 2.5 L cold + 45 g caustic": the heading of a cup, and no caustic.
_LYE_HEADING = re.compile(
    r"(?:(?<=\n)|^)[ \t]{0,4}(?:lye|caustic)(?: (?:water|solution|mix|cup|jug))?[ \t]*[:=]"
    r"(?=[^\n]{0,40}\b(?:caustic|lye|naoh)\b)",
    re.IGNORECASE,
)
#: "2.5 L cold + ...", "3 litres, boiling": so much water.
_OF_WATER = re.compile(
    r"(?P<amount>\b\d[\d.,]*\s?(?:ml|l|litres?|liters?|pints?|quarts?|gallons?|cups?),?) "
    r"(?P<how>(?:ice[ -])?cold|hot|warm|boiling|boiled|lukewarm)(?=\s{0,2}(?:[+;\n]|->|→|$))",
    re.IGNORECASE,
)


#: "A cup at a time, five cups or so": so many additions, and no five cups of anything.
_EACH_AND_ALL = re.compile(
    r"\ba (?P<each>cup|spoon|spoonful|ladle|glass|jug|handful|scoop|mug)(?:ful)? at a time,? (?:about |so |say )?"
    r"(?P<many>\d{1,2}|two|three|four|five|six|seven|eight|nine|ten|twelve) (?P=each)(?:ful)?s\b"
    r"(?: or so| in all| altogether)?",
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
    r"\b(?:then )?(?:it'?s )?(?:half|one part|\w+ parts?) [^.,;\n]{2,40}? "
    r"(?:when|each time|every time|before) (?:you|i|we|they) use it\b",
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
    """What goes on top goes in next, where it is a material: foam on top does not."""
    for one in seek(_ON_TOP, text):
        said = text[: one.start()].rpartition(" ")[2]
        if name_before(text, one.start()) is not None or is_unfit(said):
            yield one.start(), one.end(), " goes in next"


def cups(text: str) -> Iterable[Edit]:
    """A cup of lye is told by what goes into it; what is only cold or hot is water."""
    edits = [(one.start(), one.end(), "") for one in seek(_LYE_HEADING, text)]
    edits += [(one.end(), one.end(), " water") for one in seek(_OF_WATER, text)]
    yield from sorted(edits)


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


#: "Does it go in first? No. 4 L of water, then ...": an answer, and no number four.
_NO = re.compile(r"\bno\.(?=\s+\d[\d.,]*\s?(?:k?g|m?l|cups?|tbsp|tsp|oz|litres?|liters?|grams?)\b)", re.IGNORECASE)
#: "We have really hard water so ...": nothing that goes in.
_HARD_WATER = re.compile(
    r"\b(?:we|i|they|you)(?:'ve got| have| live with| get)? (?:really |very |such |quite )?hard water"
    r"(?: here)?,?(?: so\b)?",
    re.IGNORECASE,
)


def answers(text: str) -> Iterable[Edit]:
    """A "no" ends a sentence where an amount follows."""
    yield from ((one.start(), one.end(), "no!") for one in seek(_NO, text))


def hard_water(text: str) -> Iterable[Edit]:
    """What the tap gives is no ingredient."""
    yield from ((one.start(), one.end(), "") for one in seek(_HARD_WATER, text))


_SIZE = r"(?P<{0}>\d[\d.,]*)\s?(?P<unit{0}>ml|l|g|kg|oz|cups?|pints?|litres?|liters?|gallons?|grams?)"
#: "... in 6 L hot water, ... then add the other 2 L cold": of what stood beside the amount before.
_OTHER = re.compile(
    rf"\b(?P<the>(?:the|your) (?:other|remaining|last|second)) {_SIZE.format('more')}"
    r"(?=(?:,? (?:cold|hot|warm|cool|boiled|cooled))?\s*(?:[.,;)\n]|$| (?:in|into|to|at|on|and|then)\b))",
    re.IGNORECASE,
)
_FIRST_OF_IT = re.compile(
    rf"{_SIZE.format('some')}\s(?:of\s)?(?:the\s|your\s)?(?:(?:hot|cold|warm|boiling|boiled|cool|cooled|distilled)\s)*"
    r"(?P<name>[^\W\d_]{3,})",
    re.IGNORECASE,
)


def the_other(text: str) -> Iterable[Edit]:
    """The other litres are of what the first ones were of, in the same unit."""
    for one in seek(_OTHER, text):
        unit = one["unitmore"].lower().rstrip("s")
        before = [
            some
            for some in _FIRST_OF_IT.finditer(text, 0, one.start())
            if some["unitsome"].lower().rstrip("s") == unit and name_before(some["name"], len(some["name"])) is not None
        ]
        if before:
            yield one.end("unitmore"), one.end("unitmore"), f" of the {before[-1]['name']}"


#: "Hand rub with ethanol, 500 mL: 417 mL ethanol ...": the size of a title, and no amount of what it names.
_TITLE_SIZE = re.compile(
    r"\A\s*[^.:;\n\d]{0,50}\b(?:rub|gel|soap|spray|cleaner|wash|liquid|saniti[sz]er|detergent|scrub|paste|polish|powder|foam)"
    r"\b[^.:;\n\d]{0,40}(?P<size>,?\s+\d[\d.,]*\s?(?:ml|l|k?g|litres?|liters?|cups?|gallons?|quarts?|pints?)\s*:)(?=\s*[\d*•-])",
    re.IGNORECASE,
)
#: "In another cup mix the salt": a cup to mix in, and no cup of salt.
_ANOTHER_CUP = re.compile(
    r"\b(?P<in>in(?:to)? )(?:(?:another|one more|a second|a third)(?= (?:cup|glass|mug|spoon)\b(?! of\b))"
    r"|an?(?= (?:(?:small|little|clean|spare|dry) )?(?:tea ?cup|cup|glass|mug)\b"
    r"(?:\s*[.,;]|\s+(?:and|then|until|till|first|i|you|we|mix|stir|whisk|blend)\b|\s*$"
    r"|\s+(?:of (?:its|their|your|my) own|by itself|on its own)\b)))",
    re.IGNORECASE | re.MULTILINE,
)


#: "Keep half a pint by ... the oil goes into the half pint": what was kept, and no size that is made.
_KEEPS = re.compile(r"\b(?:keep|hold|save|put|set|leave)\b[^.;\n]{0,50}\b(?:by|back|aside)\b", re.IGNORECASE)
_INTO_SO_MUCH = re.compile(
    r"(?<=into )(?:the|that) (?:half|\d+|hundred) ?(?:an? )?(?:pint|cup|litre|liter|ml|g|grams?|cupful)\b"
    r"(?! (?:of|mark|line)\b)",
    re.IGNORECASE,
)


def what_was_kept(text: str) -> Iterable[Edit]:
    """So much as was kept back is that."""
    kept = _KEEPS.search(text)
    if kept is not None:
        yield from ((one.start(), one.end(), "what you kept") for one in _INTO_SO_MUCH.finditer(text, kept.end()))


def titles(text: str) -> Iterable[Edit]:
    """The size in a title is what is made."""
    one = _TITLE_SIZE.match(text)
    if one is not None:
        yield one.start("size"), one.end("size"), f".\nMakes {one['size'].strip(' ,:')}.\n"


def another_cup(text: str) -> Iterable[Edit]:
    """A cup that something is done in is counted for nothing."""
    yield from ((one.start(), one.end(), f"{one['in']}a separate") for one in seek(_ANOTHER_CUP, text))


#: All of them, in order.
PAPERS = (
    titles,
    what_was_kept,
    another_cup,
    the_other,
    answers,
    hard_water,
    cards,
    cups,
    on_top,
    each_and_all,
    in_the_jar,
    in_use,
)
