"""What is said once and holds on: the unit of the figures behind it, of a mark on a vessel, and what a sum is of."""

import re
from collections.abc import Iterable

from firkin.core.catalogue import find
from firkin.core.plan import number_of
from firkin.core.recipe.neighbours import Edit
from firkin.core.recipe.pieces import is_grade
from firkin.core.recipe.sought import seek
from firkin.core.recipe.wordings import amounts, name_before, names

#: A unit is carried so many letters on.
_NEAR = 160
_ONES = "one|two|three|four|five|six|seven|eight|nine"
_TEENS = "ten|eleven|twelve|thirteen|fourteen|fifteen|sixteen|seventeen|eighteen|nineteen"
_BELOW_100 = rf"(?:(?:twenty|thirty|forty|fifty|sixty|seventy|eighty|ninety)(?:[ -](?:{_ONES}))?|{_TEENS})"
_IN_WORDS = (
    rf"(?:(?:an?|{_ONES}) hundred(?: (?:and )?(?:{_BELOW_100}|{_ONES}))?|{_BELOW_100})"
    rf"(?: point (?:(?:{_ONES}|zero|oh) ?)+| and a half)?"
)
#: "Sixty millilitres of the soap, a hundred and ninety of water", "and one of aloe".
_BARE = re.compile(
    rf"(?<![\w.,/])(?:\d[\d.,]*|{_IN_WORDS}|(?<=\band )(?:{_ONES})|(?<=[\w], )(?:{_ONES}))"
    r"(?= of (?:the |my |our |that |distilled |boiled |cold |warm |hot )*(?P<name>[a-z]))",
    re.IGNORECASE,
)
#: "Peroxide, forty-one point seven.", "glycerin 14.5,": a figure behind a name, where a sentence or a list goes on.
_BEHIND = re.compile(
    rf"(?P<gap>,?[ ]{{1,4}}(?:(?:about|around|roughly|say),?\s+)?)"
    rf"(?P<figure>(?>(?<![\w.,/])(?:\d{{1,4}}[.,]\d{{1,2}}|\d{{2,4}})|{_IN_WORDS}))"
    r"(?=\s{0,4}(?:[.,;]\s|[;\n]|\.?$)|\s{1,4}and\b(?! a half))",
    re.IGNORECASE,
)
#: "Salt, 1.5, 30 g": the amount stands behind the share.
_IN_THE_NEXT_CELL = re.compile(r"\s?[,;|\t]\s?\d[\d.,]*\s?(?:k?g|m?l)\b", re.IGNORECASE)
#: A unit in which each figure of a list is told; cups and spoons are said each time.
_CARRIES = re.compile(r"(?:g|gr|gram(?:me)?s?|mls?|mils?|millilit(?:re|er)s?)", re.IGNORECASE)
#: Per cent, above any strength.
_ABOVE_ANY = 101.0
_SENTENCE = re.compile(r"[.!?;\n]")
#: "Salt, teaspoon by teaspoon, 15 grams altogether": the sum of its parts, and no size of all.
_IN_ALL = re.compile(r",?\s{1,4}(?:altogether|all together|in all|in total|all told)\b", re.IGNORECASE)
_BY_PARTS = re.compile(
    r"\b(?:by|at a (?:time|go)|bit by bit|little by little|additions?|portions?|goes|slowly|gradually)\b", re.I
)

#: "Up to the 500 mark", "top up to 1000": no size was told, and each figure so far was in one unit.
_MARK = re.compile(
    r"\b(?:to|up to|till|until) (?:the )?(?P<figure>\d{2,5})(?=,? (?:mark|line)\b)"
    r"|\btop\w*(?: it| the [^\W\d_]+)?(?: up)? to (?:the )?(?P<top>\d{2,5})(?=\s*(?:[.,;]|$|\n|with\b))",
    re.IGNORECASE | re.MULTILINE,
)


def units(text: str) -> Iterable[Edit]:
    """A bare figure of a name, behind an amount in the same sentence, is counted in that amount's unit."""
    for one in seek(_BARE, text):
        sentence = _SENTENCE.split(text[max(0, one.start() - _NEAR) : one.start()])[-1]
        before = list(amounts().finditer(sentence))
        if before and names().match(text, one.start("name")):
            yield one.end(), one.end(), f" {_unit(before[-1].group())}"


def units_of_before(text: str) -> Iterable[Edit]:
    """The same from sentence to sentence, in grams or millilitres alone: so much is guessed, and asked about."""
    found = [one.span() for one in seek(_BARE, text) if names().match(text, one.start("name"))]
    for one in seek(_BEHIND, text):
        start = name_before(text, one.start())
        if start is not None and not is_grade(find(text[start : one.start()]), _number(one["figure"])):
            found.append(one.span("figure"))
    last, carried = -_NEAR, ""
    for start, end in sorted(found):
        before = [one for one in amounts().finditer(text, max(0, start - _NEAR), start) if _measures(one.group())]
        if before and before[-1].end() > last:
            last, carried = before[-1].end(), _unit(before[-1].group())
        told = amounts().match(text, start) or _IN_THE_NEXT_CELL.match(text, end)
        if start - last < _NEAR and _CARRIES.fullmatch(carried) and not told:
            yield end, end, f" {carried}"
            last = end


def mark_of_all(text: str) -> Iterable[Edit]:
    """A mark without a unit, above each amount told before it, has the unit of all of them; it is asked about."""
    marks = list(seek(_MARK, text))
    told = list(amounts().finditer(text)) if marks else []
    of, unit, most, at = set[str](), "", 0.0, 0
    for one in marks:
        while at < len(told) and told[at].end() <= one.start():
            unit = _unit(told[at].group())
            of.add(unit.lower())
            most = max(most, _figure_of(told[at].group()))
            at += 1
        mark = float(one["figure"] or one["top"])
        if len(of) == 1 and _CARRIES.fullmatch(unit) and mark > most:
            end = one.end("figure") if one["figure"] else one.end("top")
            yield end, end, f" {unit}"


def in_all(text: str) -> Iterable[Edit]:
    """The sum of what goes in by parts, of the one thing its sentence names, is the amount of that."""
    for one in seek(_IN_ALL, text):
        first = max((found.end() for found in _SENTENCE.finditer(text, 0, one.start())), default=0)
        told = list(amounts().finditer(text, first, one.start()))
        if not told or told[-1].end() != one.start():
            continue
        until = told[-1].start()
        if len(told) > 1:  # behind the name that the amount before is of
            measured = names().search(text, told[-2].end(), until)
            first = measured.end() if measured is not None else until
        named = {found.group().lower() for found in names().finditer(text, first, until)}
        if len(named) == 1 and _BY_PARTS.search(text, first, until):
            yield one.start(), one.end(), ""


def _measures(amount: str) -> bool:
    return not amount.lower().endswith(("percent", "cent", "%", "proof"))


def _unit(amount: str) -> str:
    found = re.search(r"[^\W\d_]+$", amount)
    return found.group() if found is not None else ""


def _figure_of(amount: str) -> float:
    found = re.match(r"\d+(?:[.,]\d+)?", amount)
    return float(found.group().replace(",", ".")) if found is not None else 0.0


def _number(said: str) -> float:
    """A figure as it is said; in words of a hundred or more it is no strength, and how much does not matter."""
    if said[0].isdigit():
        return float(said.replace(",", "."))
    return _ABOVE_ANY if "hundred" in said.lower() else number_of(re.split(r" point | and a", said)[0])
