"""What a long account says comes out of it, how much and how strong: of many sizes and per cents the one meant."""

import re
from collections.abc import Iterator, Sequence
from contextlib import suppress
from dataclasses import replace
from math import log

from firkin.core.catalogue import Material
from firkin.core.errors import CannotReckon
from firkin.core.formula import Claim
from firkin.core.measures import Quantity
from firkin.core.recipe.pieces import Pieces
from firkin.core.recipe.recipe import HeardLine, Recipe
from firkin.core.recipe.said import Amount, Percent, bigness
from firkin.core.recipe.spans import Span

_ABOUT = (
    r"(?:\W+(?:you|me|about|around|roughly|an?|just|under|over|near|bit|say|the|of|it.?s|little|in|all|almost|nearly"
    r"|like))*"
)
_MAKES = re.compile(
    r"\b(?:makes?|comes? (?:out )?(?:to|at)|gives?|gets? (?:you|me)|adds? up to|works? out (?:to|at)|amounts,? for"
    r"|end(?:s|ed|ing)? up (?:at|with)|(?:so|and) (?:that|it|this).?s(?: for)?|(?:that|it).?s for"
    r"|(?:grams|everything|enough) for"
    rf"|quantities,? for|recipe for|list for|altogether|all together){_ABOUT}\W*$"
)
_IN_ALL = re.compile(
    r"\s*,?\s*(?:altogether|all together|in total|in all\b|of (?:finished|rub|gel|soap|liquid soap)\b)"
)
#: A size this many times off what was measured is of another batch.
_OFF = 1.35
_SAYS_SO = re.compile(r"\b(?:label|write|wrote|written|sticker|pen|i.?ve put)\b")
_COMES_OUT = re.compile(
    r"\b(?:works? out (?:to|at)|strength(?: of (?:it|this)| wise)?|so (?:this|it|that)(?: is|.?s)|end up with|finished"
    r"|(?:we|i|you) get to|comes? out (?:at|to)|(?:and|so) (?:that|it|this).?s|it.?s about|it is|arithmetic|finally)\b"
)
_TALKED_OF = re.compile(
    r"\b(?:at least|more than|above|over|under|below|asks? for|official|health people|minimum|authorit\w*|vodka|proof"
    r"|not|never|can i use|i used|last year|last time|instead)\b[^.!?]{0,25}$"
)
#: What stands on a bottle that was bought is no claim.
_ON_A_BOTTLE = re.compile(r"\b(?:says?|said|reads?|read)\b[^.!?]{0,60}$")
#: A label that is read aloud.
_SHOWN = re.compile(r"\b(?:says?|it.?s|that.?s|this is|reads?|label|it is|here.?s)\b")
_BY_WEIGHT, _BY_VOLUME = (
    re.compile(r"[^.,;]{0,22}\bby (?:weight|mass)\b"),
    re.compile(r"[^.,;]{0,22}\b(?:by )?volume?\b"),
)
_BEFORE = 75


def with_outcome(recipe: Recipe, plain: str, read: Sequence[Pieces]) -> Recipe:
    """A long account with its size and its claim: as the one who tells it says, where several are told.

    >>> from firkin.core.recipe.reader import read_recipe
    >>> told = "You need 2 cups of isopropyl alcohol 99 % and 1 cup of aloe gel. " + "It rained all day. " * 90
    >>> told += "They say at least sixty percent. So that makes about three cups. On the label I write 66 percent."
    >>> recipe = read_recipe(told)
    >>> recipe.claims.size.words, str(recipe.claim.strength)
    ('3 cup (US)', '66 % v/v')
    """
    if not recipe.at_length or not recipe.lines:
        return recipe
    recipe = replace(recipe, lines=tuple(_as_shown(line, plain, read) for line in recipe.lines))
    size = _size(recipe, plain, read)
    claims = recipe.claims if size is None or recipe.make is not None else replace(recipe.claims, size=size)
    make = recipe.make if size is None or recipe.make is None else size
    return replace(recipe, claims=claims, make=make, claim=_claim(recipe, plain, read))


def _spans(read: Sequence[Pieces]) -> Iterator[Span]:
    for pieces in read:
        yield from pieces.spans


def _as_shown(line: HeardLine, plain: str, read: Sequence[Pieces]) -> HeardLine:
    """A line with the strength its bottle was shown to have: "this isopropyl, it's the ninety-one percent one"."""
    if line.strength is not None or line.material.reports != "active" or line.material.solid:
        return line
    names = {name.lower() for name in (line.said, line.material.name, *line.material.names) if len(name) > 3}
    for span in _spans(read):
        before = _before(plain, span) if isinstance(span.value, Percent) else ""
        named = max((at + len(name) for name in names if (at := before.rfind(name)) >= 0), default=-1)
        beside = named >= 0 and not before[named:].strip(" ,")
        if named < 0 or not (beside or _SHOWN.search(before, named)) or _TALKED_OF.search(before):
            continue
        with suppress(CannotReckon):
            said = plain[span.start : span.end]
            return replace(line, strength=span.value.strength(line.material), strength_said=said)
    return line


def _size(recipe: Recipe, plain: str, read: Sequence[Pieces]) -> Quantity | None:
    """The size that is told of what the lines come to; of several the nearest."""
    amounts = [line.amount for line in recipe.lines if line.amount is not None]
    whole = sum(bigness(amount) for amount in amounts)
    if not whole or any(amount.kind not in ("volume", "mass", "qs", "drops") for amount in amounts):
        return None
    told = []
    for span in _spans(read):
        if not isinstance(span.value, Amount) or span.value.quantity is None:
            continue
        size = span.value.quantity
        makes = _MAKES.search(_before(plain, span)) or _IN_ALL.match(plain, span.end)
        if makes and bigness(size) and (off := abs(log(bigness(size) / whole))) < log(_OFF):
            told.append((off, size))
    return min(told, key=lambda one: one[0])[1] if told else None


def _claim(recipe: Recipe, plain: str, read: Sequence[Pieces]) -> Claim | None:
    """How strong it is said to be: by what is written on the label, or else by what it is said to come to."""
    active = _active(recipe.lines)
    if active is None:
        return None
    stocks = {line.strength.value for line in recipe.lines if line.strength is not None}
    told = []
    for place, span in enumerate(_spans(read)):
        if not isinstance(span.value, Percent) or span.value.middle in stocks:
            continue
        before = _before(plain, span)
        says = 2 if _SAYS_SO.search(before) else 1 if _COMES_OUT.search(before) else 0
        if says and not _TALKED_OF.search(before) and not _ON_A_BOTTLE.search(before):
            with suppress(CannotReckon):
                told.append((says, place, Claim(active.id, _with_basis(span, plain).strength(active))))
    return max(told, key=lambda one: one[:2])[2] if told else None


def _active(lines: Sequence[HeardLine]) -> Material | None:
    alcohols = [line.material for line in lines if line.material.alcohol]
    actives = [line.material for line in lines if line.material.reports == "active"]
    return next(iter(alcohols or actives), None)


def _with_basis(span: Span, plain: str) -> Percent:
    """A per cent with what it is counted in, where that is said behind it."""
    percent: Percent = span.value
    if percent.unit != "%":
        return percent
    if _BY_WEIGHT.match(plain, span.end):
        return replace(percent, unit="% w/w")
    return replace(percent, unit="% v/v") if _BY_VOLUME.match(plain, span.end) else percent


def _before(plain: str, span: Span) -> str:
    """What stands before a figure in its sentence."""
    return re.split(r"[.!?\n]\s", plain[max(0, span.start - _BEFORE) : span.start])[-1]
