"""What is said aloud, written as it is meant, before anything else reads it: "oh point eight", "two cups of that".

Each rewriting keeps, sign by sign, its place in the text that was given.
"""

import re
from collections.abc import Iterable
from functools import cache

from firkin.core.recipe.asides import ASIDES
from firkin.core.recipe.carried import in_all, mark_of_all, units, units_of_before
from firkin.core.recipe.corrections import CORRECTED, at_once, further_on, struck_out
from firkin.core.recipe.dangers import Stance, stance_of
from firkin.core.recipe.neighbours import Edit, named_alike, rests, topped
from firkin.core.recipe.papers import PAPERS
from firkin.core.recipe.pasted import nothings
from firkin.core.recipe.plaintext import PlainText
from firkin.core.recipe.restated import strengths, things
from firkin.core.recipe.shorthand import SHORTHAND
from firkin.core.recipe.slips import (
    all_in_one_unit,
    and_grams,
    asked_back,
    bare_marks,
    numbered,
    some_at_a_time,
    wanted_or_not,
)
from firkin.core.recipe.sought import seek
from firkin.core.recipe.spans import NUMBER_WORDS
from firkin.core.recipe.standins import bars, by_use, called, drops
from firkin.core.recipe.typed import TYPED
from firkin.core.recipe.wordings import NUMBER, SMALL, amounts, names

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
_HOMOPHONE = re.compile(rf"(?P<word>for|too?)(?=\s+{_COUNTED}\s+of\b)", re.IGNORECASE)
_BEFORE_A_NUMBER = re.compile(r"(?:^|[,.;:]|\b(?:and|its|it's|so|then))$", re.IGNORECASE)
_LONGEST_BEFORE = 6
#: "Cold boiled water to the litre".
_TO_THE = re.compile(
    r"\b(?:up )?to the (?P<unit>lit(?:re|er)|gallon|quart|pint|kilo)\b(?! (?:of|mark|line))", re.IGNORECASE
)
_THAT = re.compile(
    r"\bof (?P<that>that|those|this|it)(?=\s*[,.;!]|\s+(?:and|goes|in|into|then|with)\b|\s*$)", re.IGNORECASE
)
#: Behind the end of a sentence, right before an amount "of it": what "it" is, known or not.
_JUST_NAMED = re.compile(
    r"[.!?;\n]\s*(?:[^\W\d_]+\s+){0,3}(?:the|our|my|some|your)\s+[^\W\d_]+(?:\s[^\W\d_]+)?\s*[,:-]\s*$", re.I
)
_SAME = re.compile(r"\bthe same (?:again |amount |much )?(?=of\b)", re.IGNORECASE)
#: "Two cups of that" means what was named within so many letters before it.
_NEAR = 160


def as_meant(given: str) -> PlainText | None:
    """A text with what is only said aloud written as it is meant; None where nothing is.

    >>> as_meant("oh point eight percent phenoxyethanol").text
    '0.8 percent phenoxyethanol'
    >>> as_meant("Isopropyl, ninety-one percent. Two cups of that.").text
    'Isopropyl, ninety-one percent. Two cups of Isopropyl.'
    >>> as_meant("sixty mil of vinegar no sorry eighty mil of vinegar").text
    'eighty mil of vinegar'
    >>> as_meant("20 g of soap noodles... no sorry 200 g. Keep it warm.").text
    '200 g of soap noodles. Keep it warm.'
    """
    text = PlainText(given, list(range(len(given))))
    changed = False
    for edits in _EDITS:
        found = list(edits(text.text))
        if found:
            guessed = {text.places[start - 1] for start, _, _ in found} if edits in _GUESSED else set()
            why = _TAKEN_BACK.get(edits, "")
            text, changed = _edited(text, found, why), True
            text.unitless |= guessed
    return text if changed else None


def _edited(text: PlainText, edits: list[Edit], why: str = "") -> PlainText:
    """The text after edits that do not overlap, in its order; each stands where what it replaces stood.

    With ``why``, what an edit leaves out is kept as left for that.
    """
    new = PlainText(left=list(text.left), unitless=text.unitless)
    at = 0
    for start, end, words in edits:
        if start < at:
            continue
        new.text += text.text[at:start] + words
        there = text.places[start:end] or [-1]
        if why and not words:
            new.left.append((there[0], there[-1] + 1, why))
        new.places += text.places[at:start] + [there[min(i, len(there) - 1)] for i in range(len(words))]
        at = end
    new.text += text.text[at:]
    new.places += text.places[at:]
    return new


#: "70 vol%": per cent by volume, as German labels have it. "1 (one) cup": the figure again in words.
_VOL_PCT = re.compile(r"(?<=\d)\s*vol\.?\s?-?\s?%", re.IGNORECASE)
_IN_WORDS = re.compile(
    rf"(?<=[\d½¼¾⅓⅔])\s*\((?:(?:{SMALL}|half|third|quarters?|thirds)[ -]?){{1,3}}\)(?=\s)", re.IGNORECASE
)


#: "Step 3: 8 drops": its number is no ratio. "5 % → 0.1 %": what it becomes.
_STEP = re.compile(r"\bstep\s+\d{1,2}\s*:(?=\s*\d)", re.IGNORECASE)
_BECOMES = re.compile(r"\s{0,4}(?:→|⇒|->|=>)\s*(?P<pct>\d[\d.,]*\s*(?:%|per\s?cent))\s*(?P<on>:)?", re.IGNORECASE)


def _becomes(text: str) -> Iterable[Edit]:
    yield from ((one.start(), one.end(), "Next, ") for one in seek(_STEP, text))
    for one in seek(_BECOMES, text):
        yield (
            one.start(),
            one.end(),
            f" (makes {one['pct']}){one['on'] or ''}" if one["on"] else f". Makes {one['pct']}",
        )


#: "Water q.s. 100 %".
_QS_100 = re.compile(r"(?<=q\.s\.)\s+(?=100\s*%)", re.IGNORECASE)


#: "A 5 oz bar": of soap.
_BAR = re.compile(r"(?<=g|z)[ -]bar\b(?!\s+(?:of|soap)\b)", re.IGNORECASE)


def _plainly(text: str) -> Iterable[Edit]:
    meant = (
        (_VOL_PCT, " % vol"),
        (_IN_WORDS, ""),
        (_QS_100, " to "),
        (_BAR, " bar soap"),
    )
    yield from sorted((one.start(), one.end(), words) for way, words in meant for one in seek(way, text))


#: "A tablespoon at a time": a way of adding, and no amount.
_AT_A_TIME = re.compile(
    rf"\b(?:{NUMBER}\s+)?(?:[^\W\d_]+\s+)?(?:tablespoons?|teaspoons?|tbsp|tsp|cups?|ounces?|oz|ml|mls|g|grams?|drops?|pints?"
    r"|pinch|spoon|handful|scoop|splash)"
    r"(?:ful)?s?\s+at\s+(?:a|one)\s+(?:time|go)\b",
    re.IGNORECASE,
)
_A_TIME = re.compile(r"\bat\s+(?:a|one)\s+(?:time|go)\b", re.IGNORECASE)
#: "The alcohol, that's ethanol 90 percent": a word for it, and then its name.
_THAT_IS = re.compile(
    r"\b(?:alcohol|spirits?|soap|acid|thickener|preservative|surfactant|detergent|caustic|lye|scent|oil)\s*(?:,|\(|[-–—])\s*"
    r"(?:that'?s|that is|which is|it'?s|it is|meaning|i\.e\.,?|namely)\s+(?=(?P<name>[^\W\d_]))",
    re.IGNORECASE,
)


def _manners(text: str) -> Iterable[Edit]:
    if not _A_TIME.search(text):
        return
    yield from ((one.start(), one.end(), "a little at a time") for one in seek(_AT_A_TIME, text))


def _namely(text: str) -> Iterable[Edit]:
    for one in seek(_THAT_IS, text):
        if names().match(text, one.start("name")):
            yield one.start(), one.end(), ""


#: "Until the can shows four litres": up to a size.
_UNTIL_IT_SHOWS = (
    r"\b(?:until|till|'til)\s+(?:the\s+|your\s+|my\s+)?[^\W\d_]+\s+"
    r"(?:shows|reads|reaches|says|hits|comes to|gets to|is at|is)\s+(?:the\s+)?(?=AMOUNT)"
)


@cache
def _until_it_shows() -> re.Pattern[str]:
    return re.compile(_UNTIL_IT_SHOWS.replace("AMOUNT", amounts().pattern), re.IGNORECASE)


#: "Fill the jug with distilled water", behind what was measured: a top-up.
_FILLED_UP = re.compile(
    r"\bfill\s+(?:up\s+)?(?:the|that|your|my|it|this)(?:\s+(?P<vessel>jug|bottle|can|canister|bucket|jar|rest|container|drum|pot))?"
    r"\s+(?:up\s+)?with\s+(?:the\s+)?(?=(?:[a-z]+\s+){0,3}(?:water|distilled)\b)",
    re.IGNORECASE,
)


def _filled_up(text: str) -> Iterable[Edit]:
    for one in seek(_FILLED_UP, text):
        if amounts().search(text, 0, one.start()):
            yield one.start(), one.end(), "top up with "


#: "Hang on, that's the old one": what was said up to there is of another recipe.
_OLD_ONE = re.compile(
    r"\b(?:hang on|hold on|no,? wait|wait|sorry|scratch that|no),?\s+(?:that'?s|that is|that was|this is)\s+"
    r"(?:the\s+|my\s+)?(?:old|wrong|other|last)\s+(?:one|recipe|way|batch)\b[.!,;:]*",
    re.IGNORECASE,
)
#: Where a sentence ends before it; dots in a row are a pause.
_SENTENCE_END = re.compile(r"(?<!\.)\.(?=\s)|[!?\n]")
_LONGEST_TAKEN_BACK = 400


def _old_ones(text: str) -> Iterable[Edit]:
    for one in seek(_OLD_ONE, text):
        first = max(0, one.start() - _LONGEST_TAKEN_BACK)
        ends = [found.end() for found in _SENTENCE_END.finditer(text, first, one.start())]
        yield (ends[-1] if ends else first), one.end(), ""


def _shown_sizes(text: str) -> Iterable[Edit]:
    yield from ((one.start(), one.end(), "up to ") for one in _until_it_shows().finditer(text))


def _sufficient(text: str) -> Iterable[Edit]:
    for one in re.finditer(r"\b[qc]\.?\s?s\.?\s?p\.?(?=\s|$)|\bq\.\s?b\.(?: a)?(?=\s|$)", text, re.IGNORECASE):
        yield one.start(), one.end(), "qsp"  # quantité suffisante pour, as it is read without its points


#: "2 bars castile soap grated (125 g each)".
_EACH = re.compile(
    rf"\b(?P<count>\d+|{'|'.join(_TO_NINE[1:])})\s+(?P<held>bars|bags|packs|packets|boxes|bottles|tins|cans|tubs|jars)\s+"
    r"(?:of\s+)?(?P<name>[^\d,;.()\n]{3,40}?)\s*\((?P<each>\d[\d.,]*\s*(?:g|kg|oz|ml|l))\s*(?:each|apiece|a piece)\)",
    re.IGNORECASE,
)


def _each_of_them(text: str) -> Iterable[Edit]:
    for one in seek(_EACH, text):
        yield one.start(), one.end(), f"{one['count']} x {one['each']} {one['held']} of {one['name']}"


#: "Water 60, ethanol 35, glycerol 5 (parts by volume)": figures behind names, and at the end what they are counted in.
_IN_PARTS = re.compile(r"[(\[]\s*(?:in\s+)?parts(?:\s+by\s+(?:volume|weight))?\s*[)\]]\s*\.?\s*$", re.IGNORECASE)
_FIGURE_BEHIND = re.compile(r"(?<=[^\W\d_]|[%)])\s+\d+(?:[.,]\d+)?(?=\s*(?:[,;(\[]|$|\n|and\b))")


def _parts_behind(text: str) -> Iterable[Edit]:
    if _IN_PARTS.search(text):
        for one in seek(_FIGURE_BEHIND, text):
            yield one.end(), one.end(), " parts"


def _decimals(text: str) -> Iterable[Edit]:
    for one in seek(_DECIMAL, text):
        before = re.search(r"(\w+)\s+$", text[max(0, one.start() - 12) : one.start()])
        whole = before is not None and before[1].lower() in NUMBER_WORDS
        if whole and one.group().lower().startswith(("point", "comma")):
            continue  # "forty-one point seven" is read as it stands
        digits = one["digits"] or one["more"]
        yield one.start(), one.end(), "0." + "".join(_DIGITS[word.lower()] for word in digits.split())


def _counts(text: str) -> Iterable[Edit]:
    for one in seek(_HOMOPHONE, text):
        if _BEFORE_A_NUMBER.search(text[: one.start()].rstrip()[-_LONGEST_BEFORE:]) is None:
            continue
        yield one.start("word"), one.end("word"), "4" if one["word"].lower() == "for" else "2"


def _wholes(text: str) -> Iterable[Edit]:
    for one in seek(_TO_THE, text):
        yield one.start(), one.end(), f"up to 1 {one['unit']}"


def _sames(text: str) -> Iterable[Edit]:
    for one in seek(_SAME, text):
        before = list(amounts().finditer(text, max(0, one.start() - _NEAR), one.start()))
        if before:
            yield one.start(), one.end(), before[-1].group() + " "


def _thats(text: str) -> Iterable[Edit]:
    for one in seek(_THAT, text):
        start = max(0, one.start() - _NEAR)
        measured = list(amounts().finditer(text, start, one.start()))
        if not measured or text[measured[-1].end() : one.start()].strip():
            continue  # it is "two cups of that", and not "the smell of it"
        if _JUST_NAMED.search(text, start, measured[-1].start()):
            continue  # "Then the lard, 5 lb of it"
        named = list(names().finditer(text, start, measured[-1].start()))
        named = [name for name in named if stance_of(text, *name.span()) is not Stance.OUT]
        if named and not any(found.start() < named[-1].start() < found.end() + 30 for found in measured[:-1]):
            yield one.start("that"), one.end("that"), named[-1].group()


#: One after the other: how it was typed, then what is in other words, then figures, then what refers to something
#: before.
_EDITS = (
    nothings,
    struck_out,
    *TYPED,
    *(strengths, things, further_on),
    *ASIDES,
    *PAPERS,
    *SHORTHAND,
    *(
        numbered,
        asked_back,
        wanted_or_not,
        some_at_a_time,
        bare_marks,
        and_grams,
        all_in_one_unit,
        by_use,
        called,
        bars,
        drops,
    ),
    *(_old_ones, _becomes, _plainly, named_alike, rests, _sufficient, topped, _each_of_them, _parts_behind),
    *(_manners, _namely, _shown_sizes, _filled_up, mark_of_all),
    *(
        _decimals,
        _counts,
        _wholes,
        strengths,
        things,
        further_on,
        at_once,
        _sames,
        _thats,
        in_all,
        units,
        units_of_before,
    ),
)
#: What is left out of the text by it says why.
_TAKEN_BACK = {struck_out: "Struck out.", strengths: CORRECTED, things: CORRECTED, further_on: CORRECTED}
#: What is guessed by it is asked about.
_GUESSED = frozenset({units_of_before, mark_of_all})
