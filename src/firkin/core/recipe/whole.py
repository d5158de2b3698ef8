"""What only the whole of a recipe decides: titles, sizes, names told twice, and what was not understood."""

import re
from collections.abc import Sequence
from contextlib import suppress
from dataclasses import replace
from functools import cache

from firkin.core import datafiles
from firkin.core.catalogue import Material, alcohol_names, families, family_of, find, rule_line
from firkin.core.errors import CannotReckon
from firkin.core.formula import Claim, LineClaims
from firkin.core.measures import QS, Quantity
from firkin.core.recipe.dangers import Stance, stance_of
from firkin.core.recipe.heard import Heard, Mention
from firkin.core.recipe.layout import Page
from firkin.core.recipe.percents import (
    a_list_by_share,
    decide_percents,
    put_on_hand,
    told_behind,
    told_of_the_wrong_one,
)
from firkin.core.recipe.pieces import Pieces
from firkin.core.recipe.ratios import ratio_told_beside
from firkin.core.recipe.recipe import HeardLine, Mark, MarkKind, Recipe
from firkin.core.recipe.said import SHARE_SLACK, Percent, bigness
from firkin.core.recipe.spans import Span

_LONGEST_UNREAD = 2_000
_DIGITS = re.compile(r"\d+(?:[.,]\d+)*|[½¼¾⅐⅑⅒⅓⅔⅕⅖⅗⅘⅙⅚⅛⅜⅝⅞]")
#: Said of the vessel; not "never in glass".
_GLASS = re.compile(
    r"(?<!not )(?<!never )(?<!no )(?<!not in )(?<!never in )"
    r"\b(?:in (?:a |the )?(?:\w+ ){0,2}glass\b(?! of)|[(,] ?glass\b"
    r"|\bglass (?:[\w-]+ ){0,2}(?:jar|bottle|jug|carboy|demijohn|flask)\b)(?!es)"
)
_NOT_GLASS = re.compile(r"\b(?:plastic|never (?:in )?(?:a )?glass|not (?:in )?(?:a )?glass|no glass)\b")
#: The WHO formulation of each alcohol.
_WHO = {"ethanol": "who-ethanol", "isopropanol": "who-isopropanol"}


def decided(heard: Heard, page: Page, read: Sequence[Pieces]) -> Recipe:
    """The recipe, once every sentence was read."""
    _settle_mentions(heard)
    _top_up_with_water(heard)
    decide_percents(heard)
    told_behind(heard)
    a_list_by_share(heard)
    ratio_told_beside(heard)
    put_on_hand(heard)
    _in_order_of_the_text(heard)
    told_of_the_wrong_one(heard)
    _title_of_the_sum(heard)
    _title_of_the_strength(heard)
    claim = _claim(heard)
    lose_nothing(heard, page, read)
    if len(page.plain) < len(heard.text):
        heard.mark(len(page.plain), len(heard.text), MarkKind.UNREAD, "Too long to be read.")
    _top_up_in_parts(heard)
    _rates_of_more(heard)
    make, size = _sizes(heard)
    family = _family(heard, page)
    if _in_glass(page.plain):
        heard.claims = replace(heard.claims, glass=True)
    marks = _in_order(heard)
    unread = tuple(
        dict.fromkeys(
            heard.text[mark.start : mark.end].strip()[:_LONGEST_UNREAD]
            for mark in marks
            if mark.kind is MarkKind.UNREAD
        )
    )
    return Recipe(
        tuple(heard.lines),
        make,
        claim,
        replace(heard.claims, size=size),
        family,
        _basis(heard, family),
        _guidelines(heard, family),
        heard.cut,
        marks=marks,
        unread=unread,
        remarks=tuple(heard.remarks),
        left_out=heard.left_out or page.left_out,
        text=heard.text,
    )


def _settle_mentions(heard: Heard) -> None:
    """A name without an amount is told of elsewhere, a line whose amount is missing, a title, or not understood."""
    for mention in heard.mentions:
        named = mention.span.value
        place = _named_before(heard, mention)
        if place is None:
            place = _told(heard, named.material, named.words)
        if place is not None:
            heard.mark_span(mention.span, MarkKind.LINE, "Named again.", place)
        elif mention.title:
            heard.mark_span(mention.span, MarkKind.TITLE, "A title, not counted.")
        elif mention.asked:
            _missing(heard, mention)
        else:
            heard.mark_span(mention.span, MarkKind.UNREAD, "Named without an amount.")


def _named_before(heard: Heard, mention: Mention) -> int | None:
    """ "Warm the ethanol, 750 mL of the 96 per cent": the one alcohol that is not named is the one named before it."""
    material = mention.span.value.material
    unnamed = [i for i, line in enumerate(heard.lines) if line.claims.words in alcohol_names().unnamed]
    named = {line.material.id for i, line in enumerate(heard.lines) if line.material.alcohol and i not in unnamed}
    if not material.alcohol or mention.title or named or len(unnamed) != 1:
        return None
    line = heard.lines[unnamed[0]]
    generic = mention.span.value.words in alcohol_names().unnamed
    if generic or mention.span.start > line.at[0] or _BREAK.search(heard.text, mention.span.end, line.at[0]):
        return None
    heard.lines[unnamed[0]] = replace(line, material=material)
    return unnamed[0]


#: What ends a sentence: a name before it is not what an amount behind it is of.
_BREAK = re.compile(r"[.!?]\s|\n")


def _missing(heard: Heard, mention: Mention) -> None:
    """A line whose amount is missing; one that says which essential oil the line before it is names that line."""
    named = mention.span.value
    before = mention.at_line - 1
    if (
        "essential-oil" in named.material.roles
        and 0 <= before < len(heard.lines)
        and heard.lines[before].material.id == "essential-oil"
    ):
        heard.lines[before] = replace(heard.lines[before], material=named.material)
        heard.mark_span(mention.span, MarkKind.LINE, "Which one it is.", before)
        return
    gel = next((i for i, line in enumerate(heard.lines) if line.said == "gel"), None)
    if gel is not None and "gel" in named.words and named.material.known:
        heard.lines[gel] = replace(heard.lines[gel], material=named.material, claims=LineClaims(words=named.words))
        heard.mark_span(mention.span, MarkKind.LINE, "Which one it is.", gel)
        return
    place = heard.line(mention.span)
    if mention.strength is not None:
        heard.lines[place] = heard.strong(heard.lines[place], mention.strength)


def _told(heard: Heard, material: Material, words: str) -> int | None:
    """The line that a name belongs to: of the same material, or of soap where only "soap" is said."""
    alike = [i for i, line in enumerate(heard.lines) if line.material.id == material.id]
    if not alike and words in ("soap", "bar-soap"):
        alike = [i for i, line in enumerate(heard.lines) if "soap" in line.material.roles]
    if not alike and words in alcohol_names().unnamed:
        alike = [i for i, line in enumerate(heard.lines) if line.material.alcohol]
    if not alike and words == "gel":
        alike = [
            i for i, line in enumerate(heard.lines) if "gel" in line.said.lower() or "thickener" in line.material.roles
        ]
    if not alike and not material.known:
        alike = [i for i, line in enumerate(heard.lines) if not line.material.known and words in line.material.name]
    if not alike and material.id in ("essential-oil", "citrus-peel"):
        alike = [i for i, line in enumerate(heard.lines) if material.roles & line.material.roles]
    return next((i for i in alike if heard.lines[i].amount or heard.lines[i].wording), alike[0] if alike else None)


def _in_glass(text: str) -> bool:
    """True where the vessel is of glass; another person's glass is not, beside a word that this one is not glass."""
    stances = {stance_of(text, *found.span()) for found in _GLASS.finditer(text)}
    return Stance.IN in stances or (Stance.TALK in stances and not _NOT_GLASS.search(text))


def _top_up_with_water(heard: Heard) -> None:
    """ "Make up to 1 L" that names nothing is done with the water that has no amount, or plain water."""
    if heard.bare_top_up is None or any(line.amount and line.amount.unit == QS for line in heard.lines):
        return
    topped = Quantity(0.0, QS)
    waiting = next(
        (i for i, line in enumerate(heard.lines) if "water" in line.material.roles and not line.amount), None
    )
    if waiting is None:
        claims = LineClaims(words="water, not named")
        heard.lines.append(HeardLine(find("water"), topped, claims=claims, said="", at=heard.bare_top_up))
    else:
        heard.lines[waiting] = replace(heard.lines[waiting], amount=topped)


def _top_up_in_parts(heard: Heard) -> None:
    """ "Water up to 100 parts" is what is left of them."""
    whole = next((size.value for size in heard.made_up_to if size.kind == "part"), None)
    heard.made_up_to = [size for size in heard.made_up_to if size.kind in ("volume", "mass")]
    if whole is None:
        return
    left = whole - sum(line.amount.value for line in heard.lines if line.amount and line.amount.kind == "part")
    for i, line in enumerate(heard.lines):
        if line.amount is not None and line.amount.unit == QS and left > 0:
            heard.lines[i] = replace(line, amount=Quantity(round(left, 6), "part"), wording="")


def _title_of_the_sum(heard: Heard) -> None:
    """A first line that nothing is known of, and that is as much as all the others, is what they make."""
    if len(heard.lines) < 2:
        return
    first, *others = heard.lines
    if first.amount and not first.material.known and heard.text[first.at[1] :].lstrip().startswith(":"):
        if _holds_all(first.amount, [line.amount for line in others if line.amount is not None]):
            _size_of_the_title(heard)  # "Laundry gloop, 5 litres: ..."
        return
    if len(others) < 2:
        return
    named_first = heard.text[first.at[0] :].startswith(first.said)
    if not named_first or first.material.known or first.amount is None:
        return
    amounts = [line.amount for line in others if line.amount is not None]
    if first.amount.kind not in ("volume", "mass") or any(amount.kind != first.amount.kind for amount in amounts):
        return
    sizes = [amount.mL if amount.kind == "volume" else amount.g for amount in (first.amount, *amounts)]
    if len(amounts) == len(others) and abs(sum(sizes[1:]) / sizes[0] - 1.0) <= SHARE_SLACK:
        _size_of_the_title(heard)


def _holds_all(size: Quantity, amounts: Sequence[Quantity]) -> bool:
    """False where one of the amounts is more than the size: "12 g of cellulose: 100 mL hot water" is no title.

    A gram is counted as a millilitre here.
    """
    if size.kind not in ("volume", "mass"):
        return True
    measured = [one for one in amounts if one.kind in ("volume", "mass")]
    known = [one.mL if one.kind == "volume" else one.g for one in measured]
    return max(known, default=0.0) <= (size.mL if size.kind == "volume" else size.g)


def _size_of_the_title(heard: Heard) -> None:
    """The first line is what is made: its amount is the size."""
    amount = heard.lines[0].amount
    if amount is not None and amount.kind in ("volume", "mass"):
        heard.sizes.insert(0, amount)
        heard.marks = [
            replace(mark, kind=MarkKind.TITLE, line=None) if mark.line == 0 else mark for mark in heard.marks
        ]
        heard.without({0})


def _title_of_the_strength(heard: Heard) -> None:
    """ "Chlorine 0.5 %: one part of 5 % bleach": the first line, without an amount before a colon, is what it makes."""
    if len(heard.lines) < 2:
        return
    first, *others = heard.lines
    before_colon = heard.text[first.at[1] :].lstrip().startswith(":")
    told_again = any(line.material.id == first.material.id and line.amount for line in others)
    if first.amount is not None or first.wording or first.strength is None or not (before_colon and told_again):
        return
    said = Percent(first.strength.low, first.strength.high)
    heard.said_strengths.insert(0, (Span(*first.at, "strength", first.said, said), first.material))
    heard.marks = [replace(mark, kind=MarkKind.CLAIM, line=None) if mark.line == 0 else mark for mark in heard.marks]
    heard.without({0})


def _in_order_of_the_text(heard: Heard) -> None:
    """The lines as they stand in the text, and the marks with them."""
    order = sorted(range(len(heard.lines)), key=lambda i: heard.lines[i].at)
    new = {old: i for i, old in enumerate(order)}
    heard.lines = [heard.lines[i] for i in order]
    heard.marks = [mark if mark.line is None else replace(mark, line=new[mark.line]) for mark in heard.marks]


#: What is poured may be so much more than a size and still be that size: things swell, and cups are rounded.
_SWELLS = 1.1


def _rates_of_more(heard: Heard) -> None:
    """ "A teaspoon of glycerol per litre" in two litres is no size: how often it goes in is not understood."""
    poured = sum(line.amount.mL for line in heard.lines if line.amount is not None and line.amount.kind == "volume")
    for span, amount in heard.rates:
        size = amount.quantity
        if size is not None and size.kind == "volume" and size in heard.sizes and poured > size.mL * _SWELLS:
            heard.sizes.remove(size)
            heard.marks = [one for one in heard.marks if one.start != span.start]
            heard.mark_span(span, MarkKind.UNREAD, "So much goes in for each of these; how many there are is not said.")


def _sizes(heard: Heard) -> tuple[Quantity | None, Quantity | None]:
    """The size to make, where the amounts leave it open; and the size that is only claimed."""
    sizes = [size for size in heard.sizes if size.kind in ("volume", "mass")]
    said = max(heard.made_up_to, key=bigness) if heard.made_up_to else sizes[0] if sizes else None
    kinds = {line.amount.kind for line in heard.lines if line.amount}
    if said is None and "qs" in kinds:
        said = heard.claims.vessel  # "fill it up with water", in a bottle of 500 mL
    if kinds and kinds <= {"volume", "mass"}:
        return None, said
    return said, sizes[0] if heard.made_up_to and sizes else None


def _claim(heard: Heard) -> Claim | None:
    """What the whole is said to be; a second strength, or one that nothing in it can have, is not understood."""
    alcohols = [line.material for line in heard.lines if line.material.alcohol]
    actives = [line.material for line in heard.lines if line.material.reports == "active"]
    claim: Claim | None = None
    for span, named in heard.said_strengths:
        material = next(iter(alcohols or actives), named)
        said = None
        if material is not None and (material.reports == "active" or named is not None):
            with suppress(CannotReckon):
                said = Claim(material.id, span.value.strength(material))
        if said is None or (claim is not None and said != claim):
            what = "Nothing in it can be that strong, or it is said to be something else."
            heard.mark_span(span, MarkKind.UNREAD, what)
        claim = claim or said
    return claim


@cache
def _says(purpose: str) -> re.Pattern[str]:
    """A pattern that a text meets where it says that the mix is for a purpose of words.toml."""
    words = datafiles.toml("recipe/words.toml")["purpose"][purpose]
    return re.compile(rf"\b(?:{'|'.join(words)})\b")


def _family(heard: Heard, page: Page) -> str:
    """The family by what is in it, and by what the text says it is for: alcohol for tables is no hand rub."""
    family = family_of([line.material for line in heard.lines])
    told = page.plain
    for line in heard.lines:  # perfume among its lines does not make a dish liquid a perfume
        told = told.replace(line.said.lower(), " ") if line.said else told
    if family == "laundry-soap" and _says("hand_soap").search(told):
        return "liquid-soap"
    if family == "other" and _says("rub").search(told):
        return "liquid-rub"
    if families()[family].for_skin and _says("not_skin").search(told) and not _says("hands").search(told):
        return "other"
    if not families()[family].rub or _says("hands").search(told):
        return family
    if _alcohol_share(heard) < _LITTLE_ALCOHOL:
        return "other"  # a rinse aid, a window wash
    if _says("surface").search(told):
        return "surface"
    return "other" if _says("not_skin").search(told) else family


#: Nobody who wants a rub makes it of so little alcohol: of what is told in mL or g (common practice, no source).
_LITTLE_ALCOHOL = 0.25


def _alcohol_share(heard: Heard) -> float:
    """The share of alcohol, as bought, in what is told by volume or weight; 1 where that cannot be said."""
    if any(line.amount is None or line.amount.kind not in ("volume", "mass") for line in heard.lines):
        return 1.0
    sizes = [(line, bigness(line.amount)) for line in heard.lines if line.amount]
    whole = sum(size for _, size in sizes)
    return sum(size for line, size in sizes if line.material.alcohol) / whole if whole else 1.0


def _basis(heard: Heard, family: str) -> str:
    """By weight where a size in grams is shared out and nothing is measured by volume; else as the family counts."""
    amounts = [line.amount for line in heard.lines if line.amount is not None]
    shared = any(amount.kind in ("percent", "part") for amount in amounts)
    told = [*amounts, *heard.sizes, *heard.made_up_to]
    by_mass = any(amount.kind == "mass" for amount in told) and not any(amount.kind == "volume" for amount in told)
    return "weight" if shared and by_mass else families()[family].basis


def _guidelines(heard: Heard, family: str) -> tuple[str, ...]:
    """The rule lines it is judged by: the WHO formulation it is said to be, or those of its family."""
    alcohol = next((line.material.id for line in heard.lines if line.material.id in _WHO), None)
    if heard.who and alcohol is not None:
        return (rule_line(_WHO[alcohol]).id,)
    return families()[family].lines


#: Kinds of spans that say how much, how strong, how long, or of what.
_MEANS = frozenset(
    (
        "amount",
        "strength",
        "bare",
        "share",
        "ratio",
        "time",
        "heat_at",
        "ph",
        "money",
        "loads",
        "portions",
        "named",
        "figure",
        "number",
    )
)


def lose_nothing(heard: Heard, page: Page, read: Sequence[Pieces]) -> None:
    """Whatever says how much or of what, and ended nowhere, is not understood."""
    covered = bytearray(len(page.plain))
    for mark in heard.marks:
        covered[mark.start : mark.end] = b"\x01" * (mark.end - mark.start)
    for pieces in read:
        for span in pieces.everything:
            if span.kind in _MEANS and not isinstance(span.value, str) and not all(covered[span.start : span.end]):
                heard.mark_span(span, MarkKind.UNREAD, "Nothing was found that it belongs to.")
                covered[span.start : span.end] = b"\x01" * (span.end - span.start)
    inside = bytearray(len(page.plain))
    for sentence in page.sentences:
        inside[sentence.start : sentence.end] = b"\x01" * (sentence.end - sentence.start)
    for found in _DIGITS.finditer(page.plain):
        if all(covered[found.start() : found.end()]):
            continue
        glued = (
            page.plain[found.start() - 1 : found.start()] == "-"
            and page.plain[max(0, found.start() - 2) : found.start() - 1].isalpha()
        )
        if not inside[found.start()]:
            heard.mark(*found.span(), MarkKind.STEP, "Its number.")
        elif glued:
            heard.mark(*found.span(), MarkKind.ADVICE, "Part of a word.")
        else:
            heard.mark(*found.span(), MarkKind.UNREAD, "Nothing was found that it belongs to.")


def _in_order(heard: Heard) -> tuple[Mark, ...]:
    """The marks in the order of the text; vague amounts are not understood, though their line is."""
    marks = list(heard.marks)
    return tuple(sorted(marks, key=lambda mark: (mark.start, -mark.end)))
