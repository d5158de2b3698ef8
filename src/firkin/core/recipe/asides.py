"""What is said beside the matter, written so that it hides nothing: "warm, not hot", "oh and", "it's five ounces"."""

import re
from collections.abc import Iterable

from firkin.core.catalogue import find
from firkin.core.recipe.figures import compose
from firkin.core.recipe.neighbours import Edit
from firkin.core.recipe.said import Amount, Percent
from firkin.core.recipe.sought import seek
from firkin.core.recipe.spans import NUMBER_WORDS, spans_of
from firkin.core.recipe.wordings import NUMBER, amounts, name_before, names

_STATES = (
    "hot|boiling|boiled|cold|cool|warm|scalding|frozen|heaped|level|packed|full|thick|thin|runny|stiff|lumpy|fast|quick"
    "|hard|big|small|dry|wet|much|more|many|long|exact|sure|really|necessarily|important|strictly"
)
#: "A litre of water warm not hot and then ...": how something is, and nothing that is left out.
_NOT_SO = re.compile(
    rf",?\s{{1,4}}(?:but |and )?not (?:too |very |so |that |yet |quite |even )?(?:{_STATES})\b"
    r"(?=\s*(?P<next>[^\W\d_]*))",
    re.IGNORECASE,
)
#: "Don't boil it and then a hundred grams of ...", "no bubbles when it's gone you put ...".
_WARNING = re.compile(
    r"\b(?:do not|don'?t|never|not|no|without|no need to)\b(?=(?P<behind>[^,.;:!?\n]{1,120}))", re.IGNORECASE
)
_DONE_NEXT = re.compile(r"\s(?:and )?(?=(?:then|after that|next|when|once|till|until|because|you|i|we)\s)", re.I)
#: "A bar of soap it's about five ounces".
_IT_IS = re.compile(
    r",?\s{1,4}(?:and )?(?:(?:it|that|they|those|this)(?:'s|'re|'ll be| is| are| was| were| will be)|which is|which are"
    r"|(?:it|that|they)(?:'ll)? (?:weighs?|comes? to|make|makes|came to))\s+"
    r"(?:(?:about|around|roughly|maybe|like|say|nearly|almost|just (?:over|under)|some|usually)\s+){0,2}",
    re.IGNORECASE,
)
#: "And done oh and let it sit": a thought of its own.
_ANEW = re.compile(
    r"[\s,]{1,4}(?=(?:(?:oh|um+|uh+|erm?),?\s+(?:and|also|then|yeah)\b"
    r"|(?:i|we) (?:don'?t know why|dunno)\b|don'?t ask me\b))",
    re.IGNORECASE,
)
_FILLER = re.compile(r"(?<=\.\s)(?:oh|um+|uh+|erm?),?\s+(?:and|also|yeah)?\s*(?=[^\W\d_])", re.IGNORECASE)
#: "If it's too thick a drop more hot water": what may be done, and is not.
_IF_TOO = re.compile(
    r"\bif (?:it|that|this|yours) ?(?:'s|is|gets|looks|turns out|comes out|feels|seems)(?: still| a bit)? too "
    r"[^\W\d_]+,? (?:then )?(?:(?:add|put in|stir in|give it) )?"
    r"(?:a|another|some) (?:drop|splash|bit|little|touch|tad|dash|drip)(?: more)?(?: of)?"
    r"(?: the| hot| warm| cold| boiled)* water\b",
    re.IGNORECASE,
)

#: "Vinegar first?? NO. Bicarb goes in": an answer, and no number's sign.
_ANSWER = re.compile(r"\bno\.(?=\s+[^\W\d_])", re.IGNORECASE)
#: "SLES, and mine is the seventy percent one", "betaine, that's a thirty percent liquid".
_STRONG = re.compile(
    r",?\s{1,4}(?:and |but )?(?:(?:it|that|this|mine|ours|this one|that one)(?:'s| is)|which is)\s+"
    rf"(?:(?:an?|the|about|of|only)\s+){{0,2}}(?P<strength>{NUMBER}\s*(?:%|per\s?cent|proof))"
    r"(?:\s+(?:one|liquid|solution|stuff|kind|paste|sort|version)\b)?",
    re.IGNORECASE,
)
#: "Borax, which is a different animal, four ounces", "borax, or what they sell as that, four ounces".
_BY_THE_WAY = re.compile(
    r"(?:,\s{1,3}(?:(?:which|who|that)(?:'s| is| are| was)"
    r"|or (?:what|whatever) (?:they|you|people|the shops?) (?:sell|call)s?)\s[^,.;:!?\n]{3,60}){1,2}(?=,)",
    re.IGNORECASE,
)
#: A number of several words: "three thousand seven hundred and eighty seven", "nought point eight".
_WORD = "|".join(sorted((*NUMBER_WORDS, "point", "nought", "zero", "hundred", "thousand"), key=len, reverse=True))
_RUN = rf"(?:\d[\d.,]{{0,9}}\d|\d|(?:{_WORD})(?:[ -](?:and )?(?:{_WORD})){{0,9}})"
#: "Sulphonic acid, ten per cent. Five hundred grams.", "SLES, 6 %, that's 300 g": its share, and then so much of it.
_SHARE = re.compile(
    rf",?\s{{1,4}}(?P<share>{_RUN}\s?(?:per\s?cent|%))(?: of (?:it|the batch|the whole))?[.,;:]\s{{1,3}}"
    r"(?:(?:and )?(?:that's|that is|it's|so|which is|for [^.,;\n]{3,24} (?:it's|that's))\s{1,3})?(?:only |about )?"
    rf"(?P<amount>{_RUN}\s?(?:g|grams?|grammes?|kg|kilos?|ml|millilit(?:re|er)s?|l|lit(?:re|er)s?))\b(?: only\b)?",
    re.IGNORECASE,
)
_FEWEST_SHARES = 3
_OF = re.compile(r"\s+(?:of\s+)?(?:the\s+)?")
_BROAD = {"ye": "you", "yer": "your", "ya": "you", "y'all": "you all", "yous": "you"}
_BROADLY = re.compile(rf"\b(?:{'|'.join(_BROAD)})\b", re.IGNORECASE)


def broad(text: str) -> Iterable[Edit]:
    """ "Ye take yer pan": words of a country, as they are said elsewhere."""
    yield from ((one.start(), one.end(), _BROAD[one.group().lower()]) for one in seek(_BROADLY, text))


def not_so(text: str) -> Iterable[Edit]:
    """What something is not like is no word against what comes behind it."""
    for one in seek(_NOT_SO, text):
        if not one["next"] or not names().match(text, one.start("next")):
            yield one.start(), one.end(), ""


def warned(text: str) -> Iterable[Edit]:
    """A warning that names nothing ends before it is told what is done next."""
    for one in seek(_WARNING, text):
        measured = amounts().search(text, one.start("behind"), one.end("behind"))
        if measured is None or names().search(text, one.end(), measured.start()):
            continue
        ends = [found.start() for found in _DONE_NEXT.finditer(text, one.end() + 1, measured.start())]
        if ends:
            yield ends[-1], ends[-1], ","


def it_is(text: str) -> Iterable[Edit]:
    """An amount told of the name before it, as a sentence, is its amount."""
    for one in seek(_IT_IS, text):
        start = name_before(text, one.start()) if amounts().match(text, one.end()) else None
        if start is not None and not text.endswith(" of ", 0, start):  # "two scoops of soda, that's 120 grams"
            yield one.start(), one.end(), ", "


def as_strong(text: str) -> Iterable[Edit]:
    """A strength told of the stock before it, as a sentence, is its strength."""
    for one in seek(_STRONG, text):
        start = name_before(text, one.start())
        if start is not None and find(text[start : one.start()]).sold:
            yield one.start(), one.end(), f" {one['strength']}"


def by_the_way(text: str) -> Iterable[Edit]:
    """What is put in between two commas about a thing, and measures nothing, hides no amount behind it."""
    for one in seek(_BY_THE_WAY, text):
        here = amounts().match(text, one.end() + 2)
        if here is not None and not amounts().search(one.group()) and name_before(text, one.start()) is not None:
            yield one.start(), one.end(), ""


def shares(text: str) -> Iterable[Edit]:
    """In a list by share, where each thing has its per cent and its amount, no per cent is a strength.

    It is one where the amounts are as the per cents are; else those are strengths: "ethanol 96 %, 42 ml peroxide 3 %".
    """
    if text.count("%") + text.lower().count("cent") < _FEWEST_SHARES:
        return
    told = [one for one in seek(_SHARE, text) if name_before(text, one.start()) is not None]
    if len(told) >= _FEWEST_SHARES and _in_proportion(told) and not any(_is_of_the_next(text, one) for one in told):
        for one in told:
            yield one.start(), one.end(), f" {one['amount']}, {one['share']} of batch"


#: Shares are rounded, and one in three may be of another kind of measure.
_OFF, _MOSTLY = 0.15, 0.6


def _in_proportion(told: list[re.Match[str]]) -> bool:
    """True where most amounts are the same many times their per cent."""
    times = sorted(_times(one) for one in told)
    middle = times[len(times) // 2]
    return middle > 0 and sum(abs(one / middle - 1.0) <= _OFF for one in times) >= _MOSTLY * len(told)


def _times(told: re.Match[str]) -> float:
    """How many times its per cent an amount is; 0 for what is no figure."""
    share, amount = (
        next((span.value for span in compose(spans_of(said, said, 0, len(said)), said, "metric")), None)
        for said in (told["share"].lower(), told["amount"].lower())
    )
    if not isinstance(share, Percent) or not isinstance(amount, Amount) or amount.quantity is None or share.middle <= 0:
        return 0.0
    size = amount.quantity.g if amount.quantity.kind == "mass" else amount.quantity.mL
    return size / share.middle


def _is_of_the_next(text: str, share: re.Match[str]) -> bool:
    """True for "ethanol 96 %, 42 ml peroxide": the amount is of what comes behind it, so the per cent is a strength."""
    of = _OF.match(text, share.end("amount"))
    return of is not None and names().match(text, of.end()) is not None


def anew(text: str) -> Iterable[Edit]:
    """A new thought begins a new sentence."""
    yield from ((one.start(), one.end(), ". ") for one in seek(_ANEW, text) if one.start())


def fillers(text: str) -> Iterable[Edit]:
    """ "Oh and" at the head of a sentence says nothing."""
    yield from ((one.start(), one.end(), "") for one in seek(_FILLER, text))


def if_too(text: str) -> Iterable[Edit]:
    """Water put in only if it comes out wrong is no line; anything else is asked about."""
    yield from ((one.start(), one.end(), "") for one in seek(_IF_TOO, text))


def answers(text: str) -> Iterable[Edit]:
    """ "No." ends a sentence where no figure follows."""
    yield from ((one.end() - 1, one.end(), "!") for one in seek(_ANSWER, text))


#: "20 g of 50 % citric acid solution", "salt solution 20 %": how strong, of what is else sold dry.
_SOLUTION = re.compile(r"\b[^\W\d_]+(?: [^\W\d_]+){0,2} solution\b", re.IGNORECASE)
#: Behind it stands its per cent, with its amount between at most; or before it.
_ITS_PCT = re.compile(
    r"[\s,(:]{1,3}(?:[^,;:()%\n]{1,24}[\s,(]{1,3})?(?:of |at )?\d{1,2}(?:[.,]\d)?\s?(?:%|per\s?cent)", re.IGNORECASE
)
_PCT_BEFORE = re.compile(r"(?:%|per\s?cent)\s(?:of\s)?$", re.IGNORECASE)


def dissolved(text: str) -> Iterable[Edit]:
    """A solution of what is sold dry is a weak one of it, and its per cent no share of the batch."""
    for one in seek(_SOLUTION, text):
        end = one.end() - len(" solution")
        start = name_before(text, end)
        if start is None or start < one.start():
            continue
        material = find(text[start:end])
        if material.solution is not None and not material.sold and _has_its_per_cent(text, start, one.end()):
            yield start, start, "weak "
            yield end, one.end(), ""


def _has_its_per_cent(text: str, start: int, end: int) -> bool:
    before = _PCT_BEFORE.search(text, max(0, start - len("per cent of ")), start)
    return before is not None or _ITS_PCT.match(text, end) is not None


#: All of them, in order.
ASIDES = (dissolved, broad, not_so, warned, shares, as_strong, by_the_way, it_is, anew, fillers, if_too, answers)
