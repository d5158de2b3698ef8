"""How strong a stock is, or which thing it is, taken back and said anew: "it's the 91, not the 99", "sorry, vinegar".

What was wrong is put right where it stands, and the sentence that puts it right is read as nothing else.
"""

import re
from collections.abc import Iterable, Iterator
from functools import lru_cache
from itertools import islice

from firkin.core.catalogue import find
from firkin.core.plan import number_of
from firkin.core.recipe.corrections import (
    I_SAID,
    MEANT,
    SAID_WRONG,
    WELL,
    cues,
    ends,
    said_in,
    taken_back_by,
    with_its_end,
)
from firkin.core.recipe.neighbours import Edit
from firkin.core.recipe.wordings import NUMBER, amounts, names, names_of

_PCT = (
    rf"(?:{NUMBER}|(?:twenty|thirty|forty|fifty|sixty|seventy|eighty|ninety)[ -]\w+)\s?(?:%|per\s?cent|percent|proof)"
)
_FIGURE = rf"(?:\d+(?:[.,]\d+)?|{NUMBER})"
_SIGN = re.compile(r"%|per\s?cent|proof")
_ENDS_IN_PCT = re.compile(rf"\b{_PCT}$", re.IGNORECASE)
_ANY_PCT = re.compile(rf"\b{_PCT}", re.IGNORECASE)
_NAME = r"(?:(?:the|my|your|our|that)\s+)?(?P<name>[^\W\d_][^\W_]*(?:[ -][^\W_]+){0,3}?)"
_KIND = r"(?:\s+(?:one|stuff|kind|sort|bottle))?"
_MISREAD = r",\s+(?:(?:i|we)(?:'ve)? (?:misread|got|had|wrote|looked)[^.!?\n]{0,24}|sorry|my mistake)"
#: Sentences that put a strength right: with the old one in them, or with what it is the strength of.
_STRENGTHS = tuple(
    re.compile(form, re.IGNORECASE)
    for form in (
        # "sorry, it's the 91, not the 99", "the alcohol is 91 %, not 99"
        rf"{WELL}(?:it'?s|it is|that'?s|mine is|mine'?s|{_NAME}\s+(?:is|was))\s+(?:only\s+)?(?:the\s+)?"
        rf"(?P<new>(?:{_PCT}|{_FIGURE})){_KIND}"
        rf",?\s+(?:and\s+)?not\s+(?:the\s+)?(?P<old>(?:{_PCT}|{_FIGURE})){_KIND}",
        # "I said 99 %, it's 91 %"
        rf"{WELL}{I_SAID}\s+(?:[^\W\d_]+\s+){{0,3}}(?P<old>{_PCT})(?:\s+[^\W\d_]+){{0,2}},?\s+(?:(?:and|but)\s+)?{MEANT}\s+"
        rf"(?:the\s+)?(?P<new>(?:{_PCT}|{_FIGURE})){_KIND}",
        # "correction: the alcohol is 91 %"
        rf"{WELL}{SAID_WRONG}{_NAME}[,:]?\s+(?:(?:is|should be|was)\s+)?(?P<new>{_PCT})",
        rf"{WELL}{SAID_WRONG}(?:(?:it'?s|it is)\s+)?(?P<new>{_PCT})\s+{_NAME}",
        # "the isopropyl is 91 %, I misread it", "the alcohol, make that 91 %"
        rf"{WELL}{_NAME}\s+(?:is|was)\s+(?:only |actually |really )?(?P<new>{_PCT}){_MISREAD}",
        rf"{WELL}{_NAME},?\s+(?:make (?:that|it)|is (?:actually|really))\s+(?P<new>{_PCT})",
    )
)
_HINTS = (
    *("not", "i said", "i wrote", "i put", "i typed", "told you", "correct", "erratum", "typo", "mis", "wrong"),
    *("meant", "sorry", "make ", "actually", "really", "it says"),
)


def strengths(text: str) -> list[Edit]:
    """A strength that is taken back gives way to the one that is said instead."""
    if not any(sign in text.lower() for sign in ("%", "cent", "proof")):
        return []
    found: dict[int, list[Edit]] = {}
    for _, one in said_in(text, _HINTS, _STRENGTHS):
        if one.start() in found or not ends(text, one.end()):
            continue
        wrong = _told_before(text, one)
        if wrong:
            right = one["new"] if _ANY_PCT.fullmatch(one["new"]) else f"{one['new']} %"
            found[one.start()] = [
                *((at.start(), at.end(), right) for at in wrong),
                (one.start(), with_its_end(text, one.end()), ""),
            ]
    return sorted({*(edit for edits in found.values() for edit in edits), *_at_once(text)})


def _at_once(text: str) -> Iterator[Edit]:
    """ "99 %, no, 91 %"."""
    for wrong in _percents(text):
        right = taken_back_by(text, wrong.end(), _ANY_PCT)
        if right is not None:
            yield wrong.start(), right, ""


def _value(told: str) -> float:
    return number_of(re.sub(r"\s?(?:%|per\s?cent|percent|proof)$", "", told, flags=re.IGNORECASE))


def _told_before(text: str, said: re.Match[str]) -> list[re.Match[str]]:
    """The places before where the strength stands that is put right; none where it is not plain which that is."""
    old, name = said.groupdict().get("old"), said.groupdict().get("name")
    if name and name.lower() not in (*_ANY_ALCOHOL, *_A_BOTTLE) and names().fullmatch(name) is None:
        return []  # "the mix is 76 %, not 96"
    before = [one for one in _percents(text) if one.start() < said.start()][-_MOST_BEFORE:]
    if old:
        before = [one for one in before if _value(one.group()) == _value(old)]
    elif name:
        meant = _ALCOHOLS if name.lower() in _ANY_ALCOHOL else names_of(name)
        before = [one for one in before if _is_beside(text, one, meant)]
    values = {_value(one.group()) for one in before}
    return before if len(values) == 1 and _value(said["new"]) not in values else []


@lru_cache(maxsize=2)
def _percents(text: str) -> tuple[re.Match[str], ...]:
    signs = _SIGN.finditer(text.lower())
    found = (_ENDS_IN_PCT.search(text, max(0, one.start() - _NEAR), one.end()) for one in signs)
    return tuple(one for one in found if one is not None)


#: A strength and its name stand so near, with an amount between them at most.
_NEAR = 40
_MOST_BEFORE = 100
_ANY_ALCOHOL = frozenset({"alcohol", "spirit", "spirits", "rubbing alcohol"})
_A_BOTTLE = frozenset({"bottle", "label", "can", "stock"})
_ALCOHOLS = re.compile(
    r"\b(?:(?:ethyl |isopropyl |rubbing |surgical )?alcohol|ethanol|isoprop\w+|ipa|spirits?)\b", re.I
)
_STRENGTH_FIRST = re.compile(r"\s(?:[^\W\d_]+\s){0,2}")
_NAME_FIRST = re.compile(r"[\s,:=(–-]{1,4}(?:(?:[^\W\d_]+|\d[\d.,]*\s?[^\W\d_]+)[,\s]+){0,2}")


def _is_beside(text: str, pct: re.Match[str], meant: re.Pattern[str]) -> bool:
    """True where a strength stands right before a name of what is meant, or behind it."""
    behind = meant.search(text, pct.end(), pct.end() + _NEAR)
    if behind is not None and _STRENGTH_FIRST.fullmatch(text, pct.end(), behind.start()):
        return True
    before = list(meant.finditer(text, max(0, pct.start() - _NEAR), pct.start()))
    return bool(before) and _NAME_FIRST.fullmatch(text, before[-1].end(), pct.start()) is not None


#: What takes a thing back: a "no" alone refuses what comes behind it.
_THEN = re.compile(
    r"(?:no,? (?:wait|sorry|hang on|actually)|sorry|i mean|i meant|make that|scratch that|or rather|correction|oops"
    r"|whoops|hang on|hold on)[,:.!…–—-]*\s+(?:it'?s |it was |that'?s )?(?:the |some )?",
    re.IGNORECASE,
)
_GAP_BEFORE = re.compile(r"(?:[,;.:(…!–—-]|\s){1,4}(?:oh |ah |um+ )?$", re.IGNORECASE)
_THING = r"[^\W\d_][^\W_]*(?:[ -][^\W_]+){0,3}?"
#: Without one of these "water, not vinegar" puts nothing right: it says what to take.
_CUE = r"(?:(?:sorry|oops|edit|correction|erratum|typo|wait|no|actually|i meant|i mean|where i said)[,:.!]*\s+){1,4}"
_NOT_THAT = tuple(
    re.compile(
        rf"(?:(?:oh|and|also|but|so|p\.?\s?s\.?)[,:.!]*\s+){{0,2}}{form}(?=\s*(?:[.,;:!?)…\n]|$))", re.IGNORECASE
    )
    for form in (
        # "sorry, washing soda, not borax"
        rf"(?:{SAID_WRONG}|{_CUE})(?:(?:it'?s|it is|it was|that'?s|i meant|i mean)\s+)?(?:the\s+)?(?P<new>{_THING})"
        rf",?\s+(?:and\s+)?not\s+(?:the\s+)?(?P<old>{_THING})",
        # "where it says borax I meant washing soda"
        rf"where (?:it says|{I_SAID})\s+(?:the\s+)?(?P<old>{_THING})(?: above)?,?\s+{MEANT}\s+(?:the\s+)?"
        rf"(?P<new>{_THING})",
    )
)


def things(text: str) -> Iterable[Edit]:
    """A thing that is taken back gives way to the one that is said instead; its amount stays."""
    edits: list[Edit] = []
    for cue in cues(text):
        back, gap = _THEN.match(text, cue), _GAP_BEFORE.search(text[max(0, cue - 8) : cue])
        right = names().match(text, back.end()) if back is not None and gap is not None else None
        if gap is not None and right is not None and ends(text, right.end()):
            edits += _instead(text, cue - len(gap.group()), right)
    taken = {start for start, _, _ in edits}
    for _, said in said_in(text, _HINTS, _NOT_THAT):
        if names().fullmatch(said["new"]) is None or names().fullmatch(said["old"]) is None:
            continue
        wrong = [one for one in _named(text, find(said["old"]).written) if one.start() < said.start()]
        if len(wrong) == 1 and wrong[0].start() not in taken:
            taken.add(wrong[0].start())
            edits += [
                (wrong[0].start(), wrong[0].end(), said["new"]),
                (said.start(), with_its_end(text, said.end()), ""),
            ]
    yield from sorted(edits)


@lru_cache(maxsize=4)
def _named(text: str, material: str) -> tuple[re.Match[str], ...]:
    """The first two places where a text names a material."""
    return tuple(islice(names_of(material).finditer(text), 2))


def _instead(text: str, back: int, right: re.Match[str]) -> list[Edit]:
    """The edits for a thing that stands right before what takes it back."""
    wrong = _just_before(text, back)
    if wrong is None or find(wrong.group()).written == find(right.group()).written:
        return []
    if _is_measured(text, wrong, back):
        return [(wrong.start(), wrong.end(), right.group()), (back, right.end(), "")]
    gap = _BESIDE.match(text, right.end())
    measured = gap is not None and amounts().match(text, gap.end()) is not None
    return [(wrong.start(), right.start(), "")] if measured else []


_BESIDE = re.compile(r"[\s,:=(–—-]{0,3}")


def _just_before(text: str, end: int) -> re.Match[str] | None:
    """The name that ends right before, alone or with its amount behind it; none that has a strength of its own."""
    named = list(names().finditer(text, max(0, end - _NEAR), end))
    if not named:
        return None
    between = text[named[-1].end() : end].strip(" ,:=(")
    near = _ANY_PCT.finditer(text, max(0, named[-1].start() - _NEAR), end)
    strong = any(_is_beside(text, pct, names_of(named[-1].group())) for pct in near)
    return named[-1] if not strong and (not between or amounts().fullmatch(between)) else None


def _is_measured(text: str, name: re.Match[str], end: int) -> bool:
    """True for a name with an amount before it, or between it and the end."""
    before = list(amounts().finditer(text, max(0, name.start() - _NEAR), name.start()))
    beside = bool(before) and text[before[-1].end() : name.start()].strip() in ("", "of", "of the")
    return beside or bool(text[name.end() : end].strip(" ,:=("))
