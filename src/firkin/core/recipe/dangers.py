"""Dangers heard in a recipe's text: does what is named go in, is it only talked about, or is it warned of?

The whole text is listened to, whatever the reading of its lines makes of it.
"""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from functools import cache

from firkin.core import datafiles
from firkin.core.audit import GOES_IN, Finding, Severity, meeting_finding
from firkin.core.catalogue import Danger, Material, dangers_in, folded, is_unfit, kinds_of, meeting
from firkin.core.recipe.recipe import HeardDanger, HeardLine, MarkKind, Recipe

_SENTENCE = re.compile(r"(?:[.!?](?=\s|$)|[;\n])+")
_FIGURE = re.compile(
    r"\d|[½¼¾⅓⅔⅛]|\b(?:an?|half|one|two|three|four|five|six|ten|twenty|fifty|hundred|parts?|cups?|some|few)\b"
)
_UNITS = (
    r"(?:m[lL]|mils?|millilit\w+|c?[lL]|lit(?:re|er)s?|k?g|gram(?:me)?s?|kilos?|oz|ounces?|lbs?|pounds?|pints?|quarts?|gallons?"
    r"|cup(?:ful)?s?|(?:tea|table|soup|dessert)?spoon(?:ful)?s?|ts?ps?|tbsps?|parts?|drops?|caps?|capfuls?|shots?|squirts?"
    r"|glugs?|splash(?:es)?|dash(?:es)?|slosh(?:es)?|drizzles?|pinch(?:es)?|handfuls?|glass(?:es|ful)?|sachets?|tablets?)"
)
#: "Two cups of the cheap vinegar"; "vinegar, about 250 mL".
_AMOUNT = rf"(?:{_FIGURE.pattern})[^.;:,]{{0,12}}?\b{_UNITS}\b"
_OF_THE = r"(?: (?:and a half|of|the|my|your|that|this|some|a|good)\b)*"
_AMOUNT_BEFORE = re.compile(rf"{_AMOUNT}{_OF_THE}(?: [\w%-]+){{0,3}}\W*$")
_AMOUNT_BEHIND = re.compile(rf"\W{{0,3}}(?:about |so )?(?:\w+ ){{0,3}}?{_AMOUNT}")
_LABELLED = re.compile(r"\s*:\s*[\d½¼¾][\d.,/½¼¾ ]*\s*[a-z]{0,6}\.?\s*(?:$|[,;\n])", re.IGNORECASE)
#: Words of a heading in front of what is made: "My homemade descaler".
_HEADING = re.compile(
    r"\W*(?:(?:my|our|the|home ?made|diy|green|natural|cheap|easy|simple|strong|gentle|quick|best|recipe|for|of)\W+)*"
)
#: A word such as "no" covers what it stands before, so many letters at most.
_DETERMINED = 40
#: So many letters around a name are looked at, for a text without an end has sentences without one.
_NEAR = 400
_DETERMINERS = frozenset(
    {
        *(
            "no",
            "without",
            "free of",
            "free from",
            "kein",
            "keine",
            "keinen",
            "keinem",
            "ohne",
            "pas de",
            "pas d",
            "sans",
        ),
        *(
            "sin",
            "nada de",
            "geen",
            "zonder",
            "senza",
            "sem",
            "bez",
            "nothing",
            "minus the",
            "hold the",
            "ni",
            "nor",
            "neither",
        ),
    }
)


class Stance(StrEnum):
    """What a text says of a thing it names."""

    IN = "goes in"
    TALK = "is talked about"
    OUT = "stays out"


@dataclass(frozen=True, slots=True)
class _Mention:
    danger: Danger
    stance: Stance
    sentence: int
    measured: bool
    amount: bool = False  # an amount with its unit stands beside it


def weighed(recipe: Recipe) -> Recipe:
    """The recipe with its dangers: lines only talked about are marked, those only warned of are none.

    What is named outside the lines stands in ``dangers``, each thing once. In a long account it is asked about unless
    an amount of it is told.

    >>> recipe = weighed(Recipe(text="Never with vinegar. Then a glug of javel."))
    >>> [(one.said, one.sure) for one in recipe.dangers]
    [('javel', True)]
    """
    mentions = list(_mentions(recipe.text))
    unsure = _unsure(mentions)
    told = [one for one in mentions if one.stance is Stance.IN and (one.amount or not recipe.at_length)]
    certain = {one.danger.material.written for one in told}
    lines, warned = [], []
    for number, line in enumerate(recipe.lines):
        here = [one for one in mentions if line.at[0] <= one.danger.start < line.at[1]]
        here = [one for one in here if one.danger.material.written == line.material.written] or here
        doubt = bool(here) and line.material.written not in certain
        doubt = doubt and all(one.danger.start in unsure or one.stance is Stance.OUT for one in here)
        far = recipe.at_length and not any(one.amount for one in here)  # its amount was taken from something else
        if doubt and (line.amount is None or far) and all(one.stance is Stance.OUT for one in here):
            warned.append(number)
        lines.append(replace(line, claims=replace(line.claims, talked=True)) if doubt else line)
    known = {line.material.written for line in lines}
    dangers: dict[str, HeardDanger] = {}
    for one in mentions:
        danger, written = one.danger, one.danger.material.written
        if one.stance is Stance.OUT and not one.measured:
            continue
        heard = kinds_of(danger.material)
        if written in known or any(
            line.at[0] <= danger.start < line.at[1] and heard <= kinds_of(line.material) for line in lines
        ):
            continue
        if recipe.at_length and not is_unfit(danger.said) and _stands_in(heard, lines):
            continue  # "the alcohol" of a rub is its isopropanol
        sure = danger.start not in unsure and (one.amount or not recipe.at_length)
        if written not in dangers or (sure and not dangers[written].sure):
            dangers[written] = HeardDanger(danger.said, danger.material, sure, (danger.start, danger.end))
    return without_told(replace(recipe, lines=tuple(lines), dangers=tuple(dangers.values())), warned)


def _stands_in(kinds: frozenset[str], lines: Sequence[HeardLine]) -> bool:
    """True where a line that surely goes in is of the same kinds of danger: nothing new would come of it."""
    return bool(kinds) and any(not line.claims.talked and kinds <= kinds_of(line.material) for line in lines)


def _unsure(mentions: Sequence[_Mention]) -> set[int]:
    """Where things stand of which it is not sure that they go in.

    What others do is only talk beside what the maker does; told with its amounts and nothing else, it is the recipe.
    """
    certain = any(one.stance is Stance.IN for one in mentions)
    told = [one for one in mentions if one.stance is Stance.TALK]
    together = {one.sentence for one in told if sum(other.sentence == one.sentence for other in told) > 1}
    measured = any(one.measured for one in told)
    talk = {one.danger.start for one in told if certain or not (one.sentence in together or measured)}
    return talk | {one.danger.start for one in mentions if one.stance is Stance.OUT and one.measured}


def without_told(recipe: Recipe, places: Sequence[int]) -> Recipe:
    """The recipe without some of its lines, which become advice."""
    for place in reversed(places):
        marks = tuple(
            replace(mark, kind=MarkKind.ADVICE, line=None)
            if mark.line == place
            else replace(mark, line=mark.line - 1)
            if mark.line is not None and mark.line > place
            else mark
            for mark in recipe.marks
        )
        lines = (*recipe.lines[:place], *recipe.lines[place + 1 :])
        recipe = replace(recipe, lines=lines, marks=marks)
    return recipe


def danger_findings(lines: Sequence[HeardLine], heard: Sequence[HeardDanger]) -> Iterator[Finding]:
    """What dangers heard outside the lines do with each other and with what the lines hold."""
    for at, one in enumerate(heard):
        if is_unfit(one.material.name) and not one.material.known:
            yield _unfit(one)
        for unsure, material, places in _together(one, lines):
            yield from _pair(one, material, unsure, places)
        for other in heard[at + 1 :]:
            yield from _pair(one, other.material, not (one.sure and other.sure), ())


#: A word for heating, and what it heats within a few words; or a pan or flame further on in the sentence.
_HEATS = re.compile(
    r"\b(?:warm|heat|boil|simmer|microwave|erhitz|erwärm|koch|chauff|calient|verwarm)\w*\b(?:[^.;!?,\n]|(?<=first),){0,28}$"
)
_NOT_HEATED = re.compile(r"\b(?:never|don't|do not|not|no|without|away|before)\b[^.;\n]*$|\bwater\b")
#: Water that goes onto what stands in the vessel.
_WATER_ONTO = re.compile(
    r"\b(?:water|wasser|eau|agua)\b[^.;\n]{0,40}?\b(?:over|ower|onto|on top|above|upon|on it|darüber|dessus|encima)\b"
    r"|\bpour(?:ing|ed)? (?:the |hot |cold |boiling )*water (?:over|onto|on)\b"
)
_REACH = 160


def procedure_findings(text: str) -> Iterator[Finding]:
    """What a text says to do that hurts whatever the amounts are: alcohol heated, water poured onto caustic.

    >>> [one.rule for one in procedure_findings("Warm the ethanol in a pan. Lye in the pot, then pour water over it.")]
    ['heated-alcohol', 'water-onto-caustic']
    """
    told = text.lower()
    seen: set[str] = set()
    for mention in _mentions(text):
        danger, kinds = mention.danger, kinds_of(mention.danger.material)
        if mention.stance is Stance.OUT:
            continue
        before = told[max(0, danger.start - 60) : danger.start]
        heated = _HEATS.search(before) if "alcohol" in kinds else None
        if heated is not None and not _NOT_HEATED.search(before[: heated.start()] + heated.group()):
            seen.add("heated-alcohol")
        if "caustic" in kinds and _WATER_ONTO.search(told, danger.end, danger.end + _REACH):
            onto = _WATER_ONTO.search(told, danger.end, danger.end + _REACH)
            if onto is not None and not re.search(r"\b(?:never|not|don't)\b", told[danger.end : onto.end()]):
                seen.add("water-onto-caustic")
    for rule in sorted(seen):
        yield PROCEDURES[rule]


#: What a text says to do that hurts, told once.
PROCEDURES = {
    "heated-alcohol": Finding(
        "heated-alcohol",
        Severity.STOP,
        "Alcohol is heated here: the vapour catches fire from a flame, a hob or a spark, and the strength is lost.",
        "Heat only the water part, let it cool, and add the alcohol cold, away from any flame.",
    ),
    "water-onto-caustic": Finding(
        "water-onto-caustic",
        Severity.STOP,
        "Water goes onto caustic soda here: it boils up and spits.",
        "Put the cold water in first. Add the caustic slowly, with goggles and gloves.",
    ),
}


def _together(one: HeardDanger, lines: Sequence[HeardLine]) -> list[tuple[bool, Material, tuple[int, ...]]]:
    """The lines by their materials, each with whether it is sure that it and the danger both go in."""
    found: dict[tuple[bool, str], tuple[Material, tuple[int, ...]]] = {}
    for i, line in enumerate(lines):
        key = (not one.sure or line.claims.talked, line.material.written)
        found[key] = (line.material, (*found.get(key, (line.material, ()))[1], i))
    return [(unsure, material, places) for (unsure, _), (material, places) in found.items()]


def _pair(one: HeardDanger, other: Material, unsure: bool, lines: tuple[int, ...]) -> Iterator[Finding]:
    met = meeting(one.material, other)
    if met is None or not met.harm or {"chlorine"} <= kinds_of(one.material) & kinds_of(other):
        return
    first, second = (one.material, other) if "chlorine" in kinds_of(one.material) else (other, one.material)
    found = meeting_finding(first, second, met, lines, unsure=unsure)
    yield replace(found, text=f"{found.text} The text says “{one.said}”.")


def _unfit(one: HeardDanger) -> Finding:
    harm = "denatured, methylated or unknown alcohol may hold methanol, which poisons through the skin."
    if not one.sure:
        return Finding(
            "unfit-alcohol",
            Severity.ASK,
            f"The text talks of “{one.said}”. Does it go into this mix? On skin, {harm}",
            "If it does, do not use it on skin.",
            choices=GOES_IN,
        )
    return Finding(
        "unfit-alcohol",
        Severity.STOP,
        f"“{one.said}” is not for skin: {harm}",
        "Use undenatured or cosmetic-grade alcohol.",
    )


def _mentions(text: str) -> Iterator[_Mention]:
    starts = [0, *(found.end() for found in _SENTENCE.finditer(text))]
    ends = [*starts[1:], len(text)]
    only_measured = frozenset(_table()["only_measured"])
    number = 0
    for danger in dangers_in(text):
        while danger.start >= ends[number]:
            number += 1
        start, end = starts[number], ends[number]
        before = folded_in_place(text[max(start, danger.start - _NEAR) : danger.start])
        behind = folded_in_place(text[danger.end : min(end, danger.end + _NEAR)])
        piece = before.rpartition(",")[2]
        measured = bool(_FIGURE.search(piece)) or bool(_FIGURE.match(behind.lstrip(" :,-("))) or "|" in behind
        unfit = is_unfit(danger.said) and not danger.material.known
        if unfit and folded(danger.said) in only_measured and not re.search(r"\d", piece + behind.partition(",")[0]):
            continue
        if _titles(danger, before, behind, first=number == 0 or "\n" in text[max(0, start - 2) : start]):
            continue
        amount = bool(_AMOUNT_BEFORE.search(before) or _AMOUNT_BEHIND.match(behind))
        yield _Mention(danger, _stance(before, behind, measured=measured), number, measured, amount)


def stance_of(text: str, start: int, end: int) -> Stance:
    """What a text says of the thing whose words stand from ``start`` to ``end``: used, only talked about, or warned of.

    >>> story = "Three litres in a bucket. My sister used a glass jar once and it burst."
    >>> str(stance_of(story, story.index("glass"), story.index(" once")))
    'is talked about'
    """
    before = text[max(0, start - _NEAR) : start]
    sentence = next((found.end() for found in reversed(list(_SENTENCE.finditer(before)))), 0)
    behind = text[end : end + _NEAR]
    stop = _SENTENCE.search(behind)
    return _stance(
        folded_in_place(before[sentence:]), folded_in_place(behind[: stop.start()] if stop else behind), measured=False
    )


def folded_in_place(text: str) -> str:
    """Small letters, as long as before: places stay."""
    lowered = text.lower().replace("’", "'")
    return lowered if len(lowered) == len(text) else text


def _titles(danger: Danger, before: str, behind: str, *, first: bool) -> bool:
    """True for a product that stands as a heading: "Descaler: 100 g citric acid, 900 mL water"."""
    product = danger.material.written in ("descaler", "drain-opener") or "cleaner" in danger.said.lower()
    if not (product and first) or _FIGURE.search(before) or _LABELLED.match(behind):
        return False
    return behind.lstrip().startswith(":") or (not behind.strip(" .!\n") and _HEADING.fullmatch(before) is not None)


def _stance(before: str, behind: str, *, measured: bool) -> Stance:
    told = _told_anew(before)
    scope = before[told:]
    cleaned = _idioms().sub(lambda found: " " * len(found.group()), scope)
    for found in _cues("not_in").finditer(cleaned):
        between = cleaned[found.end() :]
        if found.group() in _DETERMINERS and (
            len(between) > _DETERMINED or re.search(r"[,:]|\b(?:so|then|but|in|to)\b", between)
        ):
            continue
        return Stance.OUT
    if re.match(rf"\W*(?:{'|'.join(map(re.escape, _table()['behind']))})\b", behind):
        return Stance.OUT
    near = behind.partition(",")[0]
    apart = _cues("apart").search(scope) or _cues("apart").search(near)
    return Stance.TALK if _cues("others").search(scope) or (apart and not measured) else Stance.IN


def _told_anew(before: str) -> int:
    """Where a sentence is told anew before a name: behind a colon, or a comma that goes on with doing."""
    last = 0
    for found in _anew().finditer(before):
        last = found.end()
    return last


@cache
def _anew() -> re.Pattern[str]:
    does = "|".join(_table()["does"])
    goes_on = rf"(?:and |then |so |i |you |we |it's |that's )*(?=(?:{does})\b)"
    return re.compile(
        rf":|(?:,|—|–|\bso\b|\bbut\b)\s*{goes_on}|,\s*(?=\d)|\bbut\b|\bwhat,? (?:i|we) (?:do|use|take|put in)\b"
    )


@cache
def _cues(kind: str) -> re.Pattern[str]:
    words = sorted(_table()[kind], key=len, reverse=True)
    return re.compile(rf"(?<![\w-])(?:{'|'.join(map(re.escape, words))})(?![\w-])")


@cache
def _idioms() -> re.Pattern[str]:
    words = sorted(_table()["idioms"], key=len, reverse=True)
    return re.compile(rf"(?<!\w)(?:{'|'.join(map(re.escape, words))})(?!\w)")


def _table() -> dict[str, list[str]]:
    return datafiles.toml("recipe/talk.toml")
