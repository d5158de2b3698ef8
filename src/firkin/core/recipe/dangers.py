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
from firkin.core.recipe.recipe import HeardDanger, HeardLine

_SENTENCE = re.compile(r"(?:[.!?](?=\s|$)|[;\n])+")
_FIGURE = re.compile(r"\d|[½¼¾⅓⅔⅛]|\b(?:an?|half|one|two|three|four|five|six|ten|twenty|fifty|hundred|parts?|cups?|some|few)\b")
_LABELLED = re.compile(r"\s*:\s*[\d½¼¾][\d.,/½¼¾ ]*\s*[a-z]{0,6}\.?\s*(?:$|[,;\n])", re.IGNORECASE)
#: A word such as "no" covers what it stands before, so many letters at most.
_DETERMINED = 40
_DETERMINERS = frozenset(
    {
        *("no", "without", "free of", "free from", "kein", "keine", "keinen", "keinem", "ohne", "pas de", "pas d", "sans"),
        *("sin", "nada de", "geen", "zonder", "senza", "sem", "bez", "nothing", "minus the", "hold the", "ni", "nor", "neither"),
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


def weighed(text: str, lines: Sequence[HeardLine]) -> tuple[tuple[HeardLine, ...], tuple[HeardDanger, ...]]:
    """The lines, those only talked about marked so; and every danger that is named outside them, each once.

    >>> lines, heard = weighed("Never with vinegar. Then a glug of javel.", ())
    >>> [(one.said, one.sure) for one in heard]
    [('javel', True)]
    """
    mentions = list(_mentions(text))
    certain = any(one.stance is Stance.IN for one in mentions)
    told = [one for one in mentions if one.stance is Stance.TALK]
    together = {one.sentence for one in told if sum(other.sentence == one.sentence for other in told) > 1}
    talk = {
        one.danger.start
        for one in told
        if certain or not (one.sentence in together or any(other.measured for other in told))
    }
    unsure = talk | {one.danger.start for one in mentions if one.stance is Stance.OUT and one.measured}
    sure_of = {one.danger.material.written for one in mentions if one.stance is Stance.IN}
    marked = []
    for line in lines:
        here = [one for one in mentions if line.at[0] <= one.danger.start < line.at[1]]
        doubt = bool(here) and line.material.written not in sure_of and all(one.danger.start in unsure or one.stance is Stance.OUT for one in here)
        marked.append(replace(line, claims=replace(line.claims, talked=True)) if doubt else line)
    known = {line.material.written for line in lines}
    loose: dict[str, HeardDanger] = {}
    for one in mentions:
        danger = one.danger
        if one.stance is Stance.OUT and not one.measured:
            continue
        inside = any(line.at[0] <= danger.start < line.at[1] for line in lines)
        if danger.material.written in known or (inside and not is_unfit(danger.material.name)):
            continue
        sure = danger.start not in unsure
        before = loose.get(danger.material.written)
        if before is None or (sure and not before.sure):
            loose[danger.material.written] = HeardDanger(
                danger.said, danger.material, sure, (danger.start, danger.end)
            )
    return tuple(marked), tuple(loose.values())


def danger_findings(lines: Sequence[HeardLine], heard: Sequence[HeardDanger]) -> Iterator[Finding]:
    """What dangers heard outside the lines do with each other and with what the lines hold."""
    for at, one in enumerate(heard):
        if is_unfit(one.material.name) and not one.material.known:
            yield _unfit(one)
        for i, line in enumerate(lines):
            yield from _pair(one, line.material, not one.sure or line.claims.talked, (i,))
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
        yield _PROCEDURE[rule]


_PROCEDURE = {
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
        before = folded_in_place(text[start : danger.start])
        behind = folded_in_place(text[danger.end : end])
        piece = before.rpartition(",")[2]
        measured = bool(_FIGURE.search(piece)) or bool(_FIGURE.match(behind.lstrip(" :,-("))) or "|" in behind
        unfit = is_unfit(danger.said) and not danger.material.known
        if unfit and folded(danger.said) in only_measured and not re.search(r"\d", piece + behind.partition(",")[0]):
            continue
        if _titles(danger, before, behind, first=number == 0 or "\n" in text[max(0, start - 2) : start]):
            continue
        yield _Mention(danger, _stance(before, behind, measured=measured), number, measured)


def folded_in_place(text: str) -> str:
    """Small letters, as long as before: places stay."""
    lowered = text.lower().replace("’", "'")
    return lowered if len(lowered) == len(text) else text


def _titles(danger: Danger, before: str, behind: str, *, first: bool) -> bool:
    """True for a product that stands as a heading: "Descaler: 100 g citric acid, 900 mL water"."""
    heading = behind.lstrip().startswith(":") or not behind.strip(" .!\n")
    product = danger.material.written in ("descaler", "drain-opener") or "cleaner" in danger.said.lower()
    return product and first and heading and not re.search(r"\d", before) and not _LABELLED.match(behind)


def _stance(before: str, behind: str, *, measured: bool) -> Stance:
    told = _told_anew(before)
    scope = before[told:]
    cleaned = _idioms().sub(lambda found: " " * len(found.group()), scope)
    for found in _cues("not_in").finditer(cleaned):
        between = cleaned[found.end() :]
        if found.group() in _DETERMINERS and (len(between) > _DETERMINED or re.search(r"[,:]|\b(?:so|then|but|in|to)\b", between)):
            continue
        return Stance.OUT
    if re.match(rf"\W*(?:{'|'.join(map(re.escape, _table()['behind']))})\b", behind):
        return Stance.OUT
    near = behind.partition(",")[0]
    apart = _cues("apart").search(scope) or _cues("apart").search(near)
    return Stance.TALK if _cues("others").search(scope) or (apart and not measured) else Stance.IN


def _told_anew(before: str) -> int:
    """Where in what stands before a name the sentence is told anew: behind a colon, or a comma that goes on with doing."""
    last = 0
    for found in _anew().finditer(before):
        last = found.end()
    return last


@cache
def _anew() -> re.Pattern[str]:
    does = "|".join(_table()["does"])
    return re.compile(
        rf":|(?:,|—|–|\bso\b|\bbut\b)\s*(?:and |then |so |i |you |we |it's |that's )*(?=(?:{does})\b)|,\s*(?=\d)|\bbut\b"
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
    talk: dict[str, list[str]] = datafiles.toml("catalogue/hazards.toml")["talk"]
    return talk
